"""Zones of ISO 286: how classes lie to the nominal, whatever the size."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.fits.iso286 import zone

SIZES = st.decimals("1", "500", places=2)


@given(SIZES, st.integers(5, 11))
def test_an_h_hole_begins_at_its_nominal_and_an_h_shaft_ends_there(size: Decimal, grade: int) -> None:
    hole, shaft = zone(f"H{grade}", size), zone(f"h{grade}", size)
    assert (hole.lower_um, shaft.upper_um) == (0, 0)
    assert hole.upper_um == -shaft.lower_um == hole.tolerance_um


@given(SIZES)
def test_from_d_to_h_shafts_come_nearer_to_the_nominal(size: Decimal) -> None:
    uppers = [zone(f"{letter}7", size).upper_um for letter in "defgh"]
    assert uppers == sorted(uppers)


@given(SIZES)
def test_a_coarser_grade_is_wider(size: Decimal) -> None:
    widths = [zone(f"h{grade}", size).tolerance_um for grade in range(5, 12)]
    assert widths == sorted(set(widths))


@given(SIZES, st.sampled_from("DEFG"), st.integers(6, 9))
def test_clearance_holes_mirror_their_shafts(size: Decimal, letter: str, grade: int) -> None:
    assert zone(f"{letter}{grade}", size).lower_um == -zone(f"{letter.lower()}{grade}", size).upper_um


@pytest.mark.parametrize("code", ["H", "7", "H99", "zz", "i7", "H7g6", "轴7"])
def test_what_is_no_class_is_refused(code: str) -> None:
    with pytest.raises(InputError):
        zone(code, Decimal(25))
