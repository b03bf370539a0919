"""The sets of slips, and a shelf with pieces struck and added."""

from collections import Counter
from decimal import Decimal
from typing import get_args

import pytest

from nomisma.core.errors import InputError
from nomisma.core.lengths.slip_shelf import SlipGrade, limit_deviation_um, shelf_of, slip_sets


@pytest.mark.parametrize("name", sorted(slip_sets()))
def test_a_set_has_as_many_pieces_as_its_name_says_each_once(name: str) -> None:
    one = slip_sets()[name]
    assert len(one.pieces_mm) == int(name.strip("min"))
    assert max(Counter(one.pieces_mm).values()) == 1
    assert one.title.startswith(f"{len(one.pieces_mm)} pieces")


@pytest.mark.parametrize(
    ("name", "finest", "least", "most"),
    [
        ("m112", "0.001", "3", "100"),
        ("m88", "0.001", "3", "60"),
        ("m47", "0.01", "3", "30"),
        ("m32", "0.01", "3", "20"),
    ],
)
def test_a_set_makes_every_height_of_its_fineness_as_it_is_meant_to(
    name: str, finest: str, least: str, most: str
) -> None:
    """What a set is for: no gap over its range (tried at every 149th height)."""
    from nomisma.core.lengths.slip_search import fewest

    shelf, height = slip_sets()[name].pieces_mm, Decimal(least)
    while height < Decimal(most):
        assert fewest(shelf, height), height
        height += 149 * Decimal(finest)


def test_what_is_missing_is_struck_and_ones_own_is_added() -> None:
    shelf = shelf_of("in81", missing=".1004 .350", own="5", wear=".050 .050")
    assert len(shelf.pieces_mm) == 80
    assert Decimal("127") in shelf.pieces_mm
    assert shelf.wear_mm == (Decimal("1.27"), Decimal("1.27"))


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"missing": "1.2345"}, "missing"),
        ({"own": "thick"}, "own"),
        ({"missing": "1.005 1.005"}, "missing"),
        ({"wear": "-2"}, "wear"),
    ],
)
def test_what_is_no_piece_is_told_at_its_field(given: dict[str, str], field: str) -> None:
    with pytest.raises(InputError) as refused:
        shelf_of("m32", **given)
    assert refused.value.field == field


def test_an_unknown_set_names_the_known_ones() -> None:
    with pytest.raises(InputError, match="m88"):
        shelf_of("m99")


def test_a_pile_taken_off_leaves_the_rest() -> None:
    shelf = shelf_of("none", own="2 2 5", unit="mm")
    assert shelf.without([Decimal(2)]).pieces_mm == (2, 5)


@pytest.mark.parametrize("grade", get_args(SlipGrade))
def test_limit_deviations_follow_their_own_pattern(grade: SlipGrade) -> None:
    """Second recollection of ISO 3650: grade 1 and K 0.2 + 0.004·L µm at the upper end of a range, 0 half, 2 twice; to
    0.05 µm.
    """
    share = {"k": 1, "0": 0.5, "1": 1, "2": 2}[grade]
    for length in (10, 25, 50, 75, 100, 150, 200, 250, 300, 400, 500):
        wanted = share * (0.2 + 0.004 * length)
        assert float(limit_deviation_um(Decimal(length), grade)) == pytest.approx(wanted, abs=0.05)


def test_a_range_belongs_to_its_upper_end() -> None:
    assert [limit_deviation_um(Decimal(size), "1") for size in ("10", "10.1", "25")] == [
        Decimal("0.20"),
        Decimal("0.30"),
        Decimal("0.30"),
    ]
