"""Where the work stands as an indicator sees it, from either side."""

from math import cos, hypot, radians, sin
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.practice.chuck import SimulatedChuck
from nomisma.core.practice.levels import FAR_MM, levels
from nomisma.core.truing.seen import seen_ends, seen_round

AT_JAWS = (0.0, 90.0, 180.0, 270.0)


def off(x: float, y: float, *, at: tuple[float, ...] = AT_JAWS, sense: int = 1, **more: Any) -> Any:
    """A round piece standing off by x and y mm, as an indicator sees it."""
    readings = [sense * (x * cos(radians(a)) + y * sin(radians(a))) for a in at]
    return seen_round(at, readings, **{"sense": sense, "drift": (0.0, 0.0), "noise": 0.0, **more})


@given(st.floats(-1, 1), st.floats(-1, 1), st.sampled_from([1, -1]))
def test_where_the_work_stands_is_seen_from_either_side(x: float, y: float, sense: int) -> None:
    found = off(x, y, sense=sense)
    assert (found.x, found.y) == pytest.approx((x, y), abs=1e-9)
    assert found.offset == pytest.approx(hypot(x, y), abs=1e-9)


def test_work_off_between_two_jaws_swings_more_than_the_needle_shows_at_them() -> None:
    found = off(0.1, 0.1)
    assert found.raw_total_indicator_reading == pytest.approx(0.2)
    assert found.total_indicator_reading == pytest.approx(2 * hypot(0.1, 0.1))


def test_a_difference_within_the_doubt_is_not_chased() -> None:
    assert off(0.010, 0.001, noise=0.002).total_indicator_reading == pytest.approx(0.020)


@given(st.floats(-0.05, 0.05), st.floats(-0.05, 0.05), st.floats(-0.02, 0.02), st.floats(-0.02, 0.02))
def test_after_tightening_it_stands_where_the_drift_takes_it(x: float, y: float, dx: float, dy: float) -> None:
    found = off(x, y, drift=(dx, dy))
    assert found.offset_then == pytest.approx(hypot(x + dx, y + dy), abs=1e-9)
    assert found.at(0, -dx, -dy) == pytest.approx(found.round.left[0] - dx, abs=1e-9)


@given(st.floats(0.001, 2), st.floats(0, 359.9), st.sampled_from([1, -1]))
def test_highest_and_lowest_say_the_same_offset(total_indicator_reading: float, at: float, sense: int) -> None:
    found = seen_ends(total_indicator_reading, at, sense=sense, drift=(0.0, 0.0), noise=0.001)
    assert 2 * found.offset == pytest.approx(total_indicator_reading)
    assert found.shape is None
    way = found.direction_deg if sense == 1 else (found.direction_deg + 180) % 360
    assert abs((way - at + 180) % 360 - 180) < 1e-6


@pytest.mark.parametrize("count", [4, 8, 12, 24])
def test_more_places_leave_less_doubt_of_the_offset(count: int) -> None:
    at = tuple(360 * n / count for n in range(count))
    assert off(0.1, 0.0, at=at, noise=0.002).offset_uncertainty == pytest.approx(4 * 0.002 * (2 / count) ** 0.5)


def test_the_far_circle_of_a_leaning_piece_swings_by_its_lean() -> None:
    held = SimulatedChuck(levels()["leaning_sleeve"], 4)
    held.x = held.y = 0.0
    lean = hypot(held.lean_x, held.lean_y) * FAR_MM
    assert held.total_indicator_reading("far") == pytest.approx(2 * lean, abs=0.004)
