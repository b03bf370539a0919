"""Jobs: what is asked, the limits in force, what happened and what was decided."""

from datetime import date, datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, Index, Integer, Text, UniqueConstraint, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from nomisma.core.part.duty import DutyName
from nomisma.core.quantity.length import Unit
from nomisma.store.models.base import MM, Base, client_uuid, one_of, written_at
from nomisma.store.models.people import Account
from nomisma.store.models.shop import Machine


class Job(Base):
    """One thing asked for: its parts, their features and joints hang on it."""

    __tablename__ = "job"
    id: Mapped[UUID] = client_uuid()
    number: Mapped[int] = mapped_column(Integer, Identity(start=101), unique=True)
    title: Mapped[str] = mapped_column(Text)
    asked: Mapped[str] = mapped_column(Text, server_default="")
    unit: Mapped[Unit] = one_of(Unit)
    machine_id: Mapped[UUID | None] = mapped_column(ForeignKey("machine.id"))
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    machine: Mapped[Machine | None] = relationship()


class PartnerStatement(Base):
    """What is said of a feature at hand when it was not measured: a callout (25 H7). The newest one counts."""

    __tablename__ = "partner_statement"
    id: Mapped[UUID] = client_uuid()
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    callout: Mapped[str] = mapped_column(Text)  # empty: the readings count
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    __table_args__ = (Index("ix_partner_statement_feature_at", "feature_id", "at"),)


class Limits(Base):
    """What is required of a feature, version by version; the highest version is in force.

    A limit that is not there is none; without any the size is for reference.
    """

    __tablename__ = "limits"
    id: Mapped[UUID] = client_uuid()
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    version: Mapped[int]
    limits_from: Mapped[str] = mapped_column(
        Text
    )  # the fit system; or where else they come from: line, code, general, reference
    option_name: Mapped[str] = mapped_column(Text)
    text: Mapped[str] = mapped_column(Text, server_default="")  # as it was written
    duty: Mapped[DutyName] = one_of(DutyName, server_default="")  # empty: nobody said
    along: Mapped[str] = mapped_column(
        Text, server_default=""
    )  # where it lies along the axis (core.part.along); empty: nobody said
    true_to: Mapped[str] = mapped_column(Text, server_default="")  # the letter of the feature it must be true to
    nominal_mm: Mapped[Decimal | None] = mapped_column(MM)
    lower_mm: Mapped[Decimal | None] = mapped_column(MM)
    upper_mm: Mapped[Decimal | None] = mapped_column(MM)
    aim_mm: Mapped[Decimal | None] = mapped_column(MM)
    inputs: Mapped[dict[str, Any]] = mapped_column(JSONB)  # of the calculation fit_options
    option: Mapped[dict[str, Any]] = mapped_column(JSONB)  # the option chosen, with its working
    reason: Mapped[str] = mapped_column(Text, server_default="")  # why they were changed once a piece was out
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (UniqueConstraint("feature_id", "version"),)


class JobEvent(Base):
    """What happened to a job as a whole: handed over, taken up again."""

    __tablename__ = "job_event"
    id: Mapped[UUID] = client_uuid()
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    kind: Mapped[str] = mapped_column(Text)  # handed_over or taken_up_again
    note: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_job_event_job_at", "job_id", "at"),)


class Disposition(Base):
    """What is done about a piece, by someone allowed to, tied to the feature, the readings and the limits it was made
    on.
    """

    __tablename__ = "disposition"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    kind: Mapped[str] = mapped_column(Text)  # core.measuring.disposition
    piece: Mapped[str] = mapped_column(Text, server_default="")
    state: Mapped[str] = mapped_column(Text)
    reason: Mapped[str] = mapped_column(Text)
    reading_ids: Mapped[list[str]] = mapped_column(JSONB)
    limits_id: Mapped[UUID | None] = mapped_column(ForeignKey("limits.id"))
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_disposition_feature_sequence", "feature_id", "sequence"),)


class KeptAnswer(Base):
    """What a worksheet answered, kept with a feature of a job: what was asked, as typed, and the whole answer with its
    working.
    """

    __tablename__ = "kept_answer"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    calculation: Mapped[str] = mapped_column(Text)
    unit: Mapped[Unit] = one_of(Unit)
    asked: Mapped[dict[str, str]] = mapped_column(JSONB)
    answer: Mapped[dict[str, Any]] = mapped_column(JSONB)
    note: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_kept_answer_job_sequence", "job_id", "sequence"),)


class JobSummary(Base):
    """How a job stands, worked out when somebody looks; a trigger counts `version` on when something of the job is
    written.

    It is no record: what it says holds while `computed` is `version`, and by the rules of the program that worked it
    out.
    """

    __tablename__ = "job_summary"
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), primary_key=True)
    version: Mapped[int] = mapped_column(BigInteger, server_default="1")
    said: Mapped[int] = mapped_column(BigInteger, server_default="1")  # as version, but for what is cut and read
    computed: Mapped[int] = mapped_column(BigInteger, server_default="0")
    computed_by: Mapped[str] = mapped_column(Text, server_default="")
    begun: Mapped[bool] = mapped_column(server_default="false")
    needs_decision: Mapped[bool] = mapped_column(server_default="false")
    shown: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    worked_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))  # none: on no lathe
    worked_by_id: Mapped[UUID | None] = mapped_column(ForeignKey("account.id"))
    due_on: Mapped[date | None]
    questions: Mapped[int] = mapped_column(server_default="0")
    __table_args__ = (
        Index("ix_job_summary_to_compute", "job_id", postgresql_where=text("computed <> version")),
        Index("ix_job_summary_worked_at", "worked_at", postgresql_where=text("worked_at IS NOT NULL")),
    )
