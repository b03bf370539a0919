"""The second piece against the first: which stop moved, or whether the work did."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from statistics import median


@dataclass(frozen=True, slots=True)
class Comparison:
    """How much longer each step of the second piece is, mm (None: not measured on both).

    `shared_mm`: what most of them differ by alike; `moved`: the steps whose stop moved, by index.
    """

    longer_mm: tuple[Decimal | None, ...]
    shared_mm: Decimal
    moved: tuple[int, ...]


def compared(
    first_mm: Sequence[Decimal | None], second_mm: Sequence[Decimal | None], repeats_mm: Decimal
) -> Comparison:
    """What the second piece says of the stops; lengths by step, mm, in the order of the work.

    Where most of three or more steps differ alike (their median) the work sits otherwise against its own stop; a step
    that differs from that by more than a stop repeats (`repeats_mm`) has a stop that moved. Source: common practice, no
    source.

    >>> plain = [Decimal(10), Decimal(20), Decimal(30)]
    >>> compared(plain, [Decimal("10.01"), Decimal("20.01"), Decimal("30.09")], Decimal("0.02")).moved
    (2,)
    """
    longer = [
        None if one is None or other is None else other - one for one, other in zip(first_mm, second_mm, strict=True)
    ]
    known = [one for one in longer if one is not None]
    middle = median(known) if len(known) > 2 else Decimal(0)
    shared = middle if abs(middle) > repeats_mm else Decimal(0)
    moved = tuple(index for index, one in enumerate(longer) if one is not None and abs(one - shared) > repeats_mm)
    return Comparison(tuple(longer), shared, moved)
