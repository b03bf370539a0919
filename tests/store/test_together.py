"""Rows that are written together: each once, each answered after the commit, none failing for another."""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from decimal import Decimal
from itertools import count
from threading import Barrier
from time import sleep
from typing import Any
from uuid import UUID, uuid4

import psycopg
import pytest
from sqlalchemy import Engine, event, func, select, text
from sqlalchemy.exc import DBAPIError

from nomisma.cluster import Cluster
from nomisma.store.append import CLOSED_SENTENCE, HandedOver
from nomisma.store.database import engine_for, sessions_of
from nomisma.store.jobs import hold
from nomisma.store.live import CHANNEL
from nomisma.store.models import Account, Feature, GaugeReading, Job, JobEvent, JobSummary
from nomisma.store.together import Together
from tests.conftest import copy_database

HANDS = 12
TOLD = {"job_number": 104, "kind": "gauge"}


@pytest.fixture(scope="module")
def url(cluster: Cluster, template: str) -> str:
    return copy_database(cluster, template)


@pytest.fixture(scope="module")
def engine(url: str) -> Iterator[Engine]:
    found = engine_for(url)
    yield found
    found.dispose()


NUMBERS = count(1)


def reading(engine: Engine, job: int = 104, **said: Any) -> GaugeReading:
    with sessions_of(engine)() as db:
        job_id = db.scalar(select(Job.id).where(Job.number == job))
        feature_id = db.scalar(select(Feature.id).where(Feature.job_id == job_id).limit(1))
    row = {"id": uuid4(), "gauge": "g", "run": "together", "number": next(NUMBERS), "size_mm": Decimal("22.20214")}
    return GaugeReading(
        **{**row, "job_id": job_id, "feature_id": feature_id, "size_text": "0.8741", "size_unit": "in", **said}
    )


def all_at_once(together: Together, rows: list[GaugeReading]) -> list[Any]:
    """What each hand is answered, all writing at the same moment."""
    at_the_same_moment = Barrier(len(rows))

    def one(row: GaugeReading) -> Any:
        at_the_same_moment.wait()
        try:
            return together.write(row, TOLD)
        except Exception as error:
            return error

    with ThreadPoolExecutor(len(rows)) as pool:
        return list(pool.map(one, rows))


def kept(engine: Engine, rows: list[GaugeReading]) -> dict[UUID, Decimal]:
    with sessions_of(engine)() as db:
        asked = select(GaugeReading.id, GaugeReading.size_mm).where(GaugeReading.id.in_([row.id for row in rows]))
        return {row.id: row.size_mm for row in db.execute(asked)}


def deadlocks(engine: Engine) -> int:
    with engine.connect() as connection:
        asked = text("SELECT deadlocks FROM pg_stat_database WHERE datname = current_database()")
        return int(connection.scalar(asked) or 0)


def test_what_is_written_at_once_is_written_exactly_and_in_few_statements(engine: Engine) -> None:
    rows = [reading(engine, size_mm=Decimal(number) / 1000 + Decimal("1e-12")) for number in range(1, HANDS + 1)]
    statements = 0

    def note(*_: Any) -> None:
        nonlocal statements
        statements += 1

    event.listen(engine, "before_cursor_execute", note)
    answers = all_at_once(Together(engine), rows)
    event.remove(engine, "before_cursor_execute", note)
    assert answers == rows
    assert all(row.sequence and row.at for row in rows)
    assert kept(engine, rows) == {row.id: row.size_mm for row in rows}
    assert statements <= HANDS


def test_a_row_that_comes_twice_is_written_once_and_the_first_stands(engine: Engine) -> None:
    first = reading(engine)
    again = [reading(engine, id=first.id, number=first.number, size_mm=Decimal(n)) for n in range(1, HANDS)]
    together = Together(engine)
    assert together.write(first, TOLD) is first
    assert all_at_once(together, again) == [None] * len(again)
    assert kept(engine, again) == {first.id: first.size_mm}
    twice = [reading(engine, id=uuid4(), number=10_000) for _ in range(2)]
    assert sum(answer is None for answer in all_at_once(together, twice)) == 1


def test_nobodys_row_fails_for_anothers(engine: Engine) -> None:
    with sessions_of(engine)() as db:
        closed, by = db.scalar(select(Job.id).where(Job.number == 105)), db.scalar(select(Account.id).limit(1))
        db.add(JobEvent(id=uuid4(), job_id=closed, kind="handed_over", note="", by_id=by))
        db.commit()
    rows = [reading(engine, 105 if n % 3 == 0 else 104) for n in range(HANDS)]
    rows[1].feature_id = uuid4()  # of nothing that is there
    answers = all_at_once(Together(engine), rows)
    for number, (row, answer) in enumerate(zip(rows, answers, strict=True)):
        if number % 3 == 0:
            assert isinstance(answer, HandedOver)
            assert str(answer) == CLOSED_SENTENCE
        elif number == 1:
            assert isinstance(answer, DBAPIError)
        else:
            assert answer is row
    assert len(kept(engine, rows)) == sum(isinstance(answer, GaugeReading) for answer in answers)


def test_jobs_are_counted_on_and_pages_told_once_it_is_there(engine: Engine, url: str) -> None:
    def version(number: int) -> int:
        with sessions_of(engine)() as db:
            asked = select(func.sum(JobSummary.version)).join(Job, Job.id == JobSummary.job_id)
            return int(db.scalar(asked.where(Job.number == number)) or 0)

    before = version(104), version(103)
    row = reading(engine)
    with psycopg.connect(url, autocommit=True) as listener:
        listener.execute(f"LISTEN {CHANNEL}")
        together = Together(engine)
        together.write(row, {**TOLD, "size": "0.8741 in"})
        together.write(row, {**TOLD, "size": "0.8741 in"})
        heard = [notice.payload for notice in listener.notifies(timeout=1)]
    assert heard == ['{"job": 104, "kind": "gauge", "size": "0.8741 in"}']
    assert (version(104) > before[0], version(103)) == (True, before[1])


def test_two_servers_writing_for_the_same_jobs_never_wait_for_each_other(engine: Engine) -> None:
    servers = Together(engine), Together(engine)
    for _ in range(6):
        rows = [reading(engine, (102, 103, 104, 108)[n % 4]) for n in range(HANDS)]
        with ThreadPoolExecutor(2) as pool:
            halves = rows[: HANDS // 2], rows[HANDS // 2 :][::-1]
            answers = list(pool.map(all_at_once, servers, halves))
        assert all(isinstance(answer, GaugeReading) for half in answers for answer in half), answers
    assert deadlocks(engine) == 0


def test_a_job_is_closed_while_its_gauges_speak_and_nobody_waits_for_each_other(engine: Engine) -> None:
    """A hand-over holds its job, then counts it on; so does what is written of it."""
    together = Together(engine)

    def close(kind: str) -> None:
        with sessions_of(engine)() as db:
            job_id = db.scalar(select(Job.id).where(Job.number == 108))
            hold(db, job_id)
            sleep(0.02)  # as long as checks take
            db.add(
                JobEvent(id=uuid4(), job_id=job_id, kind=kind, note="", by_id=db.scalar(select(Account.id).limit(1)))
            )
            db.commit()

    with ThreadPoolExecutor(1) as closing:
        for kind in ("handed_over", "taken_up_again") * 6:
            closed = closing.submit(close, kind)
            answers = [one for _ in range(4) for one in all_at_once(together, [reading(engine, 108) for _ in range(3)])]
            closed.result()
            assert all(isinstance(one, GaugeReading | HandedOver) for one in answers), answers
    assert deadlocks(engine) == 0
