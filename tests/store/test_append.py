"""Many rows at once: in their order, marked once, and a repeat of them is harmless or refused."""

from uuid import uuid4

import pytest
from sqlalchemy import select, text
from sqlalchemy.orm import Session

from nomisma.store.append import A_PORTION, AlreadySent, append, append_all
from nomisma.store.models import Job, PlanEntry


def said(job: Job, count: int) -> list[PlanEntry]:
    return [
        PlanEntry(id=uuid4(), job_id=job.id, topic="question", said={"question": f"number {n}?"}, by_id=job.by_id)
        for n in range(count)
    ]


def again(rows: list[PlanEntry]) -> list[PlanEntry]:
    return [PlanEntry(id=one.id, job_id=one.job_id, topic=one.topic, said=one.said, by_id=one.by_id) for one in rows]


def test_many_rows_are_written_in_order_and_their_job_is_marked_once_a_portion(db: Session) -> None:
    job = db.scalars(select(Job).where(Job.number == 118)).one()
    marked = text("SELECT version FROM job_summary WHERE job_id = :id")
    before = db.scalar(marked, {"id": job.id})
    rows = said(job, A_PORTION + 20)
    append_all(db, rows)
    kept = db.scalars(
        select(PlanEntry.id).where(PlanEntry.id.in_([one.id for one in rows])).order_by(PlanEntry.sequence)
    ).all()
    assert list(kept) == [one.id for one in rows]
    assert db.scalar(marked, {"id": job.id}) == before + 2


def test_the_same_rows_again_write_nothing_and_other_words_under_their_ids_are_refused(db: Session) -> None:
    job = db.scalars(select(Job).where(Job.number == 118)).one()
    rows = said(job, 9)
    append(db, rows[3])
    append_all(db, again(rows))
    append_all(db, again(rows))
    assert len(db.scalars(select(PlanEntry).where(PlanEntry.id.in_([one.id for one in rows]))).all()) == 9
    other = again(rows)
    other[5].said = {"question": "something else?"}
    with pytest.raises(AlreadySent):
        append_all(db, other)
