"""What a needle says, as it is typed."""

from decimal import Decimal

import pytest

from nomisma.core.errors import InputError, OutOfRange, UnreadableLength
from nomisma.core.quantity.length import Unit
from nomisma.core.truing.needle import needle_reading


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("0.004", "in", "0.1016"),
        ("-2 thou", "in", "-0.0508"),
        ("0,05", "mm", "0.05"),
        ("0.05 mm", "in", "0.05"),
        ("0", "mm", "0"),
    ],
)
def test_a_reading_is_in_the_indicators_unit_unless_it_names_one(text: str, unit: Unit, mm: str) -> None:
    assert needle_reading(text, unit).mm == Decimal(mm)


@pytest.mark.parametrize(("text", "meant"), [("4", "4 thou"), ("0.9", "0.9 mm")])
def test_a_reading_past_the_range_says_what_was_likely_meant(text: str, meant: str) -> None:
    with pytest.raises(OutOfRange) as found:
        needle_reading(text, "in", range_mm=Decimal("12.7"))
    assert meant in found.value.remedy


def test_a_word_is_refused_at_the_field_it_was_typed_in() -> None:
    with pytest.raises(UnreadableLength) as found:
        needle_reading("cheese", "mm", field="swing")
    assert found.value.field == "swing"


def test_without_a_range_no_swing_is_an_indicators_beyond_an_inch() -> None:
    with pytest.raises(InputError, match="past the indicator's range"):
        needle_reading("30", "mm")
