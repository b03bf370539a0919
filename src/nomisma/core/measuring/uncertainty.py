"""How far to trust one reading: standard uncertainties combined, and the expanded uncertainty."""

from decimal import Decimal

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length
from nomisma.core.working import Step

COVERAGE_FACTOR = Decimal(2)
SOURCE = "JCGM 100:2008 (GUM), 4.3.7, 5.1.2 and 6.2.1"


class UncertaintyInput(Model):
    """An instrument as its maker and its user know it; every length on the measured size (a diameter)."""

    resolution: Size
    permitted_error: Size
    repeatability: Difference = Length(Decimal(0))


class UncertaintyResult(Model):
    """Standard and expanded uncertainty (coverage factor 2, about 95 %)."""

    standard_uncertainty: Difference
    expanded_uncertainty: Difference
    working: list[Step]


@calculation(
    name="measuring_uncertainty",
    title="What one reading is worth",
    validity="One reading with one instrument at 20 °C; permitted error and resolution above 0.",
    source=SOURCE,
    example={"resolution": "0.0001 in", "permitted_error": "0.0001 in", "repeatability": "0.00003 in"},
)
def measuring_uncertainty(given: UncertaintyInput) -> UncertaintyResult:
    """Combine permitted error (rectangular), resolution (rectangular over one step) and repeatability (standard).

    Source: JCGM 100:2008, 4.3.7 (rectangular), 5.1.2 (combination), 6.2.1 (expanded, k = 2). Raises OutOfRange.

    >>> str(measuring_uncertainty(UncertaintyInput(resolution="0.001 mm", permitted_error="0.002 mm")).expanded_uncertainty)
    '0.002380476 mm'
    """
    unit = given.resolution.unit
    if given.repeatability.mm < 0:
        raise OutOfRange(
            "Repeatability is a spread, so it is never below zero.", "Leave out the sign.", field="repeatability"
        )
    parts = [
        ("Permitted error", "permitted error / √3", given.permitted_error.mm / Decimal(3).sqrt()),
        ("Resolution", "resolution / √12", given.resolution.mm / Decimal(12).sqrt()),
        ("Repeatability", "as given, one standard deviation", given.repeatability.mm),
    ]
    combined = sum((part**2 for _, _, part in parts), Decimal(0)).sqrt()
    expanded = combined * COVERAGE_FACTOR
    decimals = 6 if unit == "in" else 5
    working = [
        Step(name=name, formula=formula, result=both(part, unit, decimals=decimals), source="JCGM 100:2008, 4.3.7")
        for name, formula, part in parts
    ]
    working.append(
        Step(
            name="Expanded uncertainty of one reading",
            formula="2 × √(sum of squares)",
            result=both(expanded, unit, decimals=decimals),
            source="JCGM 100:2008, 5.1.2 and 6.2.1; coverage factor 2, about 95 %",
        )
    )
    return UncertaintyResult(
        standard_uncertainty=Length(combined, unit), expanded_uncertainty=Length(expanded, unit), working=working
    )


def shared_uncertainty_mm(permitted_error_mm: Decimal) -> Decimal:
    """The part (expanded, mm) that one instrument brings to every reading: its permitted error, rectangular.

    It cancels in a difference of two readings with that instrument. Source: JCGM 100:2008, 4.3.7 and 5.2.

    >>> round(shared_uncertainty_mm(Decimal("0.002")), 6)
    Decimal('0.002309')
    """
    return COVERAGE_FACTOR * permitted_error_mm / Decimal(3).sqrt()
