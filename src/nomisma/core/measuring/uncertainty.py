"""How far to trust one reading: standard uncertainties combined, and the expanded uncertainty."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.materials.material import material_named
from nomisma.core.measuring.combination import combined, rectangular
from nomisma.core.model import Model
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Celsius, Difference, Number, Size
from nomisma.core.quantity.length import Length
from nomisma.core.working import Step

COVERAGE_FACTOR = Decimal(2)
SOURCE = "JCGM 100:2008 (GUM), 4.3.7, 5.1.2 and 6.2.1"
ALPHA_UNCERTAINTY = Decimal("0.1")
"""Share by which a handbook's expansion may be off. Source: common practice, no source."""
ZeroState = Literal["not_said", "fresh", "stale"]


class UncertaintyInput(Model):
    """An instrument as its maker and its user know it, and how this reading was taken; lengths on the measured size.

    `zero`: its check is fresh, overdue (stale), or nothing is said of it. `standard_error`: the ± of the standard it
    was checked on. `transfer_repeatability`: spread of the gauge that carried the size to it. `repeats`: readings of
    one place pooled. `of_difference`: what counts is the difference of two readings: the zero falls out, what is new in
    each comes twice. `sensitivity`: how much of a reading's error comes into a size that only follows from readings.
    `temperature_c` ± `temperature_uncertainty_k` with `size` and `material` where the part's temperature was taken.
    """

    resolution: Size
    permitted_error: Size
    repeatability: Difference = Length(Decimal(0))
    repeats: int = Field(default=1, ge=1, le=200)
    zero: ZeroState = "not_said"
    standard_error: Difference = Length(Decimal(0))
    transfer_repeatability: Difference = Length(Decimal(0))
    half_bracket: Difference = Length(Decimal(0))
    of_difference: bool = False
    sensitivity: Number = Field(default=Decimal(1), gt=0, le=1000)
    size: Size | None = None
    temperature_c: Celsius | None = None
    temperature_uncertainty_k: Number = Decimal(1)
    material: str = ""


class UncertaintyRow(Model):
    """One line of the budget: standard uncertainty and its share of the variance; `shared` cancels in a difference
    of two readings with the same instrument."""

    name: str
    formula: str
    standard_uncertainty: Difference
    share_percent: Number
    shared: bool


class UncertaintyResult(Model):
    """Standard and expanded uncertainty (coverage factor 2, about 95 %), the budget, and the part that is shared."""

    standard_uncertainty: Difference
    expanded_uncertainty: Difference
    shared_uncertainty: Difference
    budget: list[UncertaintyRow]
    working: list[Step]


Part = tuple[str, str, Decimal, bool]


@calculation(
    name="measuring_uncertainty",
    title="What one reading is worth",
    validity=(
        "One reading, or the mean of several of one place, with one instrument near 20 °C; permitted error and"
        " resolution above 0."
    ),
    source=SOURCE,
    example={"resolution": "0.0001 in", "permitted_error": "0.0001 in", "repeatability": "0.00003 in"},
)
def measuring_uncertainty(given: UncertaintyInput) -> UncertaintyResult:
    """Combine permitted error, zero, resolution, repeatability, transfer and temperature into what a reading is worth.

    Source: JCGM 100:2008, 4.3.7 (rectangular), 5.1.2 (combination), 6.2.1 (expanded, k = 2). Raises OutOfRange.

    >>> str(measuring_uncertainty(UncertaintyInput(resolution="0.001 mm",
    ...     permitted_error="0.002 mm")).expanded_uncertainty)
    '0.002380476 mm'
    """
    unit = given.resolution.unit
    for name in ("repeatability", "standard_error", "transfer_repeatability", "half_bracket"):
        if getattr(given, name).mm < 0:
            words = name.replace("_", " ").capitalize()
            raise OutOfRange(f"{words} is a spread, so it is never below zero.", "Leave out the sign.", field=name)
    bound = given.half_bracket.mm
    # Pins are not read but tried: their own errors are in the bracket already, and it is a bound, not a spread.
    own = (
        [_bracket_part(bound)]
        if bound
        else _blown_up([*_instrument_parts(given), *_reading_parts(given)], given.sensitivity)
    )
    parts = [*own, *_temperature_parts(given)]
    whole = combined([part for _, _, part, _ in parts])
    shared = combined([part for _, _, part, is_shared in parts if is_shared]).standard
    spread = combined([part for _, _, part, _ in parts[1:]]).standard if bound else whole.standard
    expanded = bound + COVERAGE_FACTOR * spread
    decimals = 6 if unit == "in" else 5
    budget = [
        UncertaintyRow(
            name=name,
            formula=formula,
            standard_uncertainty=Length(part, unit),
            share_percent=share.quantize(Decimal("0.1")),
            shared=is_shared,
        )
        for (name, formula, part, is_shared), share in zip(parts, whole.shares_percent, strict=True)
    ]
    working = [
        Step(name=name, formula=formula, result=both(part, unit, decimals=decimals), source="JCGM 100:2008, 4.3.7")
        for name, formula, part, _ in parts
    ]
    working.append(
        Step(
            name="Expanded uncertainty of one reading",
            formula=(
                "half the bracket, which nothing passes, + 2 × √(sum of the other squares)"
                if bound
                else "2 × √(sum of squares)"
            ),
            result=both(expanded, unit, decimals=decimals),
            source=(
                "arithmetic: the size lies between the pins; JCGM 100:2008, 5.1.2 and 6.2.1 for the rest"
                if bound
                else "JCGM 100:2008, 5.1.2 and 6.2.1; coverage factor 2, about 95 %"
            ),
        )
    )
    return UncertaintyResult(
        standard_uncertainty=Length(whole.standard, unit),
        expanded_uncertainty=Length(expanded, unit),
        shared_uncertainty=Length(shared * COVERAGE_FACTOR, unit),
        budget=budget,
        working=working,
    )


