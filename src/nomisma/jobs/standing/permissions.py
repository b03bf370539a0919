"""When what judges a piece may be changed, and with which reason: once it is out, or was read already."""

from decimal import Decimal

from nomisma.core.errors import InputError, needed
from nomisma.jobs.shop.rights import Action, must
from nomisma.jobs.standing.state import JobState
from nomisma.store.models import Account, Limits, Reading


def check_correction(by: Account, state: JobState, reading: Reading) -> None:
    """Raises NotAllowed, HandedOver: what was read of a piece that is out is not everybody's to correct or withdraw."""
    state.must_be_open()
    if not state.may_correct(by.role, reading.feature_id):
        must(by, Action.CORRECT_WHAT_IS_OUT)


def reason_to_judge_anew(by: Account, state: JobState, reason: str) -> str:
    """Why the limits of the feature in hand change; empty where no piece of it is out. Raises InputError,
    NotAllowed.
    """
    return _reason(by, state, reason, is_out=state.a_piece_is_out)


def reason_to_plan_anew(by: Account, state: JobState, reason: str) -> str:
    """Why plan or acceptance change, which hold for all features; empty where no piece is out. Raises InputError,
    NotAllowed.
    """
    return _reason(by, state, reason, is_out=state.any_piece_is_out)


def _reason(by: Account, state: JobState, reason: str, *, is_out: bool) -> str:
    state.must_be_open()
    if not is_out:
        return ""
    must(by, Action.JUDGE_ANEW)
    return needed(reason, "judge_reason")


def check_loosening(by: Account, state: JobState, wanted: Limits, *, field: str = "judge_reason") -> None:
    """Limits that something was read against are loosened with a reason, and not by everybody. Raises InputError,
    NotAllowed.
    """
    if not state.times_read or not loosens(state.limits, wanted):
        return
    must(by, Action.LOOSEN_LIMITS)
    if not wanted.reason:
        raise InputError(
            f"These limits are looser than the ones {state.letter} was read against.",
            "Say why: it stands in the record.",
            field=field,
        )


def loosens(in_force: Limits | None, wanted: Limits) -> bool:
    """Whether something that is out by the limits in force could be in by the ones wanted."""
    if in_force is None:
        return False
    return _beyond(in_force.lower_mm, wanted.lower_mm, -1) or _beyond(in_force.upper_mm, wanted.upper_mm, 1)


def _beyond(now_mm: Decimal | None, wanted_mm: Decimal | None, outwards: int) -> bool:
    """Whether a limit moves outwards, or is left out."""
    return now_mm is not None and (wanted_mm is None or outwards * (wanted_mm - now_mm) > 0)
