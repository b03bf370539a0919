"""Angles as they are written and read off."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.quantity.angle import parse_angle_deg, show_angle


@pytest.mark.parametrize(
    ("text", "degrees"),
    [
        ("8.25", "8.25"),
        ("8.25°", "8.25"),
        ("8 deg", "8"),
        ("16°35'40\"", "16.59444444"),
        ("16° 30'", "16.5"),
        ("1d 30m 0s", "1.5"),
        ("60°0′0″", "60"),
    ],
)
def test_an_angle_is_read_as_it_is_written(text: str, degrees: str) -> None:
    assert parse_angle_deg(text) == Decimal(degrees)


@pytest.mark.parametrize("text", ["", "square", "0", "-5", "181", "10°90'", "1e9"])
def test_what_is_no_angle_is_refused(text: str) -> None:
    with pytest.raises(InputError):
        parse_angle_deg(text)


@given(st.integers(1, 179 * 3600))
def test_what_is_shown_in_minutes_and_seconds_is_read_back(seconds: int) -> None:
    shown = show_angle(seconds / 3600).split("(")[1].rstrip(")")
    assert float(parse_angle_deg(shown)) == pytest.approx(seconds / 3600, abs=1e-6)
