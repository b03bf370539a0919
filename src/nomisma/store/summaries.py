"""Jobs as the Bench lists them, each with how it stands as it was worked out last; and which of that no
longer holds.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, bindparam, func, or_, select, update
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import contains_eager

from nomisma.core.number import is_whole
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
    .options(contains_eager(Job.by))
    .where(Job.number < bindparam("below"))
    .order_by(Job.number.desc())
    .limit(bindparam("count"))
)
_TO_COMPUTE = (
    select(JobSummary)
    .where(or_(JobSummary.computed != JobSummary.version, JobSummary.computed_by != bindparam("program")))
    .limit(bindparam("count"))
)


@dataclass(frozen=True, slots=True)
class JobFilter:
    """Which jobs are looked for: words in number, title, what is asked, callout or name of who started it; open ones,
    closed ones.
    """

    words: str = ""
    by_id: UUID | None = None
    machine_id: UUID | None = None
    closed: bool | None = None
    begun: bool | None = None
    needs_decision: bool = False

    def conditions(self) -> list[ColumnElement[bool]]:
        """As the database is asked; every word has to be found somewhere."""
        found = [_has_word(word) for word in self.words.split()[:MOST_WORDS]]
        if self.by_id is not None:
            found.append(Job.by_id == self.by_id)
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
        return self.needs_decision or self.begun is not None


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
    """The newest jobs, or those numbered below `below`: keyset paging, as fast on the last page as on the first."""
    below = min(max(below if below is not None else LARGEST_NUMBER, 0), LARGEST_NUMBER)
    asked = _PAGE.where(*wanted.conditions()) if wanted is not None else _PAGE
    return [(job, summary) for job, summary in session.execute(asked, {"below": below, "count": count})]


def to_compute(session: OrmSession, *, program: str, count: int) -> Sequence[JobSummary]:
    """Some of the summaries that no longer hold, or were worked out by another version of the program."""
    return session.scalars(_TO_COMPUTE, {"program": program, "count": count}).all()


def keep(session: OrmSession, seen: JobSummary, values: dict[str, Any]) -> None:
    """Keep what was worked out, unless something of the job was written since `seen` was read. Commits nothing."""
    holds = JobSummary.job_id == seen.job_id, JobSummary.version == seen.version
    session.execute(update(JobSummary).where(*holds).values(computed=seen.version, **values))
