"""Stock: what is not round swings over its corners, and a casting has the part's shape and its skin."""

from decimal import Decimal
from math import cos, pi

import pytest

from nomisma.core.metal.stock import Stock, StockSection, casting_of
from nomisma.core.part.section import Section
from nomisma.core.part.section_shapes import Cylinder


@pytest.mark.parametrize(("section", "sides"), [("square", 4), ("hexagon", 6), ("octagon", 8)])
def test_over_its_corners_a_polygon_is_its_flats_over_the_cosine_of_half_its_angle(
    section: StockSection, sides: int
) -> None:
    """Source: geometry: the circumcircle of a regular polygon is its incircle over cos(π/n)."""
    found = Stock(Decimal(0), Decimal(10), Decimal(30), section)
    assert float(found.over_corners_mm) == pytest.approx(30 / cos(pi / sides), abs=1e-6)
    assert found.round_mm == 30


def test_a_casting_is_larger_by_its_skin_on_every_side() -> None:
    steps = (
        Cylinder("A", Decimal(50), Decimal(0), Decimal(20)),
        Cylinder("B", Decimal(120), Decimal(20), Decimal(50)),
        Cylinder("C", Decimal(40), Decimal(50), Decimal(60)),
    )
    found = casting_of(Section(Decimal(60), steps, (), (), Decimal(0), "", (), ()), Decimal(3))
    assert [(one.from_mm, one.to_mm, one.at_to_mm) for one in found.outside.stretches] == [
        (-3, 17, 56),
        (17, 53, 126),
        (53, 63, 46),
    ]
    assert found.across_mm == 126
