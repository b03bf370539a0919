"""Labels in rows: where each stands so that none covers another, or a line that leads to one."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

GAP = 6.0
FEW = 14
"""Up to so many labels other orders are tried, and other places for the first one: of more it would be felt."""
_ALONG = (0.5, 0.25, 0.75, 0.06, 0.94)
"""Where along its feature a label may point, tried in this order."""


@dataclass(frozen=True, slots=True)
class Wanted:
    """A label that wants a place: its name, how wide it is, and the places it may take, the best first: where it begins
    on the figure, and where its lines go down to the part.

    `reach`: what it takes of its row besides, a dimension line.
    """

    name: str
    width: float
    places: tuple[tuple[float, tuple[float, ...]], ...]
    reach: tuple[float, float] | None = None


def pointing(name: str, width: float, low: float, high: float) -> Wanted:
    """A label with one line down to anywhere between two places: over the middle if it can be."""
    at = [low + (high - low) * share for share in _ALONG]
    begins = [(x - width * share, (x,)) for x in at for share in (0.5, 0.03, 0.97)]
    return Wanted(name, width, tuple(begins))


def spanning(name: str, width: float, low: float, high: float) -> Wanted:
    """A label on a line between two places: on it where it has room there, else beside it, on either side."""
    lines = (low, high)
    beside = ((high + 3 * GAP, lines), (low - width - 3 * GAP, lines))
    on = (((low + high - width) / 2, lines),) if high - low > width + 6 * GAP else ()
    return Wanted(name, width, (*on, *beside), reach=lines)


@dataclass(frozen=True, slots=True)
class Placed:
    """A label's place: its row, counted from the part, its left end, and where its line goes down to the part."""

    name: str
    row: int
    left: float
    width: float
    lines: tuple[float, ...]
    reach: tuple[float, float]

    @property
    def right(self) -> float:
        """Its right end."""
        return self.left + self.width


@lru_cache(maxsize=512)  # the same labels stand there after each reading, only their marks change
def rows_of(wanted: tuple[Wanted, ...], *, left: float, right: float) -> tuple[Placed, ...]:
    """Each label as near to the part as it can stand, between two places of the figure.

    They are placed in the order given and in a few others, until no line goes through a label; else as seldom as was
    found, for lines go behind labels.
    """
    by_place = sorted(wanted, key=_begins)
    tries = ((wanted, 0), (wanted, 1), (wanted, 2), (by_place, 0), (by_place[::-1], 0))
    best: list[Placed] | None = None
    for order, first in tries if 1 < len(wanted) <= FEW else tries[:1]:
        placed = _placed(order, first, left, right)
        if best is None or _badness(placed) < _badness(best):
            best = placed
        if not _crossings(best):
            break
    return tuple(best or ())


def _begins(one: Wanted) -> float:
    return one.places[0][0]


def _badness(placed: Sequence[Placed]) -> tuple[int, int]:
    return _crossings(placed), max((one.row for one in placed), default=0)


def _placed(wanted: Sequence[Wanted], first: int, left: float, right: float) -> list[Placed]:
    """All labels in their order; the first of them prefers another of its places, and so makes room beside it."""
    placed: list[Placed] = []
    for index, one in enumerate(wanted):
        turned = one.places[first:] + one.places[:first] if index == 0 else one.places
        placed.append(_nearest(replace(one, places=turned), placed, left, right))
    return placed


def _nearest(one: Wanted, placed: Sequence[Placed], left: float, right: float) -> Placed:
    """The nearest place that is clear; the nearest with room where every row has a label in the way of a line."""
    places = _places(one, left, right)
    with_room: Placed | None = None
    for row in range(len(placed) + 1):
        beside = [other for other in placed if other.row == row]
        nearer = [other for other in placed if other.row < row]
        farther = [other for other in placed if other.row > row]
        for place in places:
            if any(_share(place.reach, other.reach) for other in beside):
                continue
            found = replace(place, row=row)
            if not any(_through(place, other) for other in nearer) and not any(
                _through(other, place) for other in farther
            ):
                return found
            with_room = with_room or found
    assert with_room is not None  # a row that nobody stands in has room
    return with_room


def _places(one: Wanted, left: float, right: float) -> list[Placed]:
    """Where a label may stand in any row, the best first."""
    found = []
    for begins, lines in sorted(one.places, key=lambda place: not left <= place[0] <= right - one.width):
        at = min(max(begins, left), right - one.width)
        if one.reach is None and not at <= lines[0] <= at + one.width:
            continue
        low, high = one.reach or (at, at + one.width)
        found.append(Placed(one.name, 0, at, one.width, lines, (min(low, at), max(high, at + one.width))))
    return found


def _share(one: tuple[float, float], other: tuple[float, float]) -> bool:
    """Whether two stretches of a row come too near to one another."""
    return one[0] < other[1] + GAP and other[0] < one[1] + GAP


def _crossings(placed: Sequence[Placed]) -> int:
    """How often a line goes through a label that stands nearer to the part."""
    return sum(one.row > other.row and _through(one, other) for one in placed for other in placed)


def _through(outer: Placed, inner: Placed) -> bool:
    """Whether a line of a label that stands farther out goes through a nearer one."""
    return any(inner.left - GAP / 2 < x < inner.right + GAP / 2 for x in outer.lines)
