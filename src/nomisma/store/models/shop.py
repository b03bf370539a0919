"""What the shop has and has chosen: instruments and their checks, machines, chucks, rules, settings."""

from datetime import date, datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, Date, ForeignKey, Identity, Index, Numeric, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from nomisma.core.cutting.amount import DialReads
from nomisma.core.measuring.zero_check import failed
from nomisma.core.quantity.length import Unit
from nomisma.store.models.base import MM, Base, client_uuid, one_of, written_at
from nomisma.store.models.people import Account


class Instrument(Base):
    """An instrument as known from `at` on; a change is a new row that supersedes. Lengths in mm and as entered.

    `of_id` is the first row of the same instrument (none on that row itself), so that its checks and readings stay
    together.
    """

    __tablename__ = "instrument"
    id: Mapped[UUID] = client_uuid()
    name: Mapped[str] = mapped_column(Text)
    measures: Mapped[str] = mapped_column(Text)  # shaft, bore or both
    unit: Mapped[Unit] = one_of(Unit)
    resolution_mm: Mapped[Decimal] = mapped_column(MM)
    resolution_text: Mapped[str] = mapped_column(Text)
    permitted_error_mm: Mapped[Decimal] = mapped_column(MM)
    permitted_error_text: Mapped[str] = mapped_column(Text)
    repeatability_mm: Mapped[Decimal] = mapped_column(MM)
    repeatability_text: Mapped[str] = mapped_column(Text)
    kind: Mapped[str] = mapped_column(Text, server_default="")  # core.measuring.instrument_kinds; empty: not said
    range_from_mm: Mapped[Decimal | None] = mapped_column(MM)
    range_from_text: Mapped[str] = mapped_column(Text, server_default="")
    range_to_mm: Mapped[Decimal | None] = mapped_column(MM)
    range_to_text: Mapped[str] = mapped_column(Text, server_default="")
    standard: Mapped[str] = mapped_column(Text, server_default="")  # the working standard it is checked on
    due_on: Mapped[date | None] = mapped_column(Date)  # when the whole instrument is to be calibrated again
    of_id: Mapped[UUID | None] = mapped_column(ForeignKey("instrument.id"))
    supersedes_id: Mapped[UUID | None] = mapped_column(ForeignKey("instrument.id"), unique=True)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()

    @property
    def first_id(self) -> UUID:
        """The instrument itself, whichever of its rows this is."""
        return self.of_id or self.id


class InstrumentCheck(Base):
    """An instrument on its standard: what it read, what it is off by, and what it was allowed at the time."""

    __tablename__ = "instrument_check"
    id: Mapped[UUID] = client_uuid()
    instrument_id: Mapped[UUID] = mapped_column(ForeignKey("instrument.id"))
    of_id: Mapped[UUID] = mapped_column(ForeignKey("instrument.id"))
    standard_mm: Mapped[Decimal] = mapped_column(MM)
    standard_text: Mapped[str] = mapped_column(Text)
    read_text: Mapped[str] = mapped_column(Text)
    unit: Mapped[Unit] = one_of(Unit)
    zero_error_mm: Mapped[Decimal] = mapped_column(MM)
    permitted_error_mm: Mapped[Decimal] = mapped_column(MM)
    note: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_instrument_check_of_at", "of_id", "at"),)

    @property
    def failed(self) -> bool:
        """Whether it was off by more than it is allowed."""
        return failed(self.zero_error_mm, self.permitted_error_mm)


