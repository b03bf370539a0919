"""Closing a step at the lathe, and what is told to whoever works on one that is not what it was."""

from dataclasses import dataclass
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.making.steps import Making, Step
from nomisma.jobs.planning.plan_entries import Tick
from nomisma.jobs.planning.plan_log import say, tick
from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.jobs.shop.rights import Action, must
from nomisma.store.models import Account, PlanEntry

_CLOSED_BY = UUID("0d1f6a3c-7b52-4c1e-9f53-5f0c2f3b8a11")


class NotAsShown(InputError):
    """The step is not any more what the page showed. What was typed is kept in its field; it may be logged all the
    same.
    """


class LeftUnread(InputError):
    """A size is found at the step, and none was read: it is closed without one only on purpose."""


@dataclass(frozen=True, slots=True)
class ShownAs:
    """What a page showed of a step: its key, and the lathe it was to be done on, by its row."""

    step: str
    lathe: str = ""
    anyway: bool = False


def must_be_as_shown(making: Making, shown: ShownAs, *, typed: str) -> None:
    """Raises NotAsShown where the step is gone from the plan, was closed meanwhile, or is done on another lathe now.

    `typed`: the reading that was sent, which says what is kept.
    """
    lathe = making.state.job.machine
    if shown.lathe and (lathe is None or shown.lathe != str(lathe.id)):
        raise NotAsShown(
            f"This job is made on {lathe.name if lathe else 'no lathe of the shop'} now, not on the one shown before:"
            " lines and speeds are others.",
            f"{_kept(typed)} Look at the step again, then press Enter.",
            field="size",
        )
    if shown.anyway:
        return
    step = making.named(shown.step)
    if step is None:
        said = making.plan.last_changed
        who = f" {said.by.name} changed the plan." if said is not None else ""
        raise NotAsShown(
            f"The step that was shown is not in the plan any more.{who}",
            f"{_kept(typed)} If it was measured so, log it all the same; else go on with the step shown now.",
            field="size",
        )
    if step.is_done and typed:
        raise NotAsShown(
            f"Step {step.label}, {step.title}, is closed already{_closed_by(making.plan, step)}.",
            f"{_kept(typed)} If it is one more reading of the same, log it all the same; if it belongs to the step"
            " shown now, go on with that.",
            field="size",
        )


def _kept(typed: str) -> str:
    return f"{typed} is not logged yet." if typed else "Nothing was logged."


def _closed_by(plan: JobPlan, step: Step) -> str:
    row = plan.closed.get(step.key)
    return f", by {row.by.name}" if row is not None else ""


def read_enough(session: Session, making: Making, step: Step, *, by: Account, sent_id: UUID) -> PlanEntry:
    """The feature in hand is in limits, and one place is enough, of it and of what else is measured at the step. Raises
    LeftUnread where it is not in limits; HandedOver.
    """
    one = step.feature
    if one is None or one in step.unread:
        named = f", and {one.letter} is not in limits yet" if one else ""
        raise LeftUnread(
            f"Nothing was typed{named}.", "Type what it measures; or close the step without its reading.", field="size"
        )
    said = Tick(key=step.key, piece=making.plan.piece, lathe=_lathe(making.plan), letter=one.letter)
    return say(session, making.plan, "tick", said, by=by, sent_id=sent_id)


def close(
    session: Session, making: Making, step: Step, *, by: Account, sent_id: UUID, without_reading: bool = False
) -> PlanEntry:
    """Close an operation by hand. Raises LeftUnread where its size was not read and nobody says that it is closed
    without; NotAllowed, HandedOver; InputError for what only readings close.
    """
    if step.kind != "operation":
        raise InputError(
            f"{step.title}: only what is read closes it." if step.measured else f"{step.title}: say that it is ready.",
            "Read it, or decide about it.",
            field="size",
        )
    unread = step.unread
    if unread and not without_reading:
        letters = " and ".join(one.letter for one in unread)
        raise LeftUnread(
            f"Nothing was typed, and {letters} {'is' if len(unread) == 1 else 'are'} not in limits yet.",
            "Type what it measures; or close the step without its reading.",
            field="size",
        )
    if unread:
        must(by, Action.CLOSE_UNREAD)
    said = Tick(key=step.key, piece=making.plan.piece, lathe=_lathe(making.plan), without_reading=bool(unread))
    return tick(session, making.plan, said, by=by, sent_id=sent_id)


def open_again(session: Session, making: Making, step: Step, *, by: Account, sent_id: UUID) -> PlanEntry:
    """Take back that an operation was closed by hand. Raises InputError, HandedOver."""
    said = Tick(key=step.key, piece=making.plan.piece, done=False, lathe=_lathe(making.plan))
    return tick(session, making.plan, said, by=by, sent_id=sent_id)


def closed_by_reading(session: Session, making: Making, step: Step, *, by: Account, sent_id: UUID) -> PlanEntry | None:
    """Note that a reading closed an operation, by whom and on which lathe; none where it is no operation, or still
    open.

    `sent_id`: the reading's own, so that a repeat notes nothing twice.
    """
    if step.kind != "operation" or not step.is_done:
        return None
    said = Tick(key=step.key, piece=making.plan.piece, lathe=_lathe(making.plan), by_reading=True)
    return tick(session, making.plan, said, by=by, sent_id=uuid5(_CLOSED_BY, str(sent_id)), told=sent_id)


def _lathe(plan: JobPlan) -> str:
    machine = plan.state.job.machine
    return machine.name if machine else ""
