"""Standard uncertainties combined: the one place where squares are summed and shares are taken."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

Distribution = Literal["normal", "rectangular", "triangular", "arcsine"]
DIVISORS: dict[Distribution, Decimal] = {
    "normal": Decimal(1), "rectangular": Decimal(3).sqrt(), "triangular": Decimal(6).sqrt(),
    "arcsine": Decimal(2).sqrt(),
}  # fmt: skip
"""Half-width to standard uncertainty. Source: JCGM 100:2008, 4.3.7 and 4.3.9; arcsine: JCGM 101:2008, 6.4.6."""


def rectangular(half_width: Decimal) -> Decimal:
    """Standard uncertainty of a value that lies anywhere within ± its `half_width`, in its unit. Source: JCGM 100:2008,
    4.3.7.

    >>> round(rectangular(Decimal("0.002")), 6)
    Decimal('0.001155')
    """
    return half_width / DIVISORS["rectangular"]


@dataclass(frozen=True, slots=True)
class Combination:
    """Standard uncertainty and variance of a sum of independent parts (in their unit), and each part's share of it in
    percent.
    """

    standard: Decimal
    variance: Decimal
    shares_percent: tuple[Decimal, ...]


def combined(parts: Sequence[Decimal]) -> Combination:
    """Independent standard uncertainties in one unit, by root sum of squares. Source: JCGM 100:2008, 5.1.2.

    >>> found = combined([Decimal(3), Decimal(4)]); found.standard, found.shares_percent
    (Decimal('5'), (Decimal('36'), Decimal('64')))
    """
    variance = sum((part**2 for part in parts), Decimal(0))
    shares = tuple(100 * part**2 / variance if variance else Decimal(0) for part in parts)
    return Combination(variance.sqrt(), variance, shares)
