"""Pieces that differ through each set-up together: what is alike is found alike, and nobody's step is lost."""

import pytest

from nomisma.core.operations.figures import figures
from nomisma.core.order.family import FamilySetUp, Sibling, family_of
from nomisma.core.order.order import OrderOfWork, PlannedOperation, order_of_work
from nomisma.core.quantity.length import Unit
from tests.core.planning.generated import part_lines
from tests.core.planning.sketched import features

SHORT = "od .9995 -.0005\nbore .5005/.5010 thru\nlength 1.0000 ±.0002"
LONG = SHORT.replace("1.0000", "1.7500")


def sibling(lines: str, name: str = "", unit: Unit = "mm") -> Sibling:
    order = order_of_work(features(lines, unit), unit=unit)
    assert order is not None

    def figures_of(one: PlannedOperation) -> list[str]:
        held = next(each.set_up.workholding for each in order.set_ups if one in each.operations)
        assert held is not None
        assert order.piece is not None
        return figures(one.cuts, held, order.piece.length_mm, order.piece.unit, one.before)

    return Sibling(name, order, figures_of)


def steps(family: tuple[FamilySetUp, ...]) -> list[tuple[str, bool]]:
    return [(one.title, one.is_shared) for set_up in family for one in set_up.steps]


def test_two_lengths_share_all_but_what_goes_to_the_far_end() -> None:
    family = family_of([sibling(one, unit="in") for one in (SHORT, LONG)])
    assert [one.is_held_alike for one in family] == [False, True]
    shared = {title for title, is_shared in steps(family) if is_shared}
    assert shared == {"Face", "Spot for the drill B", "Deburr and measure", "Face C"}
    assert {title for title, _ in steps(family)} - shared == {"Drill B", "Finish turn A", "Finish bore B", "Part off"}


def test_a_step_that_one_has_not_stands_where_the_other_does_it() -> None:
    family = family_of([sibling("od 24 x 30\nod 40 x 10"), sibling("od 24 x 30\nod 40 x 10\nbore 12 H7 thru")])
    (drill,) = [one for set_up in family for one in set_up.steps if one.title.startswith("Drill")]
    assert [cell is None for cell in drill.cells] == [True, False]
    assert not drill.is_shared


def test_a_part_beside_itself_is_shared_throughout() -> None:
    family = family_of([sibling(SHORT, unit="in")] * 3)
    assert all(shared for _, shared in steps(family))
    assert all(one.shared == len(one.steps) and one.is_held_alike for one in family)


@pytest.mark.parametrize("number", range(0, 40, 4))
def test_every_operation_of_every_one_stands_once_and_in_its_own_order(number: int) -> None:
    both = [own for own in map(_planned, (number, number + 1)) if own is not None]
    family = family_of(both)
    for at, own in enumerate(both):
        found = [cell.operation for set_up in family for one in set_up.steps if (cell := one.cells[at]) is not None]
        assert sorted(one.number for one in found) == [one.number for one in own.order.operations]


def _planned(number: int) -> Sibling | None:
    found: OrderOfWork | None = order_of_work(features(part_lines(number)))
    return sibling(part_lines(number)) if found is not None and found.set_ups else None


def test_a_thousandth_of_a_millimetre_is_a_difference() -> None:
    family = family_of([sibling("od 24 x 30"), sibling("od 24 x 30.001")])
    assert any(not shared for _, shared in steps(family))
