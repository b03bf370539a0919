"""The order of work: set-ups and operations numbered for the lathe, and what a hand's own order breaks."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import lru_cache
from typing import assert_never

from nomisma.core.metal.cut import Cut, Support
from nomisma.core.metal.drawing import Drawing
from nomisma.core.metal.rules import CLEARANCE_MM, STEP_GRIP_MM, Complaint
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.part.kinds.eccentric_diameter import OFF_CENTRE
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import section_of
from nomisma.core.planning.hole_finish import hole_finished, is_reamed_by
from nomisma.core.planning.hole_tools import USUAL_TOOLS, HoleTools
from nomisma.core.planning.laid_out import StockKind, StockSaid, lay_out
from nomisma.core.planning.mended import no_metal
from nomisma.core.planning.mountings import MOUNTING_WORDS, PlanMounting
from nomisma.core.planning.operations import RULES, Operation, broken
from nomisma.core.planning.piece import Piece
from nomisma.core.planning.reamers import no_reamer
from nomisma.core.planning.set_ups import WORKED_WORDS, SetUp, SetUps, made_of, set_ups_of
from nomisma.core.planning.stages import Stage, joined, roughed_first
from nomisma.core.planning.surfaces import Surface, surfaces_of, whole_letter
from nomisma.core.quantity.display import show_exact, show_sawn
from nomisma.core.quantity.length import Unit


@dataclass(frozen=True, slots=True)
class PlannedOperation:
    """One operation of the plan: its number, its key in a kept order, in words each rule it breaks where it stands,
    what it cuts, the work before it, and what holds that beside the jaws.
    """

    number: int
    key: str
    operation: Operation
    breaks: tuple[str, ...] = ()
    cuts: tuple[Cut, ...] = ()
    before: Workpiece | None = None
    supports: tuple[Support, ...] = ()

    @property
    def why(self) -> str:
        """The reason it stands where it does; empty where no rule is its own."""
        rule = self.operation.row.rule
        return RULES[rule] if rule else ""


@dataclass(frozen=True, slots=True)
class PlannedSetUp:
    """One set-up of the plan: its number, where it is worked on, the letter that holds it, and its operations
    in order.
    """

    number: int
    set_up: SetUp
    operations: tuple[PlannedOperation, ...]

    @property
    def title(self) -> str:
        """As it is said: Set-up 2, from the left end, held on A."""
        held = f", held on {self.set_up.held_on}" if self.set_up.held_on else ""
        how = self.set_up.workholding
        held = f", off centre{held}" if how is not None and how.throw_mm else held
        held = f"{held}, roughing" if self.set_up.is_roughing else held
        return f"Set-up {self.number}, {WORKED_WORDS[self.set_up.worked]}{held}"


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A feature that a lathe cuts and no operation here makes, and why."""

    letter: str
    why: str


@dataclass(frozen=True, slots=True)
class OrderOfWork:
    """The whole plan: set-ups, what is to be dialled in, what no operation makes, changes of tool, and whether it is
    proved fewest.

    `complaints`: where it breaks on the metal; of a plan without set-ups, why there is none. `stock`, `drawing`,
    `finished`: what it was run on, what it must come to and what it came to. `as_parted`: it is too thin to be held for
    its far face, which stays as the blade leaves it though nobody said so. `roughed_not_first`: it was to be roughed
    all over first, and cannot be; `mounted_otherwise`: how it was to be mounted, and cannot be.
    """

    set_ups: tuple[PlannedSetUp, ...]
    dial_in: tuple[str, ...]
    left_out: tuple[LeftOut, ...]
    changes: int
    proved: bool
    by_hand: bool = False
    complaints: tuple[Complaint, ...] = ()
    piece: Piece | None = None
    stock: Stock | None = None
    drawing: Drawing | None = None
    finished: Workpiece | None = None
    from_bar: bool = False
    as_parted: bool = False
    roughed_not_first: bool = False
    mounted_otherwise: PlanMounting = "any"

    @property
    def rests_before(self) -> int | None:
        """The number of the set-up before which a part that was roughed all over rests; None where it is not."""
        numbers = [one.number for one in self.set_ups if one.set_up.is_roughing]
        return max(numbers) + 1 if numbers else None

    @property
    def sawn_mm(self) -> Decimal | None:
        """How long a blank is sawn from a bar that the piece is not parted from, mm; None where it is parted off, or
        there is no bar.
        """
        parted = any(cut.traits.takes == "piece" for one in self.operations for cut in one.cuts)
        if parted or not self.from_bar or self.stock is None:
            return None
        return self.stock.to_mm - self.stock.from_mm

    def is_threaded(self, letter: str) -> bool:
        """Whether an outside carries a thread, so that jaws would crush its crests."""
        surfaces = self.piece.surfaces if self.piece else ()
        return any(one.kind == "thread" and one.lies_in == letter for one in surfaces)

    @property
    def why_none(self) -> tuple[Complaint, ...]:
        """Why there is no plan, each rule once; nothing where there is one."""
        if self.set_ups:
            return ()
        return tuple({one.rule: one for one in reversed(self.complaints)}.values())[::-1]

    @property
    def operations(self) -> tuple[PlannedOperation, ...]:
        """All operations in order."""
        return tuple(one for set_up in self.set_ups for one in set_up.operations)

    @property
    def breaks(self) -> tuple[str, ...]:
        """Every rule the order breaks, in words."""
        return tuple(words for one in self.operations for words in one.breaks)


