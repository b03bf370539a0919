"""Jobs, the partner's callout, limits and events: what is in force, and writing the next."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy import bindparam, func, select, true
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased, contains_eager, joinedload

from nomisma.core.errors import NotDefined
from nomisma.store.append import AlreadyChanged, append
from nomisma.store.models import (
    AssemblyPlan,
    AssemblyResult,
    Decision,
    Job,
    JobEvent,
    Limits,
    PartnerStatement,
    ShopSetting,
)

LARGEST_NUMBER = 2**31 - 1  # of PostgreSQL's integer


@dataclass(frozen=True)
class Standing:
    """A job with what is in force: newest limits, the partner's callout (empty: its readings count), newest event.

    `assembled`: it was put together and that did not stop short. `acceptance`: the job's own rule, else the shop's, else
    none. `pieces_wanted`: how many of it are to be made. `plan`: the measuring plan. `decision`: the newest about it.
    """

    job: Job
    limits: Limits | None
    partner_callout: str
    event: JobEvent | None
    assembly_planned: bool = False
    assembled: bool = False
    acceptance: str = ""
    pieces_wanted: int = 1
    plan: str = ""
    decision: Decision | None = None

    @property
    def handed_over(self) -> bool:
        """Whether the job is closed."""
        return _closes(self.event)


def _newest(table: type[Limits] | type[PartnerStatement] | type[JobEvent] | type[Decision], order: Any, name: str) -> Any:
    """The newest row of a table for the job of the row beside it."""
    return select(table).where(table.job_id == Job.id).order_by(order.desc()).limit(1).lateral(name)


# Statements are built once: building one costs more than running it.
_limits = aliased(Limits, _newest(Limits, Limits.version, "limits_in_force"))
_statement = aliased(PartnerStatement, _newest(PartnerStatement, PartnerStatement.at, "newest_statement"))
_event = aliased(JobEvent, _newest(JobEvent, JobEvent.at, "newest_event"))
_planned = select(AssemblyPlan.id).where(AssemblyPlan.job_id == Job.id).exists()
_assembled = (
    select(AssemblyResult.id).where(AssemblyResult.job_id == Job.id, AssemblyResult.felt != "stopped_short").exists()
)
_decision = aliased(Decision, _newest(Decision, Decision.sequence, "newest_decision"))


def _setting(name: str, job_id: Any, *, until: Any = None) -> Any:
    """The newest value of a choice (until a time, if given): the job's, or the shop's where `job_id` is None."""
    whose = ShopSetting.job_id == job_id if job_id is not None else ShopSetting.job_id.is_(None)
    when = [ShopSetting.at <= until] if until is not None else []
    return (
        select(ShopSetting.value)
        .where(ShopSetting.name == name, whose, *when)
        .order_by(ShopSetting.sequence.desc())
        .limit(1)
        .scalar_subquery()
    )


# What the shop decides later does not judge anew what was made by the limits of before.
_acceptance = func.coalesce(
    _setting("acceptance", Job.id), _setting("acceptance", None, until=func.coalesce(_limits.at, func.now())), ""
)
_pieces = func.coalesce(_setting("pieces", Job.id), "1")
_plan = func.coalesce(_setting("measuring_plan", Job.id), "")
_STANDING = (
    select(Job, _limits, _statement.callout, _event, _planned, _assembled, _acceptance, _pieces, _plan, _decision)
    .select_from(Job)
    .join(Job.by)
    .outerjoin(Job.machine)
    .outerjoin(_limits, true())
    .outerjoin(_statement, true())
    .outerjoin(_event, true())
    .outerjoin(_decision, true())
    .options(contains_eager(Job.by), contains_eager(Job.machine))
)
_NUMBERED = _STANDING.where(Job.number == bindparam("number"))
_PAGE = _STANDING.where(Job.number < bindparam("below")).order_by(Job.number.desc()).limit(bindparam("count"))


_LIMITS_HISTORY = (
    select(Limits).where(Limits.job_id == bindparam("job_id")).options(joinedload(Limits.by)).order_by(Limits.version)
)
_EVENTS = (
    select(JobEvent).where(JobEvent.job_id == bindparam("job_id")).options(joinedload(JobEvent.by)).order_by(JobEvent.at)
)


def job_numbered(session: OrmSession, number: int) -> Standing:
    """The job of that number and what is in force. Raises NotDefined."""
    found = session.execute(_NUMBERED, {"number": number}).first() if 0 < number <= LARGEST_NUMBER else None
    if found is None:
        raise NotDefined(f"There is no job {number}.", "Look for it on the bench.", field="number", value=number)
    return _standing(found)


def job_page(session: OrmSession, *, below: int | None = None, count: int = 20) -> list[Standing]:
    """The newest jobs, or those numbered below `below`: keyset paging, as fast on the last page as on the first."""
    below = min(max(below if below is not None else LARGEST_NUMBER, 0), LARGEST_NUMBER)
    return [_standing(row) for row in session.execute(_PAGE, {"below": below, "count": count})]


def _standing(row: Any) -> Standing:
    job, limits, callout, event, planned, assembled, acceptance, pieces, plan, decision = row
    return Standing(job, limits, callout or "", event, planned, assembled, acceptance, int(pieces), plan, decision)


def limits_history(session: OrmSession, job_id: UUID) -> Sequence[Limits]:
    """Every version of a job's limits, oldest first."""
    return session.scalars(_LIMITS_HISTORY, {"job_id": job_id}).all()


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


_NEWEST_EVENT = select(JobEvent).where(JobEvent.job_id == bindparam("job_id")).order_by(JobEvent.at.desc()).limit(1)


def is_handed_over(session: OrmSession, job_id: UUID) -> bool:
    """Whether a job is closed, for who needs to know nothing else of it."""
    return _closes(session.scalar(_NEWEST_EVENT, {"job_id": job_id}))


def _closes(event: JobEvent | None) -> bool:
    return event is not None and event.kind == "handed_over"


def events(session: OrmSession, job_id: UUID) -> Sequence[JobEvent]:
    """All events of a job, oldest first."""
    return session.scalars(_EVENTS, {"job_id": job_id}).all()


JUDGING = ("acceptance", "measuring_plan", "pieces")
"""Choices of a job that say what is measured of it and by which rule it is accepted."""


def choices(session: OrmSession, job_id: UUID) -> Sequence[ShopSetting]:
    """What was chosen for a job of how it is measured and accepted, oldest first."""
    asked = (
        select(ShopSetting)
        .where(ShopSetting.job_id == job_id, ShopSetting.name.in_(JUDGING))
        .options(joinedload(ShopSetting.by))
        .order_by(ShopSetting.sequence)
    )
    return session.scalars(asked).all()


def decisions(session: OrmSession, job_id: UUID) -> Sequence[Decision]:
    """Every decision about a job, oldest first."""
    asked = select(Decision).where(Decision.job_id == job_id).options(joinedload(Decision.by)).order_by(Decision.sequence)
    return session.scalars(asked).all()
