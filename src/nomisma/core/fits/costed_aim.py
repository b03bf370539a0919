"""The size to aim at, in every method, with what it costs to aim elsewhere."""

from decimal import Decimal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.fits.aim import AimCosts, AimMethod, aim_size, aim_step, checked_costs
from nomisma.core.fits.called_out import called_out
from nomisma.core.model import Model
from nomisma.core.part.member import MemberKind
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import Step

CURVE_POINTS = 61


class AimInput(Model):
    """Limits (a callout: 24.980/24.993, 25 g6) of a shaft or a bore; spread and costs for the costed method.

    `spread` is one standard deviation of the sizes the process makes; costs are in any one unit (money, minutes).
    """

    kind: MemberKind
    limits: str = Field(examples=["24.980/24.993 mm", "25 g6"])
    spread: Difference | None = None
    rework_cost: Number | None = None
    scrap_cost: Number | None = None
    unit: Unit | None = None


class AimAt(Model):
    """One method's aim; chances in percent and expected cost of a piece, where a spread and costs were given."""

    method: AimMethod
    aim: Size
    metal_to_go_percent: float | None = None
    gone_too_far_percent: float | None = None
    expected_cost: float | None = None


class CostPoint(Model):
    """Expected cost of a piece aimed at a size (mm)."""

    aim_mm: float
    expected_cost: float


class AimResult(Model):
    """The aims of the methods, the price of each, and the curve of cost over the aim."""

    kind: MemberKind
    lower: Size
    upper: Size
    spread: Difference | None = None
    aims: list[AimAt]
    curve: list[CostPoint]
    sentence: str
    caution: str = ""
    working: list[Step]


@calculation(
    name="aim",
    title="The size to aim at, and what it costs to aim elsewhere",
    validity="Sizes normally distributed about the aim; spread and both costs above zero for the costed method.",
    source="middle and metal-safe: common practice, no source; costed: least expected cost of a normal distribution",
    example={"kind": "shaft", "limits": "24.980/24.993 mm", "spread": "0.003 mm", "rework_cost": 5, "scrap_cost": 60},
)
def aim(given: AimInput) -> AimResult:
    """Aims in the middle, metal-safe and costed methods. Raises InputError for limits or costs that cannot be used.

    Source: common practice; the costed aim minimises rework·P(metal to go) + scrap·P(gone too far).

    >>> found = aim(AimInput(kind="shaft", limits="24.980/24.993 mm", spread="0.003 mm", rework_cost=5, scrap_cost=60))
    >>> [str(one.aim) for one in found.aims]
    ['24.986 mm', '24.99 mm', '24.988 mm']
    """
    found = called_out(given.kind, given.limits, unit=given.unit, field="limits")
    low, high, unit = found.lower_mm, found.upper_mm, given.unit or found.unit
    costs = _costs(given)
    methods: tuple[AimMethod, ...] = ("middle", "metal_safe", "costed") if costs else ("middle", "metal_safe")
    aims = [_aim_at(given.kind, low, high, method, unit, costs) for method in methods]
    return AimResult(
        kind=given.kind,
        lower=Length(low, unit),
        upper=Length(high, unit),
        spread=given.spread,
        aims=aims,
        curve=_curve(given.kind, low, high, costs) if costs else [],
        sentence=_sentence(aims, unit),
        caution=_caution(low, high, costs, unit),
        working=[aim_step(given.kind, low, high, method, unit, costs) for method in methods]
        + _cost_steps(given, aims, costs, unit),
    )


def _costs(given: AimInput) -> AimCosts | None:
    parts = (given.spread, given.rework_cost, given.scrap_cost)
    if all(part is None for part in parts):
        return None
    if any(part is None for part in parts):
        field = next(name for name in ("spread", "rework_cost", "scrap_cost") if getattr(given, name) is None)
        raise InputError(
            "The costed aim needs all three: spread, cost of rework, cost of scrap.",
            "Fill in the one missing.",
            field=field,
        )
    assert given.spread is not None
    return checked_costs(given.spread.mm, given.rework_cost or Decimal(0), given.scrap_cost or Decimal(0))


def _aim_at(
    kind: MemberKind, low: Decimal, high: Decimal, method: AimMethod, unit: Unit, costs: AimCosts | None
) -> AimAt:
    at = aim_size(kind, low, high, method, unit, costs)
    if costs is None:
        return AimAt(method=method, aim=Length(at, unit))
    metal, gone = costs.chances(kind, low, high, at)
    return AimAt(
        method=method,
        aim=Length(at, unit),
        metal_to_go_percent=100 * metal,
        gone_too_far_percent=100 * gone,
        expected_cost=costs.expected(kind, low, high, at),
    )


def _curve(kind: MemberKind, low: Decimal, high: Decimal, costs: AimCosts) -> list[CostPoint]:
    step = (high - low) / (CURVE_POINTS - 1)
    sizes = [low + step * index for index in range(CURVE_POINTS)]
    return [CostPoint(aim_mm=float(size), expected_cost=costs.expected(kind, low, high, size)) for size in sizes]


def _sentence(aims: list[AimAt], unit: Unit) -> str:
    by_method = {one.method: one for one in aims}
    costed, middle = by_method.get("costed"), by_method["middle"]
    if costed is None:
        return "Give the spread of your cuts and the two costs, and the best aim follows."
    assert middle.expected_cost is not None
    assert costed.expected_cost is not None
    more = middle.expected_cost - costed.expected_cost
    away = abs(costed.aim.mm - middle.aim.mm)
    if not away:
        return "Least cost at the middle: the process is so fine that the side does not matter."
    safe = (by_method["metal_safe"].aim.mm > middle.aim.mm) == (costed.aim.mm > middle.aim.mm)
    return (
        f"Least cost {show_small(away, unit)} from the middle, on the {'metal-safe' if safe else 'other'} side; "
        f"aiming at the middle costs {more:.3g} more a piece."
    )


def _caution(low: Decimal, high: Decimal, costs: AimCosts | None, unit: Unit) -> str:
    if costs is None or high - low >= 6 * costs.spread_mm:
        return ""
    return (
        f"The limits are {show_small(high - low, unit)} wide and the process spreads over about"
        f" {show_small(6 * costs.spread_mm, unit)} (six standard deviations): no aim keeps every piece inside. Measure"
        " and cut in smaller steps."
    )


def _cost_steps(given: AimInput, aims: list[AimAt], costs: AimCosts | None, unit: Unit) -> list[Step]:
    if costs is None:
        return []
    return [
        Step(
            name=f"Expected cost of a piece, {one.method.replace('_', '-')}",
            formula="rework × P(metal to go) + scrap × P(gone too far), sizes normal about the aim",
            values=(
                f"s = {both(costs.spread_mm, unit, decimals=5)}, rework {given.rework_cost}, scrap {given.scrap_cost}; "
                f"P {one.metal_to_go_percent:.2g} % and {one.gone_too_far_percent:.2g} %"
            ),
            result=f"{one.expected_cost:.3g}",
            source="normal distribution",
            school=one.method.replace("_", "-"),
        )
        for one in aims
    ]
