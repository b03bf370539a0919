"""Check sequences and figures of the trade: common practice, no source."""

from decimal import Decimal

import pytest

from nomisma.core.cutting.amount import AmountInput, AmountResult, amount_to_take
from nomisma.core.fits.functions import function_named
from nomisma.core.fits.shop_rules import shop_rules
from nomisma.core.quantity.length import in_unit
from nomisma.core.quantity.writing import parse_length


def take(measured: str, wanted: str, **dial: str) -> AmountResult:
    return amount_to_take(AmountInput.model_validate({"measured": measured, "wanted": wanted, **dial}))


def test_measured_1_229_want_1_125_leaves_0_104_to_take() -> None:
    assert str(take("1.229 in", "1.125 in").on_diameter) == "0.104 in"


def test_1_43_mm_on_a_dial_of_0_05_is_28_6_lines_take_28_never_29() -> None:
    result = take("29.43 mm", "28.00 mm", dial_line="0.05 mm")
    assert (result.dial_lines, result.whole_lines, str(result.left_after)) == (Decimal("28.6"), 28, "0.03 mm")


def test_one_thimble_turn_is_the_difference_of_29_43_and_28_93() -> None:
    assert parse_length("29.43 mm").mm - parse_length("28.93 mm").mm == Decimal("0.5")


def test_an_eighth_of_an_inch_pin_check_size_is_exact() -> None:
    assert parse_length("1.1250 in").mm == Decimal("28.5750")


@pytest.mark.parametrize(
    ("function", "diameter_in", "least_in", "most_in"),
    [
        ("slides_by_hand", "0.875", "0.0005", "0.0010"),
        ("turns_freely", "1", "0.0015", "0.0030"),
        ("pressed_for_good", "1", "-0.00125", "-0.00075"),
        ("locates_and_comes_apart", "11", "0.0010", "0.0020"),
    ],
)
def test_the_shop_rules_say_what_the_trade_says(function: str, diameter_in: str, least_in: str, most_in: str) -> None:
    least, most = shop_rules()[function_named(function).rules[0]].window_mm(Decimal(diameter_in) * Decimal("25.4"))
    assert (in_unit(least, "in"), in_unit(most, "in")) == (Decimal(least_in), Decimal(most_in))


def test_the_slip_rule_carried_to_11_in_meets_the_register_rule() -> None:
    """Two independent figures of the trade agree through the cube root: about 0.002 in on 11 in."""
    _, most = shop_rules()["slip"].window_mm(Decimal("279.4"))
    assert float(in_unit(most, "in")) == pytest.approx(0.002, rel=0.2)
