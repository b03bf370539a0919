"""A pile of slips as it is asked for at the bench."""

from decimal import Decimal
from math import sqrt
from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.slip_shelf import shelf_of
from nomisma.core.lengths.slips import SlipsResult, against, uncertainty_um
from nomisma.core.registry import calculation_named


def pile(target: str, **more: Any) -> SlipsResult:
    found = calculation_named("slips").run({"target": target, "set": "in81", "unit": "in", **more})
    assert isinstance(found, SlipsResult)
    return found


def pieces(found: SlipsResult) -> list[str]:
    return [f"{size.value().normalize():f}" for size in found.pile.pieces]


def test_the_fewest_pieces_make_it_thickest_first() -> None:
    assert pieces(pile("1.3725 in")) == ["1", "0.15", "0.122", "0.1005"]


def test_wear_pieces_go_outside_and_count_in_the_height() -> None:
    found = pile("1.3725 in", wear=".05 .05", wear_pieces=2)
    assert (pieces(found)[0], pieces(found)[-1], found.pile.wear_pieces) == ("0.05", "0.05", 2)
    assert found.pile.height.value("in") == Decimal("1.3725")


def test_the_second_pile_shares_no_piece_with_the_first() -> None:
    found = pile("1.3725 in")
    assert found.second
    assert found.second.height.mm == found.pile.height.mm
    assert not set(found.pile.pieces) & set(found.second.pieces)


def test_the_pile_to_stop_short_is_higher_by_just_that() -> None:
    found = pile("1.3725 in", short="0.003 in")
    assert found.stop_short
    assert found.stop_short.height.value("in") == Decimal("1.3755")
    assert found.stop_short.off.mm == 0


def test_where_the_rest_makes_none_the_first_is_taken_apart_for_the_other() -> None:
    found = pile("5 mm", set="none", own="2 3 1", unit="mm", short="1 mm")
    assert found.stop_short
    assert [str(size) for size in found.stop_short.pieces] == ["3 mm", "2 mm", "1 mm"]
    assert any("rough against it" in line for line in found.notes)


def test_what_cannot_be_exact_is_as_near_as_it_can_be_and_says_how_far() -> None:
    found = pile("3.005 mm", set="m32", missing="1.005", unit="mm")
    assert abs(found.pile.off.mm) == Decimal("0.005")
    assert "no pile of this shelf is nearer" in found.sentence


def test_a_pile_is_worth_its_pieces_and_its_joints() -> None:
    """By hand: grade 1, 25 and 1.02 mm: ±0.30 and ±0.20, one film of ±0.025: 2·√((0.09 + 0.04 + 0.000625)/3)
    = 0.417.
    """
    assert uncertainty_um([Decimal(25), Decimal("1.02")], "1") == Decimal("0.42")
    assert float(uncertainty_um([Decimal(5)], "0")) == pytest.approx(2 * 0.12 / sqrt(3), abs=0.005)


def test_too_thin_to_pile_says_which_two_differ_by_it() -> None:
    with pytest.raises(BadInput) as refused:
        pile("0.001 in")
    sentence = refused.value.errors[0].sentence
    assert "too thin to pile" in sentence
    assert "0.101 on the one side against 0.1" in sentence


def test_two_piles_differ_by_the_height() -> None:
    found = against(shelf_of("m88"), Decimal("0.003"))
    assert found
    high, low = found
    assert high.height_mm - low.height_mm == Decimal("0.003")


@pytest.mark.parametrize(
    ("given", "field", "sentence"),
    [
        (
            {"target": "0.12 in", "wear": ".05 .05", "wear_pieces": 2},
            "wear_pieces",
            "Between the wear pieces nothing is left",
        ),
        ({"target": "1 in", "wear_pieces": 1}, "wear_pieces", "There are no wear pieces"),
        ({"target": "1 in", "wear": ".05", "wear_pieces": 2}, "wear_pieces", "There is one wear piece"),
        ({"target": "1 in", "wear": ".05", "wear_pieces": 3}, "wear_pieces", "3 wear pieces"),
        ({"target": "-1 in"}, "target", ""),
        ({"target": "50 in"}, "target", "higher than slips are piled"),
        ({"target": "1 in", "set": "none"}, "set", "no slips on the shelf"),
        ({"target": "1 in", "set": "in99"}, "set", "not one of the choices"),
    ],
)
def test_what_cannot_be_piled_has_its_sentence(given: dict[str, Any], field: str, sentence: str) -> None:
    with pytest.raises(BadInput) as refused:
        calculation_named("slips").run({"set": "in81", "unit": "in", **given})
    assert refused.value.errors[0].field == field
    assert sentence in refused.value.errors[0].sentence
