"""A step taken before others: of its set-up, what it breaks is said and kept with its reason; of another, the rest is
planned anew from the piece as it is.
"""

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.closing.record_plan import recorded_plan
from nomisma.jobs.making.taken_now import go_on_with, going_on_with, take_now, taken_now, waits_behind
from nomisma.jobs.shop.rights import NotAllowed
from tests.jobs.making.test_steps import EVERY_KIND, again, begun, done, named
from tests.jobs.planning.test_plan_log import FLANGED, by
from tests.jobs.shop_floor import now, person

TWO_SEATS = "od 30 ±0.1 x 60 ±0.2\nod 24 h7 x 20 ±0.1\ngroove 2 to 20 at 12\ngroove 2 to 27 at 40"


def test_what_is_next_anyway_is_not_taken_out_of_order(db: Session) -> None:
    making = begun(db)
    assert taken_now(making, named(making, "1/face:")) is None
    assert taken_now(making, making.steps[0]) is None, "a set-up is no operation"
    assert take_now(db, making, named(making, "1/face:"), "", **by(db)) is None


def test_drilled_before_it_is_faced_and_spotted_says_both_and_asks_why(db: Session) -> None:
    making = begun(db)
    drill = next(one for one in making.steps if one.operation and one.operation.operation.kind == "drill")
    found = taken_now(making, drill)
    assert found is not None
    assert any("zero of all lengths" in words for words in found.breaks)
    assert any("spotted" in words for words in found.breaks)
    with pytest.raises(InputError) as asked:
        take_now(db, making, drill, "", **by(db))
    assert asked.value.field == "now_reason"
    with pytest.raises(NotAllowed):
        take_now(db, making, drill, "the hole is there", **by(db, "pim"))
    take_now(db, making, drill, "the hole is there", **by(db))
    found_again = again(db, making)
    at = [one.key for one in found_again.steps]
    assert at.index(drill.key) < at.index(found.before[0].key)
    assert found_again.plan.kept_order.reason == "the hole is there"


@pytest.mark.parametrize("lines", [*EVERY_KIND, TWO_SEATS])
def test_taken_now_a_step_stands_first_of_what_is_open_and_what_is_left_out_was_said(db: Session, lines: str) -> None:
    making = begun(db, lines)
    measured = sorted(one.letter for step in making.steps for one in step.measured)
    for step in [one for one in making.steps if taken_now(making, one) is not None][:4]:
        found = taken_now(making, making.named(step.key) or step)
        if found is None:
            continue
        before = {one.key for one in making.steps}
        take_now(db, making, named(making, step.key), "as it came", **by(db))
        making = again(db, making)
        assert before - {one.key for one in making.steps} == {one.key for one in found.left_out}
        assert sorted(one.letter for each in making.steps for one in each.measured) == measured
        (first,) = [one for one in making.steps if one.set_up_key == step.set_up_key and one.kind == "operation"][:1]
        assert first.key == step.key
        assert taken_now(making, first) is None


SPINDLE = "od 20 h7 x 30\nod 26 ±0.1 x 40 ±0.1\nod 16 h8 x 26 ±0.1\nlength 96 ±0.2"


def test_a_step_of_another_set_up_waits_behind_the_first(db: Session) -> None:
    making = begun(db, SPINDLE)
    second = next(one for one in making.steps if one.operation and one.set_up_key != making.steps[0].set_up_key)
    assert waits_behind(making, second)
    assert not waits_behind(making, making.steps[1])


def test_taken_next_the_rest_is_planned_anew_and_what_is_done_stays_done(db: Session) -> None:
    making = begun(db, SPINDLE)
    for _ in range(3):
        assert making.in_hand is not None
        making = done(db, making, making.in_hand)
    was_done = making.plan.done_keys
    rough = named(making, "2/rough_turn:A,B")
    found = going_on_with(making, rough)
    assert found.why_not == ()
    go_on_with(db, making, rough, "the left end is wanted for the fitting", **by(db))
    anew = again(db, making)
    assert anew.plan.done_keys == was_done
    assert anew.in_hand is not None
    assert (anew.in_hand.kind, anew.in_hand.set_up and anew.in_hand.set_up.set_up.worked) == ("hold", "left")
    while anew.in_hand is not None:  # it is made to its end
        anew = done(db, anew, anew.in_hand)
    order = anew.plan.order
    assert order is not None
    assert order.not_gone_on == ()
    assert {letter for one in order.operations for letter in one.operation.letters} >= set("ABCDEFG")
    recorded = recorded_plan(db, now(db, anew.state))
    assert recorded is not None
    assert [row.reason for row in recorded.went_on] == ["the left end is wanted for the fitting"]
    assert all(one.done for set_up in recorded.set_ups for one in set_up.operations)


def test_of_a_batch_the_other_pieces_keep_their_plan(db: Session) -> None:
    making = again(db, begun(db, SPINDLE, pieces=2), "2")
    go_on_with(db, making, named(making, "2/rough_turn:A,B"), "", **by(db))
    first, second = again(db, making, "1"), again(db, making, "2")
    assert first.steps[0].set_up_key == "right"
    assert second.steps[0].set_up is not None
    assert second.steps[0].set_up.set_up.worked == "left"


def test_why_it_cannot_be_taken_next_is_said_and_nothing_is_kept(db: Session) -> None:
    making = begun(db, FLANGED)
    last = making.steps[-1] if making.steps[-1].operation else making.steps[-2]
    found = going_on_with(making, last)
    assert found.why_not
    with pytest.raises(InputError):
        go_on_with(db, making, last, "", **by(db))
    assert not again(db, making).plan.gone_on


def test_an_apprentice_does_not_plan_anew(db: Session) -> None:
    making = begun(db, SPINDLE)
    with pytest.raises(NotAllowed, match="planned anew at the lathe"):
        go_on_with(db, making, named(making, "2/rough_turn:A,B"), "", **{**by(db), "by": person(db, "pim")})
