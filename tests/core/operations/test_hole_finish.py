"""How a hole is finished: drilled where a drill holds its limits, reamed where it is small, bored where it must be
true.
"""

import pytest

from nomisma.core.order.laid_out import StockSaid
from nomisma.core.order.order import order_of_work
from tests.core.planning.sketched import features, piece


def hole(lines: str, letter: str = "C") -> tuple[str, str]:
    (found,) = [one for one in piece(f"od 60 x 30\n{lines}").surfaces if one.kind == "bore" and one.letter == letter]
    return found.hole, f"{found.diameter_mm.normalize():f}"


@pytest.mark.parametrize(
    ("line", "how", "size"),
    [
        ("bore 9 ±0.2 thru", "drilled", "9"),  # a clearance hole: a drill cuts over by 0.05 to 0.13
        ("bore 9 thru", "drilled", "9"),  # general tolerances
        ("bore 9 H7 thru", "reamed", "9.0075"),
        ("bore 9.3 +0.02/0 thru", "bored", "9.31"),  # no reamer is 9.3
        ("bore 20 H7 thru", "bored", "20.0105"),  # large
        ("bore 20 ±0.2 x 10 deep", "bored", "20"),  # its floor is flat
        ("bore 3.2 H7 thru", "reamed", "3.206"),  # no bar goes in
        ("bore 4 ±0.1 x 8 deep", "drilled", "3.9"),
        ("drill 17 thru", "drilled", "17"),
        ("ream 10 H7 thru", "reamed", "10.0075"),
        ("bore 50 ±0.2 thru", "bored", "50"),  # larger than a shop's drills
        ("tap M8 thru", "tapped", "6.8"),
    ],
)
def test_it_follows_from_limits_size_and_floor(line: str, how: str, size: str) -> None:
    assert hole(line) == (how, size)


def test_what_must_be_true_is_bored_whatever_its_limits() -> None:
    assert hole("bore 12 ±0.2 thru true to A")[0] == "bored"
    assert hole("bore 9 H7 thru\nrunout 0.02 true to C")[0] == "bored"


def test_in_a_tube_nothing_is_drilled() -> None:
    own = piece("od 60 x 30\nbore 9 thru", StockSaid("tube", bore_mm=piece("od 8 x 5").length_mm))
    assert [one.hole for one in own.surfaces if one.kind == "bore"] == ["bored"]


def test_a_step_before_a_narrower_hole_is_bored_and_never_drilled_deeper() -> None:
    assert hole("bore 9 H7 x 4 deep\nbore 5 ±0.1 thru")[0] == "bored"
    assert hole("bore 9 H7 x 14 deep")[0] == "reamed"


def test_a_hole_too_deep_for_its_bar_is_reamed_and_where_it_must_be_true_is_not_planned() -> None:
    """A bar for 10 goes 48 deep."""
    lines = "od 30 x 80\nbore 10 H7 thru"
    assert [one.hole for one in piece(lines).surfaces if one.kind == "bore"] == ["reamed"]
    assert [one.hole for one in piece(lines.replace("80", "45")).surfaces if one.kind == "bore"] == ["reamed"]
    odd = lines.replace("10 H7", "10.3 +0.02/0")
    assert [one.hole for one in piece(odd).surfaces if one.kind == "bore"] == ["reamed"]
    assert [one.hole for one in piece(odd.replace("80", "45")).surfaces if one.kind == "bore"] == ["bored"]
    true = order_of_work(features(f"{odd} true to A", "mm"))
    assert true is not None
    assert [one.letter for one in true.left_out] == ["C"]
    assert "too long for its thickness" in true.left_out[0].why
