"""The log of plans: everything said of a job's plan, oldest first."""

from collections.abc import Mapping, Sequence
from uuid import UUID

from sqlalchemy import bindparam, select
from sqlalchemy.orm import Session, joinedload

from nomisma.store.by_version import by_version
from nomisma.store.models import PlanEntry

_OF_A_JOB = (
    select(PlanEntry)
    .where(PlanEntry.job_id == bindparam("job_id"))
    .options(joinedload(PlanEntry.by))
    .order_by(PlanEntry.sequence)
)


_OF_A_TOPIC = _OF_A_JOB.where(PlanEntry.topic == bindparam("topic")).order_by(None).order_by(PlanEntry.sequence.desc())


def newest_like(session: Session, job_id: UUID, topic: str, said: Mapping[str, object]) -> PlanEntry | None:
    """What was said last of a topic of a plan; of an answer, what was answered last to the same question."""
    rows = session.scalars(_OF_A_TOPIC, {"job_id": job_id, "topic": topic})
    return next((row for row in rows if row.said.get("of") == said.get("of")), None)


@by_version("said")
def plan_entries(session: Session, job_id: UUID) -> Sequence[PlanEntry]:
    """Everything said of a job's plan, oldest first."""
    return session.scalars(_OF_A_JOB, {"job_id": job_id}).all()
