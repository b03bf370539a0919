"""Who may do what. Once a piece is out, what judges it is changed by the lead, who says why."""

from nomisma.core.errors import NomismaError, needed
from nomisma.jobs.state import JobState
from nomisma.store.models import Account, Reading


class NotAllowed(NomismaError):
    """This person's role may not do that; the message says who may."""


def must_be_shop_hand(by: Account, what: str = "Instruments and machines are set up") -> None:
    """Raises NotAllowed for an apprentice: what all jobs lean on is not theirs to change."""
    if by.role == "apprentice":
        raise NotAllowed(f"{what} by a machinist or the lead. Ask one of them.")


def check_correction(by: Account, state: JobState, reading: Reading) -> None:
    """Raises NotAllowed, HandedOver: what was read of a piece that is out is not an apprentice's to correct or withdraw."""
    state.must_be_open()
    if not state.may_correct(by.role, reading.feature_id):
        raise NotAllowed(
            "A piece of this job is gone too far: what was read of it is corrected or withdrawn by a machinist or the lead. Ask one of them."
        )


def reason_to_judge_anew(by: Account, state: JobState, reason: str) -> str:
    """Why the limits of the feature in hand change; empty where no piece of it is out. Raises InputError, NotAllowed."""
    return _reason(state, reason, is_out=state.a_piece_is_out, may=state.may_judge_anew(by.role))


def reason_to_plan_anew(by: Account, state: JobState, reason: str) -> str:
    """Why plan or acceptance change, which hold for all features; empty where no piece is out. Raises InputError, NotAllowed."""
    return _reason(state, reason, is_out=state.any_piece_is_out, may=state.may_plan_anew(by.role))


def _reason(state: JobState, reason: str, *, is_out: bool, may: bool) -> str:
    state.must_be_open()
    if not is_out:
        return ""
    if not may:
        raise NotAllowed(
            "A piece of this job is gone too far: what judges it is changed by the lead, who says why. Call the lead, or decide about the piece."
        )
    return needed(reason, "judge_reason")
