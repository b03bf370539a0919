"""A bush worked to its worksheet: the limits of its outside, of its bore before and after pressing, and how it goes
together, at once.
"""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.joints.assembly_inputs import assembly_inputs
from nomisma.core.joints.bush import finishing_allowance_mm
from nomisma.core.joints.bush_model import BushResult, SizeSpan
from nomisma.core.planning.feature_lines import letter_of
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import MM_PER, Length, Unit, in_unit, round_to
from nomisma.core.registry import calculation_named
from nomisma.jobs.opening.assembling import joint_id_of
from nomisma.jobs.opening.new_job import add_bore_before_pressing
from nomisma.jobs.standing.limits_in_force import LIMITS_FROM_TITLES
from nomisma.jobs.standing.permissions import check_loosening, reason_to_judge_anew
from nomisma.jobs.standing.state import Bush, JobState
from nomisma.store import jobs, parts
from nomisma.store.append import AlreadyChanged, append
from nomisma.store.models import Account, AssemblyPlan, Limits, Part


@dataclass(frozen=True, slots=True, kw_only=True)
class BushChosen:
    """A bush worksheet chosen on a page: what was typed, that as values, and the limits and versions that were seen."""

    id: UUID
    asked: dict[str, str]
    values: dict[str, Any]
    seen: str
    based_on: str
    judge_reason: str = ""


@dataclass(frozen=True, slots=True)
class BushLimits:
    """The limits a worksheet gives each feature of a bush that is still to be made, by where they come from."""

    spans: dict[str, SizeSpan]

    @property
    def titled(self) -> list[tuple[str, SizeSpan]]:
        """Each with what it is called, in the order they are made."""
        return [(LIMITS_FROM_TITLES[name], span) for name, span in self.spans.items()]

    @property
    def seen(self) -> str:
        """All of them as one text, to see whether a page showed the same."""
        return " ".join(f"{name} {span.lower}/{span.upper}" for name, span in self.spans.items())


def bush_limits(answer: BushResult, unit: Unit) -> BushLimits:
    """What the features of a bush are held to; one that is made already stays as it is.

    To be finished after pressing, its bore is left small by up to twice what a finish takes.
    """
    before = answer.bore_before
    if answer.order == "after" or before is None:
        most = answer.rough_bore_at_most
        least_mm = most.mm - finishing_allowance_mm(most.mm)
        least = Length(round_to(in_unit(least_mm, unit), 3 if unit == "in" else 2, "up") * MM_PER[unit], unit)
        before = SizeSpan(lower=least, upper=most)
    made = {"bush_outside": answer.outside_made, "bore_before_pressing": answer.bore_after_found is not None}
    spans = {"bush_outside": answer.outside, "bore_before_pressing": before, "bore_after_pressing": answer.bore_after}
    return BushLimits({name: span for name, span in spans.items() if not made.get(name)})


def versions_of(bush: Bush) -> str:
    """Which versions of their requirements the features of a bush stand at."""
    return " ".join(str(one.requirement.version if one.requirement else 0) for one in bush.parts_made)


def bush_of(state: JobState) -> Bush:
    """The bush the feature in hand belongs to. Raises InputError."""
    if state.bush is None:
        raise InputError(
            f"Feature {state.letter} is no part of a bush.", "Start a job with housing and shaft; I make the bush."
        )
    return state.bush


