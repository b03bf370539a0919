"""The set-ups of a part: which end is worked on, held by what, and which surfaces are cut in it; as few as there can
be among those that run on the metal.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import groupby, islice, product
from typing import Literal

from nomisma.core.metal.cut import Chucking, Cut, End
from nomisma.core.metal.drawing import Drawing
from nomisma.core.metal.rules import Complaint
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.planning.laid_out import STOCK_KIND_WORDS, LaidOut, Named, StockSaid, Worked, ends_of, lay_out
from nomisma.core.planning.operations import Operation, cutting_of, fewest_changes, operations_of, tool_changes
from nomisma.core.planning.piece import Piece, is_in_an_end
from nomisma.core.planning.surfaces import Surface

WORKED_WORDS: dict[Worked, str] = {
    "right": "from the right end", "left": "from the left end", "mandrel": "on a mandrel in its bore",
    "centres": "between centres",
}  # fmt: skip
StockHeld = Literal["bar", "blank"]
STOCK_WORDS: dict[StockHeld, str] = {"bar": STOCK_KIND_WORDS["bar"], "blank": STOCK_KIND_WORDS["blank"]}
MOST_FREE = 10
"""Up to so many surfaces that either end reaches, every way to share them out is tried. Source: this tool's own choice.
"""
MOST_ORDERED = 12
"""Of so many ways that are equal but for their tools the operations are put in order. Source: this tool's own choice.
"""
MOST_RUN = 40
"""So many ways of as many set-ups are run on the metal before more set-ups are tried. Source: this tool's own choice.
"""


@dataclass(frozen=True, slots=True)
class SetUp:
    """One chucking: where it is worked on, which surface holds it (none: the stock as it is), its surfaces and its
    operations in order.

    `chucking`: how it is held on the metal; `cuts`: of each operation, what it takes away; `before`: the workpiece as
    it comes to it.
    """

    worked: Worked
    held_on: str
    surfaces: tuple[Surface, ...]
    operations: tuple[Operation, ...]
    chucking: Chucking | None = None
    cuts: tuple[tuple[Cut, ...], ...] = ()
    before: Workpiece | None = None
    again: int = 0

    @property
    def name(self) -> str:
        """What it is called in addresses and in what is kept of it: where it is worked on; and where that end is worked
        on again, how often.
        """
        return f"{self.worked}-{self.again + 1}" if self.again else self.worked


@dataclass(frozen=True, slots=True)
class NotInOneChucking:
    """A surface that must be true to another and is cut in another set-up."""

    letter: str
    true_to: str


@dataclass(frozen=True, slots=True)
class SetUps:
    """The set-ups in order, what they leave to be dialled in, and whether every way was tried.

    `complaints`: where no way runs, what stands in the way of the one that came furthest; there are no set-ups then.
    `as_bought`: the outsides whose limits the stock keeps.
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

    @property
    def chuckings(self) -> tuple[Chucking, ...]:
        """How each set-up is held."""
        return tuple(one.chucking for one in self.set_ups if one.chucking is not None)


@dataclass(frozen=True, slots=True)
class _Way:
    """One way to share the surfaces out over some set-ups, by their places from 0; whether it is parted off in the
    first."""

    chuckings: tuple[Worked, ...]
    where: Mapping[Surface, int]
    parts: bool

    def cost(self, surfaces: Sequence[Surface], *, with_skin: bool) -> tuple[int, ...]:
        """What is to be least, in order: set-ups, surfaces apart from what they must be true to, diameters outside the
        fullest chucking; a piece that is parted off before one that is sawn.

        Held on a skin, the first set-up makes an outside for the next to be held on, where the part has one that it
        can.
        """
        diameters = [self._diameters(place) for place in range(len(self.chuckings))]
        apart = len(list(_apart(surfaces, self)))
        boss = int(with_skin and not self.makes_a_boss)
        return len(self.chuckings), apart, boss, sum(diameters) - max(diameters), int(not self.parts)

    @property
    def makes_a_boss(self) -> bool:
        """Whether the first of several set-ups cuts an outside that another may be held on."""
        return len(self.chuckings) == 1 or any(at == 0 and one.kind == "outside" for one, at in self.where.items())

    @property
    def cut_first(self) -> int:
        """How many diameters are cut in the first set-up."""
        return self._diameters(0)

    def _diameters(self, place: int) -> int:
        return sum(at == place and cutting_of(one.kind).is_diameter for one, at in self.where.items())


