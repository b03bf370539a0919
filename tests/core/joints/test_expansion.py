"""Clearance over temperature: by hand, D × (difference of α) × ΔT."""

from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.materials.material import material_named
from nomisma.core.registry import calculation_named


def expanded(**more: Any) -> dict[str, Any]:
    asked = {"diameter": "25 mm", "clearance_min": "7 um", "clearance_max": "41 um", "from_c": -10, "to_c": 60, **more}
    return calculation_named("expansion").run(asked).model_dump(mode="json")


def mm(text: str) -> Decimal:
    return Decimal(text.removesuffix(" mm"))


def test_like_on_like_keeps_its_clearance_at_any_temperature() -> None:
    found = expanded(outer_material="carbon_steel", inner_material="carbon_steel")
    assert (mm(found["cold_min"]), mm(found["hot_max"])) == (Decimal("0.007"), Decimal("0.041"))


@pytest.mark.parametrize(("outer", "inner"), [("aluminium_6061", "carbon_steel"), ("carbon_steel", "aluminium_6061")])
def test_the_change_is_diameter_times_the_difference_of_expansion_times_kelvin(outer: str, inner: str) -> None:
    found = expanded(outer_material=outer, inner_material=inner)
    per_k = 25 * (material_named(outer).alpha_per_k - material_named(inner).alpha_per_k)
    assert float(mm(found["cold_min"])) == pytest.approx(0.007 - per_k * 30, abs=1e-9)
    assert float(mm(found["hot_min"])) == pytest.approx(0.007 + per_k * 40, abs=1e-9)


def test_where_it_binds_is_where_the_least_clearance_is_nothing() -> None:
    found = expanded(outer_material="aluminium_6061", inner_material="carbon_steel")
    per_k = 25 * (material_named("aluminium_6061").alpha_per_k - material_named("carbon_steel").alpha_per_k)
    assert found["binds_at_c"] == pytest.approx(20 - 0.007 / per_k)
