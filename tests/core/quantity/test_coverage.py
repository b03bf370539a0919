"""The coverage factor: Student's t, the normal distribution's quantile where the freedom is endless."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import OutOfRange
from nomisma.core.quantity.coverage import coverage_factor


@pytest.mark.parametrize(("freedom", "factor"), [(1, 12.71), (4, 2.78), (9, 2.26), (30, 2.04), (float("inf"), 1.96)])
def test_the_coverage_factor_is_students_t(freedom: float, factor: float) -> None:
    """Table G.2 of JCGM 100:2008 for 95 % (recalled; the values are those of any table of Student's t)."""
    assert float(coverage_factor(Decimal(95), freedom)) == pytest.approx(factor, abs=0.005)


@given(st.integers(1, 400), st.decimals("50", "99.9", places=1))
def test_more_freedom_needs_less_and_never_less_than_the_endless_one(freedom: int, confidence: Decimal) -> None:
    endless = coverage_factor(confidence)
    assert coverage_factor(confidence, freedom) >= coverage_factor(confidence, freedom + 1) >= endless


@pytest.mark.parametrize("confidence", ["49.9", "100", "-1"])
def test_a_confidence_nobody_can_promise_is_refused(confidence: str) -> None:
    with pytest.raises(OutOfRange, match="cannot be promised"):
        coverage_factor(Decimal(confidence))
