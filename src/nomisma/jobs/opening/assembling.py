"""Putting a joint together: the plan in force, what was seen, and what a bush closed in by."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any, get_args
from uuid import UUID

from pydantic import ValidationError
from sqlalchemy.orm import Session

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.joints.assembly import AssemblyResult, CloseInFoundResult, Felt
from nomisma.core.joints.assembly_inputs import assembly_inputs
from nomisma.core.joints.bush_model import PlannedBush
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named
from nomisma.jobs.standing.state import JobState
from nomisma.store import assembly, shop
from nomisma.store.append import append
from nomisma.store.models import Account, AssemblyPlan
from nomisma.store.models import AssemblyResult as Logged
from nomisma.store.readings import uncertainty_of


@dataclass(frozen=True, slots=True)
class PlannedBy:
    """The worksheet an assembly is planned with: its method, its calculation, what was typed, and that as values."""

    method: str
    calculation: str
    asked: dict[str, str]
    values: dict[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class AssemblyEntry:
    """What was seen when it went together; the bush's bore before and after as typed, in the unit of the instrument."""

    id: UUID
    felt: str
    force: str = ""
    note: str = ""
    size_before: str = ""
    size_after: str = ""
    instrument_id: UUID | None = None


def joint_id_of(state: JobState) -> UUID:
    """The joint of the feature in hand. Raises NotDefined."""
    state.must_have_a_joint()
    assert state.joint is not None
    return state.joint.row.id


def steps_of(plan: AssemblyPlan, unit: Unit) -> AssemblyResult | None:
    """The steps of a plan; none where an earlier version of the program planned it with what this one does not know."""
    try:
        found = calculation_named("assembly").run({**plan.inputs, "unit": unit})
    except BadInput:
        return None
    assert isinstance(found, AssemblyResult)
    return found


def bush_planned(plan: AssemblyPlan) -> PlannedBush | None:
    """Outside, close-in and bore as they were planned; none where it is no bush's plan, or one without them.

    A kept answer is read as it was kept: later versions answer with more fields, and what an earlier one promised still
    counts.
    """
    if plan.tool != "bush":
        return None
    try:
        return PlannedBush.as_kept(plan.answer)
    except ValidationError:
        return None


def close_in_seen(plan: AssemblyPlan | None, row: Logged, unit: Unit) -> CloseInFoundResult | None:
    """What a bush measured before and after closed in by, against the plan it was pressed with."""
    if plan is None or row.plan_id != plan.id or row.size_before_mm is None or row.size_after_mm is None:
        return None
    answer = bush_planned(plan)
    if answer is None:
        return None
    uncertainty = uncertainty_of(row.instrument) if row.instrument else Decimal(0)
    return _found_close_in(answer, row.size_before_mm, row.size_after_mm, uncertainty, unit)


def _found_close_in(
    answer: PlannedBush, before_mm: Decimal, after_mm: Decimal, uncertainty_mm: Decimal, unit: Unit
) -> CloseInFoundResult:
    """Raises InputError where the sizes cannot be a bush's."""
    try:
        found = calculation_named("close_in_found").run(
            {
                "bore_before": Length(before_mm, unit),
                "bore_after": Length(after_mm, unit),
                "unit": unit,
                "predicted_least": answer.close_in.least,
                "predicted_greatest": answer.close_in.greatest,
                "uncertainty": Length(uncertainty_mm, unit),
            }
        )
    except BadInput as error:
        raise error.errors[0] from None
    assert isinstance(found, CloseInFoundResult)
    return found


def plan_assembly(
    session: Session, state: JobState, planned: PlannedBy | None, *, by: Account, sent_id: UUID
) -> AssemblyPlan:
    """Keep a worksheet, worked out anew, as the way the joint in hand goes together; none: a plain push by hand.
    Commits nothing.

    Raises InputError, NotDefined where the feature goes with no other, HandedOver.
    """
    state.must_be_open()
    common: dict[str, Any] = {"id": sent_id, "job_id": state.job.id, "joint_id": joint_id_of(state), "by_id": by.id}
    if planned is None:
        row = AssemblyPlan(**common, method="push", tool="", asked={}, inputs={"method": "push"}, answer={})
    else:
        try:
            answer = calculation_named(planned.calculation).run(planned.values)
        except BadInput as error:
            raise error.errors[0] from None
        row = AssemblyPlan(
            **common,
            method=planned.method,
            tool=planned.calculation,
            asked=planned.asked,
            inputs=assembly_inputs(planned.method, answer),
            answer=answer.model_dump(mode="json"),
        )
    return append(session, row)


def log_assembly(session: Session, state: JobState, seen: AssemblyEntry, *, by: Account) -> Logged:
    """Log what was seen; commits nothing. Nothing logged is ever changed; a second look is a second entry. Raises
    InputError, HandedOver.
    """
    state.must_be_open()
    plan = assembly.newest_plan(session, joint_id_of(state))
    if plan is None:
        raise InputError("There is no plan to log against.", "Plan the assembly first.", field="felt")
    if seen.felt not in get_args(Felt):
        raise InputError(f"“{seen.felt[:40]}” is not one of the choices.", "Choose one from the list.", field="felt")
    instrument = next((row for row in shop.instruments(session) if row.id == seen.instrument_id), None)
    unit: Unit = "mm" if (instrument.unit if instrument else state.unit) == "mm" else "in"
    before, after = _bore(seen.size_before, unit, "size_before"), _bore(seen.size_after, unit, "size_after")
    factor = None
    if before and after and (answer := bush_planned(plan)):
        factor = _found_close_in(answer, before.mm, after.mm, Decimal(0), unit).close_in_factor
    return append(
        session,
        Logged(
            id=seen.id,
            job_id=state.job.id,
            joint_id=joint_id_of(state),
            plan_id=plan.id,
            felt=seen.felt,
            force_text=seen.force,
            note=seen.note,
            size_unit=unit,
            size_before_mm=before.mm if before else None,
            size_before_text=before.text if before else "",
            size_after_mm=after.mm if after else None,
            size_after_text=after.text if after else "",
            instrument_id=instrument.id if instrument else None,
            close_in_factor=factor,
            by_id=by.id,
        ),
    )


def _bore(text: str, unit: Unit, field: str) -> Length | None:
    try:
        return parse_length(text, unit) if text else None
    except InputError as error:
        raise error.at(field) from None
