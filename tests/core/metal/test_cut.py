"""Cuts and chuckings turned round: twice is the same again, and a hole keeps its mouth."""

from decimal import Decimal
from typing import get_args

import pytest

from nomisma.core.metal.cut import CUT_TRAITS, Cut, CutKind, Grip, Support, Workholding

LONG = Decimal(40)
BORE = Cut("bore", ("A",), LONG, Decimal(-4), Decimal(11), Decimal(12), inside=True, end="right")
TAPER = Cut("taper", ("B",), Decimal(0), Decimal(10), Decimal(18), Decimal(20))
FACE = Cut("face", (), Decimal(41), LONG, Decimal(20), Decimal(0), end="right")


@pytest.mark.parametrize("one", [BORE, TAPER, FACE])
def test_turned_round_twice_it_is_the_same(one: Cut) -> None:
    assert one.mirrored(LONG).mirrored(LONG) == one


def test_a_hole_goes_in_from_its_mouth_from_either_end() -> None:
    turned = BORE.mirrored(LONG)
    assert (turned.from_mm, turned.to_mm, turned.end) == (0, 44, "left")
    assert (BORE.low_mm, BORE.high_mm) == (-4, 40)


def test_a_taper_keeps_the_size_of_each_of_its_ends() -> None:
    turned = TAPER.mirrored(LONG)
    assert (turned.from_mm, turned.to_mm, turned.before_mm, turned.after_mm) == (30, 40, 20, 18)


def test_a_chucking_takes_its_grip_and_its_steady_with_it() -> None:
    grip = Grip("stock", Decimal(-20), Decimal(-4), Decimal(25))
    steady = Support("steady", "", "A", Decimal(20), Decimal(30))
    held = Workholding("right", "steady", Decimal(45), grip, (FACE,), (steady, Support("centre", "left")))
    turned = held.mirrored(LONG)
    assert turned.worked == "left"
    assert turned.grip
    assert (turned.grip.from_mm, turned.grip.to_mm, turned.grip.length_mm) == (44, 60, 16)
    assert [(one.from_mm, one.to_mm, one.end) for one in turned.supports] == [(10, 20, ""), (None, None, "right")]
    assert turned.mirrored(LONG) == held


def test_every_kind_of_cut_says_what_it_takes() -> None:
    assert set(CUT_TRAITS) == set(get_args(CutKind))
    assert {kind for kind, traits in CUT_TRAITS.items() if not traits.makes} == {"spot", "rough_bore", "rough_turn"}
    assert not [kind for kind, traits in CUT_TRAITS.items() if traits.roughs and traits.finishes]


def test_an_edge_in_a_holes_mouth_keeps_its_ends_in_order() -> None:
    mouth = Cut("chamfer", ("D",), Decimal(38), LONG, Decimal(10), Decimal(14), inside=True, end="right")
    assert (mouth.mirrored(LONG).from_mm, mouth.mirrored(LONG).to_mm, mouth.mirrored(LONG).end) == (0, 2, "left")
    assert not mouth.is_outside
