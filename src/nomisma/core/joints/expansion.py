"""Differential expansion: what a joint's clearance becomes over a range of temperature."""

from collections.abc import Callable
from decimal import Decimal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.fits.fit import FitKind, kind_of
from nomisma.core.materials.material import SOURCE as MATERIAL_SOURCE
from nomisma.core.materials.material import material_named
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Celsius, Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import Step

POINTS = 25


class ExpansionInput(Model):
    """A joint at 20 °C: diameter, materials, clearance (below zero: interference), and the range it works in.

    `inner_warmer_by_k`: how much warmer the shaft runs than what is around it.
    """

    diameter: Size
    outer_material: str = "aluminium_6061"
    inner_material: str = "carbon_steel"
    clearance_min: Difference
    clearance_max: Difference
    from_c: Celsius = Decimal(-10)
    to_c: Celsius = Decimal(60)
    inner_warmer_by_k: Number = Decimal(0)
    unit: Unit | None = None


class ExpansionPoint(Model):
    """Clearance at a temperature, mm."""

    temperature_c: float
    clearance_min_mm: float
    clearance_max_mm: float


class ExpansionResult(Model):
    """Clearance at both ends of the range, the line between, and where it changes its kind."""

    cold_min: Difference
    cold_max: Difference
    hot_min: Difference
    hot_max: Difference
    change: Difference
    kind_cold: FitKind
    kind_hot: FitKind
    binds_at_c: float | None = None
    loose_at_c: float | None = None
    points: list[ExpansionPoint]
    sentence: str
    working: list[Step]


@calculation(
    name="expansion",
    title="What temperature does to a joint",
    validity="Uniform temperatures from −60 to 250 °C and within the materials' limits; sizes free to move; mean "
        "coefficients near room.",
    source="expansion: handbook values; ISO 1:2022 for 20 °C",
    example={
        "diameter": "25 mm", "outer_material": "aluminium_6061", "inner_material": "carbon_steel",
        "clearance_min": "7 um",
        "clearance_max": "41 um", "from_c": -10, "to_c": 60,
    },
)  # fmt: skip
def expansion(given: ExpansionInput) -> ExpansionResult:
    """Clearance over a temperature range. Raises InputError, OutOfRange or NotDefined.

    Clearance(t) = clearance(20) + d·(α outer − α inner)·(t − 20 °C) − d·α inner·(inner warmer by). Source: linear
    expansion.

    >>> found = expansion(ExpansionInput(diameter="100 mm", clearance_min="0 mm", clearance_max="0.05 mm", to_c=70))
    >>> str(found.hot_min)
    '0.0605 mm'
    """
    outer = material_named(given.outer_material, field="outer_material")
    inner = material_named(given.inner_material, field="inner_material")
    unit = given.unit or given.diameter.unit
    _check(given)
    for field in ("from_c", "to_c"):
        for part, material in (("outer part", outer), ("inner part", inner)):
            # The inner part runs warmer than what is around it.
            warmer = float(given.inner_warmer_by_k) if part == "inner part" else 0.0
            if float(getattr(given, field)) + warmer > material.limit_c:
                raise OutOfRange(
                    f"At {getattr(given, field)} °C the {part} ({material.title}) is beyond its limit of about"
                    f" {material.limit_c:g} °C.",
                    "Choose another material or a lower temperature.",
                    field=field,
                )
    slope = float(given.diameter.mm) * (outer.alpha_per_k - inner.alpha_per_k)
    offset = float(given.diameter.mm) * inner.alpha_per_k * float(given.inner_warmer_by_k)
    ends = [float(given.clearance_min.mm), float(given.clearance_max.mm)]

    def at(temperature_c: float) -> tuple[float, float]:
        moved = slope * (temperature_c - 20) - offset
        return ends[0] + moved, ends[1] + moved

    low, high = float(given.from_c), float(given.to_c)
    points = [_point(low + (high - low) * step / (POINTS - 1), at) for step in range(POINTS)]
    cold, hot = at(low), at(high)
    crossing = _crossing(ends, slope, offset, low, high)
    return ExpansionResult(
        cold_min=Length.from_mm(cold[0], unit),
        cold_max=Length.from_mm(cold[1], unit),
        hot_min=Length.from_mm(hot[0], unit),
        hot_max=Length.from_mm(hot[1], unit),
        change=Length.from_mm(hot[0] - cold[0], unit),
        kind_cold=kind_of(as_mm(cold[0]), as_mm(cold[1])),
        kind_hot=kind_of(as_mm(hot[0]), as_mm(hot[1])),
        binds_at_c=crossing[0],
        loose_at_c=crossing[1],
        points=points,
        sentence=_sentence(ends, crossing, cold, hot, unit),
        working=[
            Step(
                name="Change for each degree",
                formula="d·(α outer − α inner)",
                values=(
                    f"{given.diameter}·({outer.alpha_per_k * 1e6:.1f} − {inner.alpha_per_k * 1e6:.1f}) µm/(m·K); "
                    f"{outer.title}, {inner.title}"
                ),
                result=f"{slope * 1000:+.3f} µm/K".replace("-", "−"),
                source=MATERIAL_SOURCE,
            ),
            Step(
                name="Clearance at the ends of the range",
                formula="clearance at 20 °C + change·(t − 20 °C) − d·α inner·(how much warmer the inner part is)",
                values=f"{given.from_c} °C and {given.to_c} °C; inner warmer by {given.inner_warmer_by_k} K",
                result=(
                    f"{both(as_mm(cold[0]), unit, decimals=5)} to {both(as_mm(cold[1]), unit, decimals=5)}; "
                    f"{both(as_mm(hot[0]), unit, decimals=5)} to {both(as_mm(hot[1]), unit, decimals=5)}"
                ),
                source="linear expansion from 20 °C (ISO 1:2022)",
            ),
        ],
    )


