"""The set-ups of a part: which end is worked on, held by what, and which surfaces are cut in it; as few as there can
be.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Literal

from nomisma.core.planning.operations import Operation, cutting_of, fewest_changes, operations_of, tool_changes
from nomisma.core.planning.surfaces import End, Surface

Worked = Literal["right", "left", "mandrel", "centres"]
WORKED_WORDS: dict[Worked, str] = {
    "right": "from the right end", "left": "from the left end", "mandrel": "on a mandrel in its bore",
    "centres": "between centres",
}  # fmt: skip
StockHeld = Literal["bar", "blank"]
STOCK_WORDS: dict[StockHeld, str] = {
    "bar": "a bar, or a blank with a grip to spare: it is parted off",
    "blank": "a blank no longer than the part and its facing",
}  # fmt: skip
MOST_FREE = 10
"""Up to so many surfaces that either end reaches, every way to share them out is tried. Source: this tool's own choice.
"""
MOST_ORDERED = 12
"""Of so many ways that are equal but for their tools the operations are put in order. Source: this tool's own choice.
"""


@dataclass(frozen=True, slots=True)
class SetUp:
    """One chucking: where it is worked on, which surface holds it (none: the stock as it is), and its operations in
    order.
    """

    worked: Worked
    held_on: str
    surfaces: tuple[Surface, ...]
    operations: tuple[Operation, ...]


@dataclass(frozen=True, slots=True)
class NotInOneChucking:
    """A surface that must be true to another and is cut in another set-up."""

    letter: str
    true_to: str


@dataclass(frozen=True, slots=True)
class SetUps:
    """The set-ups in order, what they leave to be dialled in, and whether every way was tried."""

    set_ups: tuple[SetUp, ...]
    apart: tuple[NotInOneChucking, ...]
    changes: int
    proved: bool


@dataclass(frozen=True, slots=True)
class _Way:
    """One way to share the surfaces out over some set-ups."""

    chuckings: tuple[Worked, ...]
    where: Mapping[Surface, Worked]

    def cost(self, surfaces: Sequence[Surface], *, with_skin: bool) -> tuple[int, ...]:
        """What is to be least, in order: set-ups, surfaces apart from what they must be true to, diameters outside the
        fullest chucking.

        Held on a skin, the first set-up makes an outside for the next to be held on, where the part has one that it
        can.
        """
        diameters = [self._diameters(worked) for worked in self.chuckings]
        apart = len(list(_apart(surfaces, self.where)))
        return len(self.chuckings), apart, int(with_skin and not self.makes_a_boss), sum(diameters) - max(diameters)

    @property
    def makes_a_boss(self) -> bool:
        """Whether the first of several set-ups cuts an outside that another may be held on."""
        first = self.chuckings[0]
        return len(self.chuckings) == 1 or any(at == first and one.kind == "outside" for one, at in self.where.items())

    @property
    def cut_first(self) -> int:
        """How many diameters are cut in the first set-up."""
        return self._diameters(self.chuckings[0])

    def _diameters(self, worked: Worked) -> int:
        return sum(at == worked and cutting_of(one.kind).is_diameter for one, at in self.where.items())


def set_ups_of(
    surfaces: Sequence[Surface],
    *,
    stock: StockHeld,
    face_as_parted: bool = False,
    hollow: bool = False,
    whole: str = "",
    with_skin: bool = False,
) -> SetUps:
    """Fewest set-ups, then fewest surfaces cut away from what they must be true to, then most diameters in one
    chucking, then fewest tools.

    `face_as_parted`: the far face may stay as the parting tool leaves it; `hollow`: the stock has a bore already;
    `whole`: the letter of the length from face to face; `with_skin`: a casting or the like, held on its skin only to
    make an outside that the rest is held by.

    Source: search over all ways to share the surfaces out; which surface can be cut where: geometry, and common
    practice (a jaw covers what it grips; a casting is held on its rough boss just to make a good one).

    >>> from decimal import Decimal
    >>> pin = Surface("outside", ("A",), Decimal(0), Decimal(30), Decimal(20), frozenset({"right", "left"}))
    >>> [one.worked for one in set_ups_of([pin], stock="bar").set_ups], [one.worked for one in set_ups_of([pin],
    ...     stock="blank").set_ups]
    (['right', 'left'], ['right', 'left', 'centres'])
    """
    free = sum(one.from_both_ends for one in _shared(surfaces))
    every = free <= MOST_FREE
    least, alike = _alike(surfaces, stock, face_as_parted=face_as_parted, every=every, with_skin=with_skin)
    assert least is not None, "two ends and a pair of centres reach everything"
    proved = every and len(alike) <= MOST_ORDERED
    made = [_made(surfaces, one, stock, proved=proved, hollow=hollow, whole=whole) for one in alike[:MOST_ORDERED]]
    return min(made, key=lambda one: one.changes)


def _alike(
    surfaces: Sequence[Surface], stock: StockHeld, *, face_as_parted: bool, every: bool, with_skin: bool
) -> tuple[tuple[int, ...] | None, list[_Way]]:
    """The ways to share the surfaces out that are equal but for their tools, and what they cost; those that cut most
    first in front.

    With a skin those that cut least first, if that makes an outside to hold the rest by.
    """
    least: tuple[int, ...] | None = None
    alike: list[_Way] = []
    for chuckings in _sequences(surfaces, stock, face_as_parted=face_as_parted):
        if least is not None and len(chuckings) > least[0]:
            break
        for where in _shared_out(surfaces, chuckings, stock, every=every):
            way = _Way(chuckings, where)
            cost = way.cost(surfaces, with_skin=with_skin)
            if least is None or cost < least:
                least, alike = cost, []
            if cost == least:
                alike.append(way)
    return least, sorted(alike, key=lambda way: way.cut_first if with_skin and way.makes_a_boss else -way.cut_first)


def _sequences(surfaces: Sequence[Surface], stock: StockHeld, *, face_as_parted: bool) -> Iterator[tuple[Worked, ...]]:
    """The orders of set-ups there are, fewest first."""
    if stock == "bar" and face_as_parted:
        yield from (("right",), ("left",))
    both: tuple[tuple[Worked, Worked], ...] = (("right", "left"), ("left", "right"))
    yield from both
    third: Worked = "mandrel" if _through(surfaces) else "centres"
    yield from ((*pair, third) for pair in both)


def _shared(surfaces: Sequence[Surface]) -> list[Surface]:
    """The surfaces that are shared out: what lies in an outside goes with it; edges that are said of none are broken at
    both ends.
    """
    return [one for one in surfaces if cutting_of(one.kind).is_placed_alone]


def _through(surfaces: Sequence[Surface]) -> Surface | None:
    """The bore a mandrel goes through: the longest that is open at both ends."""
    holes = [one for one in surfaces if cutting_of(one.kind).is_hole and one.from_both_ends]
    return max(holes, key=lambda one: one.length_mm, default=None)


def _where_cut(one: Surface, chuckings: Sequence[Worked], stock: StockHeld, whole: tuple[Surface, ...]) -> list[Worked]:
    """In which of the set-ups a surface can be cut; a jaw covers an outside that reaches the end it holds, unless there
    is stock to spare.
    """
    length_mm = max(other.to_mm for other in whole)
    found: list[Worked] = []
    for worked in chuckings:
        is_outside = not cutting_of(one.kind).is_hole
        if worked in ("mandrel", "centres"):
            if is_outside:
                found.append(worked)
            continue
        end: End = "right" if worked == "right" else "left"
        covered = is_outside and (one.from_mm == 0 if end == "right" else one.to_mm == length_mm)
        to_spare = stock == "bar" and worked == chuckings[0]
        if end in one.ends and (to_spare or not covered):
            found.append(worked)
    return found


def _shared_out(
    surfaces: Sequence[Surface], chuckings: tuple[Worked, ...], stock: StockHeld, *, every: bool
) -> Iterator[dict[Surface, Worked]]:
    """The ways to share the surfaces out over the set-ups; what is not to be tried one by one goes into the first that
    reaches it.
    """
    shared = _shared(surfaces)
    choices = [_where_cut(one, chuckings, stock, tuple(surfaces)) for one in shared]
    if all(choices):
        ways = product(*choices) if every else [tuple(these[0] for these in choices)]
        for way in ways:
            where = dict(zip(shared, way, strict=True))
            hosts = {letter: worked for one, worked in where.items() for letter in one.letters}
            beside = {one: _beside(one, hosts[one.lies_in], chuckings) for one in surfaces if one.lies_in in hosts}
            alone = {one: _alone(one, chuckings) for one in surfaces if one.lies_in and one.lies_in not in hosts}
            yield where | beside | alone


def _alone(one: Surface, chuckings: Sequence[Worked]) -> Worked:
    """Where what lies in something that is left as it is is cut: in the first set-up that reaches it."""
    return next((worked for worked in chuckings if worked in one.ends), chuckings[0])


def _beside(one: Surface, host: Worked, chuckings: Sequence[Worked]) -> Worked:
    """Where what lies in an outside is cut: with it; an edge at a face from that face, where the part is worked from
    there at all.
    """
    if one.kind != "edge" or one.from_both_ends:
        return host
    (end,) = one.ends
    return end if end in chuckings else host


def _made(
    surfaces: Sequence[Surface], way: _Way, stock: StockHeld, *, proved: bool, hollow: bool, whole: str
) -> SetUps:
    chuckings, where = way.chuckings, way.where
    edges = [one for one in surfaces if not cutting_of(one.kind).is_placed_alone and not one.lies_in]
    made: list[SetUp] = []
    opened = hollow
    for number, worked in enumerate(chuckings):
        own = [one for one in surfaces if where.get(one) == worked]
        with_edges = [*own, *(edges if worked in ("right", "left") else [])]
        part_off = stock == "bar" and number == 0
        faces_last = worked in ("right", "left") and not {"right", "left"} & set(chuckings[number + 1 :])
        done = operations_of(
            with_edges,
            from_solid=not opened,
            part_off=part_off,
            centred=chuckings[-1] == "centres",
            whole=whole if faces_last else "",
        )
        if worked in ("mandrel", "centres"):
            done = [one for one in done if one.kind not in ("face", "centre")]
        opened = opened or any(cutting_of(one.kind).is_hole for one in own)
        order = fewest_changes(done, surfaces)
        made.append(SetUp(worked, _held_on(worked, made, surfaces), tuple(with_edges), tuple(order)))
    every = [one for set_up in made for one in set_up.operations]
    return SetUps(tuple(made), tuple(_apart(surfaces, where)), tool_changes(every), proved)


def _held_on(worked: Worked, before: Sequence[SetUp], surfaces: Sequence[Surface]) -> str:
    """The letter of the finished surface that holds it; empty where it is the stock as it is."""
    if worked == "mandrel":
        through = _through(surfaces)
        return through.letter if through else ""
    if worked == "centres" or not before:
        return ""
    cut = [one for set_up in before for one in set_up.surfaces]
    finished = [one for one in cut if cutting_of(one.kind).is_diameter]
    threaded = {one.lies_in for set_up in before for one in set_up.surfaces if one.kind == "thread"}
    held = max(
        finished,
        key=lambda one: (one.letter not in threaded, not cutting_of(one.kind).is_hole, one.length_mm),
        default=None,
    )  # jaws crush the crests of a thread
    return held.letter if held else ""


def _apart(surfaces: Sequence[Surface], where: Mapping[Surface, Worked]) -> Iterator[NotInOneChucking]:
    by_letter = {letter: one for one in surfaces for letter in one.letters}
    through = _through(surfaces)
    for one in surfaces:
        other = by_letter.get(one.true_to) if one.true_to else None
        if other is None or other is one or where.get(one) == where.get(other):
            continue
        on_it = (where.get(one) == "mandrel" and through is other) or (where.get(other) == "mandrel" and through is one)
        if not on_it:
            yield NotInOneChucking(one.letter, one.true_to)
