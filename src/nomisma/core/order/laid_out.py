"""A plan of names laid out on the metal: its stock, how each set-up is held, and what every operation cuts there."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import ROUND_CEILING, Decimal
from itertools import chain
from typing import Literal

from nomisma.core.metal.cut import Cut, End, Workholding
from nomisma.core.metal.drawing import Drawing
from nomisma.core.metal.rules import Complaint, clearance_mm, least_grip_mm
from nomisma.core.metal.run import at_last, run_set_up
from nomisma.core.metal.stock import Stock, StockSection, casting_of
from nomisma.core.metal.workpiece import Workpiece, workpiece_of
from nomisma.core.operations.at_centre import cut_at_centre
from nomisma.core.operations.cuts_of import cuts_of
from nomisma.core.operations.operations import Operation
from nomisma.core.operations.piece import ZERO, Piece, surface_mirrored
from nomisma.core.operations.surfaces import Surface, SurfaceKind
from nomisma.core.operations.task import Task, blade_mm, facing_mm
from nomisma.core.order.holds import SPINDLE_BORE_MM, Need, between_centres, on_a_mandrel, workholdings
from nomisma.core.order.mended import part_itself
from nomisma.core.order.mountings import PlanMounting, wanted_first

StockKind = Literal["bar", "blank", "tube", "cast", "repair"]
STOCK_KIND_WORDS: dict[StockKind, str] = {
    "bar": "a bar, or a blank with a grip to spare: it is parted off",
    "blank": "a blank no longer than the part and its facing",
    "tube": "a sawn length of tube",
    "cast": "a casting",
    "repair": "the part itself, to be mended: only what has metal to come off is cut",
}
NO_GRIP: tuple[SurfaceKind, ...] = ("thread", "knurl")
Worked = Literal["right", "left", "mandrel", "centres"]
Extent = tuple[Decimal, Decimal]


@dataclass(frozen=True, slots=True)
class StockSaid:
    """The stock as somebody says it, mm: bar to spare, a blank, a tube, a casting; its section and size across (none:
    what is usual), a tube's bore, how long (none: as long as is wanted), its skin all round.

    `blade_mm`: the parting tool's width (none: what is usual); `spindle_mm`: the bore of the lathe's spindle;
    `centred`: a part that is mended has centre holes of its own in both ends. `as_roughed`: what was roughed of it.
    `mounting`: how the whole part is to be held, by choice.
    """

    kind: StockKind = "bar"
    section: StockSection = "round"
    across_mm: Decimal | None = None
    bore_mm: Decimal = ZERO
    long_mm: Decimal | None = None
    skin_mm: Decimal = ZERO
    blade_mm: Decimal | None = None
    spindle_mm: Decimal = SPINDLE_BORE_MM
    centred: bool = False
    as_roughed: Stock | None = None
    mounting: PlanMounting = "any"

    @property
    def may_be_parted(self) -> bool:
        """Whether there may be stock to spare that the piece is parted from."""
        return self.kind == "bar"


@dataclass(frozen=True, slots=True)
class Named:
    """One set-up by its names: from where it is worked, its surfaces and operations in order, the edges broken in it
    (in the part's own frame), whether the piece is parted off, whether the far face is still to come, and whether a
    centre comes up in the worked end.
    """

    worked: Worked
    surfaces: tuple[Surface, ...]
    operations: tuple[Operation, ...]
    edges: tuple[Cut, ...] = ()
    parts: bool = False
    far_is_faced: bool = True
    mandrel: str = ""
    at_centre: bool = False


@dataclass(frozen=True, slots=True)
class LaidOut:
    """What was laid out: the stock, a chucking a set-up, of each operation its cuts, and where it breaks."""

    stock: Stock
    workholdings: tuple[Workholding, ...]
    cuts: tuple[tuple[tuple[Cut, ...], ...], ...]
    drawing: Drawing
    complaints: tuple[Complaint, ...]
    before: tuple[Workpiece, ...] = ()
    finished: Workpiece | None = None


def lay_out(named: Sequence[Named], piece: Piece, said: StockSaid, *, hold: Sequence[Workholding] = ()) -> LaidOut:
    """A plan on its stock, each set-up held where the metal and its cuts leave room, or as `hold` has it. Sizes in mm.
    Source: common practice, no source (what can be held and cut); geometry.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.order import order_of_work
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> plan = order_of_work(pin)
    >>> [str(one.workholding.stands_out_mm) for one in (each.set_up for each in plan.set_ups)], plan.complaints
    (['37.6', '3.8'], ())
    """
    stock = stock_for(said, piece, next((one for one in named if one.parts), named[0]))
    edges = [*piece.broken, *(cut for one in named for cut in one.edges)]
    operations = [each for one in named for each in one.operations]
    made = frozenset(letter for each in operations for letter in each.letters if not piece.is_roughed)
    drawing = piece.drawing(made, edges)
    work = workpiece_of(stock)
    finished: dict[str, Extent] = {
        step.letter: (step.from_mm, step.to_mm)
        for step in (*piece.section.outside, *piece.section.bores)
        if step.letter in piece.as_bought or piece.stays(step.letter)
    }
    finished |= {
        one.letter: (one.from_mm, one.to_mm)
        for one in piece.surfaces
        if one.kind in ("outside", "bore") and set(one.letters) <= piece.made
    }
    rings = piece.begun.work.rings if piece.begun is not None else ()
    work = replace(work, rings=rings, done=frozenset(finished) | frozenset(_as_bought_lengths(piece)) | piece.made)
    held: list[Workholding] = []
    cuts: list[tuple[tuple[Cut, ...], ...]] = []
    before: list[Workpiece] = []
    found: list[Complaint] = []
    for number, one in enumerate(named):
        before.append(work)
        own = hold[number] if number < len(hold) else None
        done = _set_up(one, number, piece, said, work, finished, drawing, own)
        found += done.complaints
        if done.workholding is None:
            return LaidOut(stock, tuple(held), tuple(cuts), drawing, tuple(found), tuple(before))
        held.append(done.workholding)
        cuts.append(done.cuts)
        work = done.finished
        finished |= {
            surface.letter: (surface.from_mm, surface.to_mm)
            for surface in one.surfaces
            if surface.kind in ("outside", "bore") and not piece.is_roughed
        }
    found += at_last(work, drawing)
    return LaidOut(stock, tuple(held), tuple(cuts), drawing, tuple(found), tuple(before), work)


def _as_bought_lengths(piece: Piece) -> set[str]:
    return {letter for one in piece.surfaces if one.letter in piece.as_bought for letter in one.letters}


def across_mm(said: StockSaid, piece: Piece) -> Decimal:
    """How far across the stock is, mm: as it is said, else the largest outside with its skin. Source: common practice,
    no source.

    >>> from nomisma.core.part.section import Section
    >>> from nomisma.core.part.section_shapes import Cylinder
    >>> pin = (Cylinder("A", Decimal(20), Decimal(0), Decimal(10)),)
    >>> str(across_mm(StockSaid(), Piece(Section(Decimal(10), pin, (), (), Decimal(0), "", (), ()), (), ())))
    '20.8'
    """
    if said.across_mm is not None:
        return said.across_mm
    largest = max(piece.section.outside, key=lambda step: step.diameter_mm)
    if piece.stays(largest.letter):
        return largest.diameter_mm
    return largest.diameter_mm + 2 * (said.skin_mm or facing_mm(piece.unit) / 2)


def stock_for(said: StockSaid, piece: Piece, first: Named) -> Stock:
    """The stock as it lies for a first set-up, or for the one that parts the piece off, mm from the left face: a bar as
    long as its grip wants, else with facing on both ends. Source: common practice, no source.

    >>> from nomisma.core.part.section import Section
    >>> from nomisma.core.part.section_shapes import Cylinder
    >>> pin = (Cylinder("A", Decimal(20), Decimal(0), Decimal(10)),)
    >>> piece = Piece(Section(Decimal(10), pin, (), (), Decimal(0), "", (), ()), (), ())
    >>> found = stock_for(StockSaid("blank"), piece, Named("right", (), ())); str(found.from_mm), str(found.to_mm)
    ('-0.8', '10.8')
    """
    long_mm, face = piece.length_mm, facing_mm(piece.unit)
    if said.as_roughed is not None:
        return said.as_roughed
    if said.kind == "repair":
        return part_itself(piece, said.skin_mm or facing_mm(piece.unit) / 2, centred=said.centred)
    across = across_mm(said, piece)
    if said.kind == "cast" and not (said.across_mm is not None and said.long_mm is not None):
        return casting_of(piece.section, said.skin_mm or face * 2)
    if first.parts:
        blade = _blade(said, across, piece)
        front = -((face if first.far_is_faced else ZERO) + blade) - clearance_mm(blade)
        whole = long_mm + face - front + least_grip_mm(across).quantize(Decimal(1), ROUND_CEILING)
        whole = said.long_mm if said.long_mm is not None else whole
        begins, ends = long_mm + face - whole, long_mm + face
    elif said.long_mm is not None and said.kind != "bar":
        spare = said.long_mm - long_mm
        near = min(face, spare / 2)
        begins, ends = -(spare - near), long_mm + near
    else:
        begins, ends = -face, long_mm + face
    if first.worked == "left":
        begins, ends = long_mm - ends, long_mm - begins
    return Stock(begins, ends, across, said.section, said.bore_mm, said.skin_mm)


def _blade(said: StockSaid, across: Decimal, piece: Piece) -> Decimal:
    return said.blade_mm if said.blade_mm is not None else blade_mm(across, piece.unit)


@dataclass(frozen=True, slots=True)
class _SetUpDone:
    workholding: Workholding | None
    cuts: tuple[tuple[Cut, ...], ...]
    finished: Workpiece
    complaints: tuple[Complaint, ...]


def _set_up(
    one: Named,
    number: int,
    piece: Piece,
    said: StockSaid,
    work: Workpiece,
    finished: Mapping[str, Extent],
    drawing: Drawing,
    own: Workholding | None = None,
) -> _SetUpDone:
    """One set-up laid out, seen from its worked end as the right one, and turned back."""
    turned, long_mm = one.worked == "left", piece.length_mm
    seen = piece.mirrored() if turned else piece
    before = work.mirrored(long_mm) if turned else work
    wanted = drawing.mirrored() if turned else drawing
    task = _task(one, seen, said, turned=turned)
    cuts, now = _cuts(one.operations, task, before)
    flat = tuple(cut for each in cuts for cut in each)
    there = {
        letter: (long_mm - ends, long_mm - begins) if turned else (begins, ends)
        for letter, (begins, ends) in finished.items()
    }
    best: tuple[Workholding, tuple[Complaint, ...]] | None = None
    ways = _ways(one, task, said, before, flat, there) if own is None else [own.mirrored(long_mm) if turned else own]
    for way in ways:
        held = replace(way, cuts=flat)
        complaints = run_set_up(held, before, wanted, number).complaints
        if best is None or not complaints:
            best = held, complaints
        if not complaints:
            break
    if best is None:
        return _SetUpDone(None, (), work, (Complaint("no_way", _about(one), number),))
    held, complaints = best
    back = tuple(tuple(cut.mirrored(long_mm) if turned else cut for cut in each) for each in cuts)
    return _SetUpDone(
        held.mirrored(long_mm) if turned else held, back, now.mirrored(long_mm) if turned else now, complaints
    )


def _about(one: Named) -> str:
    return ", ".join(dict.fromkeys(letter for surface in one.surfaces for letter in surface.letters[:1]))


def _task(one: Named, seen: Piece, said: StockSaid, *, turned: bool) -> Task:
    long_mm = seen.length_mm
    return Task(
        seen,
        tuple(surface_mirrored(each, long_mm) if turned else each for each in one.surfaces),
        tuple(each.mirrored(long_mm) if turned else each for each in one.edges),
        blade_mm=_blade(said, across_mm(said, seen), seen) if one.parts else None,
        far_mm=facing_mm(seen.unit) if one.parts and one.far_is_faced else ZERO,
        free=one.worked in ("centres", "mandrel"),
        at_centre=one.at_centre,
    )


def _cuts(
    operations: Sequence[Operation], task: Task, work: Workpiece
) -> tuple[tuple[tuple[Cut, ...], ...], Workpiece]:
    found: list[tuple[Cut, ...]] = []
    for each in operations:
        made = [replace(cut, throw_mm=task.throw_mm) for cut in cuts_of(each, task, work)]
        if task.at_centre:
            made = [cut_at_centre(cut, work, [*chain(*found), *made[:at]]) for at, cut in enumerate(made)]
        for cut in made:
            work = work.after(cut)
        found.append(tuple(made))
    return tuple(found), work


def _ways(
    one: Named, task: Task, said: StockSaid, before: Workpiece, cuts: tuple[Cut, ...], finished: Mapping[str, Extent]
) -> list[Workholding]:
    own = {letter for each in one.surfaces for letter in each.letters}
    bound = {each.letter for each in task.piece.surfaces if each.true_to in own and each.letter in finished}
    true_to = next((each.true_to for each in one.surfaces if each.true_to in finished), min(bound, default=""))
    need = Need(
        task.piece,
        cuts,
        finished,
        frozenset(each.lies_in for each in task.piece.surfaces if each.kind in NO_GRIP),
        frozenset(each.letter for each in task.piece.surfaces if each.throw_mm),
        said.section,
        true_to=true_to,
        blade_mm=task.blade_mm,
        spindle_mm=said.spindle_mm,
        throw_mm=task.throw_mm,
        at_centre=task.at_centre,
        mended=said.kind == "repair",
    )
    match one.worked:
        case "centres":
            return [between_centres(before)]
        case "mandrel":
            way = on_a_mandrel(need, before, one.mandrel)
            return [way] if way else []
        case "right" | "left":
            return wanted_first(workholdings(need, before), said.mounting)


def ends_of(worked: Worked) -> tuple[End, ...]:
    """Which ends' edges can be broken in a set-up. Source: geometry.

    >>> ends_of("right"), ends_of("centres")
    (('right',), ('right', 'left'))
    """
    match worked:
        case "right":
            return ("right",)
        case "left":
            return ("left",)
        case "mandrel" | "centres":
            return ("right", "left")
