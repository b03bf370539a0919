"""A step taken before others of its set-up: what it breaks is said, and kept with its reason."""

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.making.taken_now import take_now, taken_now
from nomisma.jobs.shop.rights import NotAllowed
from tests.jobs.making.test_steps import EVERY_KIND, again, begun, named
from tests.jobs.planning.test_plan_log import by

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
