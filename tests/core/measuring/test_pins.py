"""Pins bound a bore: between the one that enters and the one that does not."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import OutOfRange
from nomisma.core.measuring.pins import PinBracketInput, pin_bracket
from nomisma.core.part.feature import Feature, State
from nomisma.core.quantity.length import Length


def bracket(go: str, no_go: str, **more: Any) -> Any:
    return pin_bracket(PinBracketInput(go=Length.of(go, "in"), no_go=Length.of(no_go, "in"), **more))


@given(
    st.decimals("0.1", "0.5", places=4), st.decimals("0.0005", "0.01", places=4), st.decimals("0", "0.0004", places=4)
)
def test_the_bracket_widens_by_the_pins_error(go: Decimal, step: Decimal, error: Decimal) -> None:
    found = bracket(str(go), str(go + step), pin_error=Length.of(str(error), "in"))
    assert found.least.mm == (go - error) * Decimal("25.4")
    assert found.greatest.mm == (go + step + error) * Decimal("25.4")


def test_pins_the_wrong_way_round_are_refused() -> None:
    with pytest.raises(OutOfRange):
        bracket("0.127", "0.125")


def test_pins_that_are_the_limits_accept_with_the_doubt_said_beside_it() -> None:
    limits = {
        "lower": Length.of("0.125", "in"),
        "upper": Length.of("0.127", "in"),
        "pin_error": Length.of("0.0001", "in"),
    }
    found = bracket("0.125", "0.127", **limits)
    assert found.state is State.IN_LIMITS
    assert "By limit gauges in limits; what the pins are off, ±0.0001 in, is the doubt." in found.sentence
    assert "doubt" not in bracket("0.125", "0.127", acceptance="limit_gauge", **limits).sentence
    assert bracket("0.1249", "0.127", **limits).state is State.TOO_CLOSE_TO_CALL


THOUSANDTH = Decimal("0.0254")


@given(st.integers(120, 132), st.integers(1, 12), st.sampled_from(["guarded", "simple", "limit_gauge"]))
def test_pins_judge_a_bore_by_what_entered_and_what_did_not(go: int, step: int, acceptance: Any) -> None:
    """In limits where the pin that entered is at least the lower limit and the other at most the upper: nothing else
    decides.
    """
    low, high = Decimal(go) * THOUSANDTH, Decimal(go + step) * THOUSANDTH
    bore = Feature("bore", 125 * THOUSANDTH, 127 * THOUSANDTH)
    half = (high - low) / 2
    state = bore.judge(low + half, half + Decimal("0.003"), acceptance, half_bracket_mm=half)
    assert (state is State.IN_LIMITS) == (go >= 125 and go + step <= 127)
    assert (state is State.METAL_TO_GO) == (go + step <= 125)
    assert (state is State.GONE_TOO_FAR) == (go >= 127)
