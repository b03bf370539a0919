"""The set-ups of a part: which end is worked on, held by what, and which surfaces are cut in it; as few as there can be."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Literal

from nomisma.core.planning.operations import Operation, fewest_changes, operations_of, tool_changes
from nomisma.core.planning.surfaces import End, Surface

Station = Literal["right", "left", "mandrel", "centres"]
STATION_WORDS: dict[Station, str] = {
    "right": "from the right end", "left": "from the left end", "mandrel": "on a mandrel in its bore", "centres": "between centres",
}  # fmt: skip
StockHeld = Literal["bar", "blank"]
STOCK_WORDS: dict[StockHeld, str] = {
    "bar": "a bar, or a blank with a grip to spare: it is parted off", "blank": "a blank no longer than the part and its facing",
}  # fmt: skip
MOST_FREE = 10
"""Up to so many surfaces that either end reaches, every way to share them out is tried. Source: this tool's own choice."""
MOST_ORDERED = 12
"""Of so many ways that are equal but for their tools the operations are put in order. Source: this tool's own choice."""


@dataclass(frozen=True, slots=True)
class SetUp:
    """One chucking: where it is worked on, which surface holds it (none: the stock as it is), and its operations in order."""

    station: Station
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

    stations: tuple[Station, ...]
    where: Mapping[Surface, Station]

    def cost(self, surfaces: Sequence[Surface]) -> tuple[int, ...]:
        """What is to be least, in order: set-ups, surfaces apart from what they must be true to, diameters outside the fullest chucking."""
        diameters = [self._diameters(station) for station in self.stations]
        return len(self.stations), len(list(_apart(surfaces, self.where))), sum(diameters) - max(diameters)

    @property
    def cut_first(self) -> int:
        """How many diameters are cut in the first set-up."""
        return self._diameters(self.stations[0])

    def _diameters(self, station: Station) -> int:
        return sum(at == station and one.kind in ("outside", "bore") for one, at in self.where.items())


def set_ups_of(
    surfaces: Sequence[Surface], *, stock: StockHeld, face_as_parted: bool = False, hollow: bool = False, whole: str = ""
) -> SetUps:
    """Fewest set-ups, then fewest surfaces cut away from what they must be true to, then most diameters in one chucking, then fewest tools.

    `face_as_parted`: the far face may stay as the parting tool leaves it; `hollow`: the stock has a bore already; `whole`: the letter of the
    length from face to face. Source: search over all ways to share the surfaces out; which surface can be cut where: geometry, and common
    practice (a jaw covers what it grips).

    >>> from decimal import Decimal
    >>> pin = Surface("outside", ("A",), Decimal(0), Decimal(30), Decimal(20), frozenset({"right", "left"}))
    >>> [one.station for one in set_ups_of([pin], stock="bar").set_ups], [one.station for one in set_ups_of([pin], stock="blank").set_ups]
    (['right', 'left'], ['right', 'left', 'centres'])
    """
    free = sum(len(one.ends) > 1 for one in surfaces if one.kind not in ("edge", "groove"))
    every = free <= MOST_FREE
    least, alike = _alike(surfaces, stock, face_as_parted=face_as_parted, every=every)
    assert least is not None, "two ends and a pair of centres reach everything"
    proved = every and len(alike) <= MOST_ORDERED
    made = [_made(surfaces, one, stock, proved=proved, hollow=hollow, whole=whole) for one in alike[:MOST_ORDERED]]
    return min(made, key=lambda one: one.changes)


def _alike(
    surfaces: Sequence[Surface], stock: StockHeld, *, face_as_parted: bool, every: bool
) -> tuple[tuple[int, ...] | None, list[_Way]]:
    """The ways to share the surfaces out that are equal but for their tools, those that cut most first in front; and what they cost."""
    least: tuple[int, ...] | None = None
    alike: list[_Way] = []
    for stations in _sequences(surfaces, stock, face_as_parted=face_as_parted):
        if least is not None and len(stations) > least[0]:
            break
        for where in _shared_out(surfaces, stations, stock, every=every):
            way = _Way(stations, where)
            cost = way.cost(surfaces)
            if least is None or cost < least:
                least, alike = cost, []
            if cost == least:
                alike.append(way)
    return least, sorted(alike, key=lambda way: -way.cut_first)


def _sequences(surfaces: Sequence[Surface], stock: StockHeld, *, face_as_parted: bool) -> Iterator[tuple[Station, ...]]:
    """The orders of set-ups there are, fewest first."""
    if stock == "bar" and face_as_parted:
        yield from (("right",), ("left",))
    both: tuple[tuple[Station, Station], ...] = (("right", "left"), ("left", "right"))
    yield from both
    third: Station = "mandrel" if _through(surfaces) else "centres"
    yield from ((*pair, third) for pair in both)


