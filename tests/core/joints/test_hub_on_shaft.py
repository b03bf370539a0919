"""A hub on a shaft as it is typed: its cylinders, and the unit it is answered in."""

import pytest

from nomisma.core.errors import NotDefined, OutOfRange
from nomisma.core.joints.hub_on_shaft import HubOnShaft

GIVEN = {"interface_diameter": "1 in", "hub_outer": "2 in", "length": "1.5 in"}


def test_it_becomes_cylinders_in_millimetres() -> None:
    found = HubOnShaft.model_validate(GIVEN).cylinders
    assert (found.bore_mm, found.interface_mm, found.outer_mm) == (0, 25.4, 50.8)


def test_it_is_answered_in_the_unit_its_diameter_was_written_in_unless_another_is_asked_for() -> None:
    assert HubOnShaft.model_validate(GIVEN).shown_unit == "in"
    assert HubOnShaft.model_validate({**GIVEN, "unit": "mm"}).shown_unit == "mm"


@pytest.mark.parametrize(
    ("wrong", "error", "field"),
    [({"hub_outer": "1 in"}, OutOfRange, "hub_outer"), ({"hub_material": "cheese"}, NotDefined, "hub_material")],
)
def test_what_cannot_be_is_told_at_its_field(wrong: dict[str, str], error: type[OutOfRange], field: str) -> None:
    with pytest.raises(error) as refused:
        _ = HubOnShaft.model_validate({**GIVEN, **wrong}).cylinders
    assert refused.value.field == field
