"""The lead's gate: once a piece is out, what judges it is changed by the lead, who says why."""

from nomisma.store.models import Reading
from nomisma.web.job_state import JobState
from nomisma.web.visit import Form, NotAllowed, Visit


def check_correction(visit: Visit, state: JobState, reading: Reading) -> None:
    """Raises NotAllowed, HandedOver: what was read of a piece that is out is not an apprentice's to correct or withdraw."""
    state.must_be_open()
    if not state.may_correct(visit.account.role, reading.member):
        raise NotAllowed(
            "A piece of this job is gone too far: what was read of it is corrected or withdrawn by a machinist or the lead. Ask one of them."
        )


def reason_to_judge_anew(visit: Visit, form: Form, state: JobState) -> str:
    """Why limits, plan or acceptance change; empty where no piece is out. Raises InputError, NotAllowed."""
    state.must_be_open()
    if not state.a_piece_is_out:
        return ""
    if not state.may_judge_anew(visit.account.role):
        raise NotAllowed(
            "A piece of this job is gone too far: what judges it is changed by the lead, who says why. Call the lead, or decide about the piece."
        )
    return form.text("judge_reason", needed=True, longest=300)