def set_ups_of(piece: Piece, stock: StockSaid, *, face_as_parted: bool = False, whole: str = "") -> SetUps:
    """Fewest set-ups, then fewest surfaces cut away from what they must be true to, then most diameters in one
    chucking, then fewest tools; of those that run on the metal. None run: why not.

    `face_as_parted`: the far face may stay as the parting tool leaves it; `whole`: the letter of the length from face
    to face.

    Source: search over all ways to share the surfaces out; what can be held and cut: core/metal/rules.py (common
    practice, no source).

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.planning.order import order_of_work
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> plan = order_of_work(pin)
    >>> plan.proved, [one.set_up.worked for one in plan.set_ups]
    (True, ['right', 'left'])
    """
    with_skin = stock.kind != "bar" and stock.skin_mm > 0
    nearest: tuple[int, LaidOut] | None = None
    every = sum(one.from_both_ends for one in piece.surfaces if cutting_of(one.kind).is_placed_alone) <= MOST_FREE
    proved = every
    for _, sequences in groupby(_sequences(piece, stock, face_as_parted=face_as_parted), key=lambda one: len(one[0])):
        ways = [
            _Way(chuckings, where, parts)
            for chuckings, parts in sequences
            for where in _shared_out(piece, chuckings, parts=parts, every=every)
        ]
        costs = {id(way): way.cost(piece.surfaces, with_skin=with_skin) for way in ways}
        ways.sort(key=lambda way: (costs[id(way)], way.cut_first if with_skin and way.makes_a_boss else -way.cut_first))
        tried = 0
        for _, alike in groupby(ways, key=lambda way: costs[id(way)]):
            running: list[tuple[tuple[int, int], tuple[Named, ...], LaidOut, _Way]] = []
            for way in islice(alike, MOST_ORDERED):
                if tried >= MOST_RUN:
                    break
                tried += 1
                named = _named(piece, way, stock, whole=whole)
                laid = lay_out(named, piece, stock)
                if not laid.complaints:
                    changes = tool_changes([each for one in named for each in one.operations])
                    running.append(((_poor_holds(laid), changes), named, laid, way))
                elif nearest is None or len(laid.complaints) < nearest[0]:
                    nearest = len(laid.complaints), laid
            if running:
                _, named, laid, way = min(running, key=lambda one: one[0])
                proved = proved and tried < MOST_RUN
                return made_of(named, laid, tuple(_apart(piece.surfaces, way)), proved=proved)
        proved = proved and tried < MOST_RUN
    why = nearest[1].complaints if nearest else (Complaint("no_way"),)
    return SetUps((), (), 0, proved, complaints=why)


def _poor_holds(laid: LaidOut) -> int:
    """In how many set-ups metal is roughed off outside while little holds it: a short grip on a step, a mandrel."""
    return sum(
        held.grip is not None
        and (held.grip.inside or held.grip.against == "step")
        and any(cut.kind == "rough_turn" for cut in held.cuts)
        for held in laid.chuckings
    )


def made_of(named: Sequence[Named], laid: LaidOut, apart: tuple[NotInOneChucking, ...], *, proved: bool) -> SetUps:
    """The set-ups of what was laid out; what an operation has nothing left to cut of is left out. Source: none,
    bookkeeping.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.planning.order import order_of_work
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> plan = order_of_work(pin)
    >>> [(one.set_up.name, one.set_up.held_on) for one in plan.set_ups]
    [('right', ''), ('left', 'A')]
    """
    set_ups: list[SetUp] = []
    for one, held, cuts, before in zip(named, laid.chuckings, laid.cuts, laid.before, strict=False):
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


def _sequences(piece: Piece, stock: StockSaid, *, face_as_parted: bool) -> Iterator[tuple[tuple[Worked, ...], bool]]:
    """The orders of set-ups there are, fewest first, each parted off or sawn."""
    parted = (True, False) if stock.may_be_parted else (False,)
    if stock.may_be_parted and face_as_parted:
        yield from (((end,), True) for end in ("right", "left"))
    both: tuple[tuple[Worked, Worked], ...] = (("right", "left"), ("left", "right"))
    yield from ((pair, parts) for parts in parted for pair in both)
    if _through(piece.surfaces):
        yield from (((*pair, "mandrel"), parts) for parts in parted for pair in both)
    in_ends = [one for one in piece.surfaces if is_in_an_end(one) and cutting_of(one.kind).is_placed_alone]
    if not in_ends:
        yield from (((*pair, "centres"), False) for pair in both)
        return
    for end in ("right", "left"):
        if all(end in one.ends for one in in_ends):
            yield (("right", "left", "centres", end), False)
    yield (("right", "left", "centres", "right", "left"), False)


