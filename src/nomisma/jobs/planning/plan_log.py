"""Saying something of a job's plan: intake, questions, stock, the look before the saw, another order, an operation
ticked off.
"""

from collections.abc import Mapping, Sequence
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, needed
from nomisma.core.planning.blank import blank
from nomisma.core.planning.drawing_against_metal import DrawingAgainstMetalInput, drawing_against_metal
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.planning.plan_entries import (
    Answer,
    Intake,
    OrderKept,
    Question,
    Said,
    SawLooked,
    StockChosen,
    Tick,
    Topic,
)
from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import jobs
from nomisma.store.append import AlreadyChanged, append, sent_before
from nomisma.store.live import announce
from nomisma.store.models import Account, PlanEntry
from nomisma.store.plans import newest_like


def _no_part(field: str) -> InputError:
    return InputError(
        "The part has no outside of a known size yet.", "Give its diameters and lengths on Part first.", field=field
    )


def say(
    session: Session,
    plan: JobPlan,
    topic: Topic,
    said: Said,
    *,
    by: Account,
    sent_id: UUID,
    seen: str | None = None,
    told: UUID | None = None,
) -> PlanEntry:
    """Write one saying; commits nothing; sent twice it is one. Open pages are told of it under `told`, else its own id:
    the one that sent it need not look again.

    `seen`: the id of what a page showed in its place, empty where nothing was; none where nobody looked. Raises
    HandedOver, AlreadyChanged.
    """
    words = said.model_dump(mode="json")
    if kept := sent_before(session, PlanEntry, sent_id, job_id=plan.state.job.id, topic=topic, said=words):
        return kept
    plan.state.must_be_open()
    if seen is not None:
        jobs.hold(session, plan.state.job.id)
        _must_be_seen(newest_like(session, plan.state.job.id, topic, words), seen, words)
    row = append(session, PlanEntry(id=sent_id, job_id=plan.state.job.id, topic=topic, said=words, by_id=by.id))
    announce(session, plan.state.job.number, "plan", id=str(told or sent_id))
    return row


def _must_be_seen(newest: PlanEntry | None, seen: str, words: Mapping[str, object]) -> None:
    """Raises AlreadyChanged, with both, where somebody else said it in the meantime."""
    if newest is None or str(newest.id) == seen:
        return
    differ = [name for name, value in words.items() if newest.said.get(name) != value]
    other, yours = (
        "; ".join(f"{name.replace('_', ' ')} {said.get(name)}" for name in differ)[:200]
        for said in (newest.said, words)
    )
    raise AlreadyChanged(
        f"{newest.by.name} said it a moment before you: {other or 'the same'}. Yours is not kept:"
        f" {yours or 'the same'}. Look at both, then say it again if it must be otherwise."
    )


def take_in(
    session: Session, plan: JobPlan, intake: Intake, *, by: Account, sent_id: UUID, seen: str | None = None
) -> PlanEntry:
    """What was asked, anew. Raises HandedOver, AlreadyChanged."""
    return say(session, plan, "intake", intake, by=by, sent_id=sent_id, seen=seen)


def ask(session: Session, plan: JobPlan, question: str, *, by: Account, sent_id: UUID) -> PlanEntry:
    """A question that must be answered or waived before metal is cut. Raises InputError, HandedOver."""
    return say(session, plan, "question", Question(question=needed(question, "question")), by=by, sent_id=sent_id)


def answer(
    session: Session,
    plan: JobPlan,
    of: UUID,
    words: str,
    *,
    waived: bool,
    by: Account,
    sent_id: UUID,
    seen: str | None = None,
) -> PlanEntry:
    """What was found out, or why it is waived.

    Raises InputError for no words or no such question, NotAllowed, HandedOver, AlreadyChanged where it was answered in
    the meantime.
    """
    if waived:
        must(by, Action.WAIVE_QUESTIONS)
    if all(one.row.id != of for one in plan.questions):
        raise InputError("That question is not one of this job.", "Open the plan anew.", field="of")
    said = Answer(of=str(of), answer=needed(words, "answer"), waived=waived)
    return say(session, plan, "answer", said, by=by, sent_id=sent_id, seen=seen)


def choose_stock(
    session: Session, plan: JobPlan, stock: StockChosen, *, by: Account, sent_id: UUID, seen: str | None = None
) -> PlanEntry:
    """The stock as measured. Raises InputError at the field where a size cannot be, HandedOver, AlreadyChanged."""
    for name in ("across", "bore", "length", "parting", "grip"):
        text = getattr(stock, name)
        try:
            if text:
                parse_length(text, stock.unit, positive=name in ("across", "bore", "length"))
        except InputError as error:
            raise error.at(name) from None
    trial = JobPlan(plan.state, [PlanEntry(topic="stock", said=stock.model_dump(mode="json"))])
    try:
        if trial.blank_input is not None:
            blank(trial.blank_input)
    except InputError as error:
        raise _of_the_form(error) from None
    return say(session, plan, "stock", stock, by=by, sent_id=sent_id, seen=seen)


