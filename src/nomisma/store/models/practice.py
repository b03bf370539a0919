"""Simulated parts; no record of real work."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, ForeignKey, Identity, Index, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from nomisma.store.models.base import Base, client_uuid, written_at


class PracticePart(Base):
    """A simulated part on a simulated lathe: its level and the seed it is made from. No record of real work."""

    __tablename__ = "practice_part"
    id: Mapped[UUID] = client_uuid()
    level: Mapped[str] = mapped_column(Text)
    seed: Mapped[int]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()


class PracticeEvent(Base):
    """What was done to a simulated part, in order: a cut, a reading, a touch of the stone, taken out."""

    __tablename__ = "practice_event"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    part_id: Mapped[UUID] = mapped_column(ForeignKey("practice_part.id"))
    kind: Mapped[str] = mapped_column(Text)
    detail: Mapped[dict[str, Any]] = mapped_column(JSONB)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    __table_args__ = (Index("ix_practice_event_part_sequence", "part_id", "sequence"),)
