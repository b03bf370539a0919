"""Pins bound a bore: between the one that enters and the one that does not."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import OutOfRange
from nomisma.core.measuring.pins import PinBracketInput, pin_bracket
from nomisma.core.part.feature import State
from nomisma.core.quantity.length import Length


def bracket(go: str, no_go: str, **more: Any) -> Any:
    return pin_bracket(PinBracketInput(go=Length.of(go, "in"), no_go=Length.of(no_go, "in"), **more))


@given(st.decimals("0.1", "0.5", places=4), st.decimals("0.0005", "0.01", places=4), st.decimals("0", "0.0004", places=4))
def test_the_bracket_widens_by_the_pins_error(go: Decimal, step: Decimal, error: Decimal) -> None:
    found = bracket(str(go), str(go + step), pin_error=Length.of(str(error), "in"))
    assert found.least.mm == (go - error) * Decimal("25.4")
    assert found.greatest.mm == (go + step + error) * Decimal("25.4")


def test_pins_the_wrong_way_round_are_refused() -> None:
    with pytest.raises(OutOfRange):
        bracket("0.127", "0.125")


def test_pins_that_are_the_limits_accept_by_limit_gauges_and_not_when_guarded() -> None:
    limits = {"lower": Length.of("0.125", "in"), "upper": Length.of("0.127", "in"), "pin_error": Length.of("0.0001", "in")}
    assert bracket("0.125", "0.127", acceptance="limit_gauge", **limits).state is State.IN_LIMITS
    assert bracket("0.125", "0.127", **limits).state is State.TOO_CLOSE_TO_CALL
