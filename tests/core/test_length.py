"""Lengths are exact, both ways."""

from collections.abc import Callable
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import OutOfRange
from nomisma.core.quantity.display import show, show_exact, show_in_small_unit, show_small
from nomisma.core.quantity.length import Length, Unit, in_unit, round_to

tenths = st.integers(min_value=1, max_value=3_900_000).map(lambda n: Decimal(n) / 10_000)


def test_an_inch_size_is_exact_in_millimetres() -> None:
    assert Length.of("1.1250", "in").mm == Decimal("28.575")


@given(tenths)
def test_inch_to_metric_and_back_changes_nothing(size_in: Decimal) -> None:
    assert Length.of(size_in, "in").value("in") == size_in


@given(tenths, tenths)
def test_sums_of_inch_sizes_stay_exact(first: Decimal, second: Decimal) -> None:
    total_mm = Length.of(first, "in").mm + Length.of(second, "in").mm
    assert in_unit(total_mm, "in") == first + second


def test_a_length_is_written_without_an_exponent() -> None:
    assert str(Length.of("100.000", "mm")) == "100 mm"


def test_zero_is_written_plainly() -> None:
    assert str(Length.of("0.0000", "in")) == "0 in"


@pytest.mark.parametrize("value", ["NaN", "Infinity", "1e30", "10000.001"])
def test_what_no_lathe_can_hold_is_refused(value: str) -> None:
    with pytest.raises(OutOfRange, match="check the unit and the decimal point"):
        Length.of(value, "mm")


@pytest.mark.parametrize(("direction", "expected"), [("up", "0.876"), ("down", "0.875"), ("nearest", "0.876")])
def test_rounding_goes_the_way_it_is_told(direction: str, expected: str) -> None:
    assert round_to(Decimal("0.87551"), 3, direction) == Decimal(expected)


@pytest.mark.parametrize("exponent", [-40, -9, 0, 9, 27, 40])
@pytest.mark.parametrize("sign", ["", "-"])
def test_a_zero_is_a_length_whatever_its_exponent(exponent: int, sign: str) -> None:
    zero = Length(Decimal(f"{sign}0e{exponent}"), "in")
    assert str(zero) == "0 in"
    assert zero.value("mm") == 0


@pytest.mark.parametrize("unit", ["in", "mm"])
@pytest.mark.parametrize("show", [show_exact, show_small, show_in_small_unit, show])
def test_every_quantity_shows_its_zero(unit: Unit, show: Callable[..., str]) -> None:
    assert float(show(Decimal("0e27"), unit).split()[0]) == 0
