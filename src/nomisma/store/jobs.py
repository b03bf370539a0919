"""Jobs, the partner's callout, limits and events: what is in force, and writing the next."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import NotDefined
from nomisma.store.append import AlreadyChanged, append
from nomisma.store.models import Job, JobEvent, Limits, PartnerStatement

LARGEST_NUMBER = 2**31 - 1  # of PostgreSQL's integer


def job_numbered(session: OrmSession, number: int) -> Job:
    """The job of that number. Raises NotDefined."""
    job = session.scalar(select(Job).where(Job.number == number)) if 0 < number <= LARGEST_NUMBER else None
    if job is None:
        raise NotDefined(f"There is no job {number}.", "Look for it on the bench.", field="number", value=number)
    return job


def job_page(session: OrmSession, *, below: int | None = None, count: int = 20) -> Sequence[Job]:
    """The newest jobs, or those numbered below `below`: keyset paging, as fast on the last page as on the first."""
    query = select(Job).order_by(Job.number.desc()).limit(count)
    return session.scalars(query if below is None else query.where(Job.number < below)).all()


def limits_in_force(session: OrmSession, job_ids: Sequence[UUID]) -> dict[UUID, Limits]:
    """The newest limits of each job that has any."""
    query = (
        select(Limits)
        .where(Limits.job_id.in_(job_ids))
        .ext(distinct_on(Limits.job_id))
        .order_by(Limits.job_id, Limits.version.desc())
    )
    return {row.job_id: row for row in session.scalars(query)}


def limits_history(session: OrmSession, job_id: UUID) -> Sequence[Limits]:
    """Every version of a job's limits, oldest first."""
    return session.scalars(select(Limits).where(Limits.job_id == job_id).order_by(Limits.version)).all()


def set_limits(session: OrmSession, row: Limits, *, based_on_version: int) -> Limits:
    """Put new limits in force as the version after the one the person saw.

    Raises AlreadyChanged when somebody set others in between; a repeat of the same row is harmless.
    """
    if found := session.get(Limits, row.id):
        return append(session, _as_version(row, found.version))
    newest = session.scalar(select(func.max(Limits.version)).where(Limits.job_id == row.job_id)) or 0
    if newest != based_on_version:
        raise AlreadyChanged(f"Limits {newest} were set by someone else while you were choosing.")
    return append(session, _as_version(row, newest + 1))


def _as_version(row: Limits, version: int) -> Limits:
    row.version = version
    return row


def callouts_in_force(session: OrmSession, job_ids: Sequence[UUID]) -> dict[UUID, str]:
    """The partner's callout of each job where it is given by one; a job whose readings count has none."""
    table = PartnerStatement
    query = (
        select(table).where(table.job_id.in_(job_ids)).ext(distinct_on(table.job_id)).order_by(table.job_id, table.at.desc())
    )
    return {row.job_id: row.callout for row in session.scalars(query) if row.callout}


@dataclass(frozen=True)
class Ending:
    """Whether a job is handed over, and the event that says so."""

    handed_over: bool
    event: JobEvent | None


def endings(session: OrmSession, job_ids: Sequence[UUID]) -> dict[UUID, Ending]:
    """The newest event of each job that has any."""
    query = (
        select(JobEvent)
        .where(JobEvent.job_id.in_(job_ids))
        .ext(distinct_on(JobEvent.job_id))
        .order_by(JobEvent.job_id, JobEvent.at.desc())
    )
    return {row.job_id: Ending(row.kind == "handed_over", row) for row in session.scalars(query)}


def events(session: OrmSession, job_id: UUID) -> Sequence[JobEvent]:
    """All events of a job, oldest first."""
    return session.scalars(select(JobEvent).where(JobEvent.job_id == job_id).order_by(JobEvent.at)).all()
