"""Logging a reading of the partner or the made member: one form, used on Mate and on Measure."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal, cast
from uuid import UUID, uuid4

from nomisma.core.errors import InputError
from nomisma.core.fits.partner import LARGEST_SPREAD
from nomisma.core.measuring.feature import PLACES
from nomisma.core.measuring.misread import MisreadInput, MisreadResult, misread
from nomisma.core.measuring.verdict import State
from nomisma.core.quantity.length import Length, Unit
from nomisma.store import readings, shop
from nomisma.store.append import append
from nomisma.store.models import Instrument, Reading, ReadingDoubt
from nomisma.store.readings import LoggedReading, uncertainty_of
from nomisma.web.job_state import JobState
from nomisma.web.visit import Form, Visit

Member = Literal["partner", "made"]
SHOWN_READINGS = 24


@dataclass(frozen=True)
class ReadingForm:
    """What the entry form shows: places, the next one proposed, instruments, and what was typed if it was refused."""

    member: Member
    action: str
    unit: Unit
    places: tuple[str, ...]
    place: str
    instruments: list[Instrument]
    instrument_id: UUID | None
    cut: bool
    asks_for_cut: bool
    typed: str = ""
    dialled: str = ""
    error: InputError | None = None

    @property
    def doubt(self) -> "Doubted | None":
        """What is asked before the size last typed is believed."""
        return self.error if isinstance(self.error, Doubted) else None


class Doubted(InputError):
    """A size to be confirmed or typed again; kept either way."""

    def __init__(self, found: MisreadResult, row: ReadingDoubt) -> None:
        super().__init__(found.sentence, "Type what you read now, or say that it is so.", field="size", value=row.size_text)
        self.row = row


def fitting_instruments(visit: Visit, kind: str) -> list[Instrument]:
    """The shop's instruments that can measure a shaft or a bore."""
    return [row for row in shop.instruments(visit.db) if row.measures in (kind, "both")]


def form_for(
    visit: Visit,
    state: JobState,
    member: Member,
    log: list[LoggedReading],
    *,
    typed: Form | None = None,
    error: InputError | None = None,
) -> ReadingForm:
    """The form for the next reading, with what is most likely in it; what was typed before an error comes back."""
    kind = state.partner_kind if member == "partner" else state.made_kind
    instruments = fitting_instruments(visit, kind)
    cut = member == "made" and state.verdict is not None and state.verdict.state is State.METAL_TO_GO
    instrument = _likely_instrument(instruments, log, state.unit)
    place, size = _likely_place(PLACES[kind], log, same=cut), ""
    if typed is not None:
        size = "" if isinstance(error, Doubted) else typed.shown("size")
        place = typed.shown("place") or place
        instrument = next((row for row in instruments if str(row.id) == typed.shown("instrument_id")), instrument)
        cut = typed.shown("cut_since") == "cut"
    return ReadingForm(
        member=member,
        action=f"/jobs/{state.job.number}/{'mate' if member == 'partner' else 'measure'}/readings",
        unit=cast(Unit, instrument.unit) if instrument else state.unit,
        places=PLACES[kind],
        place=place,
        instruments=instruments,
        instrument_id=instrument.id if instrument else None,
        cut=cut,
        asks_for_cut=member == "made" and bool(log),
        typed=size,
        dialled=typed.shown("dialled") if typed is not None else "",
        error=error,
    )


def _likely_instrument(instruments: list[Instrument], log: list[LoggedReading], unit: Unit) -> Instrument | None:
    """The one used last; else the finest that reads the job's unit (a micrometer, not a caliper); else the finest."""
    last = next((item.instrument.id for item in reversed(log) if item.stands), None)
    used = [row for row in instruments if row.id == last]
    finest = sorted(instruments, key=lambda row: (row.unit != unit, uncertainty_of(row)))
    return next(iter([*used, *finest]), None)


