"""Whether an instrument is fine enough for the limits it is to call."""

from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.measuring.suited import is_finer, is_too_coarse
from nomisma.core.part.feature import Feature, State

MM = st.decimals("0.001", "0.1", places=3)


@given(MM, MM)
def test_too_coarse_is_where_no_size_at_all_could_be_called_in_limits(uncertainty: Decimal, tolerance: Decimal) -> None:
    low = Decimal(25)
    shaft = Feature("shaft", low, low + tolerance)
    could = shaft.judge(low + tolerance / 2, uncertainty) is State.IN_LIMITS
    assert could != is_too_coarse(uncertainty, tolerance)


@given(MM, MM)
def test_of_two_at_most_one_is_finer_and_none_than_itself(one: Decimal, other: Decimal) -> None:
    assert not (is_finer(one, other) and is_finer(other, one))
    assert not is_finer(one, one)
