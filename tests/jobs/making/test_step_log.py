"""Closing a step: what closes it, who may, and what is said to whoever works on one that is not what it was."""

from uuid import uuid4

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.closing.record_plan import recorded_plan
from nomisma.jobs.making.step_log import (
    LeftUnread,
    NotAsShown,
    ShownAs,
    close,
    closed_by_reading,
    must_be_as_shown,
    open_again,
    read_enough,
)
from nomisma.jobs.planning.plan_log import keep_order, moved
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.store.models import Machine
from tests.jobs.making.test_steps import again, begun, named, read
from tests.jobs.planning.test_plan_log import by
from tests.jobs.shop_floor import now, person

TURNED = "od 28 ±0.04\nlength 40 ±0.2"


def test_a_step_without_a_size_is_closed_and_taken_back(db: Session) -> None:
    making = begun(db)
    close(db, making, named(making, "1/face:"), **by(db))
    assert named(again(db, making), "1/face:").is_done
    open_again(db, making, named(making, "1/face:"), **by(db))
    assert not named(again(db, making), "1/face:").is_done


def test_one_with_a_size_is_not_closed_by_nothing(db: Session) -> None:
    making = begun(db, TURNED)
    with pytest.raises(LeftUnread, match="A is not in limits yet"):
        close(db, making, named(making, "1/turn:A"), **by(db))
    with pytest.raises(LeftUnread, match="A is not in limits yet"):
        read_enough(db, making, named(making, "1/turn:A"), **by(db))


def test_closed_without_its_reading_by_a_machinist_the_record_says_so(db: Session) -> None:
    making = begun(db, TURNED)
    step = named(making, "1/turn:A")
    with pytest.raises(NotAllowed, match="closed without the reading it asks for by a machinist or the lead"):
        close(db, making, step, without_reading=True, **by(db, "pim"))
    close(db, making, step, without_reading=True, **by(db))
    found = recorded_plan(db, now(db, making.state))
    assert found is not None
    turned = next(one for one in found.set_ups[0].operations if one.finds == ["A"])
    assert [(one.by, one.closed) for one in turned.done] == [(person(db, "orla").name, "without its reading")]


def test_closed_by_its_reading_the_record_says_by_whom_and_a_repeat_adds_nothing(db: Session) -> None:
    making = begun(db, TURNED)
    for place in ("near end 0°", "near end 90°", "middle 0°", "middle 90°", "far end 0°", "far end 90°"):
        making = read(db, making, named(making, "1/turn:A"), "28.00", place)
    sent = uuid4()
    for _ in range(2):
        closed_by_reading(db, making, named(making, "1/turn:A"), by=person(db, "pim"), sent_id=sent)
    found = recorded_plan(db, now(db, making.state))
    assert found is not None
    turned = next(one for one in found.set_ups[0].operations if one.finds == ["A"])
    assert [(one.by, one.closed) for one in turned.done] == [(person(db, "pim").name, "by its reading")]
    assert again(db, making).plan.ticks == {}, "its readings go on deciding"


def test_what_only_a_reading_closes_is_not_closed_by_hand(db: Session) -> None:
    making = begun(db, "od 28 ±0.1")
    with pytest.raises(InputError, match="only what is read closes it"):
        close(db, making, making.steps[0], **by(db))


def test_a_reading_for_a_step_that_is_closed_is_asked_about_and_taken_all_the_same(db: Session) -> None:
    making = begun(db, TURNED)
    close(db, making, named(making, "1/turn:A"), without_reading=True, **by(db, "bram"))
    making = again(db, making)
    with pytest.raises(NotAsShown, match=r"Step 2, Finish turn A, is closed already, by Bram") as said:
        must_be_as_shown(making, ShownAs("1/turn:A"), typed="28.01")
    assert said.value.remedy.startswith("28.01 is not logged yet.")
    must_be_as_shown(making, ShownAs("1/turn:A", anyway=True), typed="28.01")


def test_a_step_that_is_not_in_the_plan_any_more_names_who_changed_it(db: Session) -> None:
    making = begun(db)
    keep_order(db, making.plan, moved(making.plan, "1/face:", 1), "as it came", **by(db, "bram"))
    with pytest.raises(NotAsShown, match=r"not in the plan any more\. Bram .* changed the plan"):
        must_be_as_shown(again(db, making), ShownAs("1/tap:Z"), typed="")


def test_on_another_lathe_the_lines_are_others(db: Session) -> None:
    making = begun(db)
    other = db.scalars(select(Machine)).first()
    assert other is not None
    with pytest.raises(NotAsShown, match="made on no lathe of the shop now") as said:
        must_be_as_shown(making, ShownAs("1/face:", lathe=str(other.id), anyway=True), typed="28")
    assert "press Enter" in said.value.remedy
