"""The cutting force: specific force times the area of the chip, and the depth that a force allows."""

from decimal import Decimal

import pytest

from nomisma.core.cutting.force import cutting_force_n, deepest_on_diameter_mm


def test_twice_the_depth_is_twice_the_force() -> None:
    once, twice = (cutting_force_n("mild_steel", depth_mm=depth, feed_mm=0.1) for depth in (0.5, 1.0))
    assert twice == pytest.approx(2 * once)


def test_the_depth_a_force_allows_gives_that_force_again() -> None:
    deepest = deepest_on_diameter_mm("mild_steel", force_n=Decimal(400), feed_mm=Decimal("0.1"))
    assert cutting_force_n("mild_steel", depth_mm=float(deepest) / 2, feed_mm=0.1) == pytest.approx(400, rel=0.01)


def test_brass_cuts_more_easily_than_steel() -> None:
    forces = [cutting_force_n(material, depth_mm=0.5, feed_mm=0.1) for material in ("brass", "mild_steel")]
    assert forces[0] < forces[1]
