"""Logging a reading: how it was taken, whether it is to be believed, and writing it; correcting one by superseding."""

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, NomismaError, needed
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.quantity.length import Length
from nomisma.jobs.cutting.cutting_run import cut_row
from nomisma.jobs.readings.instrument_choice import InstrumentChoice, instrument_choices
from nomisma.jobs.readings.reading_entry import ReadingEntry
from nomisma.jobs.readings.suspect_reading import ReadingQuestioned, ReadingTaken, ask_first, question_before
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.permissions import check_correction
from nomisma.jobs.standing.state import JobState
from nomisma.store import readings, shop
from nomisma.store.append import AlreadyChanged, append, sent_before
from nomisma.store.live import announce
from nomisma.store.measuring_method import method_now, method_of, way_taken
from nomisma.store.models import Account, Instrument, Reading
from nomisma.store.together import Notice, Write, in_transaction_of


def log_reading(
    session: Session, state: JobState, entry: ReadingEntry, *, by: Account, write: Write | None = None
) -> Reading:
    """Write one reading of the feature in hand, by `write` or in the session's transaction; commits nothing else.
    Raises InputError, AlreadyChanged; a repeat of the same entry is harmless.

    A number without a unit is in the unit the instrument reads.
    """
    entry = entry.about(state.kind, state.requirement.text if state.requirement else "")
    # Where a cut is written beside it, a repeat must write neither; else one is found when the row is there already, or
    # when the checks refuse what they let pass before.
    if entry.came_off and (kept := _sent_before(session, state, entry)):
        return kept
    try:
        taken, row = _checked(session, state, entry, by)
    except NomismaError as refused:
        if kept := _sent_before(session, state, entry):
            return kept
        if isinstance(refused, ReadingQuestioned):
            append(session, refused.row)
        raise
    told: Notice = {"job_number": state.job.number, "kind": "reading", "id": str(entry.id)}
    how = in_transaction_of(session) if write is None or taken.logs_a_cut else write
    written: Reading | None = how(row, told)
    if written is None:
        if kept := _sent_before(session, state, entry):
            return kept
        raise AlreadyChanged("Someone changed this a moment before you.")
    if taken.logs_a_cut:
        _log_cut(taken, written, by)
    return written


def _checked(session: Session, state: JobState, entry: ReadingEntry, by: Account) -> tuple[ReadingTaken, Reading]:
    """What is to be written of an entry, held against all that is known. Raises InputError, ReadingQuestioned."""
    state.must_be_open()
    state.must_count()
    choice = _choice(session, state, entry)
    taken_as = feature_kind(state.kind).taken_as
    size, half_bracket = entry.read_with(choice, taken_as=taken_as)
    temperature, material = entry.warmth()
    entry.must_be_a_way_to(state.kind, choice)
    how = method_now(
        session,
        choice.instrument,
        now(),
        transfer=choice.transfer,
        temperature_c=temperature,
        material=material,
        half_bracket_mm=half_bracket,
        of_difference=entry.is_of_difference(taken_as),
        indirect=entry.indirect(choice),
    )
    piece = entry.piece if state.in_hand.made_here else ""
    taken = ReadingTaken(session, state, entry, choice, size, entry.place_in(size.unit), piece)
    if half_bracket is None:
        ask_first(taken, by=by)
        entry.must_be_reached(choice, size, taken_as)
    question = question_before(session, state, entry)
    row = Reading(
        id=entry.id,
        job_id=state.job.id,
        feature_id=state.feature_id,
        place=taken.place,
        piece=piece,
        cut_number=_cut_number(taken),
        limits_id=state.limits.id if state.limits else None,
        conditions=",".join(entry.conditions),
        by_id=by.id,
        reason="",
        withdrawn=False,
        suspect_id=question.id if question else None,
        **how.columns(size),
    )
    return taken, row


def _sent_before(session: Session, state: JobState, entry: ReadingEntry) -> Reading | None:
    """The row of the same entry sent earlier: a repeat after a lost answer, from whatever queue. Raises AlreadySent
    where it says another.
    """
    row = session.get(Reading, entry.id)
    if row is None:
        return None
    place = entry.place_in(row.size_unit)
    piece = entry.piece if state.in_hand.made_here else ""
    temperature, _ = entry.warmth()
    taken_with = "+".join(str(one) for one in (row.instrument_id, row.transfer_id) if one)
    same = _as_it_is_now(session, entry.instrument) == _as_it_is_now(session, taken_with)
    return sent_before(
        session,
        Reading,
        entry.id,
        feature_id=state.feature_id,
        size_text=entry.size_text,
        place=place,
        piece=piece,
        conditions=",".join(entry.conditions),
        temperature_c=None if temperature is None else round(temperature, 2),
        instrument_id=row.instrument_id if same else None,
    )


