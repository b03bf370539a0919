"""Standard uncertainties combined, against arithmetic and against the GUM's rules."""

from decimal import Decimal
from math import isclose, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.measuring.combination import DIVISORS, Distribution, combined, rectangular

PARTS = st.lists(st.decimals(min_value=0, max_value=1000, places=6), max_size=12)


@given(PARTS)
def test_squares_are_summed_and_shares_make_the_whole(parts: list[Decimal]) -> None:
    found = combined(parts)
    assert isclose(float(found.standard), sqrt(sum(float(part) ** 2 for part in parts)), rel_tol=1e-9, abs_tol=1e-12)
    assert sum(found.shares_percent) == pytest.approx(100 if any(parts) else 0)
    assert len(found.shares_percent) == len(parts)


@given(PARTS, st.decimals(min_value=0, max_value=1000, places=6))
def test_another_part_never_makes_it_smaller(parts: list[Decimal], more: Decimal) -> None:
    assert combined([*parts, more]).variance >= combined(parts).variance


# Source: JCGM 100:2008, 4.3.7: a rectangular distribution of half-width a has variance a²/3; 4.3.9: triangular a²/6.
SHAPES: list[tuple[Distribution, float]] = [
    ("normal", 1),
    ("rectangular", 1 / 3),
    ("triangular", 1 / 6),
    ("arcsine", 1 / 2),
]


@pytest.mark.parametrize(("shape", "variance"), SHAPES)
def test_a_divisor_is_the_root_of_what_its_variance_is_divided_by(shape: Distribution, variance: float) -> None:
    assert float(1 / DIVISORS[shape] ** 2) == pytest.approx(variance)


def test_half_a_resolution_as_a_rectangle_is_a_twelfths_root_of_it() -> None:
    assert float(rectangular(Decimal("0.001") / 2)) == pytest.approx(0.001 / sqrt(12))
