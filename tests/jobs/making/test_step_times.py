"""The clock of a job by its steps, and the shop's figures that it says are otherwise."""

from datetime import UTC, datetime, timedelta
from decimal import Decimal
from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.making.step_times import FigureLearnt, figures_learnt, reckon_with, step_times
from nomisma.jobs.making.steps import Making, of_every_piece
from nomisma.jobs.planning.plan_entries import FirstStart, Said, Tick, Topic
from nomisma.jobs.shop.plan_choices import plan_choices
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.store.models import PlanEntry
from tests.jobs.making.test_steps import begun
from tests.jobs.planning.test_plan_log import by
from tests.jobs.shop_floor import now, person

MORNING = datetime(2026, 11, 2, 7, 0, tzinfo=UTC)
PLAIN = "od 28 ±0.1 x 40"


def worked(db: Session, making: Making, *steps: tuple[str, float, str]) -> None:
    """Steps closed so many minutes one after the other: by key, minutes, and piece."""
    at = MORNING
    for key, minutes, piece in steps:
        at += timedelta(minutes=minutes)
        topic: Topic = "tick"
        said: Said = Tick(key=key, piece=piece)
        if key.startswith("hold/"):
            chucking = next(one.chucking for one in making.steps if one.key == key)
            assert chucking is not None
            topic, said = "first_start", FirstStart(set_up=chucking.key, way=chucking.way.name, piece=piece, steps=[])
        words = said.model_dump(mode="json")
        by_id = person(db, "orla").id
        db.add(PlanEntry(id=uuid4(), job_id=making.state.job.id, topic=topic, said=words, by_id=by_id, at=at))
        db.flush()


def set_up_three_times(db: Session, minutes: float) -> Making:
    making = begun(db, PLAIN, pieces=4)
    worked(
        db,
        making,
        *(one for piece in "1234" for one in (("hold/right", minutes, piece), ("1/face:", 4, piece))),
    )
    return making


def test_each_step_is_timed_from_the_one_before_of_whichever_piece(db: Session) -> None:
    making = set_up_three_times(db, 22)
    times = step_times(of_every_piece(db, now(db, making.state)))
    held = [(one.piece, one.minutes) for one in times if one.figure == "set_up_minutes"]
    assert held == [("2", 22), ("3", 22), ("4", 22)]  # before the first nothing stands


def test_a_pause_is_no_work_and_what_is_ticked_off_after_the_fact_took_no_time(db: Session) -> None:
    making = begun(db, PLAIN, pieces=3)
    worked(db, making, ("1/face:", 5, "1"), ("hold/right", 90, "2"), ("hold/right", 0.01, "3"))
    assert step_times(of_every_piece(db, now(db, making.state))) == []


def test_a_figure_is_learnt_where_the_clock_parts_by_more_than_half(db: Session) -> None:
    making = set_up_three_times(db, 22.1)
    (learnt,) = [one for one in figures_learnt(db, now(db, making.state)) if one.figure == "set_up_minutes"]
    assert learnt == FigureLearnt("set_up_minutes", Decimal(10), Decimal(22), 3)
    assert learnt.words == "A set-up took 22 min here (3 timed); the shop reckons 10."


def test_near_what_is_reckoned_nothing_is_learnt(db: Session) -> None:
    making = set_up_three_times(db, 14)
    assert [one.figure for one in figures_learnt(db, now(db, making.state)) if one.figure == "set_up_minutes"] == []


def test_accepted_the_shop_reckons_with_it_and_sent_twice_it_is_one(db: Session) -> None:
    making = set_up_three_times(db, 22)
    sent = by(db)
    for _ in range(2):
        reckon_with(db, now(db, making.state), "set_up_minutes", "22", **sent)
        db.flush()
    assert plan_choices(db)["set_up_minutes"] == "22"
    assert [one.figure for one in figures_learnt(db, now(db, making.state)) if one.figure == "set_up_minutes"] == []


def test_what_the_clock_says_no_more_is_not_accepted(db: Session) -> None:
    making = set_up_three_times(db, 22)
    with pytest.raises(InputError, match="otherwise by now"):
        reckon_with(db, now(db, making.state), "set_up_minutes", "31", **by(db))


def test_an_apprentice_changes_no_figure_of_the_shop(db: Session) -> None:
    making = set_up_three_times(db, 22)
    with pytest.raises(NotAllowed):
        reckon_with(db, now(db, making.state), "set_up_minutes", "22", by=person(db, "pim"), sent_id=uuid4())
