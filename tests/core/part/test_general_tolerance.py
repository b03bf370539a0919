"""General tolerances: wider for larger sizes and coarser classes, and none where the standard has none."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import NotDefined
from nomisma.core.part.general_tolerance import INCH_BY_DECIMALS, general_tolerance, iso_2768_mm
from nomisma.core.quantity.length import Length

sizes = st.decimals("0.5", "2000", places=2)


@given(sizes, sizes, st.sampled_from("mc"))
def test_a_larger_size_is_never_held_tighter(one: Decimal, other: Decimal, tolerance_class: str) -> None:
    small, large = sorted((one, other))
    assert iso_2768_mm(small, tolerance_class) <= iso_2768_mm(large, tolerance_class)


@given(st.decimals("3.01", "2000", places=2))
def test_classes_go_from_fine_to_very_coarse(size: Decimal) -> None:
    found = [iso_2768_mm(size, one) for one in "fmcv"]
    assert found == sorted(found)
    assert len(set(found)) == len(found)


@pytest.mark.parametrize(("size", "tolerance_class"), [("0.4", "m"), ("4001", "m"), ("2500", "f"), ("2", "v")])
def test_where_the_standard_has_none_it_says_so(size: str, tolerance_class: str) -> None:
    with pytest.raises(NotDefined, match="gives no general tolerance"):
        iso_2768_mm(Decimal(size), tolerance_class)


def test_an_inch_size_is_held_by_its_decimals_alone() -> None:
    for decimals, wanted in INCH_BY_DECIMALS.items():
        size = Length.of(f"1.{'5' * decimals}", "in", decimals=decimals)
        assert general_tolerance(size, "inch_decimals")[0] == wanted * Decimal("25.4")
