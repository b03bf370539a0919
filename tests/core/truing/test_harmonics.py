"""A round of readings taken apart: offset, and the shapes that are left."""

from math import cos, radians

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.truing.harmonics import evenly_spaced, in_turn, taken_apart

ANGLES = [index * 45.0 for index in range(8)]


@given(st.floats(0.01, 2), st.floats(0, 359), st.floats(-1, 1))
def test_a_pure_offset_leaves_no_shape(amplitude: float, at_deg: float, mean: float) -> None:
    found = taken_apart(ANGLES, [mean + amplitude * cos(radians(angle - at_deg)) for angle in ANGLES])
    assert max(found.left) - min(found.left) < 1e-9
    assert all(shape.amplitude < 1e-9 for shape in found.shapes)


@pytest.mark.parametrize("waves", [2, 3])
def test_an_oval_or_a_three_lobed_round_shows_as_that_shape(waves: int) -> None:
    found = taken_apart(ANGLES, [0.05 * cos(radians(waves * angle)) for angle in ANGLES])
    largest = max(found.shapes, key=lambda shape: shape.amplitude)
    assert (largest.number, round(largest.amplitude, 9)) == (waves, 0.05)


def test_angles_come_back_into_one_turn() -> None:
    assert (in_turn(-90), in_turn(450), in_turn(360)) == (270, 90, 0)


def test_a_place_left_out_is_not_evenly_spaced() -> None:
    assert evenly_spaced(ANGLES)
    assert not evenly_spaced(ANGLES[:-1])
