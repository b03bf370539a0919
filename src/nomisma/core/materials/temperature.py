"""A size read at some temperature, as it is at 20 °C."""

from decimal import Decimal

from nomisma.core.errors import OutOfRange
from nomisma.core.materials.material import material_named

COLDEST_C, WARMEST_C = Decimal(-50), Decimal(150)
"""Between these a part is measured with a hand instrument and the table's expansion holds. Source: common practice, no
source.
"""


def check_measured_at(temperature_c: Decimal, typed: str = "", *, field: str = "temperature_c") -> None:
    """Raises OutOfRange where a part at a temperature (°C) is not measured by hand; `typed` as it was written.

    Source: common practice, no source.

    >>> check_measured_at(Decimal(24), "24")  # nothing to say
    """
    if not COLDEST_C <= temperature_c <= WARMEST_C:
        raise OutOfRange(
            f"A part at {typed or f'{temperature_c} °C'} is not measured with a hand instrument.",
            "Let it come to the room's temperature, between −50 and 150 °C at the most.",
            field=field,
            value=str(temperature_c),
        )


def growth(temperature_c: Decimal, material: str, *, field: str = "temperature_c") -> Decimal:
    """How many times larger a part is at a temperature (°C) than at 20 °C; the instrument taken to be at 20 °C.

    Source: ISO 1; expansion from the table of materials. Raises NotDefined, OutOfRange.

    >>> growth(Decimal(120), "carbon_steel")
    Decimal('1.0011500')
    """
    check_measured_at(temperature_c, field=field)
    found = material_named(material, field=field.replace("temperature_c", "material"))
    return 1 + Decimal(repr(found.alpha_per_k)) * (temperature_c - 20)


def at_20_c(size_mm: Decimal, temperature_c: Decimal, material: str) -> Decimal:
    """A size (mm) read at a temperature (°C), as it is at 20 °C. Source: ISO 1. Raises NotDefined, OutOfRange.

    >>> round(at_20_c(Decimal("50"), Decimal("40"), "aluminium_6061"), 4)
    Decimal('49.9764')
    """
    return size_mm / growth(temperature_c, material)
