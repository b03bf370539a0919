"""What the metal must come to: its holes, how far a drill may go, and the part seen from its other end."""

from decimal import Decimal

from nomisma.core.metal.cut import Cut
from nomisma.core.metal.drawing import Drawing, HoleDrawn, outside_after
from nomisma.core.metal.profile import cylinder, profile_of

LONG = Decimal(40)
BODY = profile_of([cylinder(Decimal(0), LONG, Decimal(50))])


def drawn(*, bored: bool) -> Drawing:
    hole = HoleDrawn("B", Decimal(10), Decimal(25), LONG, frozenset({"right"}), bored)
    return Drawing(LONG, BODY, (hole,))


def test_no_point_goes_beyond_a_floor_that_is_bored() -> None:
    assert drawn(bored=True).hole_at_most == drawn(bored=True).hole
    most = drawn(bored=False).hole_at_most
    assert most.smallest_mm(Decimal(23), LONG) == 10
    assert most.largest_mm(Decimal(0), Decimal(18)) == 0


def test_from_its_other_end_a_blind_hole_is_at_the_other_end() -> None:
    turned = drawn(bored=True).mirrored()
    assert turned.holes[0].ends == {"left"}
    assert (turned.holes[0].from_mm, turned.holes[0].to_mm) == (0, 15)
    assert turned.mirrored() == drawn(bored=True)


def test_grooves_and_edges_are_part_of_the_outside_it_must_come_to() -> None:
    cuts = [
        Cut("groove", ("C",), Decimal(10), Decimal(12), Decimal(50), Decimal(44)),
        Cut("chamfer", ("D",), Decimal(39), LONG, Decimal(50), Decimal(48), end="right"),
    ]
    found = outside_after(BODY, cuts)
    assert found.smallest_mm(Decimal(10), Decimal(12)) == 44
    assert found.stretches[-1].at_to_mm == 48
