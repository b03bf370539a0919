"""The log is append-only: repeats are harmless, changes are refused by the database itself."""

from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from typing import Any
from uuid import uuid4

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import Engine, select, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from nomisma.cluster import Cluster
from nomisma.core.errors import NotDefined
from nomisma.store import jobs, readings, shop, summaries
from nomisma.store.append import AlreadyChanged, AlreadySent, append
from nomisma.store.database import engine_for, migrate, sessions_of
from nomisma.store.models import APPEND_ONLY, Base, Instrument, Job, JobEvent, Limits, Reading
from nomisma.store.parts import own_id
from tests.conftest import copy_database


def job_titled(db: Session, title: str) -> Job:
    return db.scalars(select(Job).where(Job.title.startswith(title))).one()


def reading(db: Session, job: Job, size_mm: str = "22.2", **changes: Any) -> Reading:
    instrument = next(row for row in shop.instruments(db) if row.measures == "bore")
    fields: dict[str, Any] = {
        "id": uuid4(),
        "job_id": job.id,
        "feature_id": own_id(job.id, "A"),
        "place": "mouth 0°",
        "size_mm": Decimal(size_mm),
        "size_text": size_mm,
        "size_unit": "mm",
        "cut_number": 2,
        "instrument_id": instrument.id,
        "by_id": job.by_id,
        "reason": "",
        "withdrawn": False,
    }
    return Reading(**{**fields, **changes})


@pytest.fixture(scope="module")
def shared(cluster: Cluster, template: str) -> Iterator[Engine]:
    """One shop for all changes that are refused."""
    found = engine_for(copy_database(cluster, template))
    yield found
    found.dispose()


@pytest.mark.parametrize("table", APPEND_ONLY)
@pytest.mark.parametrize("change", ["UPDATE {} SET at = now()", "DELETE FROM {}", "TRUNCATE {} CASCADE"])
def test_the_database_refuses_to_change_the_log(shared: Engine, table: str, change: str) -> None:
    with shared.connect() as connection, pytest.raises(DBAPIError, match="the log is append-only"):
        connection.execute(text(change.format(table)))


def test_the_same_row_sent_twice_is_there_once(db: Session) -> None:
    job = job_titled(db, "Dome")
    row_id = uuid4()
    for _ in range(2):
        append(db, reading(db, job, id=row_id))
        db.commit()
    assert db.scalars(select(Reading.id).where(Reading.id == row_id)).all() == [row_id]


def test_another_row_under_the_same_id_is_refused_and_the_first_stands(db: Session) -> None:
    job = job_titled(db, "Dome")
    first = append(db, reading(db, job, "22.2"))
    db.commit()
    with pytest.raises(AlreadySent, match="the first one stands"):
        append(db, reading(db, job, "22.3", id=first.id))
    assert db.get_one(Reading, first.id).size_mm == Decimal("22.2")


def test_two_people_sending_the_same_row_at_once_write_it_once(engine: Engine, db: Session) -> None:
    job = job_titled(db, "Dome")
    row = append(db, reading(db, job))
    same = reading(db, job, id=row.id, instrument_id=row.instrument_id)
    db.commit()
    with sessions_of(engine)() as other:
        assert append(other, same).sequence == row.sequence


def test_a_reading_is_superseded_only_once(db: Session) -> None:
    job = job_titled(db, "Dome")
    first = append(db, reading(db, job))
    append(db, reading(db, job, supersedes_id=first.id, reason="misread"))
    db.commit()
    with pytest.raises(AlreadyChanged):
        append(db, reading(db, job, supersedes_id=first.id, reason="misread again"))


def test_only_standing_readings_since_the_last_cut_count(db: Session) -> None:
    job = job_titled(db, "Dome")
    first = append(db, reading(db, job, "22.10", cut_number=3))
    append(db, reading(db, job, "22.20", cut_number=3))
    append(db, reading(db, job, "22.15", cut_number=3, supersedes_id=first.id, reason="misread"))
    db.commit()
    found = readings.extremes(db, [own_id(job.id, "A")])[own_id(job.id, "A")]
    assert (found.count, found.smallest_mm, found.largest_mm) == (2, Decimal("22.15"), Decimal("22.2"))


def test_a_withdrawn_reading_counts_for_nothing_and_stays_in_the_log(db: Session) -> None:
    job = job_titled(db, "Dome")
    first = append(db, reading(db, job, "22.10", cut_number=3))
    append(
        db,
        reading(db, job, "22.10", cut_number=3, supersedes_id=first.id, withdrawn=True, reason="chip under the anvil"),
    )
    db.commit()
    assert readings.extremes(db, [own_id(job.id, "A")])[own_id(job.id, "A")].groups == ()
    assert [item.row.reason for item in readings.log(db, own_id(job.id, "A"))][-1] == "chip under the anvil"
    assert readings.standing(db, first.id) is None


