"""Labels in rows: where each stands so that none covers another, or a line that leads to one."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

GAP = 6.0
_ALONG = (0.5, 0.25, 0.75, 0.12, 0.88, 0.37, 0.63, 0.04, 0.96)
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


def rows_of(wanted: Sequence[Wanted], *, left: float, right: float) -> list[Placed]:
    """Each label as near to the part as it can stand, between two places of the figure.

    They are placed in the order given and in a few others, until no line goes through a label; else as seldom as was
    found, for lines go behind labels.
    """
    best: list[Placed] | None = None
    for order in (wanted, sorted(wanted, key=_begins), sorted(wanted, key=_begins, reverse=True), wanted[::-1]):
        for first in range(3 if len(wanted) > 1 else 1):
            placed = _placed(order, first, left, right)
            if best is None or _badness(placed) < _badness(best):
                best = placed
            if _crossings(best) == 0:
                return best
    return best or []


def _begins(one: Wanted) -> float:
    return one.places[0][0]


def _badness(placed: Sequence[Placed]) -> tuple[int, int]:
    return _crossings(placed), max((one.row for one in placed), default=0)


def _placed(wanted: Sequence[Wanted], first: int, left: float, right: float) -> list[Placed]:
    """All labels in their order; the first of them prefers another of its places, and so makes room beside it."""
    placed: list[Placed] = []
    for index, one in enumerate(wanted):
        turned = one.places[first:] + one.places[:first] if index == 0 else one.places
        one = replace(one, places=turned)
        rows = [place for row in range(len(placed) + 1) for place in _places(one, row, left, right)]
        with_room = [place for place in rows if not any(_beside(place, other) for other in placed)]
        clear = (place for place in with_room if not any(_crosses(place, other) for other in placed))
        placed.append(next(clear, with_room[0]))
    return placed


def _places(one: Wanted, row: int, left: float, right: float) -> list[Placed]:
    """Where a label may stand in a row, the best first."""
    found = []
    for begins, lines in sorted(one.places, key=lambda place: not left <= place[0] <= right - one.width):
        at = min(max(begins, left), right - one.width)
        if one.reach is None and not at <= lines[0] <= at + one.width:
            continue
        low, high = one.reach or (at, at + one.width)
        found.append(Placed(one.name, row, at, one.width, lines, (min(low, at), max(high, at + one.width))))
    return found


def _beside(one: Placed, other: Placed) -> bool:
    """Whether two take the same place of a row."""
    return one.row == other.row and one.reach[0] < other.reach[1] + GAP and other.reach[0] < one.reach[1] + GAP


def _crossings(placed: Sequence[Placed]) -> int:
    """How often a line goes through a label that stands nearer to the part."""
    return sum(_line_through(one, other) for one in placed for other in placed)


def _crosses(one: Placed, other: Placed) -> bool:
    return _line_through(one, other) or _line_through(other, one)


def _line_through(outer: Placed, inner: Placed) -> bool:
    """Whether a line of a label goes through one that stands nearer to the part."""
    return outer.row > inner.row and any(inner.left - GAP / 2 < x < inner.right + GAP / 2 for x in outer.lines)
