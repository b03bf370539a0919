"""Limits are said in the unit asked for, whether there are two, one or none."""

from decimal import Decimal

import pytest

from nomisma.core.part.feature import Feature
from nomisma.core.part.limits_words import limits_words
from nomisma.core.quantity.length import Unit


@pytest.mark.parametrize(
    ("lower", "upper", "unit", "words"),
    [
        ("25.4", "25.6032", "in", "1.0000 in to 1.0080 in"), ("25.4", "25.6032", "mm", "25.400 mm to 25.6032 mm"),
        (None, "0.0508", "in", "at most 0.0020 in"), ("6", None, "mm", "at least 6.000 mm"),
        (None, None, "mm", "for reference: not judged"),
    ],
)  # fmt: skip
def test_limits_in_words(lower: str | None, upper: str | None, unit: Unit, words: str) -> None:
    ends = [Decimal(one) if one else None for one in (lower, upper)]
    assert limits_words(Feature("length", *ends), unit) == words
