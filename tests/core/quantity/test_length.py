"""Lengths that were computed as floats."""

from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.quantity.length import Length, as_mm


@given(st.floats(-1e4, 1e4))
def test_a_float_is_kept_to_a_tenth_of_a_nanometre(mm: float) -> None:
    assert abs(as_mm(mm) - Decimal(mm)) <= Decimal("0.5e-7")
    assert Length.from_mm(mm, "in").mm == as_mm(mm)


def test_what_is_nothing_has_no_sign_and_no_zeros_are_written() -> None:
    assert (str(as_mm(-1e-9)), str(as_mm(2.5))) == ("0", "2.5")
