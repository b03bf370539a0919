"""A plan that was begun goes on from the piece as it is: what is taken first can be cut, or it is said why not."""

import json
from decimal import Decimal
from random import Random

import pytest

from nomisma.core.errors import InputError
from nomisma.core.order.from_now import GoneOn, gone_on
from nomisma.core.order.laid_out import StockSaid
from nomisma.core.order.order import OrderOfWork, order_of_work
from nomisma.core.planning.order_answer import OrderInput, order_of_work_of_lines
from tests.core.planning.executor import Workshop
from tests.core.planning.generated import part_long_mm, stock_input
from tests.core.planning.sketched import features

BAR = StockSaid()
SHAFT = (
    "od 20 h7 x 30\nod 26 ±0.1 x 40 ±0.1\nod 16 h8 x 26 ±0.1\ngroove 1.3 H13 to 15.2 -0.1 at 90\nlength 96 ±0.2\n"
    "cham 0.5 x 45 both ends"
)
COLLAR = "od 60 x 10\nod 30 h7 x 25\nbore 15 H7 thru\ncham 1 x 45 both ends"
LONG = "od 25 k6 from 0 to 28\nod 32 h9 from 28 to 120\nod 25 k6 from 120 to 182\nlength 182 ±0.2"
MADE_UP = 60


def plan(lines: str, stock: StockSaid = BAR) -> OrderOfWork:
    found = order_of_work(features(lines), stock=stock)
    assert found is not None
    assert found.set_ups
    return found


def keys(order: OrderOfWork) -> list[str]:
    return [one.key for one in order.operations]


@pytest.mark.parametrize("lines", [SHAFT, COLLAR, LONG])
def test_done_in_its_order_the_plan_itself_goes_on(lines: str) -> None:
    order = plan(lines)
    for count in range(len(order.operations)):
        assert gone_on(order, [GoneOn(tuple(keys(order)[:count]))], BAR) == order


def test_the_other_end_first_is_planned_from_what_is_cut() -> None:
    order = plan(SHAFT)
    done = keys(order)[:2]
    on = gone_on(order, [GoneOn(tuple(done), "2/rough_turn:A,B")], BAR)
    assert on.not_gone_on == ()
    assert keys(on)[:2] == done
    assert [one.set_up.worked for one in on.set_ups] == ["right", "left", "right"]
    assert any("A" in one.operation.letters for one in on.set_ups[1].operations)
    assert on.finished is not None
    assert order.finished is not None
    assert (on.finished.outside, on.finished.hole) == (order.finished.outside, order.finished.hole)


def test_what_is_cut_is_not_cut_again() -> None:
    order = plan(SHAFT)
    done = keys(order)[:4]  # faced, roughed, and E with its length finished
    on = gone_on(order, [GoneOn(tuple(done), "2/rough_turn:A,B")], BAR)
    later = [cut for set_up in on.set_ups[1:] for one in set_up.operations for cut in one.cuts]
    assert later
    assert not [cut for cut in later if cut.traits.finishes and "E" in cut.letters]
    assert not [cut for set_up in on.set_ups[2:] for one in set_up.operations for cut in one.cuts if cut.kind == "face"]


def test_a_later_set_up_begins_with_what_the_one_before_left() -> None:
    on = gone_on(plan(SHAFT), [GoneOn(("1/face:",), "2/face:J")], BAR)
    work = on.set_ups[0].operations[0].before
    for set_up in on.set_ups:
        assert work is not None
        assert set_up.operations[0].before is not None
        assert set_up.operations[0].before.outside == work.outside
        for cut in (cut for one in set_up.operations for cut in one.cuts):
            work = work.after(cut)


def test_keys_and_chuckings_are_never_those_of_another() -> None:
    on = gone_on(plan(SHAFT), [GoneOn(("1/face:",), "2/face:J")], BAR)
    twice = gone_on(on, [], BAR)
    assert twice == on
    assert len(set(keys(on))) == len(keys(on))
    names = [one.set_up.name for one in on.set_ups]
    assert len(set(names)) == len(names)
    assert not {"left", "right"} & set(names[1:])  # what was looked at before the first start of another is not this


def test_one_moment_after_another() -> None:
    order = plan(SHAFT)
    first = gone_on(order, [GoneOn(("1/face:",), "2/face:J")], BAR)
    done = keys(first)[:3]
    back = next(one.key for one in first.set_ups[2].operations)
    both = gone_on(order, [GoneOn(("1/face:",), "2/face:J"), GoneOn(tuple(done), back)], BAR)
    assert both.not_gone_on == ()
    assert keys(both)[:3] == done
    assert [one.set_up.worked for one in both.set_ups][:3] == ["right", "left", "right"]


