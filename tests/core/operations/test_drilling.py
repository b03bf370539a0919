"""Which drills open a planned hole."""

from decimal import Decimal

import pytest

from nomisma.core.cutting.hole import OVERSIZE
from nomisma.core.operations.drilling import drills_before
from nomisma.core.quantity.length import Unit


@pytest.mark.parametrize(
    ("finished", "unit"), [("12.009", "mm"), ("19.0105", "mm"), ("32", "mm"), ("6.3754", "in"), ("3", "mm")]
)
def test_the_last_drill_leaves_metal_even_where_it_cuts_over(finished: str, unit: Unit) -> None:
    drills = drills_before(Decimal(finished), unit)
    assert [one.size.mm for one in drills] == sorted(one.size.mm for one in drills)
    assert drills[-1].size.mm + OVERSIZE[1].mm < Decimal(finished)


def test_a_large_hole_is_drilled_in_steps() -> None:
    assert len(drills_before(Decimal(25), "mm")) == 2
    assert [one.name for one in drills_before(Decimal(40), "mm")][-1] == "25 mm"
    assert len(drills_before(Decimal(10), "mm")) == 1


def test_a_hole_larger_than_any_drill_is_bored_on_from_the_largest() -> None:
    """Common practice: a shop's drills end at an inch."""
    assert drills_before(Decimal(90), "mm")[-1].size.mm == 25
    assert drills_before(Decimal(90), "in")[-1].name == "1 in"
