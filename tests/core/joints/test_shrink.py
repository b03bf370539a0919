"""Heating a hub open: the opening over diameter and expansion, by hand."""

from typing import Any

import pytest

from nomisma.core.materials.material import material_named
from nomisma.core.registry import calculation_named


def heated(**more: Any) -> dict[str, Any]:
    asked = {
        "interface_diameter": "40 mm",
        "hub_outer": "80 mm",
        "length": "50 mm",
        "interference_max": "0.060 mm",
        "unit": "mm",
        **more,
    }
    return calculation_named("shrink").run(asked).model_dump(mode="json")


def hub_c(found: dict[str, Any]) -> float:
    return float(next(one["hub_c"] for one in found["methods"] if one["method"] == "heat_hub"))


def test_the_opening_is_the_interference_and_the_clearance_wanted() -> None:
    assert heated(allowance="0.04 mm")["opening"] == "0.1 mm"


def test_the_hub_is_heated_by_the_opening_over_diameter_and_expansion() -> None:
    by_hand = 20 + 0.1 / (40 * material_named("carbon_steel").alpha_per_k)
    assert hub_c(heated(allowance="0.04 mm")) == pytest.approx(by_hand)


def test_aluminium_is_heated_less_than_steel_for_the_same_opening() -> None:
    assert hub_c(heated(hub_material="aluminium_6061", allowance="0.04 mm")) < hub_c(heated(allowance="0.04 mm"))