def _likely_place(places: tuple[str, ...], log: list[LoggedReading], *, same: bool) -> str:
    """After a cut the place read last, to see what came off; else the next place not read since."""
    standing = [item.row for item in log if item.stands]
    if not standing:
        return places[0]
    if same:
        return standing[-1].place
    read = {row.place for row in standing if row.cut_number == standing[-1].cut_number}
    return next((place for place in places if place not in read), places[0])


def log_reading(visit: Visit, form: Form, state: JobState, member: Member) -> Reading:
    """Write one reading and commit it. Raises InputError; a repeat of the same form is harmless.

    A number without a unit is in the unit the instrument reads.
    """
    if state.handed_over:
        raise InputError("This job is handed over.", "Take it up again on its Record page to go on.", field="size")
    kind = state.partner_kind if member == "partner" else state.made_kind
    instrument_id = form.id("instrument_id")
    instrument = next((row for row in fitting_instruments(visit, kind) if row.id == instrument_id), None)
    if instrument is None:
        raise InputError("That instrument is not one for this.", "Choose one from the list.", field="instrument_id")
    size = form.size("size", cast(Unit, instrument.unit))
    doubt = _doubt_before(visit, form, state)
    if doubt is None or doubt.size_mm != size.mm:
        _ask_if_unlikely(visit, form, state, member, size, instrument)
    _check_likely(size, state, member)
    row = append(
        visit.db,
        Reading(
            id=form.client_id(),
            job_id=state.job.id,
            member=member,
            place=form.choice("place", PLACES[kind]),
            size_mm=size.mm,
            size_text=size.text,
            size_unit=size.unit,
            cut_number=_cut_number(visit, form, state) if member == "made" else 0,
            instrument_id=instrument.id,
            limits_id=state.limits.id if member == "made" and state.limits else None,
            by_id=visit.account.id,
            reason="",
            withdrawn=False,
            doubt_id=doubt.id if doubt else None,
        ),
    )
    visit.db.commit()
    return row


def _doubt_before(visit: Visit, form: Form, state: JobState) -> ReadingDoubt | None:
    """What was asked about just before, if this answers it: the same size again confirms it."""
    if not form.text("doubt_id"):
        return None
    row = visit.db.get(ReadingDoubt, form.id("doubt_id"))
    return row if row and row.job_id == state.job.id else None


def _ask_if_unlikely(
    visit: Visit, form: Form, state: JobState, member: Member, size: Length, instrument: Instrument
) -> None:
    """Keep a size that is not what was to be expected, and ask. Raises Doubted."""
    found = misread(_expectation(form, state, member, size, instrument))
    if not found.suspected:
        return
    if not found.step:
        _check_likely(size, state, member)  # a wrong unit or a slipped point is no misread
    kind = state.partner_kind if member == "partner" else state.made_kind
    row = ReadingDoubt(
        id=uuid4(), job_id=state.job.id, member=member, place=form.choice("place", PLACES[kind]), size_mm=size.mm, size_text=size.text,
        size_unit=size.unit, instrument_id=instrument.id, sentence=found.sentence, by_id=visit.account.id,
    )  # fmt: skip
    append(visit.db, row)
    visit.db.commit()
    raise Doubted(found, row)


def _expectation(form: Form, state: JobState, member: Member, size: Length, instrument: Instrument) -> MisreadInput:
    """What is known to hold a reading against: other places, the dial, the size before the cut, the limits."""
    extremes = state.partner_readings if member == "partner" else state.made_readings
    known = [Length(mm, size.unit) for mm in (extremes.smallest_mm, extremes.largest_mm)] if extremes.count else []
    cut = member == "made" and form.text("cut_since") == "cut"
    limits = state.limits if member == "made" else None
    kind = state.partner_kind if member == "partner" else state.made_kind
    return MisreadInput(
        kind=kind,
        reading=size,
        instrument_unit=cast(Unit, instrument.unit),
        uncertainty=Length(uncertainty_of(instrument), size.unit),
        others=[] if cut else known,
        before=known if cut else [],
        expected=_from_the_dial(form, known, kind, cast(Unit, instrument.unit)) if cut and known else None,
        lower=Length(limits.lower_mm, size.unit) if limits else None,
        upper=Length(limits.upper_mm, size.unit) if limits else None,
    )


