"""Logging a reading of the partner or the made member: one form, used on Mate and on Measure."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal, cast
from uuid import UUID

from nomisma.core.errors import InputError
from nomisma.core.fits.partner import LARGEST_SPREAD
from nomisma.core.measuring.feature import PLACES
from nomisma.core.quantity.length import Length, Unit
from nomisma.store import jobs, readings, shop
from nomisma.store.append import append
from nomisma.store.models import Instrument, Reading
from nomisma.store.readings import LoggedReading
from nomisma.web.job_state import JobState
from nomisma.web.visit import Form, Visit

Member = Literal["partner", "made"]
SHOWN_READINGS = 60


@dataclass(frozen=True)
class ReadingForm:
    """What the entry form shows: places, the next one proposed, instruments, and what was typed if it was refused."""

    member: Member
    kind: str
    unit: Unit
    action: str
    places: tuple[str, ...]
    place: str
    instruments: list[Instrument]
    instrument_id: UUID | None
    typed: str = ""
    error: InputError | None = None


def fitting_instruments(visit: Visit, kind: str) -> list[Instrument]:
    """The shop's instruments that can measure a shaft or a bore."""
    return [row for row in shop.instruments(visit.db) if row.measures in (kind, "both")]


def form_for(
    visit: Visit, state: JobState, member: Member, log: list[LoggedReading], *, typed: Form | None = None, error: InputError | None = None
) -> ReadingForm:
    """The form for the next reading: the next unread place, the instrument used last."""
    kind = state.partner_kind if member == "partner" else state.made_kind
    instruments = fitting_instruments(visit, kind)
    last = next((item for item in reversed(log) if item.stands), None)
    read = {item.row.place for item in log if item.stands}
    place = next((place for place in PLACES[kind] if place not in read), PLACES[kind][0])
    instrument_id = last.instrument.id if last else None
    if instrument_id not in {row.id for row in instruments}:
        same_unit = [row for row in instruments if row.unit == state.unit] or instruments
        instrument_id = same_unit[0].id if same_unit else None
    text = ""
    if typed is not None:
        text = typed.text("size", longest=20_000)[:200]
        place = typed.text("place")[:60] or place
    return ReadingForm(
        member=member,
        kind=kind,
        unit=state.unit,
        action=f"/jobs/{state.job.number}/{'mate' if member == 'partner' else 'measure'}/readings",
        places=PLACES[kind],
        place=place,
        instruments=instruments,
        instrument_id=instrument_id,
        typed=text,
        error=error,
    )


def log_reading(visit: Visit, form: Form, state: JobState, member: Member) -> Reading:
    """Write one reading and commit it. Raises InputError; a repeat of the same form is harmless."""
    if state.handed_over:
        raise InputError("This job is handed over.", "Take it up again on its Record page to go on.", field="size")
    extremes = state.partner_readings if member == "partner" else state.made_readings
    size = form.size("size", state.unit)
    if extremes.count:
        _check_spread(size, extremes.smallest_mm, extremes.largest_mm, member)
    elif member == "made" and state.limits:
        _check_against_limits(size, state.limits.lower_mm, state.limits.upper_mm)
    row = _row(visit, form, state, member, size)
    append(visit.db, row)
    visit.db.commit()
    return row


def _row(visit: Visit, form: Form, state: JobState, member: Member, size: Length) -> Reading:
    kind = state.partner_kind if member == "partner" else state.made_kind
    instrument_id = form.id("instrument_id")
    if instrument_id not in readings_instruments(visit, kind):
        raise InputError("That instrument is not one for this.", "Choose one from the list.", field="instrument_id")
    return Reading(
        id=form.client_id(),
        job_id=state.job.id,
        member=member,
        place=form.choice("place", PLACES[state.partner_kind if member == "partner" else state.made_kind]),
        size_mm=size.mm,
        size_text=size.text,
        size_unit=size.unit,
        instrument_id=instrument_id,
        limits_id=state.limits.id if member == "made" and state.limits else None,
        by_id=visit.account.id,
        reason="",
        withdrawn=False,
    )


def readings_instruments(visit: Visit, kind: str) -> set[UUID]:
    """Ids of the instruments a reading of this kind may be taken with."""
    return {row.id for row in fitting_instruments(visit, kind)}


def _check_spread(size: Length, smallest_mm: Decimal, largest_mm: Decimal, member: Member) -> None:
    """A partner's size hardly changes from place to place; a part being cut may be far from its last reading, not that far."""
    share = LARGEST_SPREAD if member == "partner" else Decimal("0.5")
    if size.mm < smallest_mm * (1 - share) or size.mm > largest_mm * (1 + share):
        seen = Length(largest_mm, size.unit)
        raise InputError(
            f"{size} is far from the other readings (near {seen}).", "Check the unit and the decimal point.", field="size", value=size.text
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
    size = Length(reading.size_mm, cast(Unit, reading.size_unit), reading.size_text) if withdrawn else form.size("size", state.unit)
    limits = jobs.limits_in_force(visit.db, [state.job.id]).get(state.job.id)
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