def order_of_work(
    features: Sequence[LetteredFeature],
    *,
    stock: StockSaid | StockKind = "bar",
    face_as_parted: bool = False,
    kept: Sequence[str] = (),
    unit: Unit = "mm",
    tools: HoleTools = USUAL_TOOLS,
    rough_first: bool = False,
) -> OrderOfWork | None:
    """The plan for a part's features, in the kept order where there is one; None without an outside of a known size.

    It was run on its stock: a plan that cannot be cut is none, and `complaints` says what stands in the way. A kept
    order is a list of keys; an operation it does not name stands where the plan has it; what it breaks on the metal is
    said where it breaks. `unit`: that the part is drawn in, by which allowances, drills and blades are chosen;
    `tools`: what is at hand for its holes; `rough_first`: all of it is roughed before anything is finished, where it
    can be.

    Source: search (set-ups, changes of tool); common practice, no source (rules).

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> [one.operation.title for one in order_of_work(pin, stock="bar", face_as_parted=True).operations][:2]
    ['Face', 'Finish turn A']
    """
    said = stock if isinstance(stock, StockSaid) else StockSaid(stock)
    return _order_of_work(tuple(features), said, face_as_parted, tuple(kept), unit, tools, rough_first)


@lru_cache(maxsize=256)  # the same part is looked at again and again, by several pages
def _order_of_work(
    features: tuple[LetteredFeature, ...],
    stock: StockSaid,
    face_as_parted: bool,
    kept: tuple[str, ...],
    unit: Unit,
    tools: HoleTools,
    rough_first: bool,
) -> OrderOfWork | None:
    piece = piece_of(features, stock, unit, tools)
    if piece is None:
        return None
    too_small = stock_too_small(piece, stock)
    if too_small is not None:
        return OrderOfWork((), (), (), 0, proved=True, complaints=(too_small,), piece=piece)
    asked, stock = stock, _as_it_can_be(piece, stock, face_as_parted)
    staged = _roughed_first(piece, stock) if rough_first else None
    found, piece, cannot = (staged, piece, ()) if staged else _offered(piece, features, stock, face_as_parted, unit)
    in_order = found
    if kept and found.stages:
        in_order = _stages_kept(found.stages, kept)
    elif kept:
        in_order = _with_kept(found, piece, stock, kept)
    set_ups, count = [], 0
    places = set(kept)
    for number, set_up in enumerate(in_order.set_ups, 1):
        wrong = [one for one in in_order.complaints if one.set_up == number - 1]
        set_ups.append(PlannedSetUp(number, set_up, _numbered(set_up, number, count, piece.surfaces, wrong)))
        count += len(set_up.operations)
    apart = [f"{one.letter} must be true to {one.true_to} and is cut in another chucking" for one in found.apart]
    made = {letter for set_up in set_ups for one in set_up.operations for letter in one.operation.letters}
    return OrderOfWork(
        set_ups=tuple(set_ups),
        dial_in=tuple(apart),
        left_out=(*cannot, *_left_out(features, made | {one.letter for one in cannot}, piece)) if set_ups else (),
        changes=in_order.changes,
        proved=found.proved,
        by_hand=any(one.key in places for set_up in set_ups for one in set_up.operations),
        complaints=in_order.complaints,
        piece=piece,
        stock=in_order.stock,
        drawing=in_order.drawing,
        finished=in_order.finished,
        from_bar=stock.kind == "bar",
        roughed_not_first=rough_first and staged is None,
        mounted_otherwise=asked.mounting if asked.mounting != stock.mounting else "any",
        as_parted=len(set_ups) == 1 and not face_as_parted and is_too_thin(piece),
    )


