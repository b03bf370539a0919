"""A part roughed all over before anything is finished: two plans, both run, one after the other."""

import json
from decimal import Decimal
from itertools import pairwise
from typing import Any

from nomisma.core.order.order import OrderOfWork, order_of_work
from nomisma.core.order.order_notes import notes_of
from nomisma.core.planning.order_answer import order_of_work_of_lines
from tests.core.planning.executor import Workshop
from tests.core.planning.generated import part_long_mm, stock_input
from tests.core.planning.sketched import features

COLLAR = "od 60 h7 x 20\nod 40 h7 x 15\nbore 30 H7 thru\ncham 0.5 x 45 both ends"
MADE_UP = 25


def roughed(lines: str, **more: Any) -> OrderOfWork:
    found = order_of_work(features(lines), rough_first=True, **more)
    assert found is not None
    return found


def test_nothing_is_finished_before_all_of_it_is_roughed() -> None:
    order = roughed(COLLAR)
    stages = [one.set_up.is_roughing for one in order.set_ups]
    assert stages == sorted(stages, reverse=True)
    assert order.rests_before == stages.index(False) + 1
    cuts = [(one.set_up.is_roughing, cut) for one in order.set_ups for each in one.operations for cut in each.cuts]
    assert not any(is_roughing and cut.traits.finishes for is_roughing, cut in cuts)
    assert order.set_ups[0].title == "Set-up 1, from the right end, roughing"
    assert len({one.set_up.name for one in order.set_ups}) == len(order.set_ups)


def test_so_much_is_left_on_every_surface_and_face() -> None:
    order = roughed(COLLAR)
    begins = next(one.set_up for one in order.set_ups if not one.set_up.is_roughing).before
    assert begins is not None
    assert (begins.left_mm, begins.right_mm) == (Decimal("-0.75"), Decimal("35.75"))
    shaft, hole = begins.outside.smallest_mm(Decimal(21), Decimal(35)), begins.hole.largest_mm(Decimal(0), Decimal(35))
    assert (shaft, hole) == (Decimal("41.4875"), Decimal("28.5105"))  # 1.5 over 39.9875 and under 30.0105, the middles


def test_each_set_up_begins_with_what_the_one_before_left() -> None:
    order = roughed(COLLAR)
    for one, then in pairwise(order.set_ups):
        work = one.set_up.before
        for cut in (cut for each in one.operations for cut in each.cuts):
            assert work is not None
            work = work.after(cut)
        assert work is not None
        assert then.set_up.before is not None
        assert work.outside == then.set_up.before.outside
        assert work.hole == then.set_up.before.hole


def test_a_hands_own_order_goes_through_both_stages() -> None:
    order = roughed(COLLAR)
    last = order.set_ups[-1]
    keys = [one.key for one in last.operations]
    moved = roughed(COLLAR, kept=[keys[-1], *keys[:-1]])
    assert moved.set_ups[-1].operations[0].key == keys[-1]
    assert moved.set_ups[-1].operations[0].breaks
    assert not any(one.breaks for each in moved.set_ups[:-1] for one in each.operations)


def test_where_it_cannot_be_it_is_said_so_and_planned_as_usual() -> None:
    order = roughed("od 40 x 20\neccentric 20 x 15 high, throw 3")
    assert order.rests_before is None
    assert any("cannot be roughed all over" in one for one in notes_of(order))
    assert not any("cannot be roughed" in one for one in notes_of(roughed(COLLAR)))


def test_such_plans_are_cut_by_a_second_executor() -> None:
    wrong = {}
    for number in range(MADE_UP):
        given = stock_input(number).model_copy(update={"rough_first": True})
        found = json.loads(order_of_work_of_lines(given).model_dump_json())
        bad = Workshop(found, part_long_mm(number)).run() if found["set_ups"] else []
        if bad or bool(found["set_ups"]) == bool(found["complaints"]):
            wrong[number] = bad
    assert wrong == {}
