"""What a job waits for: an open question, its stock, the saw, a set-up, an operation, a feature, a decision."""

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.making.steps import MOST_LOOKED_AT, Making, is_by_plan, making_in_hand
from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.jobs.standing.state import JobState


def waits_for(session: Session, plan: JobPlan) -> tuple[str, str]:
    """The stage a job stands at, or the page of it, and what it waits for: as its plan says, and where that has
    nothing to say, or a feature wants a decision, as its features do.
    """
    state = plan.state
    stage, words = state.job_next
    needs = state.needs
    if stage not in ("cut", "measure") or needs.handed_over or needs.requirement is None or _wants_looking_at(needs):
        return stage, words
    try:
        planned = _before_the_saw(plan) or _at_the_lathe(session, plan)
    except InputError:  # a size of its stock that cannot be read: Plan says which
        planned = "plan", "Its stock cannot be read: give it on Plan."
    return planned or (stage, words if needs.times_read else _first_of(needs))


def _wants_looking_at(needs: JobState) -> bool:
    """Whether somebody has to decide about the feature that comes next, or measure it again."""
    found = needs.verdict
    undecided = found is not None and found.state in (State.GONE_TOO_FAR, State.TOO_CLOSE_TO_CALL)
    return (undecided and not needs.decided) or needs.own_readings.calibration_failed > 0


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
    """The step in hand, as Make has it; none where nobody planned anything, or the batch is too large to look at each
    of its pieces.
    """
    if not plan.entries or not is_by_plan(plan) or plan.state.in_force.pieces_wanted > MOST_LOOKED_AT:
        return None
    making = making_in_hand(session, plan.state)
    step = making.in_hand
    if step is None:
        return None
    how_far = _how_far(making)
    if step.kind == "hold":
        assert step.set_up is not None, "what is held is a set-up"
        return "make", f"{step.set_up.title}: hold it, and look before the first start{how_far}."
    where = f"Set-up {step.set_up.number}: {_lower(step.title)}" if step.set_up else step.title
    return "make", f"{where} is next{how_far}."


def _how_far(making: Making) -> str:
    """Of a piece that is begun: which it is, and how many of its steps are done."""
    piece = f"piece {making.plan.piece}, " if making.plan.piece else ""
    return f" ({piece}{making.done_count} of {len(making.steps)} steps done)" if making.done_count else ""


def _first_of(needs: JobState) -> str:
    """The feature that is made first, with the size it is made to."""
    target_mm = needs.feature.target_mm
    size = f" to {show_exact(target_mm, needs.unit)}" if target_mm is not None and needs.is_coached else ""
    several = f"{needs.letter}: " if len(needs.made) > 1 else ""
    done = "Cut" if needs.is_coached else "Make" if not needs.is_compared else "Try"
    return f"{several}{_lower(done) if several else done} the {needs.called}{size}, and log the first reading."


def _lower(words: str) -> str:
    return f"{words[:1].lower()}{words[1:]}"
