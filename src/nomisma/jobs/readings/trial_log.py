"""Logging a trial: how a mating part or gauge went by hand, or how a finish compared."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, needed
from nomisma.core.measuring.trial import trial_state
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.trial_wanted import wanted_by_trial
from nomisma.jobs.standing.pieces import serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.append import append, sent_before
from nomisma.store.live import announce
from nomisma.store.models import Account, Trial


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialEntry:
    """One trial as a hand gives it; `tried_with` empty: what is wanted says it. `orientation`: how the mark stood."""

    id: UUID
    outcome: str
    place: str
    piece: str = ""
    tried_with: str = ""
    orientation: str = ""
    note: str = ""


def log_trial(session: Session, state: JobState, entry: TrialEntry, *, by: Account) -> Trial:
    """Write how a trial of the feature in hand went; a repeat of the same entry is harmless.

    A later one of the same place counts in its stead; nothing is overwritten. Raises InputError, HandedOver, Withdrawn.
    """
    said = {
        "feature_id": state.feature_id,
        "outcome": entry.outcome,
        "place": entry.place,
        "piece": entry.piece,
        "note": entry.note,
    }
    if kept := sent_before(session, Trial, entry.id, **said):
        return kept
    state.must_be_open()
    state.must_count()
    kind = feature_kind(state.in_hand.row.kind)
    if not kind.trials_as:
        raise InputError(
            f"{kind.a_title.capitalize()} is measured, not tried.", "Log a reading of it.", field="outcome"
        )
    wanted = state.requirement.text if state.requirement else ""
    trial_state(kind, wanted, needed(entry.outcome, "outcome"))
    _one_of(needed(entry.place, "place"), kind.tried_at, "place")
    _one_of(entry.piece, serials(state) or ("",), "piece")
    row = append(
        session,
        Trial(
            id=entry.id,
            job_id=state.job.id,
            feature_id=state.feature_id,
            limits_id=state.requirement.id if state.requirement else None,
            piece=entry.piece,
            place=entry.place,
            tried_with=entry.tried_with or usual_partner(state),
            outcome=entry.outcome,
            orientation=entry.orientation,
            note=entry.note,
            by_id=by.id,
        ),
    )
    announce(session, state.job.number, "reading")
    return row


def _one_of(text: str, known: tuple[str, ...], field: str) -> None:
    if text not in known:
        raise InputError(f"“{text[:40]}” is no {field} of this.", "Choose one from the list.", field=field, value=text)


def usual_partner(state: JobState) -> str:
    """What the feature in hand is tried or compared with, as what is wanted of it says."""
    kind = feature_kind(state.in_hand.row.kind)
    if kind.family == "feel" and state.requirement is not None:
        return wanted_by_trial(state.requirement.text).tried_with
    return kind.tried_with
