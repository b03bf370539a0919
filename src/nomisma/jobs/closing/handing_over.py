"""Handing a job over, and taking it up again: who may, and what must be measured or said first."""

from uuid import UUID

from sqlalchemy import func
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.jobs.shop.rights import RIGHTS, Action, NotAllowed, may
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.pieces import places_planned, places_read
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs
from nomisma.store.append import append, sent_before
from nomisma.store.checks import is_in_doubt
from nomisma.store.models import Account, JobEvent


def hand_over(session: Session, state: JobState, note: str, *, by: Account, sent_id: UUID) -> JobEvent:
    """Hand the job over; commits nothing. Sent twice it is one.

    Raises InputError where the note must say why it goes out so, NotAllowed where it is not theirs to hand over.
    """
    if kept := sent_before(session, JobEvent, sent_id, job_id=state.job.id, kind="handed_over", note=note):
        return kept
    jobs.hold(session, state.job.id)
    state = state_numbered(session, state.job.number)  # as it is now that nothing more comes
    if state.handed_over:
        raise InputError("This job is handed over already.", "Look at it again.", field="note")
    _must_be_theirs(session, state, by)
    if not note and not is_good(state):
        raise InputError(_why_not_good(state), "Say in the note why it is handed over all the same.", field="note")
    if not note and (unread := unread_places(state)):
        raise InputError(
            f"Not all places of the plan were read: {unread}.",
            "Read them on Measure, or say in the note why what was read is enough.",
            field="note",
        )
    return _event(session, state, "handed_over", note, by=by, sent_id=sent_id)


def take_up_again(session: Session, state: JobState, note: str, *, by: Account, sent_id: UUID) -> JobEvent:
    """Open a job that was handed over; commits nothing. Sent twice it is one. Raises InputError, NotAllowed."""
    if kept := sent_before(session, JobEvent, sent_id, job_id=state.job.id, kind="taken_up_again", note=note):
        return kept
    jobs.hold(session, state.job.id)
    state = state_numbered(session, state.job.number)
    if not state.handed_over:
        raise InputError("This job is still open.", "Look at it again.", field="note")
    _must_be_theirs(session, state, by)
    return _event(session, state, "taken_up_again", note, by=by, sent_id=sent_id)


def _event(session: Session, state: JobState, kind: str, note: str, *, by: Account, sent_id: UUID) -> JobEvent:
    return append(
        session, JobEvent(id=sent_id, job_id=state.job.id, kind=kind, note=note, by_id=by.id, at=func.clock_timestamp())
    )


def _must_be_theirs(session: Session, state: JobState, by: Account) -> None:
    if refusal := why_not_theirs(session, state, by):
        raise NotAllowed(refusal)


def why_not_theirs(session: Session, state: JobState, by: Account) -> str:
    """Why somebody in this role may not hand the job over now, or take it up again; empty where they may."""
    if not may(by.role, Action.HAND_OVER):
        return RIGHTS[Action.HAND_OVER].refusal
    if state.handed_over:
        return ""
    in_doubt = not may(by.role, Action.HAND_OVER_IN_DOUBT)
    if in_doubt and is_in_doubt(session, state.job.id):
        return (
            "Readings of this job are in doubt, because an instrument failed its check: only the lead can hand it over."
            " Measure again and withdraw what was wrong, or call the lead."
        )
    theirs = may(by.role, Action.HAND_OVER_OUT) or is_good(state)
    return "" if theirs else f"{_why_not_good(state)} Only the lead can hand it over so. Call the lead."


def _why_not_good(state: JobState) -> str:
    """What speaks against a job that is not good: a feature that nobody measured is not one that is out."""
    bad = [one for one in state.made if not _feature_is_good(one)]
    unread = [one.letter for one in bad if not one.times_read and one.in_hand.disposition is None]
    if len(unread) < len(bad):
        return "This job is not in limits."
    if len(state.made) == 1:
        return "Nothing was measured yet."
    return f"Not measured yet: {', '.join(unread)}."


def is_good(state: JobState) -> bool:
    """Whether each feature that is made is in limits, measured for reference, or decided to be used as it is."""
    return all(_feature_is_good(one) for one in state.made)


def _feature_is_good(state: JobState) -> bool:
    found = state.verdict
    if state.may_be_left and not state.times_read:
        return True
    if found is None and state.limits is None and state.requirement is not None and not state.is_compared:
        return bool(state.own_readings.count)
    return _used_as_is(state) or (found is not None and found.state is State.IN_LIMITS)


def unread_places(state: JobState) -> str:
    """The places of the plan that were not read since the last cut, in words; empty where all were. Any so many places
    count.
    """
    for one in (one for one in state.made if not (one.may_be_left and not one.times_read)):
        if missing := _unread_of(one):
            return f"{one.letter}, {missing}" if len(state.made) > 1 else missing
    return ""


def _unread_of(state: JobState) -> str:
    plan = places_planned(state)
    for piece in state.pieces_read:
        places = places_read(state, piece)
        if len(places) < len(plan):
            missing = ", ".join(place for place in plan if place not in places)
            return f"{missing} of piece {piece}" if piece else missing
    return ""


def _used_as_is(state: JobState) -> bool:
    """Whether the lead has decided that it is used as it is, and nothing was measured since."""
    found = state.in_hand.disposition
    return found is not None and found.kind == "use_as_is" and bool(state.decided) and not state.is_batch
