"""The size to aim at inside the limits, and limits rounded so that nothing outside them is let in."""

from dataclasses import dataclass
from decimal import Decimal
from math import log
from statistics import NormalDist
from typing import Literal

from nomisma.core.errors import OutOfRange
from nomisma.core.part.feature import cut_direction
from nomisma.core.part.member import MemberKind
from nomisma.core.quantity.display import WORKING_DECIMALS, both
from nomisma.core.quantity.length import MM_PER, Unit, in_unit, round_to
from nomisma.core.working import COMMON_PRACTICE, Step

AimMethod = Literal["middle", "metal_safe", "costed"]

METAL_SAFE_SHARE = Decimal("0.25")  # common practice, no source: a quarter of the tolerance from the metal side
_NORMAL = NormalDist()


@dataclass(frozen=True, slots=True)
class AimCosts:
    """What a size costs when it lands outside: the process's standard deviation (mm), cost of rework and of scrap."""

    spread_mm: Decimal
    rework: Decimal
    scrap: Decimal

    def expected(self, kind: MemberKind, lower_mm: Decimal, upper_mm: Decimal, aim_mm: Decimal) -> float:
        """Expected cost of one piece aimed there, in the unit the costs are in. Source: normal distribution
        of sizes.
        """
        metal, gone = self.chances(kind, lower_mm, upper_mm, aim_mm)
        return float(self.rework) * metal + float(self.scrap) * gone

    def chances(self, kind: MemberKind, lower_mm: Decimal, upper_mm: Decimal, aim_mm: Decimal) -> tuple[float, float]:
        """Chance of metal to go and chance of gone too far, each 0 to 1. Source: normal distribution of sizes."""
        above = 1 - _NORMAL.cdf(float((upper_mm - aim_mm) / self.spread_mm))
        below = _NORMAL.cdf(float((lower_mm - aim_mm) / self.spread_mm))
        return (above, below) if cut_direction(kind) == 1 else (below, above)

    def best_aim(self, kind: MemberKind, lower_mm: Decimal, upper_mm: Decimal) -> Decimal:
        """The aim (mm) of least expected cost: middle ± s²·ln(scrap/rework)/tolerance, kept inside the limits.

        Source: minimum of the expected cost for normally distributed sizes (derivation in the working).
        """
        shift = self.spread_mm**2 / (upper_mm - lower_mm) * Decimal(repr(log(self.scrap / self.rework)))
        aim = (lower_mm + upper_mm) / 2 + cut_direction(kind) * shift
        return min(max(aim, lower_mm), upper_mm)


def checked_costs(spread_mm: Decimal, rework: Decimal, scrap: Decimal) -> AimCosts:
    """Costs that can be computed with. Raises OutOfRange: all three must be above zero and not absurd.

    Source: arithmetic of the costs given.

    >>> checked_costs(Decimal("0.003"), Decimal(10), Decimal(80)).scrap
    Decimal('80')
    """
    for field, value in (("spread", spread_mm), ("rework_cost", rework), ("scrap_cost", scrap)):
        if not (value.is_finite() and 0 < value <= 10_000_000):
            raise OutOfRange(
                "The costed aim needs a spread, a cost of rework and a cost of scrap, each above zero.",
                "Give the spread of your own cuts, and the costs in any one unit: minutes will do.",
                field=field,
                value=str(value),
            )
    return AimCosts(spread_mm, rework, scrap)


def aim_size(
    kind: MemberKind, lower_mm: Decimal, upper_mm: Decimal, method: AimMethod, unit: Unit, costs: AimCosts | None = None
) -> Decimal:
    """The size to aim at (mm), rounded to the shop's working decimals where that stays inside the limits.

    `middle`: halfway. `metal_safe`: a quarter of the tolerance from the side where metal is left, because over can
    be cut again and under is scrap. `costed`: where `costs` come out least. Source: common practice, no source.

    >>> aim_size("shaft", Decimal("24.98"), Decimal("24.993"), "metal_safe", "mm")
    Decimal('24.990')
    """
    tolerance = upper_mm - lower_mm
    if method == "costed" and costs is not None:
        exact = costs.best_aim(kind, lower_mm, upper_mm)
    else:
        share = METAL_SAFE_SHARE if method == "metal_safe" else Decimal("0.5")
        exact = upper_mm - tolerance * share if cut_direction(kind) == 1 else lower_mm + tolerance * share
    for decimals in (WORKING_DECIMALS[unit], WORKING_DECIMALS[unit] + 1):
        rounded = round_to(in_unit(exact, unit), decimals) * MM_PER[unit]
        if lower_mm <= rounded <= upper_mm and abs(rounded - exact) <= tolerance / 8:
            return rounded
    return exact


def aim_step(
    kind: MemberKind, lower_mm: Decimal, upper_mm: Decimal, method: AimMethod, unit: Unit, costs: AimCosts | None = None
) -> Step:
    """The working of the aim. Source: arithmetic of the costs given.

    >>> aim_step("shaft", Decimal("24.98"), Decimal("24.99"), "middle", "mm").result
    '24.9850 mm (0.9837 in)'
    """
    side = "upper limit − " if cut_direction(kind) == 1 else "lower limit + "
    if method == "costed" and costs is not None:
        formula = (
            f"middle {'+' if cut_direction(kind) == 1 else '−'} s²·ln(scrap / rework) / tolerance: where the expected"
            " cost is least"
        )
    else:
        formula = (
            "middle of the limits"
            if method != "metal_safe"
            else f"{side}a quarter of the tolerance: over can be cut again"
        )
    return Step(
        name="Size to aim at",
        formula=formula,
        values=f"{both(lower_mm, unit, decimals=5)} to {both(upper_mm, unit, decimals=5)}",
        result=both(aim_size(kind, lower_mm, upper_mm, method, unit, costs), unit, decimals=5 if unit == "in" else 4),
        source=COMMON_PRACTICE if method != "costed" else "least expected cost for normally distributed sizes",
        school=method.replace("_", "-"),
    )


def round_inward(lower_mm: Decimal, upper_mm: Decimal, unit: Unit) -> tuple[Decimal, Decimal]:
    """Limits (mm) rounded towards each other in `unit`, one decimal finer where rounding would cost over a fifth.

    Source: common practice, no source; the principle is that of ISO 80000-1 annex B, rounding so that no limit is
    passed.

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