def piece_of(
    features: Sequence[LetteredFeature],
    stock: StockSaid,
    unit: Unit,
    tools: HoleTools = USUAL_TOOLS,
    *,
    all_bored: bool = False,
) -> Piece | None:
    """The part as it is to be cut from a stock with the tools at hand; None without an
    outside of a known size. `all_bored`: holes that would be drilled or reamed are bored, so that a mandrel may hold
    the part. Source: geometry.

    >>> piece_of([], StockSaid(), "mm") is None
    True
    """
    section = section_of(features)
    if section is None:
        return None
    bought = stock.across_mm if stock.section == "round" and stock.kind != "cast" and not stock.skin_mm else None
    all_bored = all_bored or stock.bore_mm > 0 or stock.kind == "repair"  # no drill follows a bore that is there
    known = {one.letter: one for one in features}
    datums = {one.true_to for one in features if one.true_to}
    as_drawn = surfaces_of(features, section)
    surfaces = [
        hole_finished(one, known[one.letter], datums, unit, tools=tools, steps=_has_a_step(one, as_drawn))
        if one.kind == "bore" and not all_bored
        else one
        for one in as_drawn
    ]
    return Piece(section, tuple(features), tuple(surfaces), unit, bought, stock.bore_mm, tools=tools)


def _offered(
    piece: Piece, features: tuple[LetteredFeature, ...], stock: StockSaid, face_as_parted: bool, unit: Unit
) -> tuple[SetUps, Piece, tuple[LeftOut, ...]]:
    """The set-ups that run, the piece they are of, and what they could not make and why.

    Where none runs, holes are bored that would be drilled, so that a mandrel may hold it; then what stands in the way
    is left out, where the part can be turned without it.
    """
    thin = is_too_thin(piece)
    found = _found(piece, stock, face_as_parted)
    if thin and not found.set_ups and stock.may_be_parted and not face_as_parted:
        return _offered(piece, features, stock, face_as_parted=True, unit=unit)
    if not found.set_ups and any(one.kind == "bore" and one.hole in ("drilled", "reamed") for one in piece.surfaces):
        bored = piece_of(features, stock, unit, piece.tools, all_bored=True)
        if bored is not None and (other := _found(bored, stock, face_as_parted)).set_ups:
            return other, bored, ()
    left: list[LeftOut] = []
    without, trial = piece, found
    off_centre = [one for one in piece.surfaces if one.throw_mm]
    if off_centre and not found.set_ups:
        left = [LeftOut(letter, OFF_CENTRE) for one in off_centre for letter in one.letters]
        without = replace(piece, surfaces=tuple(one for one in piece.surfaces if not one.throw_mm))
        trial = _found(without, stock, face_as_parted)
    while not trial.set_ups and len(left) < MOST_LEFT_OUT:
        wrong = next((one for one in trial.complaints if _may_be_left(one.letters, without)), None)
        if wrong is None:
            break
        gone = {letter for one in without.surfaces if set(wrong.letters) & set(one.letters) for letter in one.letters}
        kept = [one for one in without.surfaces if not gone & {*one.letters, one.lies_in}]
        lost = {letter for one in without.surfaces if one not in kept for letter in one.letters}
        left += [LeftOut(letter, f"{wrong.sentence} {wrong.remedy}".removesuffix(".")) for letter in sorted(lost)]
        without = replace(without, surfaces=tuple(kept))
        trial = _found(without, stock, face_as_parted)
    if thin and not trial.set_ups:
        return replace(found, complaints=(Complaint("too_thin"),)), piece, ()
    return (trial, without, tuple(left)) if trial.set_ups else (found, piece, ())