def _of_the_form(error: InputError) -> InputError:
    """The same error at the field of the form that the blank's input comes from."""
    error.field = {"stock_bore": "bore", "stock_across": "across", "stock_length": "length"}.get(
        error.field, error.field
    )
    return error


def look_before_the_saw(
    session: Session, plan: JobPlan, length_again: str, diameter_again: str, *, by: Account, sent_id: UUID
) -> PlanEntry:
    """The drawing's length and largest diameter typed again without the first in sight, held against the part and the
    stock as measured.

    What came of it is kept, a stop as well. Raises InputError for no size, or a part without one, HandedOver.
    """
    if plan.section is None or plan.blank is None or plan.blank_input is None:
        raise _no_part("length_again")
    if plan.length_not_known:
        raise InputError(f"{plan.length_not_known}.", "Give it on Part first.", field="length_again")
    unit = plan.state.unit
    given = plan.blank_input
    sizes = {"length_again": length_again, "diameter_again": diameter_again}
    try:
        typed = {name: parse_length(needed(text, name), unit) for name, text in sizes.items()}
    except InputError as error:
        if not error.field:
            error.field = next(name for name, text in sizes.items() if text == error.value or not text)
        raise
    found = drawing_against_metal(
        DrawingAgainstMetalInput(
            length=Length(plan.section.length_mm, unit),
            length_again=typed["length_again"],
            diameter=Length(plan.section.diameter_mm, unit),
            diameter_again=typed["diameter_again"],
            blank=plan.blank.blank_length,
            across=plan.blank.least_across,
            stock_length=given.stock_length,
            stock_across=given.stock_across,
            may_differ=Length(given.facing_mm, unit),
            unit=unit,
        )
    )
    said = SawLooked(
        length_again=length_again,
        diameter_again=diameter_again,
        may_saw=found.may_saw,
        headline=found.headline,
        against=found.against,
        for_length_mm=str(plan.section.length_mm),
        for_blank_mm=str(plan.blank.blank_length.mm),
        unit=unit,
    )
    return say(session, plan, "saw", said, by=by, sent_id=sent_id)


def keep_order(
    session: Session,
    plan: JobPlan,
    keys: Sequence[str],
    reason: str,
    *,
    by: Account,
    sent_id: UUID,
    seen: str | None = None,
) -> PlanEntry:
    """The order a hand put; a rule it breaks is kept with a reason. Raises InputError where there is none, NotAllowed,
    HandedOver.
    """
    _must_be_planned(plan, keys)
    found = plan.order_with(keys)
    if found is None:
        raise _no_part("keys")
    if found.breaks:
        must(by, Action.LEAVE_A_RULE)
    if found.breaks and not reason.strip():
        raise InputError(found.breaks[0], "Put it back, or say why it is done so.", field="reason")
    said = OrderKept(keys=list(keys), reason=reason.strip())
    return say(session, plan, "order", said, by=by, sent_id=sent_id, seen=seen)


def _must_be_planned(plan: JobPlan, keys: Sequence[str]) -> None:
    """Raises InputError where an order names what is not in the plan, or one operation twice."""
    known = {one.key for one in plan.order.operations} if plan.order else set()
    if strangers := [key for key in keys if key not in known]:
        named = ", ".join(strangers[:3])[:80]
        raise InputError(
            f"{len(strangers)} of the operations named are not in the plan: {named}.",
            "Open the plan anew.",
            field="keys",
        )
    if len(set(keys)) != len(keys):
        raise InputError("An operation is named twice.", "Open the plan anew.", field="keys")


def moved(plan: JobPlan, key: str, by: int) -> list[str]:
    """The keys of the order with one operation moved that far within its set-up. Raises InputError for one that is not
    in the plan.
    """
    for set_up in plan.order.set_ups if plan.order else ():
        keys = [one.key for one in set_up.operations]
        if key in keys:
            at = keys.index(key)
            keys.insert(min(max(at + by, 0), len(keys) - 1), keys.pop(at))
            others = [one.key for one in plan.order.operations if one.key not in keys] if plan.order else []
            return [*others, *keys]
    raise InputError("That operation is not in the plan any more.", "Open the plan anew.", field="keys")


def tick(
    session: Session, plan: JobPlan, said: Tick, *, by: Account, sent_id: UUID, told: UUID | None = None
) -> PlanEntry:
    """Tick an operation off, or take that back. Raises InputError for one that is not in the plan, HandedOver."""
    if plan.order is None or all(one.key != said.key for one in plan.order.operations):
        raise InputError("That operation is not in the plan any more.", "Open the sheet anew.", field="key")
    return say(session, plan, "tick", said, by=by, sent_id=sent_id, told=told)