def _shared(surfaces: Sequence[Surface]) -> list[Surface]:
    """The surfaces that are shared out: what lies in an outside goes with it; edges that are said of none are broken at
    both ends.
    """
    return [one for one in surfaces if cutting_of(one.kind).is_placed_alone]


def _through(surfaces: Sequence[Surface]) -> Surface | None:
    """The bore a mandrel goes through: the longest that is open at both ends and bored or reamed."""
    holes = [one for one in surfaces if one.kind == "bore" and one.from_both_ends and one.hole in ("bored", "reamed")]
    return max(holes, key=lambda one: one.length_mm, default=None)


def _where_cut(one: Surface, chuckings: Sequence[Worked], piece: Piece, *, parts: bool) -> list[int]:
    """In which of the set-ups a surface can be cut.

    What goes into an end waits until no centre is wanted there any more; what is turned between centres is turned there
    alone. A jaw covers an outside that reaches the end it holds, unless there is stock to spare, or a bore to hold it
    by.
    """
    in_end = is_in_an_end(one)
    centres = chuckings.index("centres") if "centres" in chuckings else None
    if centres is not None and not in_end:
        return [centres]
    through = _through(piece.surfaces)
    found: list[int] = []
    for place, worked in enumerate(chuckings):
        if worked == "mandrel":
            if not in_end:
                found.append(place)
            continue
        if worked == "centres" or (centres is not None and place < centres):
            continue
        far_mm = one.from_mm if worked == "right" else piece.length_mm - one.to_mm
        covered = not in_end and far_mm == 0
        free = (parts and place == 0) or (place > 0 and through is not None)
        if worked in one.ends and (free or not covered):
            found.append(place)
    return found


def _shared_out(
    piece: Piece, chuckings: tuple[Worked, ...], *, parts: bool, every: bool
) -> Iterator[dict[Surface, int]]:
    """The ways to share the surfaces out over the set-ups; what is not to be tried one by one goes into the first that
    reaches it.
    """
    surfaces = piece.surfaces
    shared = _shared(surfaces)
    choices = [_where_cut(one, chuckings, piece, parts=parts) for one in shared]
    if not all(choices):
        return
    ways = product(*choices) if every else _as_together(choices)
    for way in ways:
        where = dict(zip(shared, way, strict=True))
        hosts = {letter: place for one, place in where.items() for letter in one.letters}
        beside = {one: hosts[one.lies_in] for one in surfaces if one.lies_in in hosts and one.kind != "edge"}
        alone = {
            one: _alone(one, chuckings)
            for one in surfaces
            if one.lies_in and one.lies_in not in hosts and one.kind != "edge"
        }
        yield where | beside | alone


def _as_together(choices: Sequence[Sequence[int]]) -> Iterator[tuple[int, ...]]:
    """All that can be in each set-up in turn, the rest in the first that reaches it."""
    for wanted in sorted({place for these in choices for place in these}):
        yield tuple(wanted if wanted in these else these[0] for these in choices)


def _alone(one: Surface, chuckings: Sequence[Worked]) -> int:
    """Where what lies in something that is left as it is is cut: in the first set-up that reaches it."""
    return next((place for place, worked in enumerate(chuckings) if worked in one.ends), 0)


def _edge_places(one: Surface, end: End, way: _Way, piece: Piece) -> int | None:
    """In which set-up an edge at an end is broken: the first that works it once its diameter is there; where none does
    later and the piece is parted off in the first, there, from the groove the blade has begun.
    """
    at_end = max(piece.surfaces, key=lambda each: (each.kind == "outside", _near(each, end, piece)), default=None)
    host = one.lies_in or (at_end.letter if at_end is not None and at_end.kind == "outside" else "")
    cut_at = next((place for each, place in way.where.items() if each.kind == "outside" and host in each.letters), 0)
    for place, worked in enumerate(way.chuckings):
        if place >= cut_at and end in ends_of(worked):
            return place
    return 0 if way.parts and cut_at == 0 else None


