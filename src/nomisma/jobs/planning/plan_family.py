"""Jobs that are made together: which they are, said of each of them, and their plans side by side."""

import re
from collections.abc import Sequence
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, NotDefined
from nomisma.core.order.family import MOST_SIBLINGS, FamilySetUp, Sibling, family_of
from nomisma.jobs.planning.plan_entries import FamilyNamed
from nomisma.jobs.planning.plan_log import say
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.store.models import Account


def siblings_named(session: Session, plan: JobPlan, text: str) -> list[JobPlan]:
    """The plans of the jobs a text names by number. Raises InputError for what is no number, no job, has no plan, is
    the job itself, or is too many, of the field `jobs`.
    """
    found: dict[int, JobPlan] = {}
    for word in filter(None, re.split(r"[\s,;]+", text)):
        if not word.isdecimal() or len(word) > 9:
            raise InputError(f"“{word[:20]}” is no job’s number.", "Write their numbers: 118 121.", field="jobs")
        found[int(word)] = _plan(session, plan, int(word))
    if len(found) >= MOST_SIBLINGS:
        raise InputError(f"At most {MOST_SIBLINGS} jobs are made together.", "Leave some out.", field="jobs")
    return list(found.values())


def _plan(session: Session, plan: JobPlan, number: int) -> JobPlan:
    if number == plan.state.job.number:
        raise InputError(f"Job {number} is this one.", "Name the others.", field="jobs")
    try:
        other = plan_of(session, state_numbered(session, number))
    except NotDefined:
        raise InputError(f"There is no job {number}.", "Look for it on the Bench.", field="jobs") from None
    if other.order is None or not other.order.set_ups:
        raise InputError(f"Job {number} has no plan yet.", "Give its diameters and lengths on Part.", field="jobs")
    return other


def name_family(session: Session, plan: JobPlan, others: Sequence[JobPlan], *, by: Account, sent_id: UUID) -> None:
    """Say of a job and of each of the others that they are made together; of those that were and are no longer, that
    they are not. Commits nothing. Raises HandedOver.
    """
    numbers = [plan.state.job.number, *(one.state.job.number for one in others)]
    gone = [plan_of(session, state_numbered(session, one)) for one in plan.family if one not in numbers]
    for one in (plan, *others):
        own = one.state.job.number
        said = FamilyNamed(jobs=[each for each in numbers if each != own])
        say(session, one, "family", said, by=by, sent_id=sent_id if one is plan else uuid5(sent_id, str(own)))
    for one in gone:
        number = one.state.job.number
        left = FamilyNamed(jobs=[each for each in one.family if each not in numbers])
        say(session, one, "family", left, by=by, sent_id=uuid5(sent_id, str(number)))


def family_plans(session: Session, plan: JobPlan) -> list[JobPlan]:
    """A job's own plan and those of the jobs made together with it, those that have one."""
    others = [plan_of(session, state_numbered(session, number)) for number in plan.family]
    return [plan, *(one for one in others if one.order is not None and one.order.set_ups)]


def family_set_ups(plans: Sequence[JobPlan]) -> tuple[FamilySetUp, ...]:
    """The set-ups of several jobs side by side."""
    return family_of(
        [
            Sibling(str(one.state.job.number), one.order, PlannedWork(one).figures)
            for one in plans
            if one.order is not None
        ]
    )
