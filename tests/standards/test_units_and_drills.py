"""Conversions against a general units library, and the drill table against itself.

Sources: Pint (reference library for checks only); ASME B94.11M number and letter sizes (recalled), anchored at values
printed on every wall chart.
"""

from decimal import Decimal
from fractions import Fraction

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.quantity.drills import drill_sizes_in
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length

units = pint.UnitRegistry(non_int_type=Fraction)


@given(st.integers(1, 3_900_000))
def test_inches_convert_as_the_reference_library_says(ten_thousandths: int) -> None:
    quantity = units.Quantity(Fraction(ten_thousandths, 10_000), "inch")
    ours = Length.of(Decimal(ten_thousandths) / 10_000, "in").mm
    assert Fraction(ours) == quantity.to("millimeter").magnitude


def test_thou_and_micron_are_what_the_reference_library_says() -> None:
    assert Fraction(parse_length("3 thou").mm) == units.Quantity(3, "thou").to("millimeter").magnitude
    assert Fraction(parse_length("3 um").mm) == units.Quantity(3, "micrometer").to("millimeter").magnitude


ANCHORS = {
    "1": "0.2280", "7": "0.2010", "10": "0.1935", "16": "0.1770", "21": "0.1590", "25": "0.1495", "29": "0.1360",
    "30": "0.1285",
    "32": "0.1160", "36": "0.1065", "38": "0.1015", "43": "0.0890", "50": "0.0700", "60": "0.0400", "70": "0.0280",
    "80": "0.0135",
    "A": "0.2340", "E": "0.2500", "F": "0.2570", "I": "0.2720", "L": "0.2900", "Q": "0.3320", "U": "0.3680",
    "X": "0.3970", "Z": "0.4130",
}  # fmt: skip


@pytest.mark.parametrize(("name", "size"), ANCHORS.items())
def test_a_drill_is_the_size_on_the_wall_chart(name: str, size: str) -> None:
    assert drill_sizes_in()[name] == Decimal(size)


def test_drills_run_down_the_numbers_and_up_the_letters() -> None:
    sizes = list(drill_sizes_in().values())
    numbers, letters = sizes[:80], sizes[80:]
    assert numbers == sorted(set(numbers), reverse=True)
    assert letters == sorted(set(letters))
    assert letters[0] > numbers[0]
