"""Feels by clearance and diameter: in order, without gaps, looser with more clearance."""

from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.joints.feel import feel_of, feels

ORDER = [one.name for one in feels()]


def test_the_ends_of_the_feels_rise_at_every_diameter() -> None:
    for diameter in (Decimal(6), Decimal(25), Decimal(200)):
        ends = [one.up_to_mm(diameter) for one in feels()]
        assert ends[-1] is None
        bounded = [end for end in ends if end is not None]
        assert bounded == sorted(bounded)


@given(st.decimals("-0.2", "1", places=4), st.decimals("0", "0.5", places=4), st.integers(2, 300))
def test_more_clearance_never_feels_tighter(clearance: Decimal, more: Decimal, diameter: int) -> None:
    first, second = (ORDER.index(feel_of(mm, Decimal(diameter)).name) for mm in (clearance, clearance + more))
    assert second >= first


def test_interference_is_a_press_whatever_the_size() -> None:
    assert {feel_of(Decimal("-0.05"), Decimal(diameter)).name for diameter in (5, 50, 500)} == {"press"}
