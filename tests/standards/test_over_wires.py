"""A thread over wires against the geometry of a round wire between two flanks."""

from decimal import Decimal
from math import asin, cos, pi, radians, sin, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from nomisma.core.threads.called_out import thread_called_out
from nomisma.core.threads.over_wires import best_wire_mm, over_wires_mm, pitch_diameter_over_mm, wires_that_fit_mm

SAID = st.sampled_from(["M24x2", "M6", "1/2-13", "M20x1.5 3 starts", "30 x 4 pitch 55°", "20 x 3 pitch 29°"])


@given(SAID, st.floats(0.02, 0.98), st.floats(-0.02, 0.0))
def test_over_wires_is_where_the_circle_touches_both_flanks(text: str, share: float, smaller: float) -> None:
    """Source: geometry: the wire in the plane square to the thread, solved numerically, instead of the formula's series
    in the lead angle.
    """
    said = thread_called_out(text)
    least, most = wires_that_fit_mm(said)
    wire = float(least) + share * float(most - least)
    pitch_diameter = float(said.thread.diameter_mm - Decimal("0.65") * said.thread.pitch_mm) * (1 + smaller)
    found = float(over_wires_mm(said, Decimal(repr(pitch_diameter)), Decimal(repr(wire))))
    half = radians(float(said.angle_deg) / 2)
    lead_angle = asin(min(float(said.lead_mm) / (pi * pitch_diameter), 1))
    normal = asin(sin(half) * cos(lead_angle))  # the half angle as it shows square to the thread
    groove = float(said.thread.pitch_mm) / 2

    def off(depth: float) -> float:
        # The wire's middle lies so far outside the pitch line; its distance from the flank is to be its radius.
        return (groove / 2 * cos(half) + depth * sin(half)) / sin(half) * sin(normal) - wire / 2

    depth = brentq(off, -wire, 3 * wire)
    assert found == pytest.approx(
        pitch_diameter + 2 * depth + wire, abs=float(said.lead_mm) ** 2 / pitch_diameter / 8 + 1e-6
    )
    again = pitch_diameter_over_mm(said, Decimal(repr(found)), Decimal(repr(wire)))
    assert float(again) == pytest.approx(pitch_diameter, abs=1e-6)


def test_the_best_wire_does_not_feel_the_angle() -> None:
    """Source: geometry: over best wires half a degree off the angle measures the same to a hair; over others it does
    not.
    """
    said = thread_called_out("M24x2")

    def error_mm(wire: float) -> float:
        true, wrong = (radians(30), radians(30.5))
        over = wire * (1 + 1 / sin(wrong)) - 1 / tan(wrong)
        return abs(over - (wire * (1 + 1 / sin(true)) - 1 / tan(true)))

    best = float(best_wire_mm(said))
    assert error_mm(best) < 0.0004 < 0.003 < error_mm(best * 1.3)
