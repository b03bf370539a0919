"""Work in the four-jaw and at the dial."""

from datetime import datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, ForeignKey, Identity, Index, Numeric, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from nomisma.core.quantity.length import Unit
from nomisma.core.truing.four_jaw import Keys
from nomisma.core.truing.surface import Grip, TruedSurface
from nomisma.store.models.base import MM, Base, client_uuid, one_of, written_at
from nomisma.store.models.people import Account
from nomisma.store.models.shop import Chuck


class Truing(Base):
    """One set-up of work in a four-jaw: what is indicated, with what, and how true it is wanted. The newest of a job
    counts.

    In practice there is no job and no chuck: `level` and `seed` make the simulated work.
    """

    __tablename__ = "truing"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID | None] = mapped_column(
        ForeignKey("feature.id")
    )  # whose surface is indicated; none: nobody said
    planned_set_up: Mapped[str] = mapped_column(
        Text, server_default=""
    )  # core.order.set_ups.Worked; empty: nobody said
    piece: Mapped[str] = mapped_column(Text, server_default="")  # of a batch; empty: the one piece, or nobody said
    chuck_id: Mapped[UUID | None] = mapped_column(ForeignKey("chuck.id"))
    level: Mapped[str] = mapped_column(Text, server_default="")
    seed: Mapped[int | None] = mapped_column(BigInteger)
    surface: Mapped[TruedSurface] = one_of(TruedSurface)
    grip: Mapped[Grip] = one_of(Grip, server_default="outside")
    places: Mapped[int]
    teeth: Mapped[int | None]
    keys: Mapped[Keys] = one_of(Keys)
    use: Mapped[str] = mapped_column(Text, server_default="")  # core.truing.surface.uses; empty: a swing of one's own
    unit: Mapped[Unit] = one_of(Unit)
    instrument_id: Mapped[UUID | None] = mapped_column(ForeignKey("instrument.id"))
    target_mm: Mapped[Decimal] = mapped_column(MM)
    target_text: Mapped[str] = mapped_column(Text)
    screw_lead_mm: Mapped[Decimal] = mapped_column(MM)
    screw_lead_text: Mapped[str] = mapped_column(Text)
    graduation_mm: Mapped[Decimal] = mapped_column(MM)
    graduation_text: Mapped[str] = mapped_column(Text)
    range_mm: Mapped[Decimal | None] = mapped_column(MM)
    range_text: Mapped[str] = mapped_column(Text, server_default="")
    needle_turn_mm: Mapped[Decimal | None] = mapped_column(MM)
    needle_turn_text: Mapped[str] = mapped_column(Text, server_default="")
    far_mm: Mapped[Decimal | None] = mapped_column(MM)  # from the near circle to the far one; none: not read
    far_text: Mapped[str] = mapped_column(Text, server_default="")
    length_mm: Mapped[Decimal | None] = mapped_column(MM)  # that has to run true
    length_text: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    chuck: Mapped[Chuck | None] = relationship()
    __table_args__ = (
        Index("ix_truing_job_sequence", "job_id", "sequence"),
        Index("ix_truing_chuck_sequence", "chuck_id", "sequence"),
    )


class TruingReading(Base):
    """What the indicator said at one place of one round; said again for the same place, the newest counts."""

    __tablename__ = "truing_reading"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    truing_id: Mapped[UUID] = mapped_column(ForeignKey("truing.id"))
    round: Mapped[int]
    circle: Mapped[str] = mapped_column(Text)  # near or far
    kind: Mapped[str] = mapped_column(Text)  # place, highest or lowest
    place: Mapped[int]  # index round the turn, from jaw 1
    at_deg: Mapped[Decimal] = mapped_column(Numeric(9, 5))
    read_mm: Mapped[Decimal] = mapped_column(MM)
    read_text: Mapped[str] = mapped_column(Text)
    read_unit: Mapped[Unit] = one_of(Unit)
    tightened: Mapped[bool]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_truing_reading_truing_sequence", "truing_id", "sequence"),)


class TruingEvent(Base):
    """What was done between readings: a round set aside or confirmed, a key turned in practice, ready to cut."""

    __tablename__ = "truing_event"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    truing_id: Mapped[UUID] = mapped_column(ForeignKey("truing.id"))
    kind: Mapped[str] = mapped_column(Text)
    detail: Mapped[dict[str, Any]] = mapped_column(JSONB)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_truing_event_truing_sequence", "truing_id", "sequence"),)


class Cut(Base):
    """One cut of a feature: what was dialled, and what the coach expected of it (90 % interval). Its size after is
    what the standing readings of that cut number say."""

    __tablename__ = "cut"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    feature_id: Mapped[UUID] = mapped_column(ForeignKey("feature.id"))
    piece: Mapped[str] = mapped_column(Text, server_default="")
    cut_number: Mapped[int]
    set_up: Mapped[int]  # of the tool; a new one forgets what was learned
    machine_id: Mapped[UUID | None] = mapped_column(ForeignKey("machine.id"))
    approach: Mapped[str] = mapped_column(Text)
    dialled_mm: Mapped[Decimal] = mapped_column(MM)  # on diameter, as the dial has it
    dialled_text: Mapped[str] = mapped_column(Text)
    last_pass_mm: Mapped[Decimal | None] = mapped_column(
        MM
    )  # where it took several passes, nothing measured between them
    means: Mapped[str] = mapped_column(Text, server_default="tool")  # tool, or stone: stone, emery or cloth
    before_mm: Mapped[Decimal] = mapped_column(MM)
    expected_mm: Mapped[Decimal | None] = mapped_column(MM)
    expected_low_mm: Mapped[Decimal | None] = mapped_column(MM)
    expected_high_mm: Mapped[Decimal | None] = mapped_column(MM)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (
        Index("ix_cut_feature_sequence", "feature_id", "sequence"),
        Index("ix_cut_machine_sequence", "machine_id", "sequence"),
    )
