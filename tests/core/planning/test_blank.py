"""The blank: length, section and weight by hand, and stock that does or does not give it."""

from decimal import Decimal
from typing import Any, get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.planning.blank import BlankResult, Shape, area_mm2, corners_mm
from nomisma.core.registry import calculation_named


def blank(**given: Any) -> BlankResult:
    found = calculation_named("blank").run({"finished_length": "50 mm", "finished_diameter": "30 mm", **given})
    assert isinstance(found, BlankResult)
    return found


def test_each_piece_is_itself_both_faces_and_the_parting_tool() -> None:
    """50 + 2·0.8 + 3 = 54.6; three of them and 20 to hold on to are 183.8."""
    found = blank(pieces=3, parting="3 mm", grip="20 mm")
    assert (str(found.a_piece), str(found.blank_length)) == ("54.6 mm", "183.8 mm")


def test_a_bar_gives_as_many_as_lie_in_it_beyond_the_grip() -> None:
    assert (
        blank(pieces=6, parting="3 mm", grip="20 mm", stock_length="300 mm", stock_across="32 mm").pieces_of_stock == 5
    )


@given(st.integers(1, 400), st.sampled_from(["in", "mm"]))
def test_stock_is_said_as_it_is_sawn(thou: int, unit: str) -> None:
    """24 in and 2 × .030 faced are 24.06 in of stock, not 24.0600: what shows is at most half a thou or .05 mm off."""
    found = blank(finished_length=f"{24 + Decimal(thou) / 1000} in", unit=unit)
    number, shown_unit = found.headline.split()
    assert shown_unit == unit
    assert not ("." in number and number.endswith("0"))
    exact = found.blank_length.mm / (Decimal("25.4") if unit == "in" else 1)
    assert abs(Decimal(number) - exact) <= (Decimal("0.0005") if unit == "in" else Decimal("0.05"))


@pytest.mark.parametrize(
    ("surface", "across", "gives"), [("bright", "31 mm", True), ("rolled", "31 mm", False), ("cast", "33 mm", True)]
)
def test_the_skin_says_how_much_larger_the_stock_must_be(surface: str, across: str, gives: bool) -> None:
    found = blank(surface=surface, stock_across=across)
    assert found.cleans_up is gives
    assert ("does not clean up" in found.sentence) is not gives


@pytest.mark.parametrize(("bore", "gives"), [("18 mm", True), ("19.5 mm", False)])
def test_a_tube_must_clean_up_inside_as_well(bore: str, gives: bool) -> None:
    assert blank(shape="tube", bore="20 mm", stock_across="32 mm", stock_bore=bore).cleans_up is gives


def test_a_metre_of_30_mm_steel_weighs_five_and_a_half_kilograms() -> None:
    """Steel stock tables: 5.55 kg/m for a 30 mm round (recalled)."""
    found = blank(finished_length="998.4 mm", stock_across="30 mm", finished_diameter="29 mm", material="mild_steel")
    assert found.weight_kg == pytest.approx(5.55, abs=0.01)


def test_what_is_too_heavy_to_lift_says_so() -> None:
    assert blank(finished_length="600 mm", finished_diameter="120 mm").cautions
    assert not blank().cautions


@pytest.mark.parametrize("shape", get_args(Shape))
def test_stock_of_any_shape_holds_the_round_within_its_flats(shape: Shape) -> None:
    assert area_mm2(shape, 10) >= area_mm2("round", 10)
    assert corners_mm(shape, Decimal(10)) >= 10


@pytest.mark.parametrize(
    ("given", "field"),
    [({"grip": "-1 mm"}, "grip"), ({"bore": "31 mm"}, "bore"),
        ({"shape": "tube", "stock_across": "32 mm"}, "stock_bore"),
     ({"shape": "tube", "stock_across": "32 mm", "stock_bore": "33 mm"}, "stock_bore"), ({"pieces": 0}, "pieces"),
     ({"material": "wood"},
     "material")],
)  # fmt: skip
def test_a_blank_that_cannot_be_is_refused_at_its_field(given: dict[str, Any], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        blank(**given)
    assert refused.value.errors[0].field == field


def test_an_outside_that_stays_as_it_was_bought_has_nothing_to_clean_up() -> None:
    given = {"finished_length": "12.7 mm", "finished_diameter": "31.75 mm", "stock_across": "31.72 mm"}
    assert blank(**given).cleans_up is False
    found = blank(**given, outside_stays=True)
    assert (found.cleans_up, str(found.least_across)) == (True, "31.72 mm")
