"""How lengths are shown."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.quantity.display import decimals_of, nearest_fraction, show, show_exact, show_small


@pytest.mark.parametrize(
    ("resolution_mm", "inch", "metric"), [("0.00254", 4, 3), ("0.0254", 3, 2), ("0.001", 5, 3), ("0.01", 4, 2)]
)
def test_decimals_follow_the_instrument(resolution_mm: str, inch: int, metric: int) -> None:
    assert (decimals_of(Decimal(resolution_mm), "in"), decimals_of(Decimal(resolution_mm), "mm")) == (inch, metric)


def test_a_negative_size_has_a_true_minus() -> None:
    assert show(Decimal("-0.0254"), "in") == "−0.0010 in"


def test_an_exact_size_shows_the_decimals_it_needs() -> None:
    assert show_exact(Decimal("24.9875"), "mm") == "24.9875 mm"


def test_a_metric_size_in_inches_stops_one_decimal_past_the_working_ones() -> None:
    assert show_exact(Decimal("25.007"), "in") == "0.98453 in"


def test_small_lengths_are_thou_or_micrometres() -> None:
    assert (show_small(Decimal("0.0127"), "in"), show_small(Decimal("0.0127"), "mm")) == ("0.50 thou", "12.7 µm")


def test_plus_is_written_where_a_sign_matters() -> None:
    assert show_small(Decimal("0.0127"), "mm", signed=True) == "+12.7 µm"


@given(st.integers(1, 64 * 12))
def test_a_64th_is_its_own_nearest_fraction(parts: int) -> None:
    _, off = nearest_fraction(Decimal(parts) * Decimal("25.4") / 64)
    assert off == 0


@given(st.decimals("0.5", "300", places=3))
def test_the_nearest_64th_is_never_further_than_half_of_one(size_mm: Decimal) -> None:
    _, off = nearest_fraction(size_mm)
    assert abs(off) <= Decimal("25.4") / 128
