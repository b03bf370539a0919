"""How a job stands at each of its features, which one comes next, and the stages it goes through."""

from decimal import Decimal
from uuid import uuid4

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.errors import NotDefined
from nomisma.jobs.opening.new_job import Lines, NotUnderstood, add_features, open_bush, open_by_lines
from nomisma.jobs.opening.requirements import set_by_line
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.stages import page_at, stages_of
from nomisma.store.append import HandedOver
from nomisma.store.models import Job, JobEvent
from tests.jobs.shop_floor import job, opened, read


def test_the_first_feature_that_is_not_settled_comes_next(db: Session) -> None:
    state = opened(db, "28 ±0.1\nlength 40 ±0.2\ndepth 5 ±0.2")
    assert (state.needs.letter, state.job_next) == ("A", ("measure", "A: cut it, and log the first reading."))
    read(db, state, "28.00")
    assert state_numbered(db, state.job.number).needs.letter == "B"


def test_one_gone_too_far_comes_before_the_others(db: Session) -> None:
    state = opened(db, "28 ±0.1\nlength 40 ±0.2\ndepth 5 ±0.2")
    read(db, state.features[2], "6.00")
    assert state_numbered(db, state.job.number).job_next == ("record", "Gone too far: someone has to decide.")


def test_settled_throughout_it_goes_to_the_record(db: Session) -> None:
    state = opened(db, "28 ±0.1\nlength 40 ±0.2")
    for one, size in zip(state.features, ("28.00", "40.00"), strict=True):
        read(db, one, size)
    assert state_numbered(db, state.job.number).job_next[0] == "record"


def test_stages_follow_what_the_feature_is(db: Session) -> None:
    state = opened(db, "od 28 ±0.1 x 40 ±0.2")
    assert stages_of(state.features[0]) == ("part", "plan", "make", "record")
    assert stages_of(state.features[1]) == ("part", "plan", "make", "record")
    assert stages_of(opened(db, "runout 0.02")) == ("part", "plan", "make", "record")
    assert (page_at(state.features[1], "cut"), page_at(state.features[0], "mate"), page_at(state, "hold")) == (
        "cut",
        "make",
        "make",
    )
    bush = state_numbered(db, open_bush(db, job(db)).number)
    assert stages_of(bush) == ("part", "mate", "plan", "make", "assemble", "record")


def test_a_partner_made_here_counts_by_its_limits_until_it_is_measured(db: Session) -> None:
    state = state_numbered(db, open_bush(db, job(db)).number)
    assert (state.partner_input, state.partner_kind, state.kind) == (None, "bore", "shaft")


def test_letters_go_on_where_they_ended_and_a_letter_may_be_small(db: Session) -> None:
    state = opened(db, "28 ±0.1")
    add_features(db, state, Lines("length 40 ±0.2\ndepth 5 ±0.2", "mm"), by_id=state.job.by_id, sent_id=uuid4())
    assert state_numbered(db, state.job.number, "c").letter == "C"
    with pytest.raises(NotDefined, match="has no feature D"):
        state_numbered(db, state.job.number, "D")


def test_a_line_that_is_none_keeps_all_the_others_out(db: Session) -> None:
    before = len(db.scalars(select(Job.id)).all())
    with pytest.raises(NotUnderstood, match="Line 2, “bush”"):
        open_by_lines(db, job(db), Lines("28 ±0.1\nbush", "mm"))
    assert len(db.scalars(select(Job.id)).all()) == before


def test_all_lines_that_are_none_are_explained_at_once(db: Session) -> None:
    with pytest.raises(NotUnderstood) as refused:
        open_by_lines(db, job(db), Lines("\n".join(["bush", "28 ±0.1", *["frob"] * 8]), "mm"))
    assert "Line 1, “bush”" in refused.value.problem
    assert "Line 9, “frob”" in refused.value.problem
    assert refused.value.problem.endswith("1 more line is not understood.")


def test_the_aim_lies_between_two_limits_and_one_limit_has_none(db: Session) -> None:
    state = opened(db, "length 40 +0.3/-0.1\n6 max")
    assert state.both_limits
    assert state.both_limits.aim_mm == Decimal("40.1")
    assert (state.features[1].both_limits, state.features[1].feature.target_mm) == (None, Decimal(6))


def test_nothing_is_changed_of_a_job_that_is_handed_over(db: Session) -> None:
    state = opened(db, "28 ±0.1")
    db.add(JobEvent(id=uuid4(), job_id=state.job.id, kind="handed_over", by_id=state.job.by_id))
    db.flush()
    closed = state_numbered(db, state.job.number)
    with pytest.raises(HandedOver):
        set_by_line(db, closed, "28 ±0.2", based_on=1, by=state.job.by, sent_id=uuid4())
