"""The ways to share a part's surfaces out over set-ups: which end is worked when, what can be cut in it, what that
costs.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from itertools import islice, product
from math import prod

from nomisma.core.metal.cut import End
from nomisma.core.metal.rules import FREE_OUT
from nomisma.core.metal.stock import OVER_CORNERS
from nomisma.core.operations.hole_cuts import takes_a_centre
from nomisma.core.operations.operations import cutting_of
from nomisma.core.operations.piece import ZERO, Begun, Piece, is_in_an_end
from nomisma.core.operations.surfaces import ENDS, Surface, is_threaded
from nomisma.core.order.laid_out import StockSaid, Worked, across_mm

MOST_WAYS = 4096
"""Up to so many ways to share surfaces out over the same set-ups, every one is tried. Source: this tool's own choice.
"""
Cost = tuple[int, ...]


@dataclass(frozen=True, slots=True)
class NotInOneChucking:
    """A surface that must be true to another and is cut in another set-up."""

    letter: str
    true_to: str


@dataclass(frozen=True)
class Sharing:
    """Set-ups in order, by where they are worked, whether the piece is parted off and in which of them, and all the
    ways to share its surfaces out over them.
    """

    piece: Piece
    chuckings: tuple[Worked, ...]
    parts: bool
    parted_in: int = 0

    @cached_property
    def shared(self) -> tuple[Surface, ...]:
        """The surfaces that are shared out: what lies in an outside goes with it; edges that are said of none are
        broken at both ends.
        """
        return tuple(one for one in self.piece.to_cut if cutting_of(one.kind).is_placed_alone)

    @cached_property
    def choices(self) -> tuple[tuple[int, ...], ...]:
        """Of each of them the set-ups it can be cut in."""
        return tuple(tuple(_where_cut(one, self)) for one in self.shared)

    @property
    def every(self) -> bool:
        """Whether every way is tried."""
        return prod(len(these) for these in self.choices) <= MOST_WAYS

    def ways(self) -> Iterator[tuple[int, ...]]:
        """The places of the shared surfaces, way by way; of too many those that cut most together."""
        if not all(self.choices):
            return
        ways = product(*self.choices) if self.every else _together(self.choices)
        yield from (way for way in ways if self._turns_on_one_axis(way)) if self._thrown else ways

    @cached_property
    def _thrown(self) -> tuple[int, ...]:
        return tuple(at for at, one in enumerate(self.shared) if one.throw_mm)

    def _turns_on_one_axis(self, way: Sequence[int]) -> bool:
        """Whether what lies off centre is cut together, and nothing else with it."""
        off = {way[at] for at in self._thrown}
        return len(off) == 1 and not off & {place for at, place in enumerate(way) if at not in self._thrown}

    @cached_property
    def _diameters(self) -> tuple[int, ...]:
        return tuple(at for at, one in enumerate(self.shared) if cutting_of(one.kind).is_diameter)

    @cached_property
    def _outsides(self) -> tuple[int, ...]:
        return tuple(at for at, one in enumerate(self.shared) if one.kind == "outside")

    def cost(self, way: Sequence[int], *, with_skin: bool) -> Cost:
        """What is to be least, in order: set-ups, surfaces apart from what they must be true to, what runs true and is
        cut after what lies off centre (that cut is broken, and it pulls), diameters outside the fullest chucking; a
        piece that is parted off before one that is sawn; of equals what cuts most first.

        Held on a skin, the first set-up makes an outside for the next to be held on, where the part has one that it
        can; then what cuts least first.
        """
        counts = [0] * len(self.chuckings)
        for at in self._diameters:
            counts[way[at]] += 1
        makes_a_boss = len(self.chuckings) == 1 or any(way[at] == 0 for at in self._outsides)
        boss = int(with_skin and not makes_a_boss)
        apart = len(list(self.apart(way))) if self._bound else 0
        first = counts[0] if with_skin and makes_a_boss else -counts[0]
        off = max((way[at] for at in self._thrown), default=len(self.chuckings))
        late = sum(place > off for place in way)
        return len(self.chuckings), apart, boss, late, sum(counts) - max(counts), int(not self.parts), first

    @cached_property
    def _bound(self) -> tuple[tuple[Surface, Surface], ...]:
        by_letter = {letter: one for one in self.piece.surfaces for letter in one.letters}
        pairs = ((one, by_letter.get(one.true_to)) for one in self.piece.surfaces if one.true_to)
        return tuple((one, other) for one, other in pairs if other is not None and other is not one)

    def apart(self, way: Sequence[int]) -> Iterator[NotInOneChucking]:
        """What must be true to each other and is cut in two set-ups of a way."""
        if not self._bound:
            return
        where, through = self.where(way), through_bore(self.piece.surfaces)
        for one, other in self._bound:
            if where.get(one) == where.get(other):
                continue
            on_it = (through is other and self._is_on_the_bore(one, where)) or (
                through is one and self._is_on_the_bore(other, where)
            )
            if not on_it:
                yield NotInOneChucking(one.letter, one.true_to)

    def _is_on_the_bore(self, one: Surface, where: Mapping[Surface, int]) -> bool:
        """Whether a surface is cut while the part is held by its bore: on a mandrel, or as it comes out at the held
        end.
        """
        place = where.get(one)
        if place is None or is_in_an_end(one):
            return False
        worked = self.chuckings[place]
        if worked == "mandrel":
            return True
        return worked != "centres" and place > 0 and _far_mm(one, worked, self.piece) == 0

    def where(self, way: Sequence[int]) -> dict[Surface, int]:
        """In which set-up each surface is cut, those that lie in others too; edges are not among them."""
        where = dict(zip(self.shared, way, strict=True))
        hosts = {letter: place for one, place in where.items() for letter in one.letters}
        for one in self.piece.to_cut:
            if one.kind != "edge" and one.lies_in:
                reached = (place for place, worked in enumerate(self.chuckings) if worked in one.ends)
                where[one] = hosts[one.lies_in] if one.lies_in in hosts else next(reached, 0)
        return where


def sharings(piece: Piece, stock: StockSaid, *, face_as_parted: bool) -> Iterator[Sharing]:
    """The orders of set-ups there are, fewest first, each parted off or sawn. Source: common practice, no source (ends
    of long work first, then between centres; a ring on a mandrel).

    >>> from nomisma.core.part.section import Section
    >>> pin = Piece(Section(Decimal(30), (), (), (), Decimal(0), "", (), ()), (), ())
    >>> [one.chuckings for one in sharings(pin, StockSaid("blank"), face_as_parted=False)][:2]
    [('right', 'left'), ('left', 'right')]
    """
    may_be_parted = (
        stock.may_be_parted and piece.length_mm <= FREE_OUT * across_mm(stock, piece) * OVER_CORNERS[stock.section]
    )
    parted = (True, False) if may_be_parted else (False,)
    both: tuple[tuple[Worked, Worked], ...] = (("right", "left"), ("left", "right"))
    if piece.begun is not None:
        yield from _of_the_rest(piece, piece.begun, face_as_parted=face_as_parted)
        return
    if any(one.throw_mm for one in piece.surfaces):
        yield from (Sharing(piece, pair, parts) for parts in parted for pair in both)
        if may_be_parted:
            yield from (Sharing(piece, (one, one, other), parts=True, parted_in=1) for one, other in both)
        yield from (Sharing(piece, (*pair, end), parts) for parts in parted for pair in both for end in both[0])
        return
    if stock.kind == "repair":
        yield from (Sharing(piece, (end,), parts=False) for end in both[0])
        if stock.centred:
            yield Sharing(piece, ("centres",), parts=False)
        yield from (Sharing(piece, pair, parts=False) for pair in both)
        return
    if may_be_parted and face_as_parted:
        yield from (Sharing(piece, (end,), parts=True) for end in both[0])
    yield from (Sharing(piece, pair, parts) for parts in parted for pair in both)
    if through_bore(piece.surfaces):
        yield from (Sharing(piece, (*pair, "mandrel"), parts) for parts in parted for pair in both)
    is_a_disc = piece.length_mm < max((one.diameter_mm for one in piece.section.outside), default=ZERO)
    if (piece.is_roughed and is_a_disc) or not takes_a_centre(piece.length_mm, piece.unit):
        return
    in_ends = [one for one in piece.surfaces if is_in_an_end(one) and cutting_of(one.kind).is_placed_alone]
    if not in_ends:
        yield from (Sharing(piece, (*pair, "centres"), parts=False) for pair in both)
        return
    for end in both[0]:
        if all(end in one.ends for one in in_ends):
            yield Sharing(piece, ("right", "left", "centres", end), parts=False)
    yield Sharing(piece, ("right", "left", "centres", "right", "left"), parts=False)


def _of_the_rest(piece: Piece, begun: Begun, *, face_as_parted: bool) -> Iterator[Sharing]:
    """The orders of set-ups for what is left of a part that was begun, fewest first, and of those the one that goes on
    from where it was worked last: one end, a mandrel or centres may be enough. What is still one with its bar is parted
    from it first.
    """
    ends: tuple[End, End] = ("left", "right") if begun.worked == "left" else ("right", "left")
    both = (ends, ends[::-1])
    free: list[Worked] = ["mandrel"] if through_bore(piece.surfaces) else []
    if begun.on_bar:
        near, far = next(pair for pair in both if pair[1] == begun.on_bar)
        if face_as_parted:
            yield Sharing(piece, (near,), parts=True)
        yield Sharing(piece, (near, far), parts=True)
        yield from (Sharing(piece, (near, far, one), parts=True) for one in free)
        yield Sharing(piece, (near, near, far), parts=True, parted_in=1)
        return
    if all(begun.work.takes_a_centre(end) for end in ENDS):
        free.append("centres")
    alone = [*free, *ends] if begun.worked in free else [*ends, *free]
    yield from (Sharing(piece, (one,), parts=False) for one in alone)
    yield from (Sharing(piece, pair, parts=False) for pair in both)
    yield from (Sharing(piece, pair, parts=False) for one in free for end in ends for pair in ((one, end), (end, one)))
    yield from (Sharing(piece, (*pair, one), parts=False) for one in free for pair in both)
    if takes_a_centre(piece.length_mm, piece.unit):
        lacking: tuple[Worked, ...] = tuple(end for end in ends if not begun.work.takes_a_centre(end))
        yield from (Sharing(piece, (*one, "centres"), parts=False) for one in dict.fromkeys((lacking, lacking[::-1])))
        yield Sharing(piece, (*lacking, "centres", *ends), parts=False)


def through_bore(surfaces: Sequence[Surface]) -> Surface | None:
    """The bore a mandrel goes through: the longest that is open at both ends and bored or reamed, and carries no
    thread. Source: common practice, no source.

    >>> through_bore([]) is None
    True
    """
    holes = [
        one
        for one in surfaces
        if one.kind == "bore"
        and one.from_both_ends
        and one.hole in ("bored", "reamed")
        and not one.throw_mm
        and not is_threaded(one, surfaces)
    ]
    return max(holes, key=lambda one: one.length_mm, default=None)


def _far_mm(one: Surface, worked: Worked, piece: Piece) -> Decimal:
    """How far the end of a surface away from the worked end is from the held face, mm."""
    return one.from_mm if worked == "right" else piece.length_mm - one.to_mm


def _where_cut(one: Surface, sharing: Sharing) -> Iterator[int]:
    """In which of the set-ups a surface can be cut.

    What goes into an end waits until no centre is wanted there any more; what is turned between centres is turned there
    alone. A jaw covers an outside that reaches the end it holds, unless there is stock to spare, or a bore to hold it
    by.
    """
    in_end, piece, chuckings = is_in_an_end(one), sharing.piece, sharing.chuckings
    centres = chuckings.index("centres") if "centres" in chuckings else None
    if centres is not None and not in_end:
        yield centres
        return
    through = through_bore(piece.surfaces)
    for place, worked in enumerate(chuckings):
        if worked == "mandrel":
            if not in_end:
                yield place
            continue
        if worked == "centres" or (centres is not None and place < centres):
            continue
        if one.throw_mm and place == 0 and not _runs_true(piece):
            continue
        covered = not in_end and _far_mm(one, worked, piece) == 0
        free = (sharing.parts and place <= sharing.parted_in) or (place > 0 and through is not None)
        if worked in one.ends and (free or not covered):
            yield place


def _runs_true(piece: Piece) -> bool:
    """Whether an outside is turned already that the needle runs on, so that what lies off centre can be cut first."""
    return any(each.kind == "outside" and set(each.letters) <= piece.made for each in piece.surfaces)


def _together(choices: Sequence[Sequence[int]]) -> Iterator[tuple[int, ...]]:
    """All that can be in each set-up in turn, the rest in the first or the last that reaches it; then some of the
    others.
    """
    for wanted in sorted({place for these in choices for place in these}):
        for rest in (0, -1):
            yield tuple(wanted if wanted in these else these[rest] for these in choices)
    yield from islice(product(*choices), MOST_WAYS // 16)
