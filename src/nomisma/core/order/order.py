"""The order of work: set-ups and operations numbered for the lathe, and what a hand's own order breaks."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import lru_cache
from typing import assert_never

from nomisma.core.metal.cut import Cut, Support
from nomisma.core.metal.drawing import Drawing
from nomisma.core.metal.rules import Complaint
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.hole_tools import USUAL_TOOLS, HoleTools
from nomisma.core.operations.operations import RULES, Operation, broken
from nomisma.core.operations.piece import Piece
from nomisma.core.operations.surfaces import Surface
from nomisma.core.order.laid_out import StockKind, StockSaid, lay_out
from nomisma.core.order.mountings import MOUNTING_WORDS, PlanMounting
from nomisma.core.order.offered import (
    LeftOut,
    is_too_thin,
    offered,
    piece_of,
    roughed_set_ups,
    stock_too_small,
)
from nomisma.core.order.set_ups import WORKED_WORDS, SetUp, SetUps, made_of
from nomisma.core.order.stages import Stage, joined
from nomisma.core.part.lettered import LetteredFeature
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
class OrderOfWork:
    """The whole plan: set-ups, what is to be dialled in, what no operation makes, changes of tool, and whether it is
    proved fewest.

    `complaints`: where it breaks on the metal; of a plan without set-ups, why there is none. `stock`, `drawing`,
    `finished`: what it was run on, what it must come to and what it came to. `as_parted`: it is too thin to be held for
    its far face, which stays as the blade leaves it though nobody said so. `roughed_not_first`: it was to be roughed
    all over first, and cannot be; `mounted_otherwise`: how it was to be mounted, and cannot be. `gone_on`: the rest was
    planned anew from the piece as it is; `not_gone_on`: why no plan goes on so.
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
    gone_on: bool = False
    not_gone_on: tuple[Complaint, ...] = ()

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
    found, cut_as, cannot = _searched(piece, stock, face_as_parted, rough_first=rough_first)
    mounted_otherwise: PlanMounting = "any"
    if stock.mounting != "any" and (cannot or not found.set_ups):  # nothing is left out for how it is held
        mounted_otherwise = stock.mounting
        usual = replace(stock, mounting="any")
        found, cut_as, cannot = _searched(piece, usual, face_as_parted, rough_first=rough_first)
    piece = cut_as
    in_order = found
    if kept and found.stages:
        in_order = _stages_kept(found.stages, kept)
    elif kept:
        in_order = with_kept(found, piece, stock, kept)
    set_ups, count = [], 0
    places = set(kept)
    for number, set_up in enumerate(in_order.set_ups, 1):
        wrong = [one for one in in_order.complaints if one.set_up == number - 1]
        set_ups.append(PlannedSetUp(number, set_up, numbered(set_up, str(number), count, piece.surfaces, wrong)))
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
        roughed_not_first=rough_first and not found.stages,
        mounted_otherwise=mounted_otherwise,
        as_parted=len(set_ups) == 1 and not face_as_parted and is_too_thin(piece),
    )


def _searched(
    piece: Piece, stock: StockSaid, face_as_parted: bool, *, rough_first: bool
) -> tuple[SetUps, Piece, tuple[LeftOut, ...]]:
    """The set-ups of a piece, the piece as it is cut, and what they leave out; roughed all over first where it is asked
    for and can be.
    """
    staged = roughed_set_ups(piece, stock) if rough_first else None
    return (staged, piece, ()) if staged else offered(piece, stock, face_as_parted)


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
    >>> lines = FeatureLinesInput(text="od 20 h7 x 90\\nod 16 x 20", unit="mm")
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
        made.append(replace(one, set_ups=with_kept(one.set_ups, one.piece, one.stock, kept, before)))
        before += len(one.set_ups.set_ups)
    return joined(made)


def with_kept(
    found: SetUps, piece: Piece, stock: StockSaid, kept: Sequence[str], before: int = 0, prefix: str = ""
) -> SetUps:
    """The same set-ups in the order of a hand, laid out and run again; `before` others stand before them, `prefix`
    before their numbers in its keys. Source: core/metal (rules).

    >>> with_kept(SetUps((), (), 0, True), None, StockSaid(), []).set_ups
    ()
    """
    places = {key: place for place, key in enumerate(kept)}
    named = [
        replace(one, operations=tuple(_in_kept_order(one.operations, f"{prefix}{number}", places)))
        for number, one in enumerate(found.named, before + 1)
    ]
    if all(one.operations == own.operations for one, own in zip(named, found.named, strict=True)):
        return found
    return made_of(named, lay_out(named, piece, stock, hold=found.workholdings), found.apart, proved=found.proved)


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


def _key(prefix: str, one: Operation) -> str:
    return f"{prefix}/{one.key}"


def _in_kept_order(operations: Sequence[Operation], prefix: str, places: Mapping[str, int]) -> list[Operation]:
    """The operations as a hand put them: those it named in its order, each other one behind the one it stands behind in
    the plan.
    """
    order = sorted(
        (one for one in operations if _key(prefix, one) in places), key=lambda one: places[_key(prefix, one)]
    )
    for index, one in enumerate(operations):
        if one not in order:
            before = operations[index - 1] if index else None
            order.insert(order.index(before) + 1 if before is not None else 0, one)
    return order


def numbered(
    set_up: SetUp, prefix: str, before: int, surfaces: Sequence[Surface], complaints: Sequence[Complaint]
) -> tuple[PlannedOperation, ...]:
    """The operations with their numbers, behind `before` others, their keys behind a prefix, and what each breaks: a
    rule of the order, or one of the metal. Source: core/operations, core/metal (rules).

    >>> numbered(SetUp("right", "", (), (Operation("face"),)), "1", 4, (), ())[0].key
    '1/face:'
    """
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
        key = _key(prefix, operation)
        standing = next((cut.supports for cut in cuts if cut.supports is not None), standing)
        found.append(PlannedOperation(before + index + 1, key, operation, said[index], cuts, work, standing))
        for cut in cuts:
            work = work.after(cut) if work is not None else None
    return tuple(found)