def _check(given: ExpansionInput) -> None:
    if not -60 <= given.from_c < given.to_c <= 250:
        raise OutOfRange(
            f"From {given.from_c} to {given.to_c} °C is no range this sum holds over.",
            "Give the colder end first, between −60 and 250 °C.",
            field="from_c",
            value=str(given.from_c),
        )
    if abs(given.inner_warmer_by_k) > 200:
        raise OutOfRange(
            "The two parts cannot be that far apart in temperature.", "At most 200 K.", field="inner_warmer_by_k"
        )
    if given.clearance_min.mm > given.clearance_max.mm:
        raise InputError("The least clearance is above the greatest.", "Exchange them.", field="clearance_min")
    if max(abs(given.clearance_min.mm), abs(given.clearance_max.mm)) > given.diameter.mm / 10:
        raise OutOfRange("That clearance is over a tenth of the diameter.", "Check the unit.", field="clearance_max")


def _point(temperature_c: float, at: Callable[[float], tuple[float, float]]) -> ExpansionPoint:
    least, most = at(temperature_c)
    return ExpansionPoint(temperature_c=temperature_c, clearance_min_mm=least, clearance_max_mm=most)


def _crossing(
    ends: list[float], slope: float, offset: float, low: float, high: float
) -> tuple[float | None, float | None]:
    """Where the least clearance reaches zero and where the greatest does, inside the range; each as (binds, loose)."""
    if slope == 0:
        return None, None
    found = [20 + (offset - end) / slope for end in ends]
    inside = [at if low <= at <= high else None for at in found]
    return inside[0], inside[1]


def _sentence(
    ends: list[float],
    crossing: tuple[float | None, float | None],
    cold: tuple[float, float],
    hot: tuple[float, float],
    unit: Unit,
) -> str:
    least, greatest = min(cold[0], hot[0]), max(cold[1], hot[1])
    span = f"{show_small(as_mm(least), unit)} to {show_small(as_mm(greatest), unit)} over the range"
    if ends[0] >= 0:
        if least >= 0:
            return f"It stays free: clearance {span}."
        at = f" at {crossing[0]:.0f} °C" if crossing[0] is not None else ""
        return f"It can bind{at}: clearance {span}.".replace("-", "−")
    if ends[1] <= 0:
        if greatest <= 0:
            return f"It stays tight: clearance {span}."
        at = f" at {crossing[1]:.0f} °C" if crossing[1] is not None else ""
        return f"It can come loose{at}: clearance {span}.".replace("-", "−")
    return f"It may be loose or tight at 20 °C already: clearance {span}."
