"""A bush as it is typed: what is left out is the usual, and what is misspelt is refused."""

import pytest
from pydantic import ValidationError

from nomisma.core.joints.bush_model import BushInput

GIVEN = {
    "housing": {"kind": "bore", "callout": "20 H7"}, "shaft": {"kind": "shaft", "callout": "12 f7"},
    "housing_outer": "40 mm",
    "length": "20 mm", "unit": "mm",
}  # fmt: skip


def test_a_bush_is_bronze_in_steel_unless_it_is_said() -> None:
    found = BushInput.model_validate(GIVEN)
    assert (found.bush_material, found.housing_material, found.aim) == ("bearing_bronze", "carbon_steel", "middle")


def test_a_misspelt_field_is_no_field() -> None:
    with pytest.raises(ValidationError, match="housing_outter"):
        BushInput.model_validate({**GIVEN, "housing_outter": "40 mm"})