class Machine(Base):
    """A lathe and its cross-slide dial; a change is a new row that supersedes."""

    __tablename__ = "machine"
    id: Mapped[UUID] = client_uuid()
    name: Mapped[str] = mapped_column(Text)
    unit: Mapped[Unit] = one_of(Unit)
    dial_line_mm: Mapped[Decimal] = mapped_column(MM)
    dial_line_text: Mapped[str] = mapped_column(Text)
    dial_reads: Mapped[DialReads] = one_of(DialReads)
    dial_turn_mm: Mapped[Decimal | None] = mapped_column(MM)  # what one turn shows, as the dial reads
    dial_turn_text: Mapped[str] = mapped_column(Text, server_default="")
    backlash_mm: Mapped[Decimal | None] = mapped_column(MM)
    backlash_text: Mapped[str] = mapped_column(Text, server_default="")
    most_cut_mm: Mapped[Decimal | None] = mapped_column(MM)  # on diameter
    most_cut_text: Mapped[str] = mapped_column(Text, server_default="")
    most_rpm: Mapped[int | None]  # marked on the chuck it carries
    most_force_n: Mapped[Decimal | None] = mapped_column(Numeric)  # cutting force it stands
    readout: Mapped[bool] = mapped_column(server_default="false")
    speeds: Mapped[str] = mapped_column(Text, server_default="")  # a list (60 90 140) or a range (50-2000), rpm
    room: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")  # swing, centres and the like, as entered
    supersedes_id: Mapped[UUID | None] = mapped_column(ForeignKey("machine.id"), unique=True)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()

    @property
    def lines_a_turn(self) -> Decimal | None:
        """Lines in one turn of its cross-slide dial, where it is known."""
        return self.dial_turn_mm / self.dial_line_mm if self.dial_turn_mm else None


class StockBar(Base):
    """A bar or a remnant on the shelf, lengths in mm and as entered; sawn from, it is a new row that supersedes with
    what is left.
    """

    __tablename__ = "stock_bar"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    words: Mapped[str] = mapped_column(Text, server_default="")  # what it is called, where it lies
    material: Mapped[str] = mapped_column(Text)  # core.materials
    shape: Mapped[str] = mapped_column(Text)  # core.planning.blank
    surface: Mapped[str] = mapped_column(Text)
    unit: Mapped[Unit] = one_of(Unit)
    across_mm: Mapped[Decimal] = mapped_column(MM)
    across_text: Mapped[str] = mapped_column(Text)
    bore_mm: Mapped[Decimal | None] = mapped_column(MM)
    bore_text: Mapped[str] = mapped_column(Text, server_default="")
    length_mm: Mapped[Decimal] = mapped_column(MM)  # 0: used up
    length_text: Mapped[str] = mapped_column(Text)
    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"))  # what it was sawn for
    of_id: Mapped[UUID | None] = mapped_column(ForeignKey("stock_bar.id"))
    supersedes_id: Mapped[UUID | None] = mapped_column(ForeignKey("stock_bar.id"), unique=True)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()

    @property
    def first_id(self) -> UUID:
        """The bar itself, whichever of its rows this is."""
        return self.of_id or self.id


class Chuck(Base):
    """An independent four-jaw; a change is a new row that supersedes. `of_id` is its first row, so that what was
    learned of it stays.
    """

    __tablename__ = "chuck"
    id: Mapped[UUID] = client_uuid()
    name: Mapped[str] = mapped_column(Text)
    unit: Mapped[Unit] = one_of(Unit)
    screw_lead_mm: Mapped[Decimal] = mapped_column(MM)  # travel of a jaw in one turn of the key
    screw_lead_text: Mapped[str] = mapped_column(Text)
    most_rpm: Mapped[int | None]  # the speed marked on it
    of_id: Mapped[UUID | None] = mapped_column(ForeignKey("chuck.id"))
    supersedes_id: Mapped[UUID | None] = mapped_column(ForeignKey("chuck.id"), unique=True)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()

    @property
    def first_id(self) -> UUID:
        """The chuck itself, whichever of its rows this is."""
        return self.of_id or self.id


class ShopRuleVersion(Base):
    """One version of a shop rule; the newest of a name counts, else the one the tool ships."""

    __tablename__ = "shop_rule"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    name: Mapped[str] = mapped_column(Text)
    rule: Mapped[dict[str, Any]] = mapped_column(JSONB)  # core.fits.shop_rules.ShopRule
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_shop_rule_name_sequence", "name", "sequence"),)


class ShopSetting(Base):
    """A choice of the shop (no job) or of one job: which fit system to look at first, and the like; the
    newest counts.
    """

    __tablename__ = "shop_setting"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    name: Mapped[str] = mapped_column(Text)
    value: Mapped[str] = mapped_column(Text)
    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"))
    reason: Mapped[str] = mapped_column(Text, server_default="")  # why it was changed once a piece was out
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_shop_setting_job_name_sequence", "job_id", "name", "sequence"),)


class ShopVersion(Base):
    """One row, counted on by triggers whenever something of the shop's own is written: its instruments, machines,
    rules, stock and people.
    """

    __tablename__ = "shop_version"
    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    version: Mapped[int] = mapped_column(BigInteger, server_default="1")
