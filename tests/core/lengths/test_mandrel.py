"""A tapered mandrel: where a bore sits on it."""

from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.mandrel import MandrelResult
from nomisma.core.registry import calculation_named

GIVEN = {
    "small_end": "0.9990 in",
    "length": "6 in",
    "bore_lower": "1.0000 in",
    "bore_upper": "1.0008 in",
    "bore_length": "1.5 in",
    "unit": "in",
}


def on(**given: Any) -> MandrelResult:
    found = calculation_named("mandrel").run({**GIVEN, **given})
    assert isinstance(found, MandrelResult)
    return found


def test_a_thou_of_bore_is_two_inches_of_mandrel() -> None:
    found = on()
    assert (str(found.rests_least), str(found.rests_most), str(found.loose_behind)) == ("2 in", "3.6 in", "0.00075 in")


def test_a_grip_of_two_tenths_is_pressed_four_tenths_of_an_inch() -> None:
    assert str(on(grip="0.0002 in").press) == "0.4 in"


def test_a_bore_that_hangs_over_the_small_end_is_told() -> None:
    assert "hangs over the small end" in on(bore_lower="0.9993 in", bore_upper="0.9994 in").sentence


@pytest.mark.parametrize(
    ("given", "field"),
    [({"small_end": "1.001 in"}, "small_end"), ({"length": "3 in"}, "length"),
        ({"bore_upper": "0.99 in"}, "bore_upper"),
     ({"grip": "-0.001 in"}, "grip"), ({"taper": "none"}, "taper")],
)  # fmt: skip
def test_what_does_not_go_on_is_told_at_its_field(given: dict[str, str], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        on(**given)
    assert refused.value.errors[0].field == field
