"""Before the saw: what a memory, a scale or a hand makes of a size is named, and stops the saw."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.planning.drawing_against_metal import DrawingAgainstMetalResult, named_difference
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named


def looked_at(**given: Any) -> DrawingAgainstMetalResult:
    found = calculation_named("drawing_against_metal").run(
        {"length": "1.980 in", "length_again": "1.980 in", "blank": "2.41 in", "unit": "in", **given}
    )
    assert isinstance(found, DrawingAgainstMetalResult)
    return found


def test_said_twice_alike_with_stock_enough_it_says_where_to_saw() -> None:
    found = looked_at(stock_length="2.75 in", stock_across="1.5 in", across="1.4 in")
    assert (found.may_saw, found.headline) == (True, "Saw at 2.41 in")


def test_a_length_remembered_as_an_inch_less_stops_the_saw() -> None:
    """Trade notes, 2: remembered as about one inch when the drawing says nearly two."""
    found = looked_at(length="0.980 in")
    assert found.headline == "Stop"
    assert found.against == ["Length: 0.9800 in before, 1.9800 in now: out by exactly one inch."]


@pytest.mark.parametrize(
    ("first", "again", "why"),
    [("2.41 in", "2.14 in", "two digits exchanged"), ("50 mm", "75 mm", "out by exactly 25 mm"),
        ("61.5 mm", "71.5 mm", "out by exactly 10 mm"),
     ("2 mm", "2 in", "inch taken for mm"), ("6.15 mm", "61.5 mm", "a decimal point one place off"), ("20 mm", "40 mm",
     "a radius taken for a diameter"),
     ("20 mm", "23 mm", "")],
)  # fmt: skip
def test_what_makes_one_size_of_another_is_named(first: str, again: str, why: str) -> None:
    one, other = (Length.of(*text.split()) for text in (first, again))
    assert named_difference(one, other).startswith(why)
    assert bool(named_difference(one, other)) is bool(why)


@pytest.mark.parametrize(
    ("given_sizes", "sentence"),
    [({"stock_length": "2.4 in"}, "0.01 in short"),
        ({"stock_across": "1.375 in", "across": "1.4 in"}, "must be 1.4 in"),
     ({"blank": "1.9 in"}, "The blank is shorter than the part"),
     ({"diameter": "1.375 in", "diameter_again": "1.735 in"},
     "two digits exchanged")],
)  # fmt: skip
def test_what_the_metal_or_the_drawing_has_against_it_stops_the_saw(given_sizes: dict[str, str], sentence: str) -> None:
    found = looked_at(**given_sizes)
    assert found.may_saw is False
    assert sentence in " ".join(found.against)


@given(st.decimals("5", "500", places=2), st.decimals("5", "500", places=2))
def test_the_saw_starts_only_where_both_sayings_agree(first: Any, again: Any) -> None:
    found = looked_at(length=f"{first} mm", length_again=f"{again} mm", blank="600 mm")
    assert found.may_saw is (abs(first - again) <= 0.01)
