"""The tables. Rows of the log (everything but accounts and sessions) are written once and never changed."""

from datetime import date, datetime
from decimal import Decimal
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import (
    BigInteger,
    Date,
    DateTime,
    ForeignKey,
    Identity,
    Index,
    Integer,
    MetaData,
    Numeric,
    Text,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

from nomisma.core.measuring.zero_check import failed

MM = Numeric(24, 12)  # exact mm; twelve decimals hold any inch size written to ten


class Base(DeclarativeBase):
    """Names every constraint, so that migrations can speak of them."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


def _id() -> Mapped[UUID]:
    """A UUID made by the client that wrote the row, so that a repeat is harmless."""
    return mapped_column(primary_key=True, default=uuid4)


def _at() -> Mapped[datetime]:
    return mapped_column(DateTime(timezone=True), server_default=func.now())


class Account(Base):
    """Someone who may sign in: machinist, lead or apprentice."""

    __tablename__ = "account"
    id: Mapped[UUID] = _id()
    sign_in_name: Mapped[str] = mapped_column(Text, unique=True)
    name: Mapped[str] = mapped_column(Text)
    role: Mapped[str] = mapped_column(Text)
    password_hash: Mapped[str] = mapped_column(Text)
    unit: Mapped[str] = mapped_column(Text, server_default="in")
    created_at: Mapped[datetime] = _at()


class Session(Base):
    """A sign-in on one browser; the cookie holds the token, this table only its SHA-256."""

    __tablename__ = "session"
    token_sha256: Mapped[str] = mapped_column(Text, primary_key=True)
    account_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    csrf_token: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime] = _at()
    expires_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    account: Mapped[Account] = relationship(lazy="joined", innerjoin=True)


class SignInAttempt(Base):
    """Every try to sign in, for limiting them."""

    __tablename__ = "sign_in_attempt"
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    sign_in_name: Mapped[str] = mapped_column(Text)
    address: Mapped[str] = mapped_column(Text)
    succeeded: Mapped[bool]
    at: Mapped[datetime] = _at()
    __table_args__ = (Index("ix_sign_in_attempt_name_at", "sign_in_name", "at"),)


class Instrument(Base):
    """An instrument as known from `at` on; a change is a new row that supersedes. Lengths in mm and as entered.

    `of_id` is the first row of the same instrument (none on that row itself), so that its checks and readings stay together.
    """

    __tablename__ = "instrument"
    id: Mapped[UUID] = _id()
    name: Mapped[str] = mapped_column(Text)
    measures: Mapped[str] = mapped_column(Text)  # shaft, bore or both
    unit: Mapped[str] = mapped_column(Text)
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
    at: Mapped[datetime] = _at()

    @property
    def first_id(self) -> UUID:
        """The instrument itself, whichever of its rows this is."""
        return self.of_id or self.id


class InstrumentCheck(Base):
    """An instrument on its standard: what it read, what it is off by, and what it was allowed at the time."""

    __tablename__ = "instrument_check"
    id: Mapped[UUID] = _id()
    instrument_id: Mapped[UUID] = mapped_column(ForeignKey("instrument.id"))
    of_id: Mapped[UUID] = mapped_column(ForeignKey("instrument.id"))
    standard_mm: Mapped[Decimal] = mapped_column(MM)
    standard_text: Mapped[str] = mapped_column(Text)
    read_text: Mapped[str] = mapped_column(Text)
    unit: Mapped[str] = mapped_column(Text)
    zero_error_mm: Mapped[Decimal] = mapped_column(MM)
    permitted_error_mm: Mapped[Decimal] = mapped_column(MM)
    note: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_instrument_check_of_at", "of_id", "at"),)

    @property
    def failed(self) -> bool:
        """Whether it was off by more than it is allowed."""
        return failed(self.zero_error_mm, self.permitted_error_mm)


class Machine(Base):
    """A lathe and its cross-slide dial; a change is a new row that supersedes."""

    __tablename__ = "machine"
    id: Mapped[UUID] = _id()
    name: Mapped[str] = mapped_column(Text)
    unit: Mapped[str] = mapped_column(Text)
    dial_line_mm: Mapped[Decimal] = mapped_column(MM)
    dial_line_text: Mapped[str] = mapped_column(Text)
    dial_reads: Mapped[str] = mapped_column(Text)  # diameter or radius
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
    at: Mapped[datetime] = _at()


class Job(Base):
    """One joint to make: a partner, and the member made to go with it."""

    __tablename__ = "job"
    id: Mapped[UUID] = _id()
    number: Mapped[int] = mapped_column(Integer, Identity(start=101), unique=True)
    title: Mapped[str] = mapped_column(Text)
    asked: Mapped[str] = mapped_column(Text, server_default="")
    unit: Mapped[str] = mapped_column(Text)
    partner_kind: Mapped[str] = mapped_column(Text)  # shaft or bore; the made member is the other
    machine_id: Mapped[UUID | None] = mapped_column(ForeignKey("machine.id"))
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    machine: Mapped[Machine | None] = relationship()


class PartnerStatement(Base):
    """What is said of the partner when it was not measured: a callout (25 H7). The newest one counts."""

    __tablename__ = "partner_statement"
    id: Mapped[UUID] = _id()
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    callout: Mapped[str] = mapped_column(Text)  # empty: the readings count
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    __table_args__ = (Index("ix_partner_statement_job_at", "job_id", "at"),)


class Limits(Base):
    """Limits and aim of the made member, version by version; the highest version is in force."""

    __tablename__ = "limits"
    id: Mapped[UUID] = _id()
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    version: Mapped[int]
    school: Mapped[str] = mapped_column(Text)
    option_name: Mapped[str] = mapped_column(Text)
    lower_mm: Mapped[Decimal] = mapped_column(MM)
    upper_mm: Mapped[Decimal] = mapped_column(MM)
    aim_mm: Mapped[Decimal] = mapped_column(MM)
    inputs: Mapped[dict[str, Any]] = mapped_column(JSONB)  # of the calculation fit_options
    option: Mapped[dict[str, Any]] = mapped_column(JSONB, deferred=True)  # the option chosen, with its working
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (UniqueConstraint("job_id", "version"),)


class Reading(Base):
    """One reading of the partner or the made member, as typed and in mm, with the limits in force at the time.

    `size_mm` is what is believed: as read, less the zero error, brought to 20 °C; `read_mm` as read where that differs.
    `uncertainty_mm` (k = 2) is what it is worth as it was taken; none: what its instrument alone says.
    """

    __tablename__ = "reading"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    member: Mapped[str] = mapped_column(Text)  # partner or made
    place: Mapped[str] = mapped_column(Text)
    size_mm: Mapped[Decimal] = mapped_column(MM)
    size_text: Mapped[str] = mapped_column(Text)
    size_unit: Mapped[str] = mapped_column(Text)
    cut_number: Mapped[int] = mapped_column(server_default="0")  # taken after this cut; 0 is before the first
    piece: Mapped[str] = mapped_column(Text, server_default="")  # serial in a batch; empty: the one piece
    read_mm: Mapped[Decimal | None] = mapped_column(MM)
    zero_error_mm: Mapped[Decimal] = mapped_column(MM, server_default="0")
    temperature_c: Mapped[Decimal | None] = mapped_column(Numeric(6, 2))
    material: Mapped[str] = mapped_column(Text, server_default="")
    conditions: Mapped[str] = mapped_column(Text, server_default="")  # burr, hot, rough; said before it was accepted
    half_bracket_mm: Mapped[Decimal | None] = mapped_column(MM)  # half the way between a go and a no-go pin
    uncertainty_mm: Mapped[Decimal | None] = mapped_column(MM)
    instrument_id: Mapped[UUID] = mapped_column(ForeignKey("instrument.id"))
    transfer_id: Mapped[UUID | None] = mapped_column(ForeignKey("instrument.id"))  # the gauge that carried the size
    limits_id: Mapped[UUID | None] = mapped_column(ForeignKey("limits.id"))
    supersedes_id: Mapped[UUID | None] = mapped_column(ForeignKey("reading.id"), unique=True)
    reason: Mapped[str] = mapped_column(Text, server_default="")
    withdrawn: Mapped[bool] = mapped_column(server_default="false")  # supersedes without a new size
    doubt_id: Mapped[UUID | None] = mapped_column(ForeignKey("reading_doubt.id"))  # what was asked before it was believed
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    __table_args__ = (
        Index("ix_reading_job_member_sequence", "job_id", "member", "sequence"),
        Index("ix_reading_job_member_piece_cut", "job_id", "member", "piece", text("cut_number DESC")),
        Index("ix_reading_instrument_at", "instrument_id", "at"),
    )


class ReadingDoubt(Base):
    """A size that was asked about before it was believed, as typed; the reading that followed points to it."""

    __tablename__ = "reading_doubt"
    id: Mapped[UUID] = _id()
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    member: Mapped[str] = mapped_column(Text)
    place: Mapped[str] = mapped_column(Text)
    size_mm: Mapped[Decimal] = mapped_column(MM)
    size_text: Mapped[str] = mapped_column(Text)
    size_unit: Mapped[str] = mapped_column(Text)
    instrument_id: Mapped[UUID] = mapped_column(ForeignKey("instrument.id"))
    sentence: Mapped[str] = mapped_column(Text)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    __table_args__ = (Index("ix_reading_doubt_job_at", "job_id", "at"),)


class JobEvent(Base):
    """What happened to a job as a whole: handed over, taken up again."""

    __tablename__ = "job_event"
    id: Mapped[UUID] = _id()
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    kind: Mapped[str] = mapped_column(Text)  # handed_over or taken_up_again
    note: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_job_event_job_at", "job_id", "at"),)


class ShopRuleVersion(Base):
    """One version of a shop rule; the newest of a name counts, else the one the tool ships."""

    __tablename__ = "shop_rule"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    name: Mapped[str] = mapped_column(Text)
    rule: Mapped[dict[str, Any]] = mapped_column(JSONB)  # core.fits.shop_rules.ShopRule
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_shop_rule_name_sequence", "name", "sequence"),)


class ShopSetting(Base):
    """A choice of the shop (no job) or of one job: which school to look at first, and the like; the newest counts."""

    __tablename__ = "shop_setting"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    name: Mapped[str] = mapped_column(Text)
    value: Mapped[str] = mapped_column(Text)
    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"))
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    __table_args__ = (Index("ix_shop_setting_job_name_sequence", "job_id", "name", "sequence"),)


class AssemblyPlan(Base):
    """How a job's parts go together: the worksheet asked, its inputs and its answer; the newest counts."""

    __tablename__ = "assembly_plan"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    method: Mapped[str] = mapped_column(Text)  # push, press, shrink or bond
    tool: Mapped[str] = mapped_column(Text)  # the worksheet it comes from; empty for a push
    asked: Mapped[dict[str, Any]] = mapped_column(JSONB)  # the worksheet's fields as typed
    inputs: Mapped[dict[str, Any]] = mapped_column(JSONB)  # of the calculation `assembly`
    answer: Mapped[dict[str, Any]] = mapped_column(JSONB)  # the worksheet's result
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_assembly_plan_job_sequence", "job_id", "sequence"),)


class AssemblyResult(Base):
    """What was seen when it was put together: how it felt, the force, the size before and after."""

    __tablename__ = "assembly_result"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    plan_id: Mapped[UUID] = mapped_column(ForeignKey("assembly_plan.id"))
    felt: Mapped[str] = mapped_column(Text)
    force_text: Mapped[str] = mapped_column(Text, server_default="")
    size_before_mm: Mapped[Decimal | None] = mapped_column(MM)
    size_before_text: Mapped[str] = mapped_column(Text, server_default="")
    size_after_mm: Mapped[Decimal | None] = mapped_column(MM)
    size_after_text: Mapped[str] = mapped_column(Text, server_default="")
    size_unit: Mapped[str] = mapped_column(Text)
    instrument_id: Mapped[UUID | None] = mapped_column(ForeignKey("instrument.id"))
    close_in_factor: Mapped[Decimal | None] = mapped_column(Numeric(8, 4))
    note: Mapped[str] = mapped_column(Text, server_default="")
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    instrument: Mapped[Instrument | None] = relationship()
    __table_args__ = (Index("ix_assembly_result_job_sequence", "job_id", "sequence"),)


class Decision(Base):
    """What is done about a piece, by someone allowed to, tied to the readings and the limits it was made on."""

    __tablename__ = "decision"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    kind: Mapped[str] = mapped_column(Text)  # core.measuring.decision
    piece: Mapped[str] = mapped_column(Text, server_default="")
    state: Mapped[str] = mapped_column(Text)
    reason: Mapped[str] = mapped_column(Text)
    reading_ids: Mapped[list[str]] = mapped_column(JSONB)
    limits_id: Mapped[UUID | None] = mapped_column(ForeignKey("limits.id"))
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_decision_job_sequence", "job_id", "sequence"),)


class GaugeBinding(Base):
    """Which job a gauge's readings go to; the newest of a gauge counts."""

    __tablename__ = "gauge_binding"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    gauge: Mapped[str] = mapped_column(Text)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    __table_args__ = (Index("ix_gauge_binding_gauge_sequence", "gauge", "sequence"),)


class GaugeReading(Base):
    """What a gauge sent, before anybody believed it; its run and number make a repeat harmless."""

    __tablename__ = "gauge_reading"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    gauge: Mapped[str] = mapped_column(Text)
    run: Mapped[str] = mapped_column(Text)
    number: Mapped[int] = mapped_column(BigInteger)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    size_mm: Mapped[Decimal] = mapped_column(MM)
    size_text: Mapped[str] = mapped_column(Text)
    size_unit: Mapped[str] = mapped_column(Text)
    at: Mapped[datetime] = _at()
    __table_args__ = (
        UniqueConstraint("gauge", "run", "number"),
        Index("ix_gauge_reading_job_sequence", "job_id", "sequence"),
    )


class Chuck(Base):
    """An independent four-jaw; a change is a new row that supersedes. `of_id` is its first row, so that what was learned of it stays."""

    __tablename__ = "chuck"
    id: Mapped[UUID] = _id()
    name: Mapped[str] = mapped_column(Text)
    unit: Mapped[str] = mapped_column(Text)
    screw_lead_mm: Mapped[Decimal] = mapped_column(MM)  # travel of a jaw in one turn of the key
    screw_lead_text: Mapped[str] = mapped_column(Text)
    most_rpm: Mapped[int | None]  # the speed marked on it
    of_id: Mapped[UUID | None] = mapped_column(ForeignKey("chuck.id"))
    supersedes_id: Mapped[UUID | None] = mapped_column(ForeignKey("chuck.id"), unique=True)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()

    @property
    def first_id(self) -> UUID:
        """The chuck itself, whichever of its rows this is."""
        return self.of_id or self.id


class Truing(Base):
    """One set-up of work in a four-jaw: what is indicated, with what, and how true it is wanted. The newest of a job counts.

    In practice there is no job and no chuck: `level` and `seed` make the simulated work.
    """

    __tablename__ = "truing"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"))
    chuck_id: Mapped[UUID | None] = mapped_column(ForeignKey("chuck.id"))
    level: Mapped[str] = mapped_column(Text, server_default="")
    seed: Mapped[int | None] = mapped_column(BigInteger)
    surface: Mapped[str] = mapped_column(Text)
    places: Mapped[int]
    teeth: Mapped[int | None]
    keys: Mapped[str] = mapped_column(Text)
    use: Mapped[str] = mapped_column(Text, server_default="")  # core.truing.surface.uses; empty: a swing of one's own
    unit: Mapped[str] = mapped_column(Text)
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
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    chuck: Mapped[Chuck | None] = relationship()
    __table_args__ = (
        Index("ix_truing_job_sequence", "job_id", "sequence"),
        Index("ix_truing_chuck_sequence", "chuck_id", "sequence"),
    )


class TruingReading(Base):
    """What the indicator said at one place of one round; said again for the same place, the newest counts."""

    __tablename__ = "truing_reading"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    truing_id: Mapped[UUID] = mapped_column(ForeignKey("truing.id"))
    round: Mapped[int]
    circle: Mapped[str] = mapped_column(Text)  # near or far
    kind: Mapped[str] = mapped_column(Text)  # place, highest or lowest
    place: Mapped[int]  # index round the turn, from jaw 1
    at_deg: Mapped[Decimal] = mapped_column(Numeric(9, 5))
    read_mm: Mapped[Decimal] = mapped_column(MM)
    read_text: Mapped[str] = mapped_column(Text)
    read_unit: Mapped[str] = mapped_column(Text)
    tightened: Mapped[bool]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_truing_reading_truing_sequence", "truing_id", "sequence"),)


class TruingEvent(Base):
    """What was done between readings: a round set aside or confirmed, a key turned in practice, ready to cut."""

    __tablename__ = "truing_event"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    truing_id: Mapped[UUID] = mapped_column(ForeignKey("truing.id"))
    kind: Mapped[str] = mapped_column(Text)
    detail: Mapped[dict[str, Any]] = mapped_column(JSONB)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_truing_event_truing_sequence", "truing_id", "sequence"),)


class Cut(Base):
    """One cut of a job's made member: what was dialled, and what the coach expected of it (90 % interval). Its size after is
    what the standing readings of that cut number say."""

    __tablename__ = "cut"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    piece: Mapped[str] = mapped_column(Text, server_default="")
    cut_number: Mapped[int]
    set_up: Mapped[int]  # of the tool; a new one forgets what was learned
    machine_id: Mapped[UUID | None] = mapped_column(ForeignKey("machine.id"))
    school: Mapped[str] = mapped_column(Text)
    dialled_mm: Mapped[Decimal] = mapped_column(MM)  # on diameter, as the dial has it
    dialled_text: Mapped[str] = mapped_column(Text)
    before_mm: Mapped[Decimal] = mapped_column(MM)
    expected_mm: Mapped[Decimal | None] = mapped_column(MM)
    expected_low_mm: Mapped[Decimal | None] = mapped_column(MM)
    expected_high_mm: Mapped[Decimal | None] = mapped_column(MM)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_cut_job_sequence", "job_id", "sequence"),)


class PracticePart(Base):
    """A simulated part on a simulated lathe: its level and the seed it is made from. No record of real work."""

    __tablename__ = "practice_part"
    id: Mapped[UUID] = _id()
    level: Mapped[str] = mapped_column(Text)
    seed: Mapped[int]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()


class PracticeEvent(Base):
    """What was done to a simulated part, in order: a cut, a reading, a touch of the stone, taken out."""

    __tablename__ = "practice_event"
    id: Mapped[UUID] = _id()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    part_id: Mapped[UUID] = mapped_column(ForeignKey("practice_part.id"))
    kind: Mapped[str] = mapped_column(Text)
    detail: Mapped[dict[str, Any]] = mapped_column(JSONB)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = _at()
    __table_args__ = (Index("ix_practice_event_part_sequence", "part_id", "sequence"),)


APPEND_ONLY = (
    "sign_in_attempt",
    "instrument",
    "machine",
    "job",
    "partner_statement",
    "limits",
    "reading",
    "job_event",
    "shop_rule",
    "shop_setting",
    "assembly_plan",
    "assembly_result",
    "reading_doubt",
    "instrument_check",
    "decision",
    "gauge_binding",
    "gauge_reading",
    "chuck",
    "truing",
    "truing_reading",
    "truing_event",
    "cut",
    "practice_part",
    "practice_event",
)
"""Tables whose rows are never updated or deleted; triggers refuse it."""