def work_to_bush(session: Session, state: JobState, chosen: BushChosen, *, by: Account) -> AssemblyPlan:
    """Put the worksheet's limits in force for every feature of the bush, and plan its pressing with it. Commits
    nothing.

    Raises InputError, NotAllowed, HandedOver, AlreadyChanged where the answer or the limits in force are not the ones
    that were seen.
    """
    bush = bush_of(state)
    reasons = [reason_to_judge_anew(by, one, chosen.judge_reason) for one in bush.parts_made]
    answer = _answer(chosen)
    found = bush_limits(answer, state.unit)
    if found.seen != chosen.seen:
        raise AlreadyChanged(
            "What the bush is worked out from changed while you were choosing. Look at its limits again, then choose."
        )
    plan = append(
        session,
        AssemblyPlan(
            id=chosen.id,
            job_id=state.job.id,
            joint_id=joint_id_of(bush.outside),
            method="press",
            tool="bush",
            asked=chosen.asked,
            inputs=assembly_inputs("press", answer),
            answer=answer.model_dump(mode="json"),
            by_id=by.id,
        ),
    )
    if session.get(Limits, parts.own_id(chosen.id, "bore_after_pressing")):
        return plan  # the form was sent before
    if chosen.based_on != versions_of(bush):
        raise AlreadyChanged(
            "Other limits of this bush were put in force while you were choosing. Look at them, then choose again."
        )
    working = [step.model_dump(mode="json") for step in answer.working]
    common = {
        "job_id": state.job.id,
        "version": 0,
        "option_name": "bush worksheet",
        "inputs": {"asked": chosen.asked},
        "option": {"working": working},
        "by_id": by.id,
        "reason": next(filter(None, reasons), chosen.judge_reason),
    }
    before_id = bush.before.feature_id if bush.before else _new_before(session, state, bush, by)
    features = {
        "bush_outside": (bush.outside.feature_id, bush.outside),
        "bore_before_pressing": (before_id, bush.before),
        "bore_after_pressing": (bush.bore.feature_id, bush.bore),
    }
    for limits_from, span in found.spans.items():
        feature_id, one = features[limits_from]
        row = Limits(
            **common,
            **_said_of(one),
            id=parts.own_id(chosen.id, limits_from),
            feature_id=feature_id,
            limits_from=limits_from,
            lower_mm=span.lower.mm,
            upper_mm=span.upper.mm,
            aim_mm=_aim_mm(span),
        )
        if one:
            check_loosening(by, one, row)
        jobs.set_limits(session, row, based_on_version=one.requirement.version if one and one.requirement else 0)
    return plan


def _said_of(one: JobState | None) -> dict[str, str]:
    """What was said of a feature besides its limits, which stays."""
    return {"duty": one.duty.name, "true_to": one.duty.true_to, "along": one.along.words} if one else {}


def _answer(chosen: BushChosen) -> BushResult:
    try:
        answer = calculation_named("bush").run(chosen.values)
    except BadInput as error:
        raise error.errors[0] from None
    assert isinstance(answer, BushResult)
    return answer


def _new_before(session: Session, state: JobState, bush: Bush, by: Account) -> UUID:
    """A bush begun before its bore before pressing was a feature of its own gets one."""
    part = session.get_one(Part, bush.outside.in_hand.row.part_id)
    letter = letter_of(len(parts.letters_of(session, state.job.id)))
    return add_bore_before_pressing(session, part, letter=letter, by_id=by.id).id


def _aim_mm(span: SizeSpan) -> Decimal:
    return span.aim.mm if span.aim else (span.lower.mm + span.upper.mm) / 2


def known_of(bush: Bush) -> dict[str, str]:
    """What a job knows of the fields of the bush worksheet, as typed or as measured; what was typed before stands."""
    wanted = bush.outside.requirement
    typed = dict(wanted.inputs.get("asked", {})) if wanted is not None and wanted.limits_from == "bush_outside" else {}
    measured = {
        "housing": _size_text(bush.housing),
        "shaft": _size_text(bush.shaft),
        "bush_outside": _measured_text(bush.outside),
        "bush_bore": _measured_text(bush.before) if bush.before else "",
    }
    return {**typed, **{name: text for name, text in measured.items() if text or name.startswith("bush_")}}


def _size_text(one: JobState) -> str:
    """A member at hand: as called out, else as measured."""
    return one.in_hand.callout or _read_text(one)


def _measured_text(one: JobState) -> str:
    """A member that is made, once it is in limits: what is still being cut is no size to count on."""
    return _read_text(one) if one.is_settled else ""


def _read_text(one: JobState) -> str:
    """The least and the greatest that was read, as two readings, so that what they are worth counts."""
    found = one.own_readings
    sizes = dict.fromkeys((found.smallest_mm, found.largest_mm)) if found.count else ()
    return " ".join(show_exact(mm, one.unit) for mm in sizes)
