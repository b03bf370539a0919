"""What was decided of a job before metal is cut: one row a saying; the newest of a topic counts."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, ForeignKey, Identity, Index, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from nomisma.store.models.base import Base, client_uuid, written_at
from nomisma.store.models.people import Account


class PlanEntry(Base):
    """One saying about the plan of a job: its topic, what was said (as `jobs/planning/plan_entries.py` reads it), who
    and when.
    """

    __tablename__ = "plan_entry"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    topic: Mapped[str] = mapped_column(Text)
    said: Mapped[dict[str, Any]] = mapped_column(JSONB)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_plan_entry_job_sequence", "job_id", "sequence"),)
