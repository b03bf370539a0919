"""What a job is about: its parts, their features, and the joints between them."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import BigInteger, ForeignKey, Identity, Index, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from nomisma.core.part.feature_kinds import KindName, every_name
from nomisma.store.models.base import Base, client_uuid, one_of, written_at
from nomisma.store.models.people import Account


class Part(Base):
    """One part of a job: made here, or at hand (it is there already, and only measured or called out)."""

    __tablename__ = "part"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    title: Mapped[str] = mapped_column(Text, server_default="")
    made_here: Mapped[bool]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    __table_args__ = (Index("ix_part_job_sequence", "job_id", "sequence"),)


class Feature(Base):
    """One feature of a part by its letter, kept for good: what it is. Its limits are versions of their own."""

    __tablename__ = "feature"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    part_id: Mapped[UUID] = mapped_column(ForeignKey("part.id"))
    letter: Mapped[str] = mapped_column(Text)
    kind: Mapped[KindName] = one_of(every_name())
    title: Mapped[str] = mapped_column(Text, server_default="")  # a name of its own: bearing seat
    line_text: Mapped[str] = mapped_column(Text, server_default="")  # what the line of the sketch says of it
    through: Mapped[bool] = mapped_column(server_default="false")  # a bore that goes through
    before_pressing: Mapped[bool] = mapped_column(server_default="false")  # a bush's bore until it is pressed in
    position_from: Mapped[str] = mapped_column(
        Text, server_default=""
    )  # the letter of the face a position is counted from
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    part: Mapped[Part] = relationship()
    __table_args__ = (UniqueConstraint("job_id", "letter"), Index("ix_feature_job_sequence", "job_id", "sequence"))


class FeatureEvent(Base):
    """A feature withdrawn, or put back; the newest counts."""

    __tablename__ = "feature_event"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    kind: Mapped[str] = mapped_column(Text)  # withdrawn or put_back
    reason: Mapped[str] = mapped_column(Text)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_feature_event_feature_sequence", "feature_id", "sequence"),)


class Joint(Base):
    """An internal feature and the external one that goes into it."""

    __tablename__ = "joint"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    internal_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    external_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    __table_args__ = (Index("ix_joint_job_sequence", "job_id", "sequence"),)