def _blown_up(parts: list[Part], sensitivity: Decimal) -> list[Part]:
    """What the readings bring, as much of it as comes into a size that follows from them. Source: JCGM
    100:2008, 5.1.3.
    """
    if sensitivity == 1:
        return parts
    by = f" × {sensitivity.normalize():f}: what a reading's error counts in the size"
    return [(name, formula + by, part * sensitivity, shared) for name, formula, part, shared in parts]


def _instrument_parts(given: UncertaintyInput) -> list[Part]:
    """What the instrument brings to every reading alike."""
    permitted = rectangular(given.permitted_error.mm)
    parts: list[Part] = [("Permitted error", "permitted error / √3", permitted, True)]
    if given.of_difference:
        return parts  # wherever the zero is, it is in both
    if given.zero == "stale":
        parts.append(
            (
                "Zero, check overdue",
                "the permitted error once more / √3: it may have moved",
                permitted,
                True,
            )
        )
    if given.zero == "fresh":
        parts.append(
            ("Zero check", "resolution of reading the standard / √12", rectangular(given.resolution.mm / 2), True)
        )
    if given.standard_error.mm:
        parts.append(("Working standard", "its permitted error / √3", rectangular(given.standard_error.mm), True))
    return parts


def _reading_parts(given: UncertaintyInput) -> list[Part]:
    """What is new in each reading."""
    root_n = Decimal(given.repeats).sqrt()
    pooled = f" / √{given.repeats}" if given.repeats > 1 else ""
    twice, words = (Decimal(2).sqrt(), " × √2: of two readings") if given.of_difference else (Decimal(1), "")
    parts: list[Part] = [
        ("Resolution", f"resolution / √12{words}", rectangular(given.resolution.mm / 2) * twice, False),
        (
            "Repeatability",
            f"as given, one standard deviation{pooled}{words}",
            given.repeatability.mm / root_n * twice,
            False,
        ),
    ]
    if given.transfer_repeatability.mm:
        parts.append(
            ("Transfer", f"the gauge's own repeatability{pooled}", given.transfer_repeatability.mm / root_n, False)
        )
    return parts


def _bracket_part(half_mm: Decimal) -> Part:
    """Half a bracket between two pins, their errors in it (mm)."""
    return "Between the pins", "half the bracket / √3: the size may lie anywhere in it", rectangular(half_mm), False


def _temperature_parts(given: UncertaintyInput) -> list[Part]:
    """The part's temperature: how well it is known, and how well its expansion is. Source: JCGM 100:2008, H.1.3."""
    if given.temperature_c is None or not given.material or given.size is None:
        return []
    material = material_named(given.material)
    alpha = Decimal(repr(material.alpha_per_k))
    away = abs(given.temperature_c - 20)
    return [
        (
            "Temperature",
            f"size × α × {given.temperature_uncertainty_k} K / √3",
            rectangular(given.size.mm * alpha * given.temperature_uncertainty_k),
            False,
        ),
        (
            "Expansion of the material",
            f"size × a tenth of α × {away} K / √3",
            rectangular(given.size.mm * alpha * ALPHA_UNCERTAINTY * away),
            False,
        ),
    ]


def shared_uncertainty_mm(permitted_error_mm: Decimal) -> Decimal:
    """The part (expanded, mm) that one instrument brings to every reading: its permitted error, rectangular.

    It cancels in a difference of two readings with that instrument. Source: JCGM 100:2008, 4.3.7 and 5.2.

    >>> round(shared_uncertainty_mm(Decimal("0.002")), 6)
    Decimal('0.002309')
    """
    return COVERAGE_FACTOR * rectangular(permitted_error_mm)