def is_too_thin(piece: Piece) -> bool:
    """Whether a part is so thin that jaws which hold it leave a tool no room. Source: common practice, no source.

    >>> from nomisma.core.part.section import Section
    >>> whole = Section(Decimal(4), (), (), (), Decimal(0), "", (), ())
    >>> is_too_thin(Piece(whole, (), ())), is_too_thin(Piece(replace(whole, length_mm=Decimal(8)), (), ()))
    (True, False)
    """
    return piece.length_mm < STEP_GRIP_MM + CLEARANCE_MM


MOST_LEFT_OUT = 6
"""So many features are left out of a plan at most before there is none. Source: this tool's own choice."""


def _may_be_left(letters: Collection[str], piece: Piece) -> bool:
    """Whether a part can be turned without what a cut makes: a hole, a groove, an edge, no step of its outside."""
    steps = {step.letter for step in piece.section.outside}
    own = [one for one in piece.surfaces if set(letters) & set(one.letters)]
    return bool(own) and all(one.letter not in steps for one in own)


@lru_cache(maxsize=256)  # as below
def _roughed_first(piece: Piece, stock: StockSaid) -> SetUps | None:
    return roughed_first(piece, stock, whole=whole_letter(piece.features, piece.section))


def _as_it_can_be(piece: Piece, stock: StockSaid, face_as_parted: bool) -> StockSaid:
    """The stock as it is asked for, but for a mounting that does not run."""
    if stock.mounting == "any" or _found(piece, stock, face_as_parted).set_ups:
        return stock
    return replace(stock, mounting="any")


def mountings_that_run(
    features: Sequence[LetteredFeature],
    stock: StockSaid,
    *,
    face_as_parted: bool = False,
    unit: Unit = "mm",
    tools: HoleTools = USUAL_TOOLS,
    rough_first: bool = False,
) -> list[tuple[PlanMounting, OrderOfWork]]:
    """Each way to mount the whole part that was run, with its plan; the one with the fewest set-ups first. Source: as
    `order_of_work`.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> lines = FeatureLinesInput(text="od 20 h7 x 90\nod 16 x 20", unit="mm")
    >>> shaft = [lettered(one) for one in feature_lines(lines).features]
    >>> [name for name, _ in mountings_that_run(shaft, StockSaid())]
    ['any', 'steady']
    """
    found: list[tuple[PlanMounting, OrderOfWork]] = []
    for mounting in MOUNTING_WORDS:
        plan = order_of_work(
            features,
            stock=replace(stock, mounting=mounting),
            face_as_parted=face_as_parted,
            unit=unit,
            tools=tools,
            rough_first=rough_first,
        )
        is_new = plan is not None and not any(_held_alike(plan, other) for _, other in found)
        if plan is not None and plan.set_ups and plan.mounted_otherwise == "any" and is_new:
            found.append((mounting, plan))
    return found


def _held_alike(one: OrderOfWork, other: OrderOfWork) -> bool:
    return [each.set_up.workholding for each in one.set_ups] == [each.set_up.workholding for each in other.set_ups]


def _stages_kept(stages: Sequence[Stage], kept: Sequence[str]) -> SetUps:
    before, made = 0, []
    for one in stages:
        made.append(replace(one, set_ups=_with_kept(one.set_ups, one.piece, one.stock, kept, before)))
        before += len(one.set_ups.set_ups)
    return joined(made)


@lru_cache(maxsize=256)  # an order that a hand moves about is of the same set-ups
def _found(piece: Piece, stock: StockSaid, face_as_parted: bool) -> SetUps:
    whole = whole_letter(piece.features, piece.section) if stock.kind != "repair" else ""  # its faces stay
    return set_ups_of(piece, stock, face_as_parted=face_as_parted, whole=whole)


def _has_a_step(own: Surface, surfaces: Sequence[Surface]) -> bool:
    """Whether a narrower hole goes on behind the floor of a hole: what is left of the floor is a step."""
    floor_mm = own.from_mm if "right" in own.ends else own.to_mm
    return not own.from_both_ends and any(
        one.kind == "bore" and one.diameter_mm < own.diameter_mm and one.from_mm <= floor_mm <= one.to_mm
        for one in surfaces
    )


