"""What a job waits for before it is first cut: an open question, its stock, the saw, a set-up, an operation,
a feature.
"""

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.holding.chucking import chuckings_of
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.standing.state import JobState


def waits_for(session: Session, state: JobState) -> tuple[str, str]:
    """The stage a job stands at, or the page of it, and what it waits for: as its features say, and before anything
    was read as its plan does.
    """
    stage, words = state.job_next
    needs = state.needs
    if stage not in ("cut", "measure") or needs.times_read or needs.handed_over or needs.requirement is None:
        return stage, words
    plan = plan_of(session, state)
    try:
        planned = _before_the_saw(plan) or _at_the_lathe(session, plan)
    except InputError:  # a size of its stock that cannot be read: Plan says which
        planned = "plan", "Its stock cannot be read: give it on Plan."
    return planned or (stage, _first_of(needs))


def _before_the_saw(plan: JobPlan) -> tuple[str, str] | None:
    count = plan.open_questions
    if count:
        return "plan", f"{count} open question{'s' if count > 1 else ''} before metal is cut."
    if plan.saw is not None and not plan.saw.may_saw:
        return "plan", "The drawing and the metal do not agree: look again before the saw."
    if plan.order is None or plan.done_count or any(one.times_read for one in plan.state.made):
        return None
    if plan.newest("stock") is None and (plan.entries or len(plan.state.made) > 1):
        return "plan", "Choose the stock."
    if plan.newest("stock") is not None and plan.saw is None:
        return "plan", "Look at drawing and metal before the saw."
    return None


def _at_the_lathe(session: Session, plan: JobPlan) -> tuple[str, str] | None:
    operation = plan.next_operation
    if operation is None or not plan.entries:
        return None
    set_up = plan.set_up_of(operation)
    chucking = next(one for one in chuckings_of(session, plan) if one.planned == set_up)
    if not chucking.ready:
        return "make", f"{set_up.title}: hold it, and look before the first start."
    return "make", f"Set-up {set_up.number}: {_lower(operation.operation.title)} is next."


def _first_of(needs: JobState) -> str:
    """The feature that is made first, with the size it is made to."""
    target_mm = needs.feature.target_mm
    size = f" to {show_exact(target_mm, needs.unit)}" if target_mm is not None and needs.is_coached else ""
    several = f"{needs.letter}: " if len(needs.made) > 1 else ""
    done = "Cut" if needs.is_coached else "Make" if not needs.is_compared else "Try"
    return f"{several}{_lower(done) if several else done} the {needs.called}{size}, and log the first reading."


def _lower(words: str) -> str:
    return f"{words[:1].lower()}{words[1:]}"
