"""A set-up's task: how far its cuts go at the far face, and the usual blade."""

from decimal import Decimal

import pytest

from nomisma.core.operations.task import FACING, Task, blade_mm, facing_mm
from nomisma.core.quantity.length import Unit
from tests.core.planning.sketched import piece


def test_parted_off_its_cuts_go_behind_the_blade_and_otherwise_to_the_face() -> None:
    own = piece("od 20 x 30")
    assert Task(own, own.surfaces, (), blade_mm=Decimal(3), far_mm=Decimal("0.8")).beyond_mm == Decimal("-3.8")
    assert Task(own, own.surfaces, ()).beyond_mm == 0


@pytest.mark.parametrize(("across", "mm", "inch"), [(12, "2", "0.062"), (40, "3", "0.093"), (80, "4", "0.125")])
def test_blades_grow_with_the_diameter(across: int, mm: str, inch: str) -> None:
    assert blade_mm(Decimal(across), "mm") == Decimal(mm)
    assert blade_mm(Decimal(across), "in") == Decimal(inch) * Decimal("25.4")


@pytest.mark.parametrize("unit", FACING)
def test_facing_is_what_a_blank_is_sawn_longer_by(unit: Unit) -> None:
    assert facing_mm(unit) == FACING[unit].mm
