"""The set-ups of a part: which end is worked on, held by what, and which surfaces are cut in it; as few as there can
be among those that run on the metal.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from itertools import groupby, islice
from typing import TYPE_CHECKING, Literal, get_args

from nomisma.core.metal.cut import Cut, End, Workholding
from nomisma.core.metal.drawing import Drawing
from nomisma.core.metal.rules import WIDE, Complaint
from nomisma.core.metal.run import run
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.at_centre import wants_a_centre
from nomisma.core.operations.operations import Operation, cutting_of, fewest_changes, operations_of, tool_changes
from nomisma.core.operations.piece import ZERO, Begun, Piece, is_in_an_end
from nomisma.core.operations.surfaces import Surface
from nomisma.core.order.laid_out import STOCK_KIND_WORDS, LaidOut, Named, StockSaid, Worked, ends_of, lay_out
from nomisma.core.order.mountings import is_mounted
from nomisma.core.order.sharing import NotInOneChucking, Sharing, sharings, through_bore

if TYPE_CHECKING:
    from nomisma.core.order.stages import Stage

WORKED_WORDS: dict[Worked, str] = {
    "right": "from the right end", "left": "from the left end", "mandrel": "on a mandrel in its bore",
    "centres": "between centres",
}  # fmt: skip
StockHeld = Literal["bar", "blank", "repair"]
STOCK_WORDS: dict[StockHeld, str] = {held: STOCK_KIND_WORDS[held] for held in get_args(StockHeld)}
MOST_ORDERED = 12
"""Of so many ways that are equal but for their tools the operations are put in order. Source: this tool's own choice.
"""
MOST_RUN = 24
"""So many ways of as many set-ups are run on the metal before more set-ups are tried. Source: this tool's own choice.
"""


@dataclass(frozen=True, slots=True)
class SetUp:
    """One chucking: where it is worked on, which surface holds it (none: the stock as it is), its surfaces and its
    operations in order.

    `workholding`: how it is held on the metal; `cuts`: of each operation, what it takes away; `before`: the workpiece
    as it comes to it. `left_on_mm`: what stays on each face after it, where the part is roughed all over first.
    """

    worked: Worked
    held_on: str
    surfaces: tuple[Surface, ...]
    operations: tuple[Operation, ...]
    workholding: Workholding | None = None
    cuts: tuple[tuple[Cut, ...], ...] = ()
    before: Workpiece | None = None
    again: int = 0
    left_on_mm: Decimal = Decimal(0)

    @property
    def is_roughing(self) -> bool:
        """Whether in it the part is roughed all over, before anything is finished."""
        return self.left_on_mm > 0

    def face_mm(self, length_mm: Decimal) -> Decimal:
        """Where the face that it works from is, of a part so long, mm."""
        return -self.left_on_mm if self.worked == "left" else length_mm + self.left_on_mm

    @property
    def name(self) -> str:
        """What it is called in addresses and in what is kept of it: where it is worked on; and where that end is worked
        on again, how often.
        """
        return f"{self.worked}-{self.again + 1}" if self.again else self.worked


@dataclass(frozen=True, slots=True)
class SetUps:
    """The set-ups in order, what they leave to be dialled in, and whether every way was tried.

    `complaints`: where no way runs, what stands in the way of the one that came furthest; there are no set-ups then.
    `stages`: of a part that is roughed all over first, its two plans.
    """

    set_ups: tuple[SetUp, ...]
    apart: tuple[NotInOneChucking, ...]
    changes: int
    proved: bool
    complaints: tuple[Complaint, ...] = ()
    named: tuple[Named, ...] = ()
    stock: Stock | None = None
    drawing: Drawing | None = None
    finished: Workpiece | None = None
    stages: "tuple[Stage, ...]" = ()

    @property
    def workholdings(self) -> tuple[Workholding, ...]:
        """How each set-up is held."""
        return tuple(one.workholding for one in self.set_ups if one.workholding is not None)


def set_ups_of(
    piece: Piece,
    stock: StockSaid,
    *,
    face_as_parted: bool = False,
    whole: str = "",
    first: tuple[Worked, str] | None = None,
) -> SetUps:
    """Fewest set-ups, then fewest surfaces cut away from what they must be true to, then most diameters in one
    chucking, then fewest tools; of those that run on the metal. None run: why not.

    `face_as_parted`: the far face may stay as the parting tool leaves it; `whole`: the letter of the length from face
    to face; `first`: where the first set-up is worked, and a letter that is cut in it (empty: any).

    Source: search over all ways to share the surfaces out; what can be held and cut: core/metal/rules.py (common
    practice, no source).

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.order import order_of_work
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> plan = order_of_work(pin)
    >>> plan.proved, [one.set_up.worked for one in plan.set_ups]
    (True, ['right', 'left'])
    """
    with_skin = stock.kind != "bar" and stock.skin_mm > 0
    nearest: tuple[int, LaidOut] | None = None
    proved = True
    for _, alike in groupby(sharings(piece, stock, face_as_parted=face_as_parted), key=lambda one: len(one.chuckings)):
        sharing = [one for one in alike if _may_be_mounted(one, stock)]
        proved = proved and all(one.every for one in sharing)
        ways = sorted(
            (one.cost(way, with_skin=with_skin), at, way)
            for at, one in enumerate(sharing)
            for way in one.ways()
            if (first is None or _begins_so(one, way, first)) and _breaks_every_edge(one, way)
        )
        tried = 0
        for _, equal in groupby(ways, key=lambda one: one[0][:-1]):
            running: list[tuple[tuple[int, int], tuple[Named, ...], LaidOut, tuple[NotInOneChucking, ...]]] = []
            for _, at, way in islice(equal, MOST_ORDERED):
                if tried >= MOST_RUN:
                    break
                tried += 1
                unordered = _named(sharing[at], way, stock, whole=whole)
                laid = lay_out(unordered, piece, stock)
                if any(one.rule == "no_way" for one in laid.complaints):  # whatever the order, nothing holds it so
                    if nearest is None:
                        nearest = len(laid.complaints), laid
                    continue
                named = tuple(_in_order(one, piece) for one in unordered)
                if named != unordered:
                    laid = lay_out(named, piece, stock)
                if not is_mounted(laid.workholdings, stock.mounting):
                    continue
                if not laid.complaints and not run(laid.before[0], laid.workholdings, laid.drawing).complaints:
                    changes = tool_changes([each for one in named for each in one.operations])
                    apart = tuple(sharing[at].apart(way))
                    running.append(((_poor_holds(laid), changes), named, laid, apart))
                elif nearest is None or len(laid.complaints) < nearest[0]:
                    nearest = len(laid.complaints), laid
            if running:
                _, named, laid, apart = min(running, key=lambda one: one[0])
                return made_of(named, laid, apart, proved=proved and tried < MOST_RUN)
        proved = proved and tried < MOST_RUN
    why = nearest[1].complaints if nearest else (Complaint("no_way"),)
    return SetUps((), (), 0, proved, complaints=why)


def _breaks_every_edge(one: Sharing, way: Sequence[int]) -> bool:
    """Whether every edge of a part that was begun is broken in one of its set-ups, or was before; of a part that was
    not both ends are worked anyway.
    """
    piece = one.piece
    if piece.begun is None:
        return True
    where = one.where(way)
    edges = (each for each in piece.surfaces if each.kind == "edge")
    ends = ((each, end) for each in edges for end in sorted(each.ends))
    return not any(
        _edge_place(each, end, one, where) is None and not all(map(piece.is_broken, piece.edges_at(each, end)))
        for each, end in ends
    )


def _begins_so(one: Sharing, way: Sequence[int], first: tuple[Worked, str]) -> bool:
    """Whether a way begins where it is wanted, with a surface that is wanted first."""
    worked, letter = first
    if one.chuckings[0] != worked:
        return False
    cut = {letter: place for surface, place in one.where(way).items() for letter in surface.letters}
    return cut.get(letter, 0) == 0


def _may_be_mounted(one: Sharing, stock: StockSaid) -> bool:
    """Whether set-ups can come to how the part is to be held."""
    if stock.mounting == "centres":
        return "centres" in one.chuckings
    return stock.mounting != "chuck" or not {"centres", "mandrel"} & set(one.chuckings)


def _poor_holds(laid: LaidOut) -> int:
    """In how many set-ups metal is roughed off while little holds it: a short grip, a mandrel, a thin stub."""
    return sum(_is_poor(held, before) for held, before in zip(laid.workholdings, laid.before, strict=True))


def _is_poor(held: Workholding, before: Workpiece) -> bool:
    grip = held.grip
    if grip is None:
        return False
    roughs = [cut for cut in held.cuts if cut.traits.roughs]
    if grip.inside or grip.against == "step":
        return any(cut.kind == "rough_turn" for cut in roughs)
    return bool(roughs) and grip.diameter_mm < WIDE * before.outside.largest_mm(before.left_mm, before.right_mm)


def made_of(named: Sequence[Named], laid: LaidOut, apart: tuple[NotInOneChucking, ...], *, proved: bool) -> SetUps:
    """The set-ups of what was laid out; what an operation has nothing left to cut of is left out. Source: none,
    bookkeeping.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.order import order_of_work
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> plan = order_of_work(pin)
    >>> [(one.set_up.name, one.set_up.held_on) for one in plan.set_ups]
    [('right', ''), ('left', 'A')]
    """
    set_ups: list[SetUp] = []
    for one, held, cuts, before in zip(named, laid.workholdings, laid.cuts, laid.before, strict=False):
        kept = [(each, own) for each, own in zip(one.operations, cuts, strict=True) if own]
        grip = held.grip
        held_on = grip.surface if grip is not None and grip.surface != "stock" else ""
        set_ups.append(
            SetUp(
                one.worked,
                held_on,
                one.surfaces,
                tuple(each for each, _ in kept),
                held,
                tuple(own for _, own in kept),
                before,
                again=sum(each.worked == one.worked for each in set_ups),
            )
        )
    every = [each for one in set_ups for each in one.operations]
    return SetUps(
        tuple(set_ups),
        apart,
        tool_changes(every),
        proved,
        laid.complaints,
        tuple(named),
        laid.stock,
        laid.drawing,
        laid.finished,
    )


def _edge_place(one: Surface, end: End, sharing: Sharing, where: Mapping[Surface, int]) -> int | None:
    """In which set-up an edge at an end is broken: the first that works it once its diameter is there; where none does
    later and the piece is parted off in the first, there, from the groove the blade has begun.
    """
    piece = sharing.piece
    at_end = max(piece.surfaces, key=lambda each: (each.kind == "outside", _near(each, end, piece)), default=None)
    host = one.lies_in or (at_end.letter if at_end is not None and at_end.kind == "outside" else "")
    hosts = {letter: (each, place) for each, place in where.items() for letter in each.letters if not each.lies_in}
    there = next((each for each in piece.surfaces if host in each.letters), None) if host in piece.made else None
    own, cut_at = hosts.get(host, (there, 0))
    in_a_mouth = own is not None and is_in_an_end(own)
    for place, worked in enumerate(sharing.chuckings):
        if place >= cut_at and end in ends_of(worked) and not (in_a_mouth and worked in ("mandrel", "centres")):
            return place
    return sharing.parted_in if sharing.parts and cut_at <= sharing.parted_in and not in_a_mouth else None


def _near(one: Surface, end: End, piece: Piece) -> bool:
    return one.to_mm == piece.length_mm if end == "right" else one.from_mm == 0


def _edges_of(sharing: Sharing, where: Mapping[Surface, int]) -> list[list[tuple[Surface, Cut]]]:
    found: list[list[tuple[Surface, Cut]]] = [[] for _ in sharing.chuckings]
    for one in sharing.piece.surfaces:
        if one.kind != "edge":
            continue
        ends = sorted(one.ends, reverse=True)
        for end in ends:
            place = _edge_place(one, end, sharing, where)
            if place is not None:
                cuts = sharing.piece.edges_at(one, end)
                found[place] += [(one, cut) for cut in cuts if not sharing.piece.is_broken(cut)]
    return found


def _named(sharing: Sharing, way: Sequence[int], stock: StockSaid, *, whole: str) -> tuple[Named, ...]:
    """A way by its names: operations in the order of the rules with the fewest changes of tool."""
    piece, chuckings, where = sharing.piece, sharing.chuckings, sharing.where(way)
    edges = _edges_of(sharing, where)
    made: list[Named] = []
    bores = piece.section.bores
    roughed = stock.as_roughed is not None and stock.as_roughed.hole.largest_mm(ZERO, piece.length_mm) > 0
    roughed = roughed and piece.begun is None  # of what was begun each hole is asked for itself
    opened = roughed or stock.bore_mm > 0 or (stock.kind == "repair" and any(piece.now_mm(one.letter) for one in bores))
    through = through_bore(piece.surfaces)
    centred = "centres" in chuckings
    for place, worked in enumerate(chuckings):
        own = [one for one in piece.to_cut if where.get(one) == place]
        own = sorted(own, key=lambda one: _from_the_worked_end(one, worked, piece))
        broken = [one for one in piece.surfaces if one.kind == "edge" and any(each is one for each, _ in edges[place])]
        later = {each for each in chuckings[place + 1 :] if each in ("right", "left")}
        ends = centred and worked in ("right", "left") and place < chuckings.index("centres")
        thin = not centred and wants_a_centre(own, worked, piece)
        done = operations_of(
            [*own, *broken],
            from_solid=not opened,
            part_off=sharing.parts and place == sharing.parted_in,
            centred=ends or thin,
            roughing=piece.is_roughed,
            least_bored_mm=piece.tools.least_bored_mm,
            whole=whole if place == _faced_last_in(sharing) else "",
        )
        if worked in ("mandrel", "centres") or (centred and place > chuckings.index("centres")):
            done = [one for one in done if one.kind not in ("face", "centre")]
        if piece.begun is not None:
            done = [one for one in done if not _is_roughed(one, piece.begun)]
        opened = opened or any(cutting_of(one.kind).is_hole and one.from_both_ends for one in own)
        made.append(
            Named(
                worked,
                (*own, *broken),
                tuple(done),
                tuple(cut for _, cut in edges[place]),
                parts=sharing.parts and place == sharing.parted_in,
                far_is_faced=bool(later),
                mandrel=through.letter if through else "",
                at_centre=thin,
            )
        )
    return tuple(made)


def _is_roughed(one: Operation, begun: Begun) -> bool:
    """Whether an operation would rough what was roughed before work went on otherwise."""
    return one.kind in ("rough_turn", "rough_bore") and bool(begun.roughed & set(one.letters))


def _faced_last_in(sharing: Sharing) -> int:
    """In which set-up the length from face to face is made: where the second end is faced; of a part that was begun,
    where the last is.
    """
    begun = sharing.piece.begun
    if begun is None or begun.on_bar:
        return min(sharing.parted_in + 1, len(sharing.chuckings) - 1)
    long = {"left": begun.work.left_mm < 0, "right": begun.work.right_mm > sharing.piece.length_mm}
    return max((place for place, worked in enumerate(sharing.chuckings) if long.get(worked)), default=0)


def _in_order(one: Named, piece: Piece) -> Named:
    """A set-up with its operations in the order of the rules that changes tools least."""
    return replace(one, operations=tuple(fewest_changes(one.operations, piece.surfaces)))


def _from_the_worked_end(one: Surface, worked: Worked, piece: Piece) -> tuple[object, ...]:
    """What is nearer to the worked end first, in a hole what is wider."""
    if cutting_of(one.kind).is_hole:
        return (0, -one.diameter_mm, 0)
    from_the_ends = {"left": one.from_mm, "right": piece.length_mm - one.to_mm}
    if worked in ("left", "right"):
        return (1, from_the_ends[worked], one.diameter_mm)
    return (1, min((from_the_ends[end] for end in one.ends), default=piece.length_mm), one.diameter_mm)
