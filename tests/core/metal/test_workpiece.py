"""The workpiece cut by cut: what is taken away is what is gone, and centre holes live as long as their end does."""

from decimal import Decimal
from math import pi

import pytest

from nomisma.core.metal.cut import Cut, Tool
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import workpiece_of


def mm(number: float) -> Decimal:
    return Decimal(str(number))


BAR = workpiece_of(Stock(mm(-40), mm(31), mm(30)))


def test_a_turned_length_takes_away_its_ring() -> None:
    """Source: geometry: π/4·(D² − d²)·L."""
    after = BAR.after(Cut("turn", ("A",), mm(0), mm(31), mm(30), mm(20)))
    assert BAR.volume_mm3() - after.volume_mm3() == pytest.approx(pi / 4 * (30**2 - 20**2) * 31)


def test_a_drill_takes_its_cylinder_and_its_point() -> None:
    drilled = Cut(
        "drill", ("B",), mm(31), mm(11), mm(0), mm(10), mm(8), tool=Tool("drill", diameter_mm=mm(10)), end="right"
    )
    after = BAR.after(drilled)
    assert BAR.volume_mm3() - after.volume_mm3() == pytest.approx(pi / 4 * 10**2 * 20 + pi / 12 * 10**2 * 3)


def test_parting_leaves_the_piece_and_facing_its_length() -> None:
    parted = BAR.after(Cut("part_off", (), mm(-4), mm(-1), mm(30), mm(0), end="right"))
    assert (parted.left_mm, parted.right_mm) == (-1, 31)
    faced = parted.mirrored(mm(30)).after(Cut("face", (), mm(31), mm(30), mm(30), mm(0), end="right")).mirrored(mm(30))
    assert (faced.left_mm, faced.right_mm) == (0, 31)


def test_a_centre_hole_is_gone_once_a_wider_hole_is_in_its_place() -> None:
    centred = BAR.after(Cut("centre_hole", (), mm(31), mm(22), mm(0), mm(6), end="right"))
    assert centred.centre_mm("right") == 6
    assert centred.centre_mm("left") == 0
    opened = centred.after(Cut("bore", ("B",), mm(31), mm(20), mm(0), mm(12), inside=True, end="right"))
    assert opened.centre_mm("right") == 0


def test_what_only_roughs_has_made_nothing_yet() -> None:
    rough = BAR.after(Cut("rough_turn", ("A",), mm(0), mm(31), mm(30), mm(21)))
    assert rough.done == frozenset()
    assert rough.after(Cut("turn", ("A", "C"), mm(0), mm(31), mm(21), mm(20))).done == {"A", "C"}
