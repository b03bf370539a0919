"""How jobs stand at a glance: worked out once, and anew as soon as something of the job is written, whoever
writes it.
"""

from collections.abc import Callable
from typing import Any
from uuid import uuid4

import pytest
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session, sessionmaker

from nomisma.jobs.bench.summary import JobAtAGlance, page_of_jobs, shown_of
from nomisma.jobs.closing.dispositions import DispositionGiven, decide
from nomisma.jobs.closing.handing_over import hand_over
from nomisma.jobs.opening.requirements import set_by_line, withdraw
from nomisma.jobs.standing.lookup import states_of
from nomisma.store import jobs
from nomisma.store.models import Account, Instrument, InstrumentCheck, JobSummary
from nomisma.store.summaries import JobFilter
from tests.jobs.shop_floor import now, opened, person, read


@pytest.fixture
def writing(db: Session) -> sessionmaker[Session]:
    """Sessions beside the test's own, as a page's are."""
    bind = db.get_bind()
    assert isinstance(bind, Engine)
    return sessionmaker(bind, expire_on_commit=False)


@pytest.fixture
def bench(db: Session, writing: sessionmaker[Session]) -> Callable[..., list[JobAtAGlance]]:
    """The Bench as it shows now."""

    def shown(**asked: Any) -> list[JobAtAGlance]:
        db.commit()
        db.expire_all()
        db.info.clear()  # as the session of another request
        return page_of_jobs(db, writing, count=200, **asked)

    return shown


def test_the_bench_says_of_every_job_of_the_shop_what_the_job_says_of_itself(db: Session, bench: Any) -> None:
    found = bench()
    states = {one.job.id: one for one in states_of(db, jobs.jobs_by_ids(db, [one.job.id for one in found]))}
    assert len(found) > 10
    assert [one.shown for one in found] == [shown_of(db, states[one.job.id]) for one in found]
    assert [one.shown for one in bench()] == [one.shown for one in found]


def test_what_was_worked_out_is_kept_until_something_is_written(db: Session, bench: Any) -> None:
    state = opened(db, "28 ±0.1\nlength 40 ±0.2")
    bench()
    row = db.get_one(JobSummary, state.job.id)
    assert row.computed == row.version
    read(db, state, "28.00")
    db.commit()
    db.refresh(row)
    assert row.computed < row.version


def test_a_summary_of_another_making_is_worked_out_anew(db: Session, bench: Any) -> None:
    state = opened(db, "28 ±0.1")
    before = bench()[0].shown
    row = db.get_one(JobSummary, state.job.id)
    row.shown = {"stage": "part", "colour": "brass"}
    assert bench()[0].shown == before


@pytest.mark.parametrize("deed", ["limits", "withdrawal", "disposition", "handing over"])
def test_whatever_is_written_of_a_job_shows_at_once(db: Session, bench: Any, deed: str) -> None:
    state = opened(db, "28 ±0.1\nlength 40 ±0.2")
    read(db, state, "27.80")
    assert bench()[0].shown.verdict == "gone_too_far"
    bram, out = person(db, "bram"), now(db, state)
    if deed == "limits":
        set_by_line(db, out, "28 ±0.5", based_on=1, by=bram, sent_id=uuid4(), judge_reason="it clears")
    elif deed == "withdrawal":
        withdraw(db, out, reason="not on the drawing", by=bram, sent_id=uuid4(), judge_reason="nor ever was")
    elif deed == "disposition":
        decide(db, out, DispositionGiven(uuid4(), "use_as_is", "", "it clears"), by=bram)
    else:
        hand_over(db, out, "scrap", by=bram, sent_id=uuid4())
    found = bench()[0]
    assert found.shown == shown_of(db, now(db, state))
    assert found.shown.handed_over == (deed == "handing over")
    assert found.shown.needs != "Gone too far: someone has to decide."


def test_a_failed_check_of_an_instrument_shows_in_the_jobs_it_read(db: Session, bench: Any) -> None:
    state = opened(db, "28 ±0.1")
    read(db, state, "28.00")
    before = bench()[0].shown.needs
    instrument = db.scalars(select(Instrument).where(Instrument.name.startswith("0–150"))).one()
    by_id = db.scalars(select(Account.id)).first()
    db.add(
        InstrumentCheck(
            id=uuid4(),
            instrument_id=instrument.id,
            of_id=instrument.first_id,
            standard_mm=25,
            standard_text="25",
            read_text="25.3",
            unit="mm",
            zero_error_mm="0.3",
            permitted_error_mm="0.02",
            by_id=by_id,
        )
    )
    after = bench()[0].shown.needs
    assert before != after
    assert after == shown_of(db, now(db, state)).needs


def test_jobs_that_need_a_decision_are_found_and_those_decided_are_not(db: Session, bench: Any) -> None:
    state = opened(db, "28 ±0.1")
    assert state.job.id not in {one.job.id for one in bench(wanted=JobFilter(needs_decision=True))}
    read(db, state, "27.80")
    assert state.job.id in {one.job.id for one in bench(wanted=JobFilter(needs_decision=True))}
    decide(db, now(db, state), DispositionGiven(uuid4(), "use_as_is", "", "it clears"), by=person(db, "bram"))
    assert state.job.id not in {one.job.id for one in bench(wanted=JobFilter(needs_decision=True))}


def test_jobs_not_begun_are_those_without_a_reading_of_what_is_made(db: Session, bench: Any) -> None:
    state = opened(db, "28 ±0.1")
    assert state.job.id in {one.job.id for one in bench(wanted=JobFilter(begun=False))}
    read(db, state, "28.50")
    assert state.job.id not in {one.job.id for one in bench(wanted=JobFilter(begun=False))}
    assert all(one.shown.verdict == "" for one in bench(wanted=JobFilter(begun=False)))
