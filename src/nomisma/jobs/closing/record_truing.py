"""What a job's record says of its truing: every set-up, every round, what it came to."""

from sqlalchemy.orm import Session

from nomisma.core.truing.course import RoundJudged
from nomisma.exchange.record import RecordedRound, RecordedTruing
from nomisma.jobs.holding.truing_state import TruingState, truing_state
from nomisma.jobs.standing.state import JobState
from nomisma.store.truing import LoggedRound, truings_of


def recorded_truings(session: Session, state: JobState) -> list[RecordedTruing]:
    """Every set-up of the job, oldest first."""
    return [
        _truing(number, truing_state(session, truing), state)
        for number, truing in enumerate(truings_of(session, state.job.id), start=1)
    ]


def _truing(number: int, view: TruingState, state: JobState) -> RecordedTruing:
    judged = {one.read.number: one for one in view.rounds}
    truing, ready, took = view.truing, view.ready, view.took
    return RecordedTruing(
        set_up=number,
        piece=truing.piece,
        feature=state.at(truing.feature_id).letter if truing.feature_id else "",
        surface=view.surface_title,
        grip=truing.grip,
        chuck=truing.chuck.name if truing.chuck else "",
        target_mm=truing.target_mm,
        rounds=[_round(number, one, judged.get(one.number)) for one in view.logged],
        moves=view.moves_made,
        took_seconds=int(took.total_seconds()) if took else None,
        ready_by=ready.by.name if ready else "",
        ready_at=ready.at if ready else None,
        by=truing.by.name,
        at=truing.at,
    )


def _round(number: int, one: LoggedRound, judged: RoundJudged | None) -> RecordedRound:
    result = judged.result if judged else None
    return RecordedRound(
        set_up=number,
        round=one.number,
        circle=one.circle,
        tightened=one.tightened,
        readings=" ".join(row.read_text for row in one.rows),
        unit=one.rows[0].read_unit,
        total_indicator_reading_mm=result.total_indicator_reading.mm if result else None,
        offset_mm=result.offset.mm if result else None,
        towards=result.offset_towards if result else "",
        said=result.headline if result else "",
        set_aside=one.set_aside,
        by=one.last.by.name,
        at=one.ended_at,
    )
