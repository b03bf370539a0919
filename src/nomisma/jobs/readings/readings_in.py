"""Readings from a CSV table: looked at row by row before any of them is written."""

from collections import Counter
from dataclasses import dataclass
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.measuring.misread import MisreadInput, misread
from nomisma.core.quantity.length import Length
from nomisma.exchange.readings_in import DecimalMark, RowRead, rows_of
from nomisma.jobs.readings.instrument_choice import InstrumentChoice, instrument_choices, likeliest
from nomisma.jobs.standing.state import JobState
from nomisma.store import readings
from nomisma.store.append import append_all
from nomisma.store.live import announce
from nomisma.store.measuring_method import MeasuringMethod
from nomisma.store.models import Account, Reading, SuspectReading
from nomisma.store.readings import uncertainty_of

OUTCOMES = ("taken", "suspect", "refused")


@dataclass(frozen=True)
class RowLookedAt:
    """One row with what would become of it: taken, suspect (and why) or refused (and why)."""

    row: RowRead
    outcome: str
    why: str = ""
    choice: InstrumentChoice | None = None


def looked_at(session: Session, state: JobState, text: str, *, decimal_mark: DecimalMark) -> list[RowLookedAt]:
    """What would become of each row of a CSV table. Raises InputError, HandedOver, Withdrawn; writes nothing."""
    state.must_be_open()
    state.must_count()
    choices = instrument_choices(session, state.kind)
    rows = list(
        rows_of(
            text,
            unit=state.unit,
            decimal_mark=decimal_mark,
            member="made" if state.in_hand.made_here else "partner",
            feature=state.letter,
        )
    )
    pieces = Counter(row.piece for row in rows)
    last_cuts = {piece: readings.last_cut_number(session, state.feature_id, piece) for piece in pieces}
    found: list[RowLookedAt] = []
    for row in rows:
        if state.in_hand.made_here and row.cut_number > last_cuts[row.piece] + pieces[row.piece]:
            found.append(RowLookedAt(row, "refused", _NO_SUCH_CUT.format(row.cut_number, last_cuts[row.piece])))
        else:
            found.append(_outcome(state, row, choices, found))
    return found


_NO_SUCH_CUT = "There is no cut {} of this piece: {} are recorded, and the file has too few rows for the ones between."


def _outcome(state: JobState, row: RowRead, choices: list[InstrumentChoice], before: list[RowLookedAt]) -> RowLookedAt:
    """What becomes of a row, in the light of what is logged and of the rows before it."""
    if row.refused or row.size is None:
        return RowLookedAt(row, "refused", row.refused)
    named = [choice for choice in choices if choice.name.lower() == row.instrument.lower()]
    if row.instrument and not named:
        return RowLookedAt(
            row,
            "refused",
            f"The shop has no “{row.instrument[:40]}” for this. Enter it in the Shop, or correct its name.",
        )
    choice = next(iter(named), None) or likeliest(choices, "", row.size.unit, row.size.mm)
    if choice is None:
        return RowLookedAt(row, "refused", "The shop has no instrument for this. Enter it in the Shop.")
    try:
        choice.must_reach(row.size, "csv")
        _method(row, choice).columns(row.size)
    except InputError as error:
        return RowLookedAt(row, "refused", error.sentence)
    extremes = state.own_readings.of_piece(row.piece)
    others = [one.row.size.mm for one in before if one.outcome == "taken" and one.row.size and _same(one.row, row)]
    if not others and extremes.count and not row.cut_number:
        others = [extremes.smallest_mm, extremes.largest_mm]
    feature = state.feature
    unit = row.size.unit
    found = misread(
        MisreadInput(
            kind=state.kind,
            reading=row.size,
            instrument_unit=choice.instrument.unit,
            uncertainty=Length(uncertainty_of(choice.instrument), unit),
            others=[Length(mm, unit) for mm in others[-60:]],
            lower=Length(feature.lower_mm, unit) if feature.lower_mm is not None else None,
            upper=Length(feature.upper_mm, unit) if feature.upper_mm is not None else None,
        )
    )
    return RowLookedAt(
        row, "suspect" if found.suspected else "taken", found.sentence if found.suspected else "", choice
    )


def _same(one: RowRead, other: RowRead) -> bool:
    return (one.piece, one.cut_number) == (other.piece, other.cut_number)


def _method(row: RowRead, choice: InstrumentChoice) -> MeasuringMethod:
    """As its file says it was taken: what was measured elsewhere is not corrected by a check made here."""
    return MeasuringMethod(
        choice.instrument,
        zero_error_mm=row.zero_error_mm,
        transfer=choice.transfer,
        temperature_c=row.temperature_c,
        material=row.material,
    )


def bring_in_rows(
    session: Session, state: JobState, rows: list[RowLookedAt], ticked: frozenset[int], *, by: Account, batch_id: UUID
) -> None:
    """Write what would be taken, and of the suspect rows those that are ticked (by number); commits nothing. Sent twice
    it is once.
    """
    taken = [one for one in rows if one.outcome == "taken" or (one.outcome == "suspect" and one.row.number in ticked)]
    asked = [one for one in taken if one.outcome == "suspect"]
    append_all(session, [_suspect_of(state, one, batch_id, by) for one in asked])
    append_all(session, [_reading_of(state, one, batch_id, by) for one in taken])
    announce(session, state.job.number, "reading")


def _suspect_of(state: JobState, one: RowLookedAt, batch_id: UUID, by: Account) -> SuspectReading:
    """What was asked of a row before it was taken."""
    row = one.row
    assert row.size is not None
    assert one.choice is not None
    return SuspectReading(
        id=_suspect_id(one, batch_id),
        job_id=state.job.id,
        feature_id=state.feature_id,
        place=row.place,
        size_mm=row.size.mm,
        size_text=row.size_text,
        size_unit=row.size.unit,
        instrument_id=one.choice.instrument.id,
        sentence=one.why,
        by_id=by.id,
    )


def _suspect_id(one: RowLookedAt, batch_id: UUID) -> UUID:
    return uuid5(batch_id, f"suspect {one.row.number}")


def _reading_of(state: JobState, one: RowLookedAt, batch_id: UUID, by: Account) -> Reading:
    """The reading a row becomes."""
    row = one.row
    assert row.size is not None
    assert one.choice is not None
    values: dict[str, Any] = _method(row, one.choice).columns(row.size)
    return Reading(
        id=uuid5(batch_id, f"row {row.number}"),
        job_id=state.job.id,
        feature_id=state.feature_id,
        place=row.place,
        piece=row.piece,
        cut_number=row.cut_number if state.in_hand.made_here else 0,
        limits_id=state.limits.id if state.limits else None,
        by_id=by.id,
        reason="",
        withdrawn=False,
        suspect_id=_suspect_id(one, batch_id) if one.outcome == "suspect" else None,
        **values,
    )
