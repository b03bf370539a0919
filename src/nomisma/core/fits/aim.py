"""The size to aim at inside the limits, and limits rounded so that nothing outside them is let in."""

from decimal import Decimal
from typing import Literal

from nomisma.core.fits.member import MemberKind
from nomisma.core.quantity.display import WORKING_DECIMALS, both
from nomisma.core.quantity.length import MM_PER, Unit, in_unit, round_to
from nomisma.core.working import COMMON_PRACTICE, Step

AimSchool = Literal["middle", "metal_safe"]

METAL_SAFE_SHARE = Decimal("0.25")  # common practice, no source: a quarter of the tolerance from the metal side


def aim_size(kind: MemberKind, lower_mm: Decimal, upper_mm: Decimal, school: AimSchool, unit: Unit) -> Decimal:
    """The size to aim at (mm), rounded to the shop's working decimals where that stays inside the limits.

    `middle`: halfway. `metal_safe`: a quarter of the tolerance from the side where metal is left, because over can
    be cut again and under is scrap. Source: common practice, no source.

    >>> aim_size("shaft", Decimal("24.98"), Decimal("24.993"), "metal_safe", "mm")
    Decimal('24.990')
    """
    share = Decimal("0.5") if school == "middle" else METAL_SAFE_SHARE
    tolerance = upper_mm - lower_mm
    exact = upper_mm - tolerance * share if kind == "shaft" else lower_mm + tolerance * share
    for decimals in (WORKING_DECIMALS[unit], WORKING_DECIMALS[unit] + 1):
        rounded = round_to(in_unit(exact, unit), decimals) * MM_PER[unit]
        if lower_mm <= rounded <= upper_mm and abs(rounded - exact) <= tolerance / 8:
            return rounded
    return exact


def aim_step(kind: MemberKind, lower_mm: Decimal, upper_mm: Decimal, school: AimSchool, unit: Unit) -> Step:
    """The working of the aim."""
    side = "upper limit − " if kind == "shaft" else "lower limit + "
    return Step(
        name="Size to aim at",
        formula="middle of the limits" if school == "middle" else f"{side}a quarter of the tolerance: over can be cut again",
        values=f"{both(lower_mm, unit, decimals=5)} to {both(upper_mm, unit, decimals=5)}",
        result=both(aim_size(kind, lower_mm, upper_mm, school, unit), unit, decimals=5 if unit == "in" else 4),
        source=COMMON_PRACTICE,
        school=school.replace("_", "-"),
    )


def round_inward(lower_mm: Decimal, upper_mm: Decimal, unit: Unit) -> tuple[Decimal, Decimal]:
    """Limits (mm) rounded towards each other in `unit`, one decimal finer where rounding would cost over a fifth.

    Source: common practice, no source; the principle is that of ISO 80000-1 annex B, rounding so that no limit is passed.

    >>> round_inward(Decimal("24.98041"), Decimal("24.99268"), "mm")
    (Decimal('24.981'), Decimal('24.992'))
    """
    tolerance = upper_mm - lower_mm
    for decimals in range(WORKING_DECIMALS[unit], WORKING_DECIMALS[unit] + 3):
        low = round_to(in_unit(lower_mm, unit), decimals, "up") * MM_PER[unit]
        high = round_to(in_unit(upper_mm, unit), decimals, "down") * MM_PER[unit]
        if high - low >= tolerance * Decimal("0.8"):
            return low, high
    return lower_mm, upper_mm
