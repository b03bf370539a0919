"""What open pages are told that they could not hear: by the indexes, of one job, since a moment."""

from datetime import UTC, datetime, timedelta
from decimal import Decimal
from uuid import UUID, uuid4

import pytest
from sqlalchemy import TextClause, select, text
from sqlalchemy.orm import Session

from nomisma.store import live
from nomisma.store.models import Feature, GaugeReading, Job
from tests.jobs.shop_floor import opened, read

SOON = timedelta(minutes=5)


def gauge_says(db: Session, job: Job, size: str) -> UUID:
    feature = db.scalars(select(Feature).where(Feature.job_id == job.id)).first()
    assert feature is not None
    sent = {"gauge": "bench-gauge", "run": uuid4().hex, "number": 1, "job_id": job.id, "feature_id": feature.id}
    row = GaugeReading(id=uuid4(), size_mm=Decimal(size), size_text=size, size_unit="mm", **sent)
    db.add(row)
    db.flush()
    return row.id


def test_what_a_gauge_sent_since_is_told_with_its_unit_and_of_that_job_alone(db: Session) -> None:
    state, other = opened(db, "od 28 ±0.1"), opened(db, "od 28 ±0.1")
    id = gauge_says(db, state.job, "28.01")
    since = datetime.now(UTC) - SOON
    (told,) = live.told_since(db, state.job.number, since)
    assert (told["kind"], told["id"], told["size"], told["feature"]) == ("gauge", str(id), "28.01 mm", "A")
    assert live.told_since(db, other.job.number, since) == []
    assert live.told_since(db, state.job.number, datetime.now(UTC) + SOON) == []
    assert len(live.told_since(db, state.job.number, datetime.now(UTC) + SOON, clocks_differ=2 * SOON)) == 1


def test_that_something_was_logged_since_is_told(db: Session) -> None:
    state = opened(db, "od 28 ±0.1")
    read(db, state, "28.00")
    assert [one["kind"] for one in live.told_since(db, state.job.number, datetime.now(UTC) - SOON)] == ["reading"]
    assert live.told_since(db, state.job.number, datetime.now(UTC) + SOON) == []


@pytest.mark.parametrize(
    ("asked", "indexes"),
    [
        (live.SENT_SINCE, ("ix_gauge_reading_feature_sequence", "pk_reading")),
        (live.LOGGED_SINCE, ("ix_reading_feature_sequence", "ix_plan_entry_job_sequence")),
    ],
)
def test_no_page_that_opens_goes_through_the_readings_of_the_shop(
    db: Session, asked: TextClause, indexes: tuple[str, ...]
) -> None:
    db.execute(text("SET LOCAL enable_seqscan = off"))  # the demo is so small that PostgreSQL would rather read it all
    plan = db.scalars(text(f"EXPLAIN {asked.text}"), {"job": 104, "since": datetime.now(UTC)}).all()
    said = "\n".join(plan)
    assert all(name in said for name in indexes), said
    assert "Seq Scan on reading" not in said
    assert "Seq Scan on gauge_reading" not in said
