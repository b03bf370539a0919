"""The drills at hand: sizes, sizes by a step, sets by name."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.cutting.hole import HoleInput, hole
from nomisma.core.errors import InputError
from nomisma.core.quantity.drill_list import COMMON_SETS, drills_at_hand, usual_system
from nomisma.core.quantity.drills import drill_table
from nomisma.core.quantity.length import Unit


@pytest.mark.parametrize(
    ("text", "count", "first", "last"),
    [
        (COMMON_SETS[0], 121 + 24, "1 mm", "25 mm"),
        ("1/16 to 1 by 1/64 in", 61, "1/16 in", "1 in"),
        ("numbers", 80, "#80", "#1"),
        ("letters; 1/2 in", 27, "letter A", "1/2 in"),
        ("6 mm; 6 mm\n6 mm", 1, "6 mm", "6 mm"),
    ],
)
def test_a_list_is_read(text: str, count: int, first: str, last: str) -> None:
    found = drills_at_hand(text, "mm")
    assert (len(found), found[0][0], found[-1][0]) == (count, first, last)
    assert [mm for _, mm in found] == sorted(mm for _, mm in found)


@pytest.mark.parametrize("text", ["6 8", "cheese mm", "1 to 13 by 0 mm", "1 to 900 by 0.001 mm", "-3 mm"])
def test_what_is_no_list_is_refused_at_its_field(text: str) -> None:
    with pytest.raises(InputError) as raised:
        drills_at_hand(text, "mm")
    assert raised.value.field == "drills"


@pytest.mark.parametrize("unit", ["mm", "in"])
def test_nothing_said_is_every_drill_of_the_unit(unit: Unit) -> None:
    assert drills_at_hand("", unit) == drill_table(usual_system(unit))


@given(st.sampled_from(COMMON_SETS), st.decimals(Decimal(8), Decimal(24), places=2))
def test_the_drill_before_is_always_one_at_hand(text: str, finished: Decimal) -> None:
    sizes = {mm for _, mm in drills_at_hand(text, "mm")}
    found = hole(HoleInput(finished=f"{finished} mm", method="bore", at_hand=text, unit="mm"))
    assert {found.drill.size.mm, *(one.size.mm for one in found.stepped)} <= sizes
