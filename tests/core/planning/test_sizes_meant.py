"""Whether sizes can be meant as they are written: held against what the shop's lathes take, and against the
job's unit.
"""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines
from nomisma.core.planning.sizes_meant import Largest, SizesDoubted, doubted, largest_of
from nomisma.core.planning.which_lathe import MachineRoom
from nomisma.core.quantity.length import Unit

SHOP = Largest(across_mm=Decimal(330), long_mm=Decimal(900))


def asked(lines: str, unit: Unit, largest: Largest = SHOP) -> SizesDoubted | None:
    return doubted(feature_lines(FeatureLinesInput(text=lines, unit=unit)).features, unit, largest)


@pytest.mark.parametrize(
    ("lines", "unit", "meant_in", "says"),
    [
        ("od 30 x 160", "in", "mm", "A is 30 in across, and the largest lathe here takes 13.0 in"),
        ("length 160", "in", "mm", "160"),
        ("od 400", "mm", None, "A is 400 mm across"),
        ("od 350\nbore .5", "in", None, "across"),
        ("od 1.250 ±.005\nbore 12 mm", "in", None, "in millimetres is B (12 mm). Is that meant so?"),
        ("od 30 ±0.1\nbore .500 in ±.002", "mm", None, "in inches is B (0.5 in)"),
    ],
)
def test_what_can_hardly_be_meant_is_asked_about(lines: str, unit: Unit, meant_in: Unit | None, says: str) -> None:
    found = asked(lines, unit)
    assert found is not None
    assert found.meant_in == meant_in
    assert says in found.sentence


@pytest.mark.parametrize(
    ("lines", "unit"),
    [
        ("od 1.250 ±.005 x 3.625", "in"),
        ("od 30 h7 x 160", "mm"),
        ("od 30 mm ±0.1\nlength 40 mm", "in"),
        ("bore 25 H7\nod 1.5 ±.005", "in"),
    ],
)
def test_what_can_be_meant_is_not(lines: str, unit: Unit) -> None:
    assert asked(lines, unit) is None


def test_nothing_is_too_large_for_a_shop_that_did_not_say() -> None:
    lathes = [MachineRoom(name="a", room_mm={"swing_over_bed": Decimal(180)}), MachineRoom(name="b", room_mm={})]
    assert largest_of(lathes) == Largest()
    assert asked("od 5000", "mm", largest_of(lathes)) is None


@given(st.decimals("1", "3000", places=2), st.sampled_from(["in", "mm"]))
def test_the_other_unit_is_offered_only_where_it_fits(size: Decimal, unit: Unit) -> None:
    text = f"od {size}"
    if size * (Decimal("25.4") if unit == "in" else 1) > 10_000:
        return
    found = asked(text, unit)
    if found and found.meant_in:
        assert unit == "in"
        assert asked(text, found.meant_in) is None
    if found is None:
        assert size * (Decimal("25.4") if unit == "in" else 1) <= 330