def test_left_in_the_middle_the_chucking_goes_on_as_one() -> None:
    order = plan(SHAFT)
    done = [key for key in keys(order)[:4] if "rough_turn:C" not in key]  # one was left open
    on = gone_on(order, [GoneOn(tuple(done))], BAR)
    assert on.not_gone_on == ()
    assert on.set_ups[0].set_up.name == "right"
    assert len(on.set_ups) == 2
    assert len(on.set_ups[0].operations) > len(done)


def test_at_the_end_that_is_still_on_its_bar_nothing_is_worked_first() -> None:
    order = plan(COLLAR)
    on = gone_on(order, [GoneOn((), order.set_ups[1].operations[0].key)], BAR)
    assert [one.rule for one in on.not_gone_on] == ["on_the_bar"]
    assert on.set_ups == order.set_ups


def test_between_centres_it_does_not_go_before_both_have_their_holes() -> None:
    order = plan(LONG)
    assert order.set_ups[-1].set_up.worked == "centres"
    on = gone_on(order, [GoneOn((), order.set_ups[-1].operations[0].key)], BAR)
    assert [one.rule for one in on.not_gone_on] == ["between_both"]


ECCENTRIC = "od 50 ±0.05 x 20\neccentric od 30 ±0.05 x 12 high, throw 5\nbore 12 H7 thru the eccentric"


def test_off_centre_it_goes_once_something_runs_true() -> None:
    order = plan(ECCENTRIC)
    off = next(one for one in order.set_ups if one.set_up.workholding is not None and one.set_up.workholding.throw_mm)
    first = next(one.key for one in off.operations if one.operation.kind == "turn")
    assert [one.rule for one in gone_on(order, [GoneOn((), first)], BAR).not_gone_on] == ["true_first"]
    turned = tuple(one.key for one in order.set_ups[0].operations if one.operation.kind != "deburr")
    on = gone_on(order, [GoneOn(turned, first)], BAR)
    assert on.not_gone_on == ()
    assert [one.set_up.workholding and one.set_up.workholding.way for one in on.set_ups][1] == "four_jaw"


def test_an_outside_that_stays_as_it_was_bought_wants_no_chucking_of_its_own() -> None:
    stock = StockSaid(across_mm=Decimal("38.1"))
    order = plan("od 38.1 ±0.1 x 16\nM24x2 thru\ncham 0.8 x 45 both ends", stock)
    last = order.set_ups[-1].operations
    done = tuple(one.key for one in order.set_ups[0].operations)
    on = gone_on(order, [GoneOn(done, last[1].key)], stock)
    assert [one.set_up.worked for one in on.set_ups] == [one.set_up.worked for one in order.set_ups]


def test_a_plan_that_does_not_go_on_any_more_says_so_and_stays() -> None:
    order = plan(COLLAR)
    on = gone_on(order, [GoneOn((), order.set_ups[1].operations[0].key)], BAR)
    assert (on.set_ups, on.gone_on) == (order.set_ups, False)
    assert on.not_gone_on


def test_whatever_is_taken_first_is_cut_by_a_second_executor_or_said_why_not() -> None:
    wrong, went_on = {}, 0
    for number in range(MADE_UP):
        given, some = stock_input(number), Random(number)
        order = order_of_work(features(given.lines), stock=given.stock_said, face_as_parted=given.face_as_parted)
        if order is None or len(order.set_ups) < 2:
            continue
        done = keys(order)[: some.randrange(len(order.set_ups[0].operations))]
        first = some.choice(some.choice(order.set_ups[1:]).operations).key
        found = gone_on(order, [GoneOn(tuple(done), first)], given.stock_said, face_as_parted=given.face_as_parted)
        if found.not_gone_on:
            continue
        went_on += 1
        asked = given.model_copy(update={"done": done, "first": first})
        answer = json.loads(order_of_work_of_lines(asked).model_dump_json())
        if bad := Workshop(answer, part_long_mm(number)).run():
            wrong[number] = bad
    assert wrong == {}
    assert went_on > 5


def test_a_strange_key_is_named() -> None:
    with pytest.raises(InputError, match="is no operation of the plan"):
        order_of_work_of_lines(OrderInput(lines="od 20 x 30", done=["1/polish:A"]))
