"""How the whole part is held by choice: the plan follows, and only what runs is offered."""

import pytest

from nomisma.core.order.laid_out import StockSaid
from nomisma.core.order.mountings import MOUNTING_WORDS, PlanMounting, is_mounted
from nomisma.core.order.order import OrderOfWork, mountings_that_run, order_of_work
from nomisma.core.order.order_notes import notes_of
from tests.core.planning.generated import part_lines
from tests.core.planning.sketched import features

COLLAR = "od 40 h7 x 30\nod 60 x 10\nbore 20 H7 thru"


def mounted(lines: str, mounting: PlanMounting) -> OrderOfWork:
    found = order_of_work(features(lines), stock=StockSaid(mounting=mounting))
    assert found is not None
    return found


def ways(order: OrderOfWork) -> list[str]:
    return [one.set_up.workholding.way for one in order.set_ups if one.set_up.workholding]


@pytest.mark.parametrize(
    ("mounting", "expected"),
    [
        ("any", ["three_jaw", "soft_jaws"]),
        ("mandrel", ["three_jaw", "expanding_mandrel"]),
        ("centres", ["three_jaw", "three_jaw", "centres", "soft_jaws"]),
    ],
)
def test_the_plan_follows(mounting: PlanMounting, expected: list[str]) -> None:
    assert ways(mounted(COLLAR, mounting)) == expected


def test_centres_bring_their_holes_and_a_mandrel_its_bore_first() -> None:
    kinds = [one.operation.kind for one in mounted(COLLAR, "centres").operations]
    assert kinds.count("centre") == 2
    on_it = mounted(COLLAR, "mandrel")
    held = next(one for one in on_it.set_ups if one.set_up.held_on == "E")
    assert any("E" in each.operation.letters for one in on_it.set_ups[: held.number - 1] for each in one.operations)


def test_what_cannot_be_held_so_is_planned_as_usual_and_that_is_said() -> None:
    order = mounted("od 40 h7 x 30\nod 60 x 10", "mandrel")
    assert ways(order) == ways(mounted("od 40 h7 x 30\nod 60 x 10", "any"))
    assert "It cannot be held on a mandrel in its bore: nothing so held can be cut." in notes_of(order)


@pytest.mark.parametrize("number", range(0, 60, 6))
def test_only_plans_that_run_so_are_offered_and_no_two_alike(number: int) -> None:
    offered = mountings_that_run(features(part_lines(number)), StockSaid())
    assert [name for name, _ in offered][:1] in ([], ["any"])
    assert all(not plan.complaints for _, plan in offered)
    for name, plan in offered:
        assert is_mounted([one.set_up.workholding for one in plan.set_ups if one.set_up.workholding], name)
    held = [tuple(one.set_up.workholding for one in plan.set_ups) for _, plan in offered]
    assert len(set(held)) == len(held)
    assert {name for name, _ in offered} <= set(MOUNTING_WORDS)
