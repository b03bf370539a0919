"""Numbers as they are typed: ASCII, finite, of a magnitude some shop knows, and never with a comma that may be either
mark.
"""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import AmbiguousLength, InputError, OutOfRange
from nomisma.core.number import LARGEST_NUMBER, is_whole, number_from, sane, sane_exponent, whole_from


@pytest.mark.parametrize(
    ("typed", "value"), [("60", "60"), (" 2.5 ", "2.5"), ("2,5", "2.5"), ("-3", "-3"), ("−3", "-3"), (".5", "0.5"),
        ("0,125", "0.125"),
     ("1e3", "1E+3"), ("0", "0")]
)  # fmt: skip
def test_a_number_is_read_with_a_point_or_a_comma(typed: str, value: str) -> None:
    assert number_from(typed) == Decimal(value)


@pytest.mark.parametrize("typed", ["1,125", "20,000", "-1,000"])
def test_a_comma_before_three_digits_is_asked_about(typed: str) -> None:
    with pytest.raises(AmbiguousLength, match="could be"):
        number_from(typed)


@pytest.mark.parametrize(
    "typed", ["", "cheese", "²", "١٢", "１２", "1_000", "1 000", "0x1F", "--1", "1.2.3", "nan", "inf", "9" * 60]
)
def test_what_is_no_number_has_its_sentence(typed: str) -> None:
    with pytest.raises(InputError, match="is not a number"):
        number_from(typed)


@pytest.mark.parametrize("typed", ["1e999", "1e10", "-1e10", "1e-999"])
def test_a_magnitude_no_shop_knows_is_out_of_range(typed: str) -> None:
    with pytest.raises(OutOfRange, match="is no number of a shop"):
        number_from(typed)


def test_ends_are_kept_and_said() -> None:
    assert number_from("10", least=10, most=20) == 10
    for typed, least, most, said in (
        ("9", 10, 20, "Give 10 to 20"),
        ("21", None, 20, "Give at most 20"),
        ("9", 10, None, "Give at least 10"),
    ):
        with pytest.raises(OutOfRange, match=said) as refused:
            number_from(typed, least=least, most=most, field="rpm")
        assert refused.value.field == "rpm"


@pytest.mark.parametrize(
    ("typed", "whole"),
    [("0", True), ("12", True), ("-1", False), ("1.0", False), ("²", False), ("", False), ("1" * 13, False)],
)
def test_a_whole_number_is_ascii_digits(typed: str, whole: bool) -> None:
    assert is_whole(typed) is whole
    if not whole:
        with pytest.raises(InputError, match="is not a whole number"):
            whole_from(typed)


@given(
    st.decimals(allow_nan=False, allow_infinity=False, min_value=-LARGEST_NUMBER, max_value=LARGEST_NUMBER, places=6)
)
def test_what_a_shop_knows_passes_as_it_is(value: Decimal) -> None:
    assert sane(value) == value
    assert sane_exponent(value) == value
    assert number_from(f"{value:f}") == value


@pytest.mark.parametrize("value", ["NaN", "Infinity", "1E+61", "1E-999"])
def test_a_computed_value_without_end_is_refused(value: str) -> None:
    with pytest.raises(OutOfRange):
        sane_exponent(Decimal(value))