def _with_kept(found: SetUps, piece: Piece, stock: StockSaid, kept: Sequence[str], before: int = 0) -> SetUps:
    """The same set-ups in the order of a hand, laid out and run again; so many stand before them."""
    places = {key: place for place, key in enumerate(kept)}
    named = [
        replace(one, operations=tuple(_in_kept_order(one.operations, number, places)))
        for number, one in enumerate(found.named, before + 1)
    ]
    if all(one.operations == own.operations for one, own in zip(named, found.named, strict=True)):
        return found
    return made_of(named, lay_out(named, piece, stock, hold=found.workholdings), found.apart, proved=found.proved)


def stock_too_small(piece: Piece, stock: StockSaid) -> Complaint | None:
    """What stock cannot give; None where it is large and long enough. Source: geometry.

    >>> from decimal import Decimal
    >>> from nomisma.core.part.section import Section
    >>> from nomisma.core.part.section_shapes import Cylinder
    >>> whole = (Cylinder("A", Decimal(20), Decimal(0), Decimal(10)),)
    >>> pin = Piece(Section(Decimal(10), whole, (), (), Decimal(0), "", (), ()), (), ())
    >>> stock_too_small(pin, StockSaid(across_mm=Decimal(19))).about
    'A is 20.000 mm, the stock is sound to 19.000 mm'
    """

    def shown(mm: Decimal) -> str:
        return show_exact(mm, piece.unit)

    if stock.kind == "repair":
        return next(no_metal(piece), None)
    largest = max(piece.section.outside, key=lambda step: step.diameter_mm)
    if stock.across_mm is not None and largest.letter not in piece.as_bought and not _stays(largest.letter, piece):
        sound_mm = stock.across_mm - (2 * stock.skin_mm if stock.kind != "cast" or stock.long_mm is not None else 0)
        if sound_mm < largest.diameter_mm:
            about = f"{largest.letter} is {shown(largest.diameter_mm)}, the stock is sound to {shown(sound_mm)}"
            return Complaint("stock_small", about)
    if stock.long_mm is not None and stock.long_mm < piece.length_mm:
        about = f"the part is {shown(piece.length_mm)} long, the stock {shown(stock.long_mm)}"
        return Complaint("stock_small", about)
    narrow = [one for one in piece.surfaces if one.kind == "bore" and one.diameter_mm < piece.tube_bore_mm]
    if narrow:
        about = f"{narrow[0].letter} is {shown(narrow[0].diameter_mm)}, the tube's bore {shown(piece.tube_bore_mm)}"
        return Complaint("stock_small", about)
    return None


def _stays(letter: str, piece: Piece) -> bool:
    known = piece.by_letter.get(letter)
    return known is not None and known.is_left_as_it_is


def _left_out(features: Sequence[LetteredFeature], cut: Collection[str], piece: Piece) -> Iterator[LeftOut]:
    for one in features:
        if one.letter in cut or one.is_left_as_it_is:
            continue
        if one.letter in piece.as_bought:
            yield LeftOut(one.letter, "the stock has that size, and it stays as it came")
            continue
        match one.feature.of_kind.cut_as:
            case "outside" | "bore":
                yield LeftOut(
                    one.letter, "no end reaches it past what is larger; it is cut as a groove, by hand in the order"
                )
            case "taper" | "groove" | "face_groove" | "edge" | "thread" | "knurl" | "undercut":
                yield LeftOut(one.letter, _why_not_placed(one, piece))
            case "elsewhere":
                yield LeftOut(one.letter, one.feature.of_kind.made_elsewhere)
            case "fillet":
                yield LeftOut(one.letter, "no shoulder is known for it; say on which smaller diameter it lies (on A)")
            case "with_another" | "none":
                pass
            case _:
                assert_never(one.feature.of_kind.cut_as)


def _why_not_placed(one: LetteredFeature, piece: Piece) -> str:
    necks = {each.letter for each in piece.surfaces if each.kind == "groove"}
    if one.along.on in necks:
        return f"{one.along.on} lies between larger diameters; it is cut there by hand in the order, after that"
    return "where it lies is not known; say it on Part (on A), and it is planned"


def _key(number: int, one: Operation) -> str:
    return f"{number}/{one.key}"


