"""What a section is drawn of."""

from decimal import Decimal

from nomisma.core.part.section_shapes import Cylinder


def test_where_two_steps_meet_is_the_next_ones() -> None:
    first, second = (
        Cylinder(letter, Decimal(20), Decimal(begins), Decimal(ends))
        for letter, begins, ends in (("A", 0, 12), ("B", 12, 30))
    )
    assert [step.letter for step in (first, second) if step.holds(Decimal(12))] == ["B"]
    assert not second.holds(Decimal(30))
