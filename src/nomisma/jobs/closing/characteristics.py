"""The features of a job as a report numbers them: what was required, what was found, with what, and by whom."""

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal

from nomisma.core.part.feature import State
from nomisma.exchange.record import JobRecord, RecordedReading
from nomisma.jobs.standing.pieces import places_unread
from nomisma.jobs.standing.state import JobState


@dataclass(frozen=True, slots=True)
class Characteristic:
    """One feature of one piece, or of all pieces together, as it stands since the last cut.

    `smallest_mm`, `largest_mm`: what was read, mm; none where it was not read. `uncertainty_mm`: the largest of those
    readings (k = 2), mm. `tried`: how gauges went. `decided`: what was decided about it, with the reason. `unread`: of
    one piece the places of its plan that were not read. `is_in_doubt`: an instrument it was read with failed its check.
    """

    number: int
    feature: JobState
    smallest_mm: Decimal | None
    largest_mm: Decimal | None
    reading_count: int
    tried: tuple[str, ...]
    instruments: tuple[str, ...]
    uncertainty_mm: Decimal | None
    state: State | None
    decided: tuple[str, ...]
    unread: tuple[str, ...]
    is_in_doubt: bool
    by: tuple[str, ...]
    at: datetime | None

    @property
    def is_accepted(self) -> bool | None:
        """Whether it is in limits at every place of its plan and nothing of it is in doubt, or gone too far; None where
        it is neither: not measured, not everywhere, metal to go, too close to call, in doubt.
        """
        if self.open_because or self.state is None:
            return None
        return {State.IN_LIMITS: True, State.GONE_TOO_FAR: False}.get(self.state)

    @property
    def open_because(self) -> str:
        """What keeps its verdict from being the last word, in words; empty where nothing does."""
        if self.is_in_doubt:
            return "in doubt: its instrument failed a check"
        return f"not read at {', '.join(self.unread)}" if self.unread and self.state is State.IN_LIMITS else ""


def characteristics(record: JobRecord, state: JobState, piece: str | None = None) -> list[Characteristic]:
    """Every feature that is made, numbered from 1 in the order of their letters; of one piece (its serial, empty for a
    job of one piece), or of all together. Readings from before a piece's last cut, or withdrawn, are not counted.
    """
    return [_characteristic(number, one, record, piece) for number, one in enumerate(state.made, start=1)]


def _characteristic(number: int, one: JobState, record: JobRecord, piece: str | None) -> Characteristic:
    counted = [
        row
        for row in record.readings
        if row.feature == one.letter and (piece is None or row.piece == piece) and _counts(row, one)
    ]
    trials = [
        row
        for row in record.trials
        if row.feature == one.letter and row.counts and (piece is None or row.piece == piece)
    ]
    decided = [
        row for row in record.dispositions if row.feature == one.letter and (piece is None or row.piece in ("", piece))
    ]
    said = [(row.at, row.by) for row in counted] + [(row.at, row.by) for row in trials]
    verdict = one.verdict if piece is None else one.verdict_of_piece.get(piece)
    return Characteristic(
        number=number,
        feature=one,
        smallest_mm=min((row.size_mm for row in counted), default=None),
        largest_mm=max((row.size_mm for row in counted), default=None),
        reading_count=len(counted),
        tried=tuple(f"{row.outcome}, {row.tried_with}, {row.place}" for row in trials),
        instruments=tuple(dict.fromkeys(row.instrument for row in counted)),
        uncertainty_mm=max((row.uncertainty_mm for row in counted), default=None),
        state=verdict.state if verdict else None,
        decided=tuple(_decided(row.kind, row.reason, row.piece) for row in decided),
        unread=() if piece is None else places_unread(one, piece),
        is_in_doubt=any(row.calibration_failed for row in counted),
        by=tuple(dict.fromkeys(by for _, by in said)),
        at=max((at for at, _ in said), default=None),
    )


def _counts(row: RecordedReading, one: JobState) -> bool:
    return row.stands and not row.withdrawn and row.cut_number == one.own_readings.last_cuts.get(row.piece, 0)


def _decided(kind: str, reason: str, piece: str) -> str:
    words = kind.replace("_", " ") + (f", piece {piece}" if piece else "")
    return f"{words}: {reason}" if reason else words
