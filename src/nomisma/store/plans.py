"""The log of plans: everything said of a job's plan, oldest first."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import bindparam, select
from sqlalchemy.orm import Session, joinedload

from nomisma.store.models import PlanEntry

_OF_A_JOB = (
    select(PlanEntry)
    .where(PlanEntry.job_id == bindparam("job_id"))
    .options(joinedload(PlanEntry.by))
    .order_by(PlanEntry.sequence)
)


def plan_entries(session: Session, job_id: UUID) -> Sequence[PlanEntry]:
    """Everything said of a job's plan, oldest first."""
    return session.scalars(_OF_A_JOB, {"job_id": job_id}).all()
