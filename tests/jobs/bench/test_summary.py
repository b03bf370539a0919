"""How jobs stand at a glance: worked out once, and anew as soon as something of the job is written, whoever
writes it.
"""

from collections.abc import Callable
from typing import Any
from uuid import UUID, uuid4

import pytest
from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session, sessionmaker

from nomisma.jobs.bench.summary import JobAtAGlance, on_the_lathes, page_of_jobs, shown_of
from nomisma.jobs.closing.dispositions import DispositionGiven, decide
from nomisma.jobs.closing.handing_over import hand_over
from nomisma.jobs.opening.new_job import Lines, open_by_lines
from nomisma.jobs.opening.requirements import set_by_line, withdraw
from nomisma.jobs.planning.plan_entries import Answer, Intake, Question, Said, Tick, Topic
from nomisma.jobs.planning.plan_log import say
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.standing.lookup import state_numbered, states_of
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs
from nomisma.store.models import Account, Instrument, InstrumentCheck, JobSummary, Machine
from nomisma.store.summaries import LAST_WORKED, JobFilter, last_worked
from tests.jobs.shop_floor import job, now, opened, person, read


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
    last = last_worked(db, list(states))
    assert [one.shown for one in found] == [
        shown_of(db, states[id], last.get(id)) for id in (one.job.id for one in found)
    ]
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
    assert found.shown.needs == shown_of(db, now(db, state)).needs
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


def said(db: Session, state: JobState, topic: Topic, entry: Said) -> None:
    say(db, plan_of(db, state), topic, entry, by=person(db, "orla"), sent_id=uuid4())


def test_jobs_are_listed_by_the_day_they_are_needed_the_soonest_first(db: Session, bench: Any) -> None:
    later, sooner, words, _ = (opened(db, "28 ±0.1") for _ in range(4))
    for state, day in ((later, "1 Mar 2027"), (sooner, "2027-02-27"), (words, "before the frost")):
        said(db, state, "intake", Intake(needed_by=day))
    own = {later.job.id, sooner.job.id, words.job.id}
    found = [one for one in bench(wanted=JobFilter(by_due_day=True, closed=False)) if one.job.id in own]
    assert [(one.job.id, one.shown.due) for one in found] == [
        (sooner.job.id, "2027-02-27"),
        (later.job.id, "2027-03-01"),
    ]
    hand_over(db, now(db, sooner), "scrap", by=person(db, "bram"), sent_id=uuid4())
    found = [one.job.id for one in bench(wanted=JobFilter(by_due_day=True, closed=False)) if one.job.id in own]
    assert found == [later.job.id]


def test_a_question_holds_a_job_up_until_it_is_answered(db: Session, bench: Any) -> None:
    state = opened(db, "28 ±0.1")
    said(db, state, "question", Question(question="Which end first?"))
    (asked,) = [one for one in bench(wanted=JobFilter(questions=True)) if one.job.id == state.job.id]
    assert (asked.shown.questions, asked.shown.needs) == (1, "1 open question before metal is cut.")
    row = plan_of(db, now(db, state)).questions[0].row
    said(db, now(db, state), "answer", Answer(of=str(row.id), answer="the left one"))
    assert state.job.id not in {one.job.id for one in bench(wanted=JobFilter(questions=True))}


def test_a_lathe_has_on_it_what_was_worked_on_last_there(db: Session, bench: Any, writing: Any) -> None:
    machine = db.scalars(select(Machine).where(Machine.name == "Long lathe")).one()
    rows = [job(db), job(db)]
    for row in rows:
        row.machine_id = machine.id
    first, second = (state_numbered(db, open_by_lines(db, row, Lines("od 28 ±0.1", "mm")).number) for row in rows)
    for state in (first, second):
        read(db, state, "28.60")
        db.commit()

    def there() -> list[UUID]:
        db.expire_all()
        return [one.job.id for one in on_the_lathes(db, writing) if one.job.machine_id == machine.id]

    bench()
    assert there() == [second.job.id]
    read(db, now(db, first), "27.50")
    db.commit()
    assert there() == [first.job.id]  # gone too far: it waits in the chuck for somebody to decide
    assert [one.shown.worked_by for one in bench() if one.job.id == first.job.id] == ["Orla Quillfeather"]
    hand_over(db, now(db, first), "scrap", by=person(db, "bram"), sent_id=uuid4())
    db.commit()
    assert there() == [second.job.id]


def test_the_jobs_of_a_person_are_those_started_and_those_worked_on_last(db: Session, bench: Any) -> None:
    bram = person(db, "bram")
    state = opened(db, "28 ±0.1")
    assert state.job.id not in {one.job.id for one in bench(wanted=JobFilter(by_id=bram.id))}
    tick = Tick(key="1/face:")
    say(db, plan_of(db, state), "tick", tick, by=bram, sent_id=uuid4())
    assert state.job.id in {one.job.id for one in bench(wanted=JobFilter(by_id=bram.id))}


def test_who_worked_last_is_asked_by_the_indexes(db: Session) -> None:
    db.execute(text("SET LOCAL enable_seqscan = off"))  # the demo is so small that PostgreSQL would rather read it all
    plan = "\n".join(db.scalars(text(f"EXPLAIN {LAST_WORKED.text}"), {"jobs": [uuid4()]}).all())
    assert all(f"ix_{name}" in plan for name in ("reading_feature_sequence", "plan_entry_job_sequence"))
    assert "Seq Scan on reading" not in plan


def test_the_outline_is_that_of_the_part(db: Session) -> None:
    shown = shown_of(db, opened(db, "od 28 ±0.1 x 40\nod 20 x 10\nbore 12 H7 x 15 deep"))
    assert shown.outline == [[1, 0, 40, 28], [1, 40, 50, 20], [0, 0, 15, pytest.approx(12.009)]]
