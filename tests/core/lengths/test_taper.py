"""A taper from any two things known of it."""

from math import atan, degrees
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.taper import TaperResult
from nomisma.core.registry import calculation_named


def taper(**given: Any) -> TaperResult:
    found = calculation_named("taper").run(given)
    assert isinstance(found, TaperResult)
    return found


@pytest.mark.parametrize(
    ("given", "small", "large", "length"),
    [
        ({"taper": "1:20", "large": "25 mm", "length": "40 mm"}, "23 mm", "25 mm", "40 mm"),
        ({"taper": "1:20", "small": "23 mm", "length": "40 mm"}, "23 mm", "25 mm", "40 mm"),
        ({"taper": "1:20", "large": "25 mm", "small": "23 mm"}, "23 mm", "25 mm", "40 mm"),
        ({"large": "25 mm", "small": "23 mm", "length": "40 mm"}, "23 mm", "25 mm", "40 mm"),
    ],
)
def test_two_things_give_the_rest(given: dict[str, str], small: str, large: str, length: str) -> None:
    found = taper(**given)
    assert (str(found.small), str(found.large), str(found.length), found.one_in) == (small, large, length, 20)


def test_the_tailstock_goes_over_by_half_the_taper_of_the_whole_length_between_centres() -> None:
    """1 in to 3/4 in over 5 in, 8 in between centres: (1 − 0.75)/5 × 8/2 = 0.200 in (worked by hand)."""
    assert (
        str(taper(large="1 in", small="0.75 in", length="5 in", between_centres="8 in", unit="in").set_over) == "0.2 in"
    )


def test_a_set_over_beyond_the_tailstock_is_named() -> None:
    found = taper(large="25 mm", small="20 mm", length="100 mm", between_centres="200 mm", set_over_room="4 mm")
    assert any("beyond what this tailstock goes over" in line for line in found.cautions)


def test_a_part_that_stands_off_loses_its_taper_of_that() -> None:
    assert str(taper(taper="1:20", large="25 mm", length="40 mm", stands_off="3 mm").infeed) == "0.15 mm"


def test_the_size_at_a_place_lies_between_the_ends() -> None:
    assert str(taper(taper="1:20", large="25 mm", length="40 mm", at="10 mm").size_at) == "24.5 mm"


@given(st.floats(0.001, 1.9))
def test_the_half_angle_is_that_of_half_the_taper(rate: float) -> None:
    found = taper(taper=f"{rate * 100:.6f} %")
    assert found.half_deg == pytest.approx(degrees(atan(rate / 2)), abs=1e-5)
    assert found.included_deg == pytest.approx(2 * found.half_deg)


@pytest.mark.parametrize(
    ("given", "field", "sentence"),
    [
        ({"large": "25 mm"}, "taper", "Too little is known"),
        ({"taper": "steep"}, "taper", "not understood as a taper"),
        ({"large": "20 mm", "small": "25 mm", "length": "40 mm"}, "small", "Exchange the two"),
        ({"taper": "1:20", "large": "25 mm", "small": "20 mm", "length": "50 mm"}, "taper", "The ends make 1:10"),
        ({"taper": "1:2", "large": "2 mm", "length": "50 mm"}, "length", "comes to a point"),
        ({"taper": "1:20", "at": "5 mm"}, "at", "needs an end"),
        ({"taper": "1:20", "large": "2 mm", "length": "10 mm", "at": "50 mm"}, "at", "come to a point"),
        ({"taper": "1:20", "length": "-5 mm"}, "length", ""),
    ],
)
def test_what_cannot_be_has_its_sentence(given: dict[str, str], field: str, sentence: str) -> None:
    with pytest.raises(BadInput) as refused:
        taper(**given)
    assert refused.value.errors[0].field == field
    assert sentence in refused.value.errors[0].sentence
