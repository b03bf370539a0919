"""Whether an instrument is fine enough for the limits it is to call, and whether another is enough finer to
be fetched.
"""

from decimal import Decimal

FINER_BY = Decimal("0.8")
"""An instrument is finer where what it reads is worth less than this share. Source: common practice, no source."""


def is_too_coarse(uncertainty_mm: Decimal, tolerance_mm: Decimal) -> bool:
    """Whether what a reading is worth (mm, k = 2), kept from both limits, leaves nothing of the tolerance (mm) between
    them.

    Source: ISO 14253-1:2017, 5 (the guard on both sides).

    >>> is_too_coarse(Decimal("0.010"), Decimal("0.020")), is_too_coarse(Decimal("0.009"), Decimal("0.020"))
    (True, False)
    """
    return 2 * uncertainty_mm >= tolerance_mm


def is_finer(uncertainty_mm: Decimal, than_mm: Decimal) -> bool:
    """Whether a reading worth so much (mm, k = 2) says enough more than one worth so much to be taken again. Source:
    common practice.

    >>> is_finer(Decimal("0.002"), Decimal("0.004")), is_finer(Decimal("0.0039"), Decimal("0.004"))
    (True, False)
    """
    return uncertainty_mm < than_mm * FINER_BY
