"""What is decided about a piece that is out, by someone allowed to, tied to its readings; and the first off."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, needed
from nomisma.core.measuring.disposition import DISPOSITIONS
from nomisma.core.part.feature import State
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit
from nomisma.jobs.shop.rights import Action, must
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs, readings
from nomisma.store.append import AlreadyChanged, append, sent_before
from nomisma.store.live import announce
from nomisma.store.models import Account, Disposition
from nomisma.store.readings import Extremes


@dataclass(frozen=True)
class PieceState:
    """One piece and how it stands; serial empty for a single piece."""

    serial: str
    state: State
    sizes: str


def piece_states(state: JobState) -> list[PieceState]:
    """Every measured piece against the limits in force."""
    return [
        PieceState(
            serial,
            verdict.state,
            "; ".join([*_ends(state.own_readings.of_piece(serial), state.unit), *state.tried_of(serial)]),
        )
        for serial, verdict in state.verdict_of_piece.items()
    ]


def _ends(sizes: Extremes, unit: Unit) -> list[str]:
    """The smallest and the largest size, once where they are the same; nothing where none was read."""
    if not sizes.count:
        return []
    return [" to ".join(dict.fromkeys(show_exact(mm, unit) for mm in (sizes.smallest_mm, sizes.largest_mm)))]


@dataclass(frozen=True, slots=True)
class DispositionGiven:
    """What somebody decides about one piece (empty: the only one), and why.

    `seen`: the newest disposition of the feature that the page showed, by its id; empty where there was none, none
    where nobody looked.
    """

    id: UUID
    kind: str
    piece: str
    reason: str
    seen: str | None = None


def decide(session: Session, state: JobState, given: DispositionGiven, *, by: Account) -> Disposition:
    """Write a disposition, tied to the standing readings and the limits in force; commits nothing. Sent twice it is
    one.

    Raises InputError, NotAllowed, HandedOver, AlreadyChanged where somebody else decided about it in the meantime.
    """
    said = {"feature_id": state.feature_id, "kind": given.kind, "piece": given.piece, "reason": given.reason}
    if kept := sent_before(session, Disposition, given.id, **said):
        return kept
    state.must_be_open()
    _must_be_seen(session, state, given)
    found = _stands(state, given)
    must(by, Action(given.kind))
    if given.kind != "approve_first_off":
        needed(given.reason, "reason")
    row = append(
        session,
        Disposition(
            id=given.id,
            job_id=state.job.id,
            feature_id=state.feature_id,
            kind=given.kind,
            piece=given.piece,
            state=found.state.value,
            limits_id=state.limits.id if state.limits else None,
            by_id=by.id,
            reason=given.reason,
            reading_ids=_judged_by(session, state, given.piece),
        ),
    )
    announce(session, state.job.number, "disposition")
    return row


def _judged_by(session: Session, state: JobState, piece: str) -> list[str]:
    """The ids of what the piece is judged by: its standing readings since the last cut, or its trials that count."""
    cut = readings.last_cut_number(session, state.feature_id, piece)
    read = readings.standing_ids(session, state.feature_id, piece, cut)
    return [*read, *(str(row.id) for row in state.own_trials if row.piece == piece)]


def _must_be_seen(session: Session, state: JobState, given: DispositionGiven) -> None:
    """Raises AlreadyChanged, with both, where another decision about the feature came since the page was shown."""
    if given.seen is None:
        return
    jobs.hold(session, state.job.id)
    newest = next(reversed(jobs.dispositions(session, state.feature_id)), None)
    if newest is not None and str(newest.id) != given.seen:
        other, wanted = (
            DISPOSITIONS[kind].title if kind in DISPOSITIONS else kind[:40] for kind in (newest.kind, given.kind)
        )
        raise AlreadyChanged(
            f"{newest.by.name} decided “{other}” about {f'piece {newest.piece}' if newest.piece else 'it'} a moment"
            f" before you ({newest.reason or 'no reason given'}). Your “{wanted}” is not kept: look at both, then"
            " decide again if it must be otherwise."
        )


def _stands(state: JobState, given: DispositionGiven) -> PieceState:
    """The piece as it stands, where that may be decided of it. Raises InputError."""
    found = next((one for one in piece_states(state) if one.serial == given.piece), None)
    if found is None:
        raise InputError("That piece has no readings.", "Measure it first.", field="piece")
    rule = DISPOSITIONS.get(given.kind)
    if rule is None:
        raise InputError(f"“{given.kind[:40]}” is not one of the choices.", "Choose one of them.", field="kind")
    if found.state not in rule.states:
        raise InputError(
            f"“{rule.title}” is no way on for a piece that is {found.state.words}.", "Choose another.", field="kind"
        )
    return found
