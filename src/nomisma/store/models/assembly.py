"""How a joint goes together, and what was seen of it."""

from datetime import datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, ForeignKey, Identity, Index, Numeric, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from nomisma.core.quantity.length import Unit
from nomisma.store.models.base import MM, Base, client_uuid, one_of, written_at
from nomisma.store.models.people import Account
from nomisma.store.models.shop import Instrument


class AssemblyPlan(Base):
    """How a joint goes together: the worksheet asked, its inputs and its answer; the newest counts."""

    __tablename__ = "assembly_plan"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    joint_id: Mapped[UUID] = mapped_column(ForeignKey("joint.id"))
    method: Mapped[str] = mapped_column(Text)  # push, press, shrink or bond
    tool: Mapped[str] = mapped_column(Text)  # the worksheet it comes from; empty for a push
    asked: Mapped[dict[str, Any]] = mapped_column(JSONB)  # the worksheet's fields as typed
    inputs: Mapped[dict[str, Any]] = mapped_column(JSONB)  # of the calculation `assembly`
    answer: Mapped[dict[str, Any]] = mapped_column(JSONB)  # the worksheet's result
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_assembly_plan_joint_sequence", "joint_id", "sequence"),)


class AssemblyResult(Base):
    """What was seen when it was put together: how it felt, the force, the size before and after."""

    __tablename__ = "assembly_result"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    joint_id: Mapped[UUID] = mapped_column(ForeignKey("joint.id"))
    plan_id: Mapped[UUID] = mapped_column(ForeignKey("assembly_plan.id"))
    felt: Mapped[str] = mapped_column(Text)
    force_text: Mapped[str] = mapped_column(Text, server_default="")
    size_before_mm: Mapped[Decimal | None] = mapped_column(MM)
    size_before_text: Mapped[str] = mapped_column(Text, server_default="")
    size_after_mm: Mapped[Decimal | None] = mapped_column(MM)
    size_after_text: Mapped[str] = mapped_column(Text, server_default="")
    size_unit: Mapped[Unit] = one_of(Unit)
    instrument_id: Mapped[UUID | None] = mapped_column(ForeignKey("instrument.id"))
    close_in_factor: Mapped[Decimal | None] = mapped_column(Numeric(8, 4))
    note: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    instrument: Mapped[Instrument | None] = relationship()
    __table_args__ = (Index("ix_assembly_result_joint_sequence", "joint_id", "sequence"),)
