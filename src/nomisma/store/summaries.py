"""Jobs as the Bench lists them, each with how it stands as it was worked out last; and which of that no
longer holds.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, and_, bindparam, func, or_, select, text, update
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import contains_eager, joinedload

from nomisma.core.number import is_whole
from nomisma.store.by_version import by_version
from nomisma.store.jobs import LARGEST_NUMBER
from nomisma.store.models import Account, Job, JobEvent, JobSummary, PartnerStatement

_closing = (
    select(JobEvent.kind)
    .where(JobEvent.job_id == Job.id)
    .order_by(JobEvent.at.desc())
    .limit(1)
    .correlate(Job)
    .scalar_subquery()
)
_PAGE = (
    select(Job, JobSummary)
    .join(Job.by)
    .join(JobSummary, JobSummary.job_id == Job.id)
    .options(contains_eager(Job.by), joinedload(Job.machine))
    .where(Job.number < bindparam("below"))
    .order_by(Job.number.desc())
    .limit(bindparam("count"))
)
_AT_THE_LATHES = (
    select(Job, JobSummary)
    .join(Job.by)
    .join(JobSummary, JobSummary.job_id == Job.id)
    .options(contains_eager(Job.by), joinedload(Job.machine))
    .where(
        Job.machine_id.is_not(None),
        or_(
            JobSummary.worked_at.is_not(None),
            and_(JobSummary.computed != JobSummary.version, JobSummary.computed_by == bindparam("program")),
        ),
    )
    .order_by(JobSummary.worked_at.desc().nulls_first())
    .limit(bindparam("count"))
)
LAST_WORKED = text(
    "SELECT j.id, w.by_id, w.at, a.name FROM job j CROSS JOIN LATERAL ("
    " (SELECT r.by_id, r.at FROM feature f CROSS JOIN LATERAL"
    " (SELECT * FROM reading n WHERE n.feature_id = f.id ORDER BY n.sequence DESC LIMIT 1) r"
    " WHERE f.job_id = j.id ORDER BY r.at DESC LIMIT 1)"
    " UNION ALL (SELECT t.by_id, t.at FROM feature f CROSS JOIN LATERAL"
    " (SELECT * FROM trial n WHERE n.feature_id = f.id ORDER BY n.sequence DESC LIMIT 1) t"
    " WHERE f.job_id = j.id ORDER BY t.at DESC LIMIT 1)"
    " UNION ALL (SELECT p.by_id, p.at FROM plan_entry p"
    " WHERE p.job_id = j.id AND p.topic IN ('tick', 'runout', 'first_start') ORDER BY p.sequence DESC LIMIT 1)"
    " UNION ALL (SELECT r.by_id, r.at FROM truing t CROSS JOIN LATERAL"
    " (SELECT * FROM truing_reading n WHERE n.truing_id = t.id ORDER BY n.sequence DESC LIMIT 1) r"
    " WHERE t.job_id = j.id ORDER BY r.at DESC LIMIT 1)"
    " ORDER BY at DESC LIMIT 1) w JOIN account a ON a.id = w.by_id WHERE j.id = ANY(:jobs)"
)
"""Who did something last at each of some jobs, and when: by the indexes, newest first."""
_TO_COMPUTE = (
    select(JobSummary)
    .where(or_(JobSummary.computed != JobSummary.version, JobSummary.computed_by != bindparam("program")))
    .limit(bindparam("count"))
)


@dataclass(frozen=True, slots=True)
class JobFilter:
    """Which jobs are looked for: words in number, title, what is asked, callout or name of who started it; open ones,
    closed ones; those a person started or worked on last; those held up by a question. `by_due_day`: the open ones
    that are needed by a day, the soonest first.
    """

    words: str = ""
    by_id: UUID | None = None
    questions: bool = False
    by_due_day: bool = False
    machine_id: UUID | None = None
    closed: bool | None = None
    begun: bool | None = None
    needs_decision: bool = False

    def conditions(self) -> list[ColumnElement[bool]]:
        """As the database is asked; every word has to be found somewhere."""
        found = [_has_word(word) for word in self.words.split()[:MOST_WORDS]]
        if self.by_id is not None:
            found.append(or_(Job.by_id == self.by_id, JobSummary.worked_by_id == self.by_id))
        if self.questions:
            found.append(JobSummary.questions > 0)
        if self.by_due_day:
            found.append(JobSummary.due_on.is_not(None))
        if self.machine_id is not None:
            found.append(Job.machine_id == self.machine_id)
        if self.closed is not None:
            is_closed = func.coalesce(_closing, "") == "handed_over"
            found.append(is_closed if self.closed else ~is_closed)
        if self.begun is not None:
            found.append(JobSummary.begun.is_(self.begun))
        if self.needs_decision:
            found.append(JobSummary.needs_decision.is_(True))
        return found

    @property
    def goes_by_summary(self) -> bool:
        """Whether it goes by what was worked out of a job, which must then be worked out of all."""
        of_summaries = self.by_id is not None, self.questions, self.by_due_day, self.needs_decision
        return self.begun is not None or any(of_summaries)


MOST_WORDS = 8


def _has_word(word: str) -> ColumnElement[bool]:
    plain = word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
    of_job = (
        select(PartnerStatement.id)
        .where(PartnerStatement.job_id == Job.id, PartnerStatement.callout.ilike(f"%{plain}%"))
        .exists()
    )
    numbered = [Job.number == int(word)] if is_whole(word) and int(word) <= LARGEST_NUMBER else []
    return or_(
        *numbered,
        Job.title.ilike(f"%{plain}%"),
        Job.asked.ilike(f"%{plain}%"),
        Account.name.ilike(f"%{plain}%"),
        of_job,
    )


def job_page(
    session: OrmSession, *, below: int | None = None, count: int = 20, wanted: JobFilter | None = None
) -> list[tuple[Job, JobSummary]]:
    """The newest jobs, or those numbered below `below`: keyset paging, as fast on the last page as on the first. By
    due day, the soonest.
    """
    below = min(max(below if below is not None else LARGEST_NUMBER, 0), LARGEST_NUMBER)
    asked = _PAGE.where(*wanted.conditions()) if wanted is not None else _PAGE
    if wanted is not None and wanted.by_due_day:
        asked = asked.order_by(None).order_by(JobSummary.due_on, Job.number)
    return [(job, summary) for job, summary in session.execute(asked, {"below": below, "count": count})]


@by_version("log")
def at_the_lathes(session: OrmSession, *, program: str, count: int) -> list[tuple[Job, JobSummary]]:
    """The jobs that stood on a lathe when they were worked out, with that lathe, the one worked on last first; before
    them those of a lathe that something was written of since this version of the program worked them out.
    """
    asked = {"program": program, "count": count}
    return [(job, summary) for job, summary in session.execute(_AT_THE_LATHES, asked)]


@dataclass(frozen=True, slots=True)
class LastWorked:
    """Who did something last at a job, and when."""

    by_id: UUID
    name: str
    at: datetime


def last_worked(session: OrmSession, job_ids: Sequence[UUID]) -> dict[UUID, LastWorked]:
    """By job, what was done last at its lathe; nothing of those where nothing was."""
    rows = session.execute(LAST_WORKED, {"jobs": list(job_ids)})
    return {row.id: LastWorked(row.by_id, row.name, row.at) for row in rows}


def to_compute(session: OrmSession, *, program: str, count: int) -> Sequence[JobSummary]:
    """Some of the summaries that no longer hold, or were worked out by another version of the program."""
    return session.scalars(_TO_COMPUTE, {"program": program, "count": count}).all()


def keep(session: OrmSession, seen: JobSummary, values: dict[str, Any]) -> None:
    """Keep what was worked out, unless something of the job was written since `seen` was read. Commits nothing."""
    holds = JobSummary.job_id == seen.job_id, JobSummary.version == seen.version
    session.execute(update(JobSummary).where(*holds).values(computed=seen.version, **values))
