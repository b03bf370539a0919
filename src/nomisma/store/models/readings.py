"""Readings as typed or spoken by a gauge, and what was asked before one was believed."""

from datetime import datetime
from decimal import Decimal
from uuid import UUID

from sqlalchemy import BigInteger, ForeignKey, Identity, Index, Numeric, Text, UniqueConstraint, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from nomisma.core.quantity.length import Unit
from nomisma.store.models.base import MM, Base, client_uuid, one_of, written_at
from nomisma.store.models.people import Account


class Reading(Base):
    """One reading of a feature, as typed and in mm, with the limits in force at the time.

    `size_mm` is what is believed: as read, less the zero error, brought to 20 °C; `read_mm` as read where that differs.
    `uncertainty_mm` (k = 2) is what it is worth as it was taken; none: what its instrument alone says.
    """

    __tablename__ = "reading"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    place: Mapped[str] = mapped_column(Text)
    size_mm: Mapped[Decimal] = mapped_column(MM)
    size_text: Mapped[str] = mapped_column(Text)
    size_unit: Mapped[Unit] = one_of(Unit)
    cut_number: Mapped[int] = mapped_column(server_default="0")  # taken after this cut; 0 is before the first
    piece: Mapped[str] = mapped_column(Text, server_default="")  # serial in a batch; empty: the one piece
    read_mm: Mapped[Decimal | None] = mapped_column(MM)
    zero_error_mm: Mapped[Decimal] = mapped_column(MM, server_default="0")
    temperature_c: Mapped[Decimal | None] = mapped_column(Numeric(6, 2))
    material: Mapped[str] = mapped_column(Text, server_default="")
    conditions: Mapped[str] = mapped_column(Text, server_default="")  # burr, hot, rough; said before it was accepted
    half_bracket_mm: Mapped[Decimal | None] = mapped_column(MM)  # half the way between a go and a no-go pin as marked
    uncertainty_mm: Mapped[Decimal | None] = mapped_column(MM)
    instrument_id: Mapped[UUID] = mapped_column(ForeignKey("instrument.id"))
    transfer_id: Mapped[UUID | None] = mapped_column(ForeignKey("instrument.id"))  # the gauge that carried the size
    limits_id: Mapped[UUID | None] = mapped_column(ForeignKey("limits.id"))
    supersedes_id: Mapped[UUID | None] = mapped_column(ForeignKey("reading.id"), unique=True)
    reason: Mapped[str] = mapped_column(Text, server_default="")
    withdrawn: Mapped[bool] = mapped_column(server_default="false")  # supersedes without a new size
    suspect_id: Mapped[UUID | None] = mapped_column(
        ForeignKey("suspect_reading.id")
    )  # what was asked before it was believed
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    __table_args__ = (
        Index("ix_reading_feature_sequence", "feature_id", "sequence"),
        Index("ix_reading_feature_piece_cut", "feature_id", "piece", text("cut_number DESC")),
        Index("ix_reading_instrument_at", "instrument_id", "at"),
    )


class SuspectReading(Base):
    """A size that was asked about before it was believed, as typed; the reading that followed points to it."""

    __tablename__ = "suspect_reading"
    id: Mapped[UUID] = client_uuid()
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    place: Mapped[str] = mapped_column(Text)
    size_mm: Mapped[Decimal] = mapped_column(MM)
    size_text: Mapped[str] = mapped_column(Text)
    size_unit: Mapped[Unit] = one_of(Unit)
    instrument_id: Mapped[UUID] = mapped_column(ForeignKey("instrument.id"))
    sentence: Mapped[str] = mapped_column(Text)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    __table_args__ = (Index("ix_suspect_reading_job_at", "job_id", "at"),)


class GaugeBinding(Base):
    """Which feature a gauge's readings go to; the newest of a gauge counts."""

    __tablename__ = "gauge_binding"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    gauge: Mapped[str] = mapped_column(Text)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    __table_args__ = (Index("ix_gauge_binding_gauge_sequence", "gauge", "sequence"),)


class GaugeReading(Base):
    """What a gauge sent, before anybody believed it; its run and number make a repeat harmless."""

    __tablename__ = "gauge_reading"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    gauge: Mapped[str] = mapped_column(Text)
    run: Mapped[str] = mapped_column(Text)
    number: Mapped[int] = mapped_column(BigInteger)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    size_mm: Mapped[Decimal] = mapped_column(MM)
    size_text: Mapped[str] = mapped_column(Text)
    size_unit: Mapped[Unit] = one_of(Unit)
    at: Mapped[datetime] = written_at()
    __table_args__ = (
        UniqueConstraint("gauge", "run", "number"),
        Index("ix_gauge_reading_feature_sequence", "feature_id", "sequence"),
    )


class Trial(Base):
    """How a mating part or gauge went by hand, or how a finish compared; of each place of a piece the newest counts."""

    __tablename__ = "trial"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    limits_id: Mapped[UUID | None] = mapped_column(ForeignKey("limits.id"))
    piece: Mapped[str] = mapped_column(Text, server_default="")
    place: Mapped[str] = mapped_column(Text)
    tried_with: Mapped[str] = mapped_column(Text)
    outcome: Mapped[str] = mapped_column(Text)  # core.measuring.trial
    orientation: Mapped[str] = mapped_column(Text, server_default="")  # how its mark stood
    note: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_trial_feature_sequence", "feature_id", "sequence"),)