def _from_the_dial(form: Form, known: list[Length], kind: str, unit: Unit) -> Length | None:
    """The size to expect after a cut, where it was said how much was dialled on diameter."""
    if not form.text("dialled"):
        return None
    dialled = form.size("dialled", unit)
    middle = (known[0].mm + known[-1].mm) / 2
    expected = middle - dialled.mm if kind == "shaft" else middle + dialled.mm
    if expected <= 0:
        raise InputError(f"A cut of {dialled} would leave nothing.", "Give what was dialled on diameter.", field="dialled")
    return Length(expected, unit)


def _cut_number(visit: Visit, form: Form, state: JobState) -> int:
    """The number of the cut this reading follows."""
    return readings.last_cut_number(visit.db, state.job.id) + (form.text("cut_since") == "cut")


def _check_likely(size: Length, state: JobState, member: Member) -> None:
    """Asks before a size is believed that is nowhere near what is known of it."""
    extremes = state.partner_readings if member == "partner" else state.made_readings
    if extremes.count:
        _check_spread(size, extremes.smallest_mm, extremes.largest_mm, member)
    elif member == "made" and state.limits:
        _check_against_limits(size, state.limits.lower_mm, state.limits.upper_mm)


def _check_spread(size: Length, smallest_mm: Decimal, largest_mm: Decimal, member: Member) -> None:
    """A partner's size hardly changes from place to place; a part being cut may be far from its last reading, not that far."""
    share = LARGEST_SPREAD if member == "partner" else Decimal("0.5")
    if size.mm < smallest_mm * (1 - share) or size.mm > largest_mm * (1 + share):
        seen = Length(largest_mm, size.unit)
        raise InputError(
            f"{size} is far from the other readings (near {seen}).",
            "Check the unit and the decimal point.",
            field="size",
            value=size.text,
        )


def _check_against_limits(size: Length, lower_mm: Decimal, upper_mm: Decimal) -> None:
    if size.mm < lower_mm / 3 or size.mm > upper_mm * 3:
        raise InputError(
            f"{size} is nowhere near the limits ({Length(lower_mm, size.unit)} to {Length(upper_mm, size.unit)}).",
            "Check the unit and the decimal point.",
            field="size",
            value=size.text,
        )


def supersede(visit: Visit, form: Form, state: JobState, reading: Reading) -> Reading:
    """Write the row that supersedes a reading: a new size, or a withdrawal. Raises InputError."""
    if state.handed_over:
        raise InputError("This job is handed over.", "Take it up again on its Record page to go on.", field="reason")
    reason = form.text("reason", needed=True, longest=300)
    withdrawn = form.text("what") == "withdraw"
    size = (
        Length(reading.size_mm, cast(Unit, reading.size_unit), reading.size_text)
        if withdrawn
        else form.size("size", state.unit)
    )
    limits = state.limits
    row = append(
        visit.db,
        Reading(
            id=form.client_id(),
            job_id=state.job.id,
            member=reading.member,
            place=reading.place,
            size_mm=size.mm,
            size_text=size.text,
            size_unit=size.unit,
            instrument_id=reading.instrument_id,
            cut_number=reading.cut_number,
            limits_id=limits.id if limits and reading.member == "made" else None,
            supersedes_id=reading.id,
            reason=reason,
            withdrawn=withdrawn,
            by_id=visit.account.id,
        ),
    )
    visit.db.commit()
    return row


def member_log(visit: Visit, state: JobState, member: Member) -> list[LoggedReading]:
    """The newest readings of a member, oldest of them first."""
    return readings.log(visit.db, state.job.id, member, last=SHOWN_READINGS)