def _near(one: Surface, end: End, piece: Piece) -> bool:
    return one.to_mm == piece.length_mm if end == "right" else one.from_mm == 0


def _edges_of(piece: Piece, way: _Way) -> list[list[tuple[Surface, Cut]]]:
    found: list[list[tuple[Surface, Cut]]] = [[] for _ in way.chuckings]
    for one in piece.surfaces:
        if one.kind != "edge":
            continue
        ends = sorted(one.ends, reverse=True)
        for end in ends:
            place = _edge_places(one, end, way, piece)
            if place is not None:
                found[place] += [(one, cut) for cut in piece.edges_at(one, end)]
    return found


def _named(piece: Piece, way: _Way, stock: StockSaid, *, whole: str) -> tuple[Named, ...]:
    """A way by its names: operations in the order of the rules with the fewest changes of tool."""
    chuckings, where = way.chuckings, way.where
    edges = _edges_of(piece, way)
    made: list[Named] = []
    opened = stock.bore_mm > 0
    through = _through(piece.surfaces)
    centred = "centres" in chuckings
    for place, worked in enumerate(chuckings):
        own = [one for one in piece.surfaces if where.get(one) == place]
        own = sorted(own, key=lambda one: _from_the_worked_end(one, worked, piece))
        broken = [one for one in piece.surfaces if one.kind == "edge" and any(each is one for each, _ in edges[place])]
        later = {each for each in chuckings[place + 1 :] if each in ("right", "left")}
        ends = centred and worked in ("right", "left") and place < chuckings.index("centres")
        done = operations_of(
            [*own, *broken],
            from_solid=not opened,
            part_off=way.parts and place == 0,
            centred=ends,
            whole=whole if place == min(1, len(chuckings) - 1) else "",
        )
        if worked in ("mandrel", "centres") or (centred and place > chuckings.index("centres")):
            done = [one for one in done if one.kind not in ("face", "centre")]
        opened = opened or any(cutting_of(one.kind).is_hole and one.from_both_ends for one in own)
        order = fewest_changes(done, piece.surfaces)
        made.append(
            Named(
                worked,
                (*own, *broken),
                tuple(order),
                tuple(cut for _, cut in edges[place]),
                parts=way.parts and place == 0,
                far_is_faced=bool(later),
                mandrel=through.letter if through else "",
            )
        )
    return tuple(made)


def _from_the_worked_end(one: Surface, worked: Worked, piece: Piece) -> tuple[object, ...]:
    """What is nearer to the worked end first, in a hole what is wider."""
    if cutting_of(one.kind).is_hole:
        return (0, -one.diameter_mm, 0)
    from_the_ends = {"left": one.from_mm, "right": piece.length_mm - one.to_mm}
    if worked in ("left", "right"):
        return (1, from_the_ends[worked], one.diameter_mm)
    return (1, min((from_the_ends[end] for end in one.ends), default=piece.length_mm), one.diameter_mm)


def _is_on_the_bore(one: Surface, way: _Way, length_mm: Decimal) -> bool:
    """Whether a surface is cut while the part is held by its bore: on a mandrel, or as it comes out at the held end."""
    place = way.where.get(one)
    if place is None or is_in_an_end(one):
        return False
    worked = way.chuckings[place]
    if worked == "mandrel":
        return True
    far_mm = one.from_mm if worked == "right" else length_mm - one.to_mm
    return worked != "centres" and place > 0 and far_mm == 0


def _apart(surfaces: Sequence[Surface], way: _Way) -> Iterator[NotInOneChucking]:
    by_letter = {letter: one for one in surfaces for letter in one.letters}
    through, where = _through(surfaces), way.where
    length_mm = max((one.to_mm for one in surfaces), default=Decimal(0))
    for one in surfaces:
        other = by_letter.get(one.true_to) if one.true_to else None
        if other is None or other is one or where.get(one) == where.get(other):
            continue
        on_it = (through is other and _is_on_the_bore(one, way, length_mm)) or (
            through is one and _is_on_the_bore(other, way, length_mm)
        )
        if not on_it:
            yield NotInOneChucking(one.letter, one.true_to)
