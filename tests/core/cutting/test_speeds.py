"""Spindle speed by v / (π D), what a machine has of it, and the roughness f² / (8 r)."""

from math import pi
from typing import Any

import pytest

from nomisma.core.cutting.speeds import cutting_speed_of, cutting_speeds, machine_speed
from nomisma.core.errors import NotDefined
from nomisma.core.registry import calculation_named


def spun(**more: Any) -> dict[str, Any]:
    asked = {
        "diameter": "1.5 in",
        "material": "mild_steel",
        "tool": "hss",
        "speeds": "45 75 130 210 360 600 1000",
        **more,
    }
    return calculation_named("speeds").run(asked).model_dump(mode="json")


def test_the_speed_wanted_is_surface_speed_over_the_circumference() -> None:
    found = spun()
    assert found["wanted_rpm"] == pytest.approx(cutting_speeds()["mild_steel"].hss_m_min / (pi * 0.0381))
    assert found["rpm"] == 210


def test_the_peak_to_valley_is_feed_squared_over_eight_nose_radii() -> None:
    found = spun(feed="0.1 mm", nose_radius="0.8 mm")
    assert found["rt_um"] == pytest.approx(0.1**2 / (8 * 0.8) * 1000)


def test_a_larger_diameter_never_turns_faster() -> None:
    turned = [spun(diameter=f"{inches} in")["rpm"] for inches in (0.5, 1, 2, 4, 8)]
    assert turned == sorted(turned, reverse=True)


def test_below_its_slowest_a_machine_runs_at_its_slowest() -> None:
    assert machine_speed(20, "45 75 130") == 45


def test_a_material_that_is_not_in_the_table_is_named() -> None:
    with pytest.raises(NotDefined, match="cheese"):
        cutting_speed_of("cheese")
