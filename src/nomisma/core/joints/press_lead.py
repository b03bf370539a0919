"""The lead on the edge that goes in first: how long and how flat, for a press that does not shave."""

from decimal import Decimal

from nomisma.core.quantity.display import both
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import Step

LEAD_DEG = 5
"""The steepest a press lead should be, from the axis. Source: DIN 7190-1:2017 (recalled)."""
SOURCE = "DIN 7190-1:2017 (recalled): the cube root of the diameter in mm, 5° or flatter"


def press_lead(diameter_mm: Decimal, unit: Unit) -> Length:
    """How long the lead on a pressed edge is along the axis, for an interface of that diameter (mm). Source: DIN
    7190-1:2017 (recalled).

    >>> str(press_lead(Decimal(27), "mm"))
    '3 mm'
    """
    return Length(as_mm(float(diameter_mm) ** (1 / 3)).quantize(Decimal("0.1")).normalize(), unit)


def lead_step(diameter_mm: Decimal, unit: Unit) -> Step:
    """The working of `press_lead` (mm). Source: as that.

    >>> lead_step(Decimal(27), "mm").name
    'Lead'
    """
    return Step(
        name="Lead",
        formula="length = ∛D (mm), 5° from the axis or flatter",
        values=both(diameter_mm, unit),
        result=both(press_lead(diameter_mm, unit).mm, unit),
        source=SOURCE,
    )
