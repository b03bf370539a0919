"""Which pieces make a pile: the fewest that add up, found among all there are, or what comes nearest."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from math import gcd

from nomisma.core.errors import OutOfRange

MOST_IN_A_PILE = 10
"""More pieces than anybody wrings. Source: this tool's own choice."""
MOST_STEPS = 10_000_000
"""Into how many equal steps a height is divided at most. Source: this tool's own choice."""
_STRIDE = 8
_FINEST = Decimal("0.000001")
"""All sizes are whole multiples of it, mm: a tenth of a microinch is 2.54 of them. Source: this tool's own choice."""


@dataclass(frozen=True, slots=True)
class Pile:
    """The pieces of a pile (mm), thickest first; what they make, mm."""

    pieces_mm: tuple[Decimal, ...]

    @property
    def height_mm(self) -> Decimal:
        """What it comes to, mm."""
        return sum(self.pieces_mm, Decimal(0))


def fewest(pieces_mm: Sequence[Decimal], target_mm: Decimal, *, most: int = MOST_IN_A_PILE) -> Pile | None:
    """The pile of the fewest pieces (each taken at most once) that is exactly so high (mm); None where there is none.
    Raises OutOfRange.

    Sums of so many pieces are kept as bits of one number, so that all piles are looked at and none is forgotten.
    Source: dynamic programming over subsets (exact).

    >>> fewest([Decimal("1.005"), Decimal("1.02"), Decimal("1.3"), Decimal(3)], Decimal("5.305")).pieces_mm
    (Decimal('3'), Decimal('1.3'), Decimal('1.005'))
    """
    if target_mm <= 0:
        return None
    whole = [_whole(size) for size in pieces_mm]
    target = _whole(target_mm)
    kept = _of_use(whole, target)
    quantum = gcd(*kept) if kept else 0
    if not quantum or target % quantum:
        return None
    found = _picked(tuple(size // quantum for size in kept), target // quantum, most)
    return None if found is None else Pile(tuple((size * quantum * _FINEST).normalize() for size in found))


def nearest(pieces_mm: Sequence[Decimal], target_mm: Decimal, *, most: int = MOST_IN_A_PILE) -> Pile | None:
    """The pile that comes nearest to a height (mm), of the fewest pieces among those as near; None where there are no
    pieces. Raises OutOfRange.

    Source: as `fewest`.

    >>> nearest([Decimal("1.01"), Decimal(2), Decimal(5)], Decimal("7.1")).height_mm
    Decimal('7')
    """
    whole = [_whole(size) for size in pieces_mm]
    if not whole or target_mm <= 0:
        return None
    quantum = gcd(*whole)
    wanted = _whole(target_mm)
    target, small = wanted // quantum, tuple(size // quantum for size in whole)
    below = _sums(small, target, most).bit_length() - 1
    # What is nearest above is no farther off than what is nearest below, or than the thinnest piece where that is too
    # thick.
    farthest = 2 * target - below + 1 if below > 0 else max(min(small), target + 1)
    above = _sums(small, farthest, most) >> (target + 1)
    ends = ([below] if below > 0 else []) + ([target + (above & -above).bit_length()] if above else [])
    best = min(ends, key=lambda one: abs(one * quantum - wanted), default=None)
    return fewest(pieces_mm, best * quantum * _FINEST, most=most) if best else None


def _sums(sizes: Sequence[int], target: int, most: int) -> int:
    """Every sum of one piece or more up to the target, as bits."""
    found = 0
    for layer in _layers(sizes, target, most)[1:]:
        found |= layer
    return found


def _whole(size_mm: Decimal) -> int:
    return int((size_mm / _FINEST).to_integral_value())


def _of_use(sizes: list[int], target: int) -> list[int]:
    """Without pieces too thick, and without one that alone has a half step the target has not: it can be in no exact
    pile.
    """
    kept = sorted(size for size in sizes if size <= target)
    while kept:
        step = 2 * gcd(*kept)
        odd = [size for size in kept if size % step]
        if len(odd) != 1 or target % step:
            break
        kept.remove(odd[0])
    return kept


def _check_steps(target: int) -> None:
    if target > MOST_STEPS:
        raise OutOfRange(
            "These sizes end in figures too fine to be piled together.",
            "Give your own pieces as they are marked, in the set's unit.",
            field="own",
        )


def _layers(sizes: Sequence[int], target: int, most: int, start: list[int] | None = None) -> list[int]:
    """Sums of exactly 0, 1, 2 … pieces up to the target, as bits of one number each. Raises OutOfRange."""
    _check_steps(target)
    mask = (1 << (target + 1)) - 1
    found = list(start) if start else [1] + [0] * most
    for size in sizes:
        for count in range(most - 1, -1, -1):
            if found[count]:
                found[count + 1] |= (found[count] << size) & mask
    return found


def _picked(sizes: tuple[int, ...], target: int, most: int) -> tuple[int, ...] | None:
    marks = [[1] + [0] * most]
    for begin in range(0, len(sizes), _STRIDE):
        marks.append(_layers(sizes[begin : begin + _STRIDE], target, most, marks[-1]))
    count = next((count for count in range(1, most + 1) if marks[-1][count] >> target & 1), None)
    if count is None:
        return None
    found: list[int] = []
    left = target
    for block in range(len(marks) - 2, -1, -1):
        own = sizes[block * _STRIDE : (block + 1) * _STRIDE]
        before = [marks[block]]
        for size in own[:-1]:
            before.append(_layers((size,), target, most, before[-1]))
        for size, reached in zip(reversed(own), reversed(before), strict=True):
            if count and left >= size and reached[count - 1] >> (left - size) & 1:
                found.append(size)
                left, count = left - size, count - 1
    return tuple(found)
