"""The lead's gate: once a piece is out, what judges it is changed by the lead, who says why."""

from nomisma.jobs.state import JobState
from nomisma.store.models import Reading
from nomisma.web.visit import Form, NotAllowed, Visit


def check_correction(visit: Visit, state: JobState, reading: Reading) -> None:
    """Raises NotAllowed, HandedOver: what was read of a piece that is out is not an apprentice's to correct or withdraw."""
    state.must_be_open()
    if not state.may_correct(visit.account.role, reading.feature_id):
        raise NotAllowed(
            "A piece of this job is gone too far: what was read of it is corrected or withdrawn by a machinist or the lead. Ask one of them."
        )


def reason_to_judge_anew(visit: Visit, form: Form, state: JobState) -> str:
    """Why the limits of the feature in hand change; empty where no piece of it is out. Raises InputError, NotAllowed."""
    return _reason(form, state, is_out=state.a_piece_is_out, may=state.may_judge_anew(visit.account.role))


def reason_to_plan_anew(visit: Visit, form: Form, state: JobState) -> str:
    """Why plan or acceptance change, which hold for all features; empty where no piece is out. Raises InputError, NotAllowed."""
    return _reason(form, state, is_out=state.any_piece_is_out, may=state.may_plan_anew(visit.account.role))


def _reason(form: Form, state: JobState, *, is_out: bool, may: bool) -> str:
    state.must_be_open()
    if not is_out:
        return ""
    if not may:
        raise NotAllowed(
            "A piece of this job is gone too far: what judges it is changed by the lead, who says why. Call the lead, or decide about the piece."
        )
    return form.text("judge_reason", needed=True, longest=300)
