"""A step taken before others that are still open: of its own set-up, what that breaks; of another, the rest planned
anew from the piece as it is.
"""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.order.order import PlannedSetUp
from nomisma.jobs.making.steps import Making, Step
from nomisma.jobs.planning.plan_entries import WentOn
from nomisma.jobs.planning.plan_log import keep_order, say
from nomisma.jobs.shop.rights import Action, must
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


@dataclass(frozen=True, slots=True)
class GoingOn:
    """What comes of a step of another set-up taken next: the set-ups from there on, the rest planned anew from the
    piece as it is; or why no plan goes on so.
    """

    set_ups: tuple[PlannedSetUp, ...] = ()
    why_not: tuple[str, ...] = ()


def waits_behind(making: Making, step: Step) -> bool:
    """Whether an operation waits behind another set-up in which something is still open: to take it next, the rest
    has to be planned anew.
    """
    if step.operation is None or step.is_done:
        return False
    return any(one.kind == "operation" and one.set_up_key != step.set_up_key for one in making.left_open(step))


def going_on_with(making: Making, step: Step) -> GoingOn:
    """What comes of taking such a step next."""
    assert step.operation is not None, "an operation waits"
    found = making.plan.going_on(step.operation.key)
    assert found is not None, "a step is one of a plan"
    if found.not_gone_on:
        return GoingOn(why_not=tuple(f"{one.sentence} {one.remedy}" for one in found.not_gone_on[:2]))
    done = set(making.plan.done_keys)
    return GoingOn(tuple(one for one in found.set_ups if not {each.key for each in one.operations} <= done))


def go_on_with(
    session: Session, making: Making, step: Step, reason: str, *, by: Account, sent_id: UUID
) -> PlanEntry | None:
    """Plan the rest anew from the piece as it is, with a step of another set-up next; of a batch for the piece in hand.
    None where it does not wait behind another set-up. Raises InputError where no plan goes on so, NotAllowed,
    HandedOver.
    """
    if not waits_behind(making, step) or step.operation is None:
        return None
    must(by, Action.PLAN_ANEW)
    found = going_on_with(making, step)
    if found.why_not:
        raise InputError(found.why_not[0], "Take the steps before it first.", field="now_reason")
    plan = making.plan
    said = WentOn(done=list(plan.done_keys), first=step.operation.key, piece=plan.piece, reason=reason.strip())
    return say(session, plan, "gone_on", said, by=by, sent_id=sent_id)
