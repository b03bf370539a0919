"""A press of like on like: Lamé by hand, p = E·δ / (2·d) · (1 − (d/D)²)."""

from math import pi
from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.materials.material import material_named
from nomisma.core.registry import calculation_named


def pressed(**more: Any) -> dict[str, Any]:
    asked = {
        "interface_diameter": "40 mm",
        "hub_outer": "80 mm",
        "length": "50 mm",
        "interference_min": "0.02 mm",
        "interference_max": "0.04 mm",
        "unit": "mm",
        **more,
    }
    least: dict[str, Any] = calculation_named("interference").run(asked).model_dump(mode="json")["cases"][0]
    return least


def test_the_pressure_of_a_solid_shaft_in_a_hub_of_the_same_steel() -> None:
    by_hand = material_named("carbon_steel").e_mpa * 0.02 / (2 * 40) * (1 - (40 / 80) ** 2)
    assert pressed()["pressure_mpa"] == pytest.approx(by_hand)


def test_the_hoop_in_the_hub_is_the_pressure_by_its_ratio() -> None:
    found = pressed()
    assert found["hub_hoop_mpa"] / found["pressure_mpa"] == pytest.approx((80**2 + 40**2) / (80**2 - 40**2))
    assert found["shaft_hoop_mpa"] == pytest.approx(-found["pressure_mpa"])


def test_what_it_holds_is_pressure_times_area_times_friction_and_torque_that_at_its_radius() -> None:
    found = pressed()
    friction = found["axial_n"] / (found["pressure_mpa"] * pi * 40 * 50)
    assert 0.05 < friction < 0.3
    assert found["torque_nm"] == pytest.approx(found["axial_n"] * 20 / 1000)


def test_twice_the_interference_is_twice_the_pressure_while_it_is_elastic() -> None:
    assert pressed(interference_min="0.04 mm")["pressure_mpa"] == pytest.approx(2 * pressed()["pressure_mpa"])


def test_a_hub_no_larger_than_its_bore_is_refused() -> None:
    with pytest.raises(BadInput):
        pressed(hub_outer="40 mm")
