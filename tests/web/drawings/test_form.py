"""The form of a feature is drawn as what it is: a solid outside, or two walls around a hollow."""

import pytest

from nomisma.core.measuring.form import FormResult
from nomisma.core.registry import calculation_named
from nomisma.web.drawings.form import form_picture


@pytest.mark.parametrize(
    ("kind", "bodies"), [("shaft", 1), ("outside_diameter", 1), ("groove_floor_diameter", 1), ("bore", 2)]
)
def test_an_outside_is_one_body_and_a_bore_has_two_walls(kind: str, bodies: int) -> None:
    ends = [{"place": "near end", "size": "25.02 mm"}, {"place": "far end", "size": "25.00 mm"}]
    found = calculation_named("form").run({"kind": kind, "readings": ends})
    assert isinstance(found, FormResult)
    assert str(form_picture(found, "mm")).count('class="cut"') == bodies
