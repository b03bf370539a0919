"""The runout of a part as its truing left it: the total indicator reading of a round with the chuck tight, logged as a
reading.
"""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.jobs.holding.truing_state import TruingState
from nomisma.jobs.readings.reading_entry import ReadingEntry
from nomisma.jobs.readings.reading_log import log_reading
from nomisma.jobs.standing.pieces import places_read, serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.append import sent_before
from nomisma.store.models import Account, Reading


@dataclass(frozen=True, slots=True)
class RunoutToLog:
    """What the newest round may be logged as: the job at its runout, the place, and the piece (empty: the only one)."""

    state: JobState
    place: str
    piece: str


def runout_to_log(state: JobState, truing: TruingState) -> RunoutToLog | None:
    """The first runout, and piece, not read yet where the newest round was; none where that is no tight round, or none
    is wanted.
    """
    last = truing.last
    if last is None or not (last.counts and last.read.tightened and truing.truing.instrument_id) or state.handed_over:
        return None
    near, *_, far = feature_kind("runout").places
    place = far if last.read.circle == "far" else near
    found = (
        RunoutToLog(one, place, piece)
        for one in state.made
        if one.kind == "runout"
        for piece in serials(one) or ("",)
        if place not in places_read(one, piece)
    )
    return next(found, None)


def log_as_runout(session: Session, state: JobState, truing: TruingState, *, by: Account, sent_id: UUID) -> Reading:
    """Log the newest round's total indicator reading as the part's runout; commits nothing. Sent twice it is one.

    Raises InputError where no round was read with the chuck tight, or no runout waits to be read; HandedOver.
    """
    if kept := sent_before(session, Reading, sent_id, job_id=state.job.id, instrument_id=truing.truing.instrument_id):
        return kept
    state.must_be_open()
    found, last = runout_to_log(state, truing), truing.last
    if found is None or last is None:
        raise InputError(
            "There is no swing to log as runout.",
            "Tighten, read a round, and have a runout among the part's features.",
            field="size",
        )
    tir = last.result.total_indicator_reading
    entry = ReadingEntry(
        id=sent_id,
        size=f"{tir.value(truing.unit).normalize():f} {truing.unit}",
        instrument=str(truing.truing.instrument_id),
        place=found.place,
        piece=found.piece,
    )
    return log_reading(session, found.state, entry, by=by)
