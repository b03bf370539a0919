"""Faces of a part and the dimensions between them: which of them lead from one face to another, and which are said
twice.
"""

from collections import deque
from collections.abc import Sequence

Faces = tuple[str, str]
"""The two faces a dimension joins, the one further left first."""


def dimensions_between(dimensions: Sequence[Faces], first: str, last: str) -> list[tuple[int, int]] | None:
    """The fewest dimensions from one face to another, by index, each with 1 where it is gone along and −1 where it is
    gone back.

    None where no dimensions join the two. Source: arithmetic (a shortest path).

    >>> dimensions_between([("A", "B"), ("A", "C"), ("C", "D")], "B", "D")
    [(0, -1), (1, 1), (2, 1)]
    """
    came: dict[str, tuple[str, int, int]] = {}
    waiting, seen = deque([first]), {first}
    while waiting and last not in seen:
        at = waiting.popleft()
        for index, (left, right) in enumerate(dimensions):
            if at not in (left, right):
                continue
            other, way = (right, 1) if at == left else (left, -1)
            if other not in seen:
                seen.add(other)
                came[other] = (at, index, way)
                waiting.append(other)
    return _back(came, first, last) if last in seen else None


def _back(came: dict[str, tuple[str, int, int]], first: str, last: str) -> list[tuple[int, int]]:
    found = []
    while last != first:
        last, index, way = came[last]
        found.append((index, way))
    return found[::-1]


def said_twice(dimensions: Sequence[Faces]) -> list[int]:
    """The dimensions (by index) whose two faces the ones before them join already: one of that ring can only be for
    reference.

    Source: arithmetic (a tree has no ring).

    >>> said_twice([("A", "B"), ("B", "C"), ("A", "C")])
    [2]
    """
    return [
        index
        for index, (left, right) in enumerate(dimensions)
        if dimensions_between(dimensions[:index], left, right) is not None
    ]
