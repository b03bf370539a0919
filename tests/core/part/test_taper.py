"""A taper as a shop writes it, and the change of diameter over a length of it."""

import math
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.part.taper import taper_over, taper_rate
from nomisma.core.quantity.writing import parse_length


@pytest.mark.parametrize(
    ("text", "rate"),
    [("1:20", "0.05"), ("1 : 50", "0.02"), (".600 per foot", "0.05"), ("5/8 per foot", "0.0520833"),
        (".05 per inch", "0.05"),
     ("0.05 mm per mm", "0.05"), ("5 %", "0.05"), ("5,0%", "0.05")],
)  # fmt: skip
def test_ways_to_write_a_rate(text: str, rate: str) -> None:
    assert taper_rate(text).quantize(Decimal("1e-7")) == Decimal(rate)


@given(st.integers(1, 120))
def test_an_included_angle_is_twice_the_tangent_of_its_half(degrees: int) -> None:
    assert math.isclose(taper_rate(f"{degrees}°"), 2 * math.tan(math.radians(degrees) / 2), rel_tol=1e-9)


@pytest.mark.parametrize(
    "text", ["", "1:0", "1:-20", "0 per foot", "179°", "170°", "twenty", "1:2O", "per foot", "1:1,000", "x" * 500]
)
def test_what_is_no_taper_is_refused_with_how_to_write_one(text: str) -> None:
    with pytest.raises(InputError, match="Write it like 1:20"):
        taper_rate(text)


def test_over_twice_the_length_the_diameter_changes_twice_as_much() -> None:
    once, twice = (taper_over(taper_rate("1:20"), parse_length(text)).mm for text in ("25 mm", "50 mm"))
    assert (once, twice) == (Decimal("1.25"), Decimal("2.5"))
