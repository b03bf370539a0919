"""The runout of a part as its truing left it: the swing of a round read with the chuck tight, logged as a reading."""

from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.jobs.pieces import places_read, serials
from nomisma.jobs.reading_entry import ReadingEntry
from nomisma.jobs.reading_log import log_reading
from nomisma.jobs.state import JobState
from nomisma.jobs.truing_state import TruingState
from nomisma.store.models import Account, Reading


def runout_to_log(state: JobState, truing: TruingState) -> JobState | None:
    """The job at its first runout not read there yet, to log the newest round of; none where that is no tight round, or none is wanted."""
    last = truing.last
    if (
        last is None
        or not last.counts
        or not last.read.tightened
        or state.handed_over
        or truing.truing.instrument_id is None
    ):
        return None
    return next((one for one in state.made if one.kind == "runout" and piece_to_read(one, truing) is not None), None)


def piece_to_read(state: JobState, truing: TruingState) -> str | None:
    """The first piece whose runout was not read at the newest round's place; empty of a single one, None where all were."""
    pieces = serials(state) or ("",)
    return next((piece for piece in pieces if place_of(truing) not in places_read(state, piece)), None)


def place_of(truing: TruingState) -> str:
    """Where on the part the newest round was read, as a runout's places are called."""
    near, *_, far = feature_kind("runout").places
    return far if truing.last is not None and truing.last.read.circle == "far" else near


def log_as_runout(session: Session, state: JobState, truing: TruingState, *, by: Account, sent_id: UUID) -> Reading:
    """Log the swing of the newest round as a reading of the part's runout, and commit it. Sent twice it is one.

    Raises InputError where no round was read with the chuck tight, or no runout waits to be read; HandedOver.
    """
    if sent_before := session.get(Reading, sent_id):
        return sent_before
    state.must_be_open()
    at, last = runout_to_log(state, truing), truing.last
    if at is None or last is None:
        raise InputError(
            "There is no swing to log as runout.",
            "Tighten, read a round, and have a runout among the part's features.",
            field="size",
        )
    tir = last.result.total_indicator_reading
    entry = ReadingEntry(
        id=sent_id, size=f"{tir.value(truing.unit).normalize():f} {truing.unit}", instrument=str(truing.truing.instrument_id),
        place=place_of(truing), piece=piece_to_read(at, truing) or "",
    )  # fmt: skip
    return log_reading(session, at, entry, by=by)
