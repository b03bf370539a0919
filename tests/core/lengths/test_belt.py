"""Pulleys, and the belt between them measured along its way."""

from math import cos, pi
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.belt import BeltResult
from nomisma.core.registry import calculation_named


def belt(**given: Any) -> BeltResult:
    found = calculation_named("belt").run({"driver": "100 mm", "driver_rpm": 1000, **given})
    assert isinstance(found, BeltResult)
    return found


def test_half_the_speed_is_twice_the_pulley() -> None:
    assert str(belt(driven_rpm=500).driven) == "200 mm"


def around(first: float, second: float, centres: float) -> float:
    """The length of a string round both pulleys, by the support line of every direction: no formula of the one under
    test.
    """
    steps = 40_000
    return sum(max(first / 2, second / 2 + centres * cos(2 * pi * n / steps)) for n in range(steps)) * 2 * pi / steps


@given(st.floats(40, 200), st.floats(40, 200), st.floats(250, 900))
def test_the_belt_is_as_long_as_a_string_round_both(first: float, second: float, centres: float) -> None:
    found = belt(driver=f"{first:.6f} mm", driven=f"{second:.6f} mm", centres=f"{centres:.6f} mm")
    assert found.belt_length
    assert float(found.belt_length.mm) == pytest.approx(around(first, second, centres), rel=1e-5)


def test_a_belt_there_is_says_how_far_apart_the_shafts_go() -> None:
    length = belt(driven="160 mm", centres="420 mm").belt_length
    assert length
    found = belt(driven="160 mm", belt=str(length)).centres
    assert found
    assert float(found.mm) == pytest.approx(420, abs=1e-3)


def test_a_rim_that_runs_fast_is_asked_about_and_no_rating_is_claimed() -> None:
    notes = belt(driver="400 mm", driver_rpm=3000, driven="100 mm").notes
    assert "rule of thumb, no rating" in notes[0]
    rim = belt(driver="400 mm", driver_rpm=3000, driven="100 mm").rim_m_s  # by hand: π × 0.4 × 50
    assert float(rim) == pytest.approx(62.83, abs=0.01)


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({}, "driven_rpm"),
        ({"driven": "300 mm", "centres": "150 mm"}, "centres"),
        ({"driven": "300 mm", "belt": "500 mm"}, "belt"),
        ({"driven_rpm": 0}, "driven_rpm"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(given: dict[str, Any], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        belt(**given)
    assert refused.value.errors[0].field == field
