"""The first off of a batch over all its features: whether it is whole and good, and its approval at one go."""

from dataclasses import dataclass
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.jobs.closing.dispositions import DispositionGiven, decide
from nomisma.jobs.shop.rights import Action, must
from nomisma.jobs.standing.pieces import places_unread, serials
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs
from nomisma.store.models import Account, Disposition


@dataclass(frozen=True, slots=True)
class FirstOff:
    """The first piece: letters of the features still to be measured, of those out of limits, and the approvals there
    are.
    """

    serial: str
    unread: tuple[str, ...]
    out: tuple[str, ...]
    approved: tuple[Disposition, ...]

    @property
    def is_good(self) -> bool:
        """Whether every feature of it is measured and in limits."""
        return not self.unread and not self.out


def first_off(session: Session, state: JobState) -> FirstOff | None:
    """The first off of a batch; none of a single piece. Approved is it where each judged feature is."""
    if not state.is_batch:
        return None
    serial = serials(state)[0]
    judged = _judged(state)
    unread = tuple(one.letter for one in judged if places_unread(one, serial))
    out = tuple(
        one.letter
        for one in judged
        if (found := one.verdict_of_piece.get(serial)) and found.state is not State.IN_LIMITS
    )
    rows = [
        row
        for row in jobs.dispositions(session, *(one.feature_id for one in judged))
        if row.kind == "approve_first_off"
    ]
    approved = {row.feature_id: row for row in rows}
    whole = judged and all(one.feature_id in approved for one in judged)
    return FirstOff(serial, unread, out, tuple(approved.values()) if whole else ())


def _judged(state: JobState) -> list[JobState]:
    return [one for one in state.made if one.feature.is_judged or (one.is_compared and not one.may_be_left)]


def approve_first_off(session: Session, state: JobState, *, by: Account, sent_id: UUID) -> list[Disposition]:
    """Approve the first off over all its features, each with its readings; commits nothing. Sent twice it is once.

    Raises InputError where it is not whole or not good, NotAllowed where somebody else than the lead asks, HandedOver.
    """
    state.must_be_open()
    must(by, Action.APPROVE_FIRST_OFF)
    found = first_off(session, state)
    if found is None:
        raise InputError("One piece has no first off.", "Say on this page how many are made.", field="pieces")
    if not found.is_good:
        said = [f"not measured at every place: {', '.join(found.unread)}"] if found.unread else []
        said += [f"not in limits: {', '.join(found.out)}"] if found.out else []
        raise InputError(
            f"Piece {found.serial} is {'; '.join(said)}.", "Measure it, or make another first off.", field="pieces"
        )
    return [
        decide(session, one, DispositionGiven(uuid5(sent_id, one.letter), "approve_first_off", found.serial, ""), by=by)
        for one in _judged(state)
    ]
