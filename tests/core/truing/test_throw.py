"""An offset on purpose: the needle swings twice the throw, and a three-jaw is packed by geometry."""

from math import cos, radians, sin
from typing import Any

import pytest

from nomisma.core.registry import calculation_named


def thrown(**more: Any) -> dict[str, Any]:
    asked = {"throw": "4 mm", "diameter": "40 mm", "range": "10 mm", "unit": "mm", **more}
    return calculation_named("throw").run(asked).model_dump(mode="json")


def mm(text: str) -> float:
    return float(text.removesuffix(" mm"))


def test_the_needle_swings_twice_the_throw() -> None:
    assert mm(thrown()["total_indicator_reading"]) == 8


def test_the_work_touches_the_packed_jaw_and_the_two_that_stand_at_one_radius() -> None:
    """With the work's centre 4 mm from the axis, away from the packed jaw: where its circle crosses the lines of the
    jaws.
    """
    radius, throw = 20.0, 4.0
    at_packed = radius - throw
    at_others = -throw * cos(radians(120)) + (radius**2 - (throw * sin(radians(120))) ** 2) ** 0.5
    assert mm(thrown()["packing"]) == pytest.approx(at_others - at_packed, abs=1e-6)


def test_past_the_range_of_the_needle_it_says_so() -> None:
    assert thrown()["in_range"] is True
    assert thrown(throw="6 mm")["in_range"] is False