def test_sizes_come_back_exact(db: Session) -> None:
    job = job_titled(db, "Dome")
    row = append(db, reading(db, job, "22.22253750001"))
    db.commit()
    db.expire_all()
    assert db.get_one(Reading, row.id).size_mm == Decimal("22.22253750001")


def limits(job: Job, **changes: Any) -> Limits:
    fields: dict[str, Any] = {
        "id": uuid4(),
        "job_id": job.id,
        "feature_id": own_id(job.id, "A"),
        "version": 0,
        "limits_from": "iso",
        "option_name": "H7/g6",
        "lower_mm": Decimal("11.9"),
        "upper_mm": Decimal("12.1"),
        "aim_mm": Decimal("12"),
        "inputs": {},
        "option": {},
        "by_id": job.by_id,
    }
    return Limits(**{**fields, **changes})


def test_limits_are_versioned_and_the_newest_is_in_force(db: Session) -> None:
    job = job_titled(db, "Encoder")
    for version in range(3):
        jobs.set_limits(db, limits(job, upper_mm=Decimal("12.1") + version), based_on_version=version)
    db.commit()
    assert [one.limits and one.limits.version for one in jobs.job_numbered(db, job.number).features] == [3, None]
    assert [row.version for row in jobs.limits_history(db, own_id(job.id, "A"))] == [1, 2, 3]


def test_limits_chosen_by_two_at_once_go_to_the_first(db: Session) -> None:
    job = job_titled(db, "Encoder")
    jobs.set_limits(db, limits(job), based_on_version=0)
    db.commit()
    with pytest.raises(AlreadyChanged, match="Limits 1 were set by someone else"):
        jobs.set_limits(db, limits(job), based_on_version=0)


def test_the_same_choice_sent_twice_is_one_version(db: Session) -> None:
    job = job_titled(db, "Encoder")
    row_id = uuid4()
    for _ in range(2):
        jobs.set_limits(db, limits(job, id=row_id), based_on_version=0)
        db.commit()
    assert len(jobs.limits_history(db, own_id(job.id, "A"))) == 1


def test_a_superseded_instrument_leaves_the_list_and_keeps_its_readings(db: Session) -> None:
    old = shop.instruments(db)[0]
    fields = {
        column.key: getattr(old, column.key)
        for column in Instrument.__table__.columns
        if column.key not in ("id", "at")
    }
    new = append(db, Instrument(**{**fields, "id": uuid4(), "supersedes_id": old.id, "repeatability_text": "0.0001"}))
    db.commit()
    ids = {row.id for row in shop.instruments(db)}
    assert new.id in ids
    assert old.id not in ids


def test_the_newest_event_says_whether_a_job_is_open(db: Session) -> None:
    job = job_titled(db, "Winch")
    assert jobs.job_numbered(db, job.number).handed_over
    append(
        db,
        JobEvent(
            id=uuid4(),
            job_id=job.id,
            kind="taken_up_again",
            note="",
            by_id=job.by_id,
            at=datetime.now(UTC) + timedelta(days=1),
        ),
    )
    db.commit()
    assert not jobs.job_numbered(db, job.number).handed_over


def test_jobs_come_by_page_newest_first(db: Session) -> None:
    first = summaries.job_page(db, count=2)
    second = summaries.job_page(db, below=first[-1][0].number, count=2)
    numbers = [job.number for job, _ in (*first, *second)]
    assert numbers == sorted(numbers, reverse=True)
    assert len(set(numbers)) == 4


def test_a_job_that_is_not_there_is_said_plainly(db: Session) -> None:
    with pytest.raises(NotDefined, match="There is no job 99999. Look for it on the bench."):
        jobs.job_numbered(db, 99999)


def test_the_migrations_make_exactly_the_tables_of_the_models(engine: Engine) -> None:
    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_migrating_again_changes_nothing(engine: Engine) -> None:
    stands_at = text("SELECT version_num FROM alembic_version")
    with engine.connect() as connection:
        before = connection.scalar(stands_at)
    migrate(engine)
    with engine.connect() as connection:
        assert connection.scalar(stands_at) == before


def test_every_table_but_people_sign_ins_and_what_is_worked_out_is_guarded() -> None:
    assert set(APPEND_ONLY) == set(Base.metadata.tables) - {
        "account",
        "session",
        "sign_in_attempt",
        "job_summary",
        "shop_version",
    }


def test_what_was_typed_is_not_in_what_a_failure_says(db: Session) -> None:
    with pytest.raises(DBAPIError) as failed:
        db.execute(text("INSERT INTO job (id, title) VALUES (:id, :title)"), {"id": uuid4(), "title": "a secret title"})
    assert "a secret title" not in str(failed.value).split("DETAIL")[0]
