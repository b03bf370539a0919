"""The lead of a press: long enough that the edges meet without shaving."""

from decimal import Decimal
from math import radians, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.joints.press_lead import LEAD_DEG, lead_step, press_lead


@pytest.mark.parametrize(("diameter", "lead"), [("8", "2 mm"), ("27", "3 mm"), ("64", "4 mm"), ("125", "5 mm")])
def test_it_is_the_cube_root_of_the_diameter(diameter: str, lead: str) -> None:
    assert str(press_lead(Decimal(diameter), "mm")) == lead


@given(st.decimals("3", "500", places=1))
def test_its_thin_end_always_enters_a_press_of_two_thousandths(diameter: Decimal) -> None:
    """What 5° drops over the lead, on diameter, is more than any press fit up to 500 mm is tight."""
    drop = 2 * float(press_lead(diameter, "mm").mm) * tan(radians(LEAD_DEG))
    assert drop > 0.002 * float(diameter)


def test_its_working_names_the_standard() -> None:
    assert "DIN 7190-1" in lead_step(Decimal(25), "mm").source
