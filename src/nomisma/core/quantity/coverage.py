"""The coverage factor: how many standard uncertainties either way hold the value with a confidence."""

from decimal import Decimal
from math import inf, isfinite
from statistics import NormalDist

from nomisma.core.errors import OutOfRange

LEAST_CONFIDENCE, MOST_CONFIDENCE = Decimal(50), Decimal("99.99")
"""Percent."""


def coverage_factor(confidence_percent: Decimal, freedom: float = inf) -> Decimal:
    """Student's t for so many effective degrees of freedom, truncated to whole ones; of the normal distribution where
    they are endless.

    Raises OutOfRange for a confidence below 50 or above 99.99 percent. Source: JCGM 100:2008, 6.3.3 and G.6.4.

    >>> round(coverage_factor(Decimal(99), 16.7), 2)
    Decimal('2.92')
    >>> round(coverage_factor(Decimal("95.45")), 3), round(coverage_factor(Decimal(99)), 3)
    (Decimal('2.000'), Decimal('2.576'))
    """
    if not LEAST_CONFIDENCE <= confidence_percent <= MOST_CONFIDENCE:
        raise OutOfRange(
            f"A confidence of {confidence_percent} % cannot be promised.",
            "Choose between 50 and 99.99; 95 is usual, 99 where a miss is dear.",
            field="confidence_percent",
            value=str(confidence_percent),
        )
    tail = 0.5 + float(confidence_percent) / 200
    if not isfinite(freedom):
        return Decimal(repr(NormalDist().inv_cdf(tail)))
    from scipy.special import stdtrit  # loaded where it is asked for: it takes a second

    return Decimal(repr(float(stdtrit(max(int(freedom), 1), tail))))