def _choice(session: Session, state: JobState, entry: ReadingEntry) -> InstrumentChoice:
    wanted = _as_it_is_now(session, needed(entry.instrument, "instrument_id"))
    found = next((choice for choice in instrument_choices(session, state.kind) if choice.id == wanted), None)
    if found is None:
        raise InputError("That instrument is not one for this.", "Choose one from the list.", field="instrument_id")
    return found


def _as_it_is_now(session: Session, wanted: str) -> str:
    """The choice with its instruments' newest rows: one may have been changed since the page was opened, or while it
    waited.
    """
    everything = shop.instruments(session)
    newest = {row.first_id: row.id for row in everything}
    if all(part in {str(row.id) for row in everything} for part in wanted.split("+")):
        return wanted
    parts = []
    for part in wanted.split("+"):
        try:
            row = session.get(Instrument, UUID(part))
        except ValueError:
            return wanted
        parts.append(str(newest.get(row.first_id, part)) if row else part)
    return "+".join(parts)


def _cut_number(taken: ReadingTaken) -> int:
    """The number of the cut this reading follows; nothing is cut of what is at hand."""
    if not taken.made_here:
        return 0
    last = taken.state.own_readings.last_cuts.get(taken.piece)
    if last is None:  # none stands: there may be some that were withdrawn
        last = readings.last_cut_number(taken.session, taken.state.feature_id, taken.piece)
    return last + bool(taken.entry.came_off)


def _log_cut(taken: ReadingTaken, row: Reading, by: Account) -> None:
    """The cut the reading followed, where it is known what was dialled, or that it was stone or cloth."""
    dialled = None if taken.entry.came_off == "stoned" else taken.dialled()
    cut = cut_row(taken.session, taken.state, row, dialled, new_set_up=taken.entry.new_set_up, by_id=by.id)
    if cut is not None:
        append(taken.session, cut)


@dataclass(frozen=True, slots=True, kw_only=True)
class Correction:
    """What supersedes a reading: a new size, or its withdrawal; and why."""

    id: UUID
    what: Literal["corrected", "withdrawn"]
    size: str
    reason: str


def supersede(session: Session, state: JobState, reading: Reading, given: Correction, *, by: Account) -> Reading:
    """Write the row that supersedes a reading: a new size taken in the same way, or a withdrawal. Raises InputError,
    NotAllowed.
    """
    said = {"supersedes_id": reading.id, "withdrawn": given.what == "withdrawn", "reason": given.reason}
    if kept := sent_before(session, Reading, given.id, **said):
        return kept
    check_correction(by, state, reading)
    needed(given.reason, "reason")
    how = method_of(session, reading)
    at = state.at(reading.feature_id)
    size, half_bracket = _corrected(at, reading, given, how.instrument)
    limits = at.limits
    row = append(
        session,
        Reading(
            id=given.id,
            job_id=state.job.id,
            feature_id=reading.feature_id,
            place=reading.place,
            piece=reading.piece,
            cut_number=reading.cut_number,
            conditions=reading.conditions,
            limits_id=limits.id if limits else None,
            supersedes_id=reading.id,
            reason=given.reason,
            withdrawn=given.what == "withdrawn",
            by_id=by.id,
            **replace(
                how, half_bracket_mm=half_bracket, **way_taken(size.text, size.unit, bracketed=half_bracket is not None)
            ).columns(size),
        ),
    )
    announce(session, state.job.number, "reading")
    return row


def _corrected(
    state: JobState, reading: Reading, given: Correction, instrument: Instrument
) -> tuple[Length, Decimal | None]:
    """The size of the superseding row, and half of its bracket (mm). Raises InputError."""
    if given.what == "withdrawn":
        shown = reading.size_mm if reading.read_mm is None else reading.read_mm
        return Length(shown, reading.size_unit, reading.size_text), reading.half_bracket_mm
    wanted = state.requirement.text if state.requirement else ""
    entry = ReadingEntry(id=given.id, size=given.size, instrument="", place=reading.place).about(state.kind, wanted)
    choice = InstrumentChoice(instrument)
    if reading.half_bracket_mm is not None:
        return entry.read_with(choice)
    entry.must_be_a_way_to(state.kind, choice)
    return entry.number(state.unit, feature_kind(state.kind).taken_as), None