def _in_kept_order(operations: Sequence[Operation], number: int, places: Mapping[str, int]) -> list[Operation]:
    """The operations as a hand put them: those it named in its order, each other one behind the one it stands behind in
    the plan.
    """
    order = sorted(
        (one for one in operations if _key(number, one) in places), key=lambda one: places[_key(number, one)]
    )
    for index, one in enumerate(operations):
        if one not in order:
            before = operations[index - 1] if index else None
            order.insert(order.index(before) + 1 if before is not None else 0, one)
    return order


def _numbered(
    set_up: SetUp, number: int, before: int, surfaces: Sequence[Surface], complaints: Sequence[Complaint]
) -> tuple[PlannedOperation, ...]:
    """The operations with their numbers, and what each breaks: a rule of the order, or one of the metal."""
    order = set_up.operations
    wrong: dict[int, list[str]] = {}
    for pair in broken(order, surfaces):
        wrong.setdefault(pair.then, []).append(f"{order[pair.first].title} stands after it. {RULES[pair.rule]}")
    places = [index for index, cuts in enumerate(set_up.cuts) for _ in cuts]
    for one in complaints:
        at = places[one.cut] if one.cut is not None and one.cut < len(places) else 0
        wrong.setdefault(at, []).append(f"{one.sentence} {one.remedy}")
    said = [tuple(dict.fromkeys(wrong.get(index, ()))) for index in range(len(order))]
    found, work = [], set_up.before
    standing = set_up.workholding.supports if set_up.workholding is not None else ()
    for index, operation in enumerate(order):
        cuts = set_up.cuts[index] if set_up.cuts else ()
        key = _key(number, operation)
        standing = next((cut.supports for cut in cuts if cut.supports is not None), standing)
        found.append(PlannedOperation(before + index + 1, key, operation, said[index], cuts, work, standing))
        for cut in cuts:
            work = work.after(cut) if work is not None else None
    return tuple(found)


AS_PARTED = (
    "It is too thin to be held for its far face, which stays as the blade leaves it, at its length. Where that will not"
    " do: part it thicker, bond it to a true stub turned in its place and face it there, or rub it down on a plate."
)


NOT_ROUGHED_FIRST = (
    "It cannot be roughed all over before anything is finished: something stays as it is or lies off its axis, or"
    " nothing holds its rough shape. Each set-up roughs before it finishes."
)


def notes_of(found: OrderOfWork) -> list[str]:
    """What the plan leaves to be looked after, in words. Source: common practice, no source.

    >>> left_out = (LeftOut("C", "no end reaches it"),)
    >>> notes = notes_of(OrderOfWork((), ("A must be true to B and is cut in another chucking",), left_out, 0, True))
    >>> notes[0][52:], notes[1]
    ('dial it in, or hold it by that surface in soft jaws.', 'C: no end reaches it.')
    """
    why_left_out: dict[str, list[str]] = {}
    for one in found.left_out:
        why_left_out.setdefault(one.why, []).append(one.letter)
    sawn = []
    if found.sawn_mm is not None and found.piece is not None:
        long = show_sawn(found.sawn_mm, found.piece.unit)
        sawn.append(f"It is too long to be parted off: saw a blank {long} long first, with both faces to come.")
    piece = found.piece
    unreamed = [
        no_reamer(one.letter, one.diameter_mm, piece.unit)
        for one in (piece.surfaces if piece is not None and found.set_ups else ())
        if one.hole == "reamed"
        and piece is not None
        and not is_reamed_by(piece.by_letter[one.letter], piece.tools.reamers)
    ]
    thin = [AS_PARTED] if found.as_parted else []
    thin += [f"It cannot be held {MOUNTING_WORDS[found.mounted_otherwise]}: nothing so held can be cut."] * (
        found.mounted_otherwise != "any" and bool(found.set_ups)
    )
    thin += [NOT_ROUGHED_FIRST] if found.roughed_not_first and found.set_ups else []
    return [
        *sawn,
        *thin,
        *unreamed,
        *(f"{apart}: dial it in, or hold it by that surface in soft jaws." for apart in found.dial_in),
        *(f"{', '.join(letters)}: {why}." for why, letters in why_left_out.items()),
    ]
