"""Close-in: how far a bush's bore closes when its outside is squeezed."""

from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import OutOfRange
from nomisma.core.joints.cylinders import Cylinders
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.length import MM_PER, Length, Unit, as_mm, in_unit, round_to


@dataclass(frozen=True, slots=True)
class CloseIn:
    """Close-in for one interference: least and greatest (mm), pressure (MPa), and whether the bush yields."""

    least_mm: float
    greatest_mm: float
    pressure_mpa: float
    bush_yields: bool


def close_in(joint: Cylinders, interference_mm: float, factor: float) -> CloseIn:
    """Close-in of the bush's bore. Elastic by Lamé; where the bush yields, between that and a ring of constant area.

    Source: Lamé; constant area (incompressible, no flow along the axis) for the plastic bound.
    """
    pressure = joint.pressure_mpa(interference_mm)
    elastic = joint.close_in_mm(pressure) * factor
    if joint.inner_stress_mpa(pressure) <= joint.inner.yield_mpa:
        return CloseIn(elastic, elastic, pressure, False)
    capped = min(pressure, joint.inner_collapse_pressure_mpa())
    housing_gives = joint.interference_mm(capped) - joint.inner_squeeze_mm(capped)
    squeezed = max(interference_mm - housing_gives, 0.0)
    plastic = squeezed * joint.interface_mm / joint.bore_mm * factor
    return CloseIn(min(elastic, plastic), max(elastic, plastic), capped, True)


def check_housing(joint: Cylinders, found: list[CloseIn], ends: list[float], lost: Decimal, unit: Unit) -> None:
    """Raises OutOfRange where the greatest interference would stress the housing beyond its strength, with what it
    stands.

    `lost`: interference lost to roughness, mm. Source: Lamé, Tresca.
    """
    limit = joint.hub_yield_pressure_mpa("maximum_shear")
    if found[1].pressure_mpa > limit:
        word = "crack" if joint.hub.brittle else "yield"
        stands = _stands_mm(joint, limit) + lost
        less = as_mm(ends[1]) + lost - stands
        greatest = round_to(in_unit(stands, unit), 4 if unit == "in" else 3, "down")
        offered = Length(greatest * MM_PER[unit], unit)
        least = Length(round_to(in_unit(offered.mm * LEAST_SHARE, unit), 4 if unit == "in" else 3) * MM_PER[unit], unit)
        error = OutOfRange(
            f"The housing would {word}: {both(as_mm(ends[1]), unit, decimals=5)} of interference presses on it with "
            f"{found[1].pressure_mpa:.0f} MPa, and with this wall it stands {limit:.0f} MPa.",
            f"The greatest interference it stands is {show_small(stands, unit)}, {show_small(less, unit)} less: press"
            f" with {least} to {offered}, make the housing thicker, or bond the bush instead.",
            field="interference_max",
        )
        if greatest > 0:
            error.offer = {"interference_min": str(least), "interference_max": str(offered)}
        raise error


LEAST_SHARE = Decimal("0.4")
"""The least interference offered, as a share of the greatest a housing stands. Source: this tool's own choice."""


def _stands_mm(joint: Cylinders, limit_mpa: float) -> Decimal:
    """The greatest interference (mm) whose pressure the housing stands; what a yielding bush adds is not counted on."""
    return as_mm(joint.interference_mm(limit_mpa))
