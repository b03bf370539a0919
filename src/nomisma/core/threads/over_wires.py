"""A thread over three wires: the best wire, the size over wires of a pitch diameter, and the pitch diameter of a size
over wires.
"""

from decimal import Decimal
from math import cos, pi, radians, sin, tan

from nomisma.core.errors import OutOfRange
from nomisma.core.quantity.length import as_mm
from nomisma.core.threads.called_out import ThreadCalledOut

SOURCE = (
    "M = d2 + w·(1 + 1/sin α + (tan²λ)/2·cos α·cot α) − P/2·cot α (ASME B1.2, recalled; α half the angle, λ the lead"
    " angle)"
)
LEAST_SHARE, MOST_SHARE = Decimal("0.505"), Decimal("1.010")
"""Wires of 60° threads between these shares of the pitch touch the flanks and stand proud. Source: handbooks
(recalled); geometry.
"""


def best_wire_mm(said: ThreadCalledOut) -> Decimal:
    """The wire (mm) that touches the flanks at the pitch line, P/(2·cos α). Source: geometry.

    >>> from nomisma.core.threads.called_out import thread_called_out
    >>> round(best_wire_mm(thread_called_out("M24x2")), 4)
    Decimal('1.1547')
    """
    return as_mm(float(said.thread.pitch_mm) / (2 * cos(_half(said))))


def wires_that_fit_mm(said: ThreadCalledOut) -> tuple[Decimal, Decimal]:
    """From what wire (mm) to what wire it can be measured: it touches the flanks, and stands out over the crests.
    Source: geometry.

    >>> from nomisma.core.threads.called_out import thread_called_out
    >>> [round(one, 3) for one in wires_that_fit_mm(thread_called_out("M24x2"))]
    [Decimal('1.010'), Decimal('2.020')]
    """
    share = best_wire_mm(said) / (said.thread.pitch_mm * Decimal("0.5773502692"))
    return said.thread.pitch_mm * LEAST_SHARE * share, said.thread.pitch_mm * MOST_SHARE * share


def over_wires_mm(said: ThreadCalledOut, pitch_diameter_mm: Decimal, wire_mm: Decimal) -> Decimal:
    """The size over three wires (mm) of a thread of that pitch diameter (mm). Raises OutOfRange for a wire that does
    not fit.

    Source: ASME B1.2 (formula with the lead angle; recalled).

    >>> from nomisma.core.threads.called_out import thread_called_out
    >>> round(over_wires_mm(thread_called_out("M24x2"), Decimal("22.701"), Decimal("1.1547")), 3)
    Decimal('24.434')
    """
    _must_fit(said, wire_mm)
    return pitch_diameter_mm + as_mm(_beyond(said, float(pitch_diameter_mm), float(wire_mm)))


def pitch_diameter_over_mm(said: ThreadCalledOut, over_mm: Decimal, wire_mm: Decimal) -> Decimal:
    """The pitch diameter (mm) of a thread that is so much over three wires (mm). Raises OutOfRange.

    Source: as `over_wires_mm`, solved for the pitch diameter: the lead angle hangs on it, a little.

    >>> from nomisma.core.threads.called_out import thread_called_out
    >>> round(pitch_diameter_over_mm(thread_called_out("M24x2"), Decimal("24.4335"), Decimal("1.1547")), 3)
    Decimal('22.701')
    """
    _must_fit(said, wire_mm)
    over, wire = float(over_mm), float(wire_mm)
    if over <= 2 * wire:
        raise OutOfRange("Over the wires it is more than two wires.", "Check the two sizes.", field="size")
    found = float(said.thread.diameter_mm)
    for _ in range(6):
        found = over - _beyond(said, found, wire)
    return as_mm(found)


def _half(said: ThreadCalledOut) -> float:
    return radians(float(said.angle_deg) / 2)


def _beyond(said: ThreadCalledOut, pitch_diameter_mm: float, wire_mm: float) -> float:
    """How much the size over wires is above the pitch diameter, mm."""
    half = _half(said)
    lead = float(said.lead_mm) / (pi * pitch_diameter_mm)
    return wire_mm * (1 + 1 / sin(half) + lead**2 / 2 * cos(half) / tan(half)) - float(said.thread.pitch_mm) / 2 / tan(
        half
    )


def _must_fit(said: ThreadCalledOut, wire_mm: Decimal) -> None:
    least, most = wires_that_fit_mm(said)
    if not least <= wire_mm <= most:
        raise OutOfRange(
            f"A wire of {wire_mm.normalize():f} mm does not measure {said.thread.name}: it wants {least:.3f} to"
            f" {most:.3f} mm.",
            f"The best is {best_wire_mm(said):.4f} mm.",
            field="size",
        )