def _through(surfaces: Sequence[Surface]) -> Surface | None:
    """The bore a mandrel goes through: the longest that is open at both ends."""
    bores = [one for one in surfaces if one.kind == "bore" and len(one.ends) == 2]
    return max(bores, key=lambda one: one.length_mm, default=None)


def _stations_for(one: Surface, stations: Sequence[Station], stock: StockHeld, whole: tuple[Surface, ...]) -> list[Station]:
    """In which of the set-ups a surface can be cut; a jaw covers an outside that reaches the end it holds, unless there is stock to spare."""
    length_mm = max(other.to_mm for other in whole)
    found: list[Station] = []
    for station in stations:
        if station in ("mandrel", "centres"):
            if one.kind == "outside":
                found.append(station)
            continue
        end: End = "right" if station == "right" else "left"
        covered = one.kind == "outside" and (one.from_mm == 0 if end == "right" else one.to_mm == length_mm)
        to_spare = stock == "bar" and station == stations[0]
        if end in one.ends and (to_spare or not covered):
            found.append(station)
    return found


def _shared_out(
    surfaces: Sequence[Surface], stations: tuple[Station, ...], stock: StockHeld, *, every: bool
) -> Iterator[dict[Surface, Station]]:
    """The ways to share the surfaces out over the set-ups; what is not to be tried one by one goes into the first that reaches it."""
    shared = [one for one in surfaces if one.kind not in ("edge", "groove")]
    choices = [_stations_for(one, stations, stock, tuple(surfaces)) for one in shared]
    if all(choices):
        ways = product(*choices) if every else [tuple(these[0] for these in choices)]
        for way in ways:
            where = dict(zip(shared, way, strict=True))
            hosts = {letter: station for one, station in where.items() for letter in one.letters}
            grooves = {one: hosts[one.lies_in] for one in surfaces if one.kind == "groove" and one.lies_in in hosts}
            yield where | grooves


def _made(surfaces: Sequence[Surface], way: _Way, stock: StockHeld, *, proved: bool, hollow: bool, whole: str) -> SetUps:
    stations, where = way.stations, way.where
    edges = [one for one in surfaces if one.kind == "edge"]
    made: list[SetUp] = []
    opened = hollow
    for number, station in enumerate(stations):
        own = [one for one in surfaces if where.get(one) == station]
        with_edges = [*own, *(edges if station in ("right", "left") else [])]
        part_off = stock == "bar" and number == 0
        faces_last = station in ("right", "left") and not {"right", "left"} & set(stations[number + 1 :])
        done = operations_of(
            with_edges,
            from_solid=not opened,
            part_off=part_off,
            centred=stations[-1] == "centres",
            whole=whole if faces_last else "",
        )
        if station in ("mandrel", "centres"):
            done = [one for one in done if one.kind not in ("face", "centre")]
        opened = opened or any(one.kind == "bore" for one in own)
        order = fewest_changes(done, surfaces)
        made.append(SetUp(station, _held_on(station, made, surfaces), tuple(with_edges), tuple(order)))
    every = [one for set_up in made for one in set_up.operations]
    return SetUps(tuple(made), tuple(_apart(surfaces, where)), tool_changes(every), proved)


def _held_on(station: Station, before: Sequence[SetUp], surfaces: Sequence[Surface]) -> str:
    """The letter of the finished surface that holds it; empty where it is the stock as it is."""
    if station == "mandrel":
        through = _through(surfaces)
        return through.letter if through else ""
    if station == "centres" or not before:
        return ""
    finished = [one for set_up in before for one in set_up.surfaces]
    outside = [one for one in finished if one.kind == "outside"]
    inside = [one for one in finished if one.kind == "bore"]
    held = max(outside or inside, key=lambda one: one.length_mm, default=None)
    return held.letter if held else ""


def _apart(surfaces: Sequence[Surface], where: Mapping[Surface, Station]) -> Iterator[NotInOneChucking]:
    by_letter = {letter: one for one in surfaces for letter in one.letters}
    through = _through(surfaces)
    for one in surfaces:
        other = by_letter.get(one.true_to) if one.true_to else None
        if other is None or other is one or where.get(one) == where.get(other):
            continue
        on_it = (where.get(one) == "mandrel" and through is other) or (where.get(other) == "mandrel" and through is one)
        if not on_it:
            yield NotInOneChucking(one.letter, one.true_to)
