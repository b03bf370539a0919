"""A step taken before others of its set-up that are still open: what that breaks, and the plan from there on."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.making.steps import Making, Step
from nomisma.jobs.planning.plan_log import keep_order
from nomisma.store.models import Account, PlanEntry


@dataclass(frozen=True, slots=True)
class TakenNow:
    """A step taken now: the open ones it would come before, and what that breaks beyond what is broken already, the
    plan run from there on the metal; `left_out`: what then has nothing left to cut.
    """

    before: tuple[Step, ...]
    breaks: tuple[str, ...]
    left_out: tuple[Step, ...]


def taken_now(making: Making, step: Step) -> TakenNow | None:
    """What taking a step now comes to; None where nothing of its set-up is open before it, or it is done."""
    before = tuple(
        one for one in making.left_open(step) if one.kind == "operation" and one.set_up_key == step.set_up_key
    )
    if not before or step.is_done or step.operation is None:
        return None
    found, order = making.plan.order_with(_keys(making, step, before)), making.plan.order
    assert found is not None, "a step is one of a plan"
    assert order is not None, "a step is one of a plan"
    kept = {one.key for one in found.operations}
    return TakenNow(
        before,
        tuple(words for words in found.breaks if words not in order.breaks),
        tuple(one for one in making.steps if one.operation is not None and one.key not in kept),
    )


def _keys(making: Making, step: Step, before: tuple[Step, ...]) -> list[str]:
    """The keys of all operations, with a step before those that are open."""
    keys = [one.key for one in making.steps if one.operation is not None and one.key != step.key]
    keys.insert(keys.index(before[0].key), step.key)
    return keys


def take_now(
    session: Session, making: Making, step: Step, reason: str, *, by: Account, sent_id: UUID
) -> PlanEntry | None:
    """Put a step before those of its set-up that are open, and keep the order with its reason. None where it is next
    anyway. Raises InputError where it breaks a rule and no reason is given, NotAllowed, HandedOver.
    """
    found = taken_now(making, step)
    if found is None:
        return None
    keys = _keys(making, step, found.before)
    try:
        return keep_order(session, making.plan, keys, reason or making.plan.kept_order.reason, by=by, sent_id=sent_id)
    except InputError as error:
        error.field = "now_reason"
        raise
