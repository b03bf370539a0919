"""Assemble: the plan, its steps and cautions, and what was seen; a bush measured again feeds the next one."""

from decimal import Decimal
from typing import Any, get_args
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.joints.assembly import FELT_WORDS, METHOD_TITLES, AssemblyResult, CloseInFoundResult, Felt
from nomisma.core.joints.assembly_inputs import assembly_inputs
from nomisma.core.joints.bush_model import BushResult
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.registry import calculation_named
from nomisma.jobs.state import JobState
from nomisma.store import assembly, shop
from nomisma.store.append import append
from nomisma.store.models import AssemblyPlan
from nomisma.store.models import AssemblyResult as Logged
from nomisma.store.readings import uncertainty_of
from nomisma.web.job_in_hand import href, job_in_hand
from nomisma.web.pages import page
from nomisma.web.shop_rules import shop_rules_of
from nomisma.web.tools.catalog import TOOLS
from nomisma.web.tools.tool import Tool
from nomisma.web.visit import Form, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
PLANNED_BY = ("bush", "interference", "shrink", "retaining_compound")
"""The worksheets an assembly is planned with."""
CHECKED_BY = ("together", "expansion", "depths", "corner")
"""The worksheets worth a look before it goes together."""


@router.get("/jobs/{number}/assemble")
def show(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The steps of the newest plan and the log, or the ways to plan one."""
    state = job_in_hand(visit, number)
    return _page(visit, state) if state.joint else RedirectResponse(href(state, "part"), 303)


def _page(
    visit: Visit, state: JobState, *, status: int = 200, error: InputError | None = None, typed: Any = None
) -> Response:
    joint_id = _joint_id(state)
    plan = assembly.plan_of(visit.db, joint_id)
    results = assembly.results_of(visit.db, joint_id)
    return page(
        visit, "assemble.html", status=status, own_unit=state.unit, state=state, job=state.job, stage="assemble", plan=plan,
        steps=_steps(plan, state.unit) if plan else None, found=_worksheet(plan) if plan else None, results=results, felt_words=FELT_WORDS,
        checks={row.id: found for row in results if (found := _close_in(plan, row, state.unit))},
        tools=[TOOLS[name] for name in PLANNED_BY], checks_first=[TOOLS[name] for name in CHECKED_BY],
        tool=TOOLS.get(plan.tool) if plan else None,
        method_titles=METHOD_TITLES, instruments=shop.instruments(visit.db), error=error, typed=typed or {},
        learned=assembly.close_in_factor(visit.db),
    )  # fmt: skip


def _joint_id(state: JobState) -> UUID:
    """The joint of the feature in hand. Raises NotDefined."""
    state.must_have_a_joint()
    assert state.joint is not None
    return state.joint.row.id


def _steps(plan: AssemblyPlan, unit: Unit) -> AssemblyResult:
    found = calculation_named("assembly").run({**plan.inputs, "unit": unit})
    assert isinstance(found, AssemblyResult)
    return found


def _worksheet(plan: AssemblyPlan) -> Any:
    """The worksheet's answer as it was planned."""
    return calculation_named(plan.tool).result_model.model_validate(plan.answer) if plan.tool else None


def _close_in(plan: AssemblyPlan | None, row: Logged, unit: Unit) -> CloseInFoundResult | None:
    """What a bush measured before and after closed in by, against the plan it was pressed with."""
    if plan is None or row.plan_id != plan.id or row.size_before_mm is None or row.size_after_mm is None:
        return None
    answer = _worksheet(plan)
    if not isinstance(answer, BushResult):
        return None
    doubt = uncertainty_of(row.instrument) if row.instrument else Decimal(0)
    return _found_close_in(answer, row.size_before_mm, row.size_after_mm, doubt, unit)


def _found_close_in(
    answer: BushResult, before_mm: Decimal, after_mm: Decimal, doubt_mm: Decimal, unit: Unit
) -> CloseInFoundResult:
    """Raises InputError where the sizes cannot be a bush's."""
    try:
        found = calculation_named("close_in_found").run(
            {
                "bore_before": Length(before_mm, unit), "bore_after": Length(after_mm, unit), "unit": unit,
                "predicted_least": answer.close_in.least, "predicted_greatest": answer.close_in.greatest,
                "uncertainty": Length(doubt_mm, unit),
            }
        )  # fmt: skip
    except BadInput as error:
        raise error.errors[0] from None
    assert isinstance(found, CloseInFoundResult)
    return found


@router.post("/jobs/{number}/assemble/plan")
def plan_it(number: int, post: Post = Depends(posted)) -> Response:
    """Keep a worksheet as the job's assembly, worked out anew; or a plain push by hand."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    state.must_be_open()
    name = form.text("tool", longest=40)
    if name and name not in PLANNED_BY:
        raise InputError(
            "An assembly is not planned with that worksheet.", "Choose bush, press, shrink or bond.", field="tool"
        )
    row = _planned(visit, form, state, TOOLS[name]) if name else _pushed(visit, form, state)
    append(visit.db, row)
    visit.db.commit()
    return RedirectResponse(href(state, "assemble"), 303)


def _pushed(visit: Visit, form: Form, state: JobState) -> AssemblyPlan:
    return AssemblyPlan(
        id=form.client_id(), job_id=state.job.id, joint_id=_joint_id(state), method="push", tool="", asked={}, inputs={"method": "push"},
        answer={}, by_id=visit.account.id,
    )  # fmt: skip


def _planned(visit: Visit, form: Form, state: JobState, tool: Tool) -> AssemblyPlan:
    asked = {one.name: form.text(one.name, longest=200) for one in tool.fields}
    values = tool.inputs(asked, state.unit)
    if tool.takes_rules:
        values["shop_rules"] = shop_rules_of(visit)
    try:
        answer = calculation_named(tool.calculation).run(values)
    except BadInput as error:
        raise error.errors[0] from None
    return AssemblyPlan(
        id=form.client_id(), job_id=state.job.id, joint_id=_joint_id(state), method=tool.method, tool=tool.calculation, asked=asked,
        inputs=assembly_inputs(tool.method, answer), answer=answer.model_dump(mode="json"), by_id=visit.account.id,
    )  # fmt: skip


@router.post("/jobs/{number}/assemble/results")
def log_it(number: int, post: Post = Depends(posted)) -> Response:
    """Log what was seen. Nothing logged is ever changed; a second look is a second entry."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    names = ("felt", "force", "size_before", "size_after", "instrument_id", "note")
    state.must_be_open()
    try:
        row = _logged(visit, form, state)
    except InputError as error:
        return _page(visit, state, status=422, error=error, typed={name: form.shown(name) for name in names})
    append(visit.db, row)
    visit.db.commit()
    return RedirectResponse(href(state, "assemble"), 303)


def _logged(visit: Visit, form: Form, state: JobState) -> Logged:
    plan = assembly.plan_of(visit.db, _joint_id(state))
    if plan is None:
        raise InputError("There is no plan to log against.", "Plan the assembly first.", field="felt")
    instrument_id: UUID | None = form.id("instrument_id") if form.text("instrument_id") else None
    instrument = next((row for row in shop.instruments(visit.db) if row.id == instrument_id), None)
    unit: Unit = "mm" if (instrument.unit if instrument else state.unit) == "mm" else "in"
    before, after = (form.size(name, unit) if form.text(name) else None for name in ("size_before", "size_after"))
    factor = None
    if before and after and isinstance(answer := _worksheet(plan), BushResult):
        factor = _found_close_in(answer, before.mm, after.mm, Decimal(0), unit).close_in_factor
    return Logged(
        id=form.client_id(), job_id=state.job.id, joint_id=_joint_id(state), plan_id=plan.id, felt=form.choice("felt", get_args(Felt)),
        force_text=form.text("force", longest=60), note=form.text("note", longest=500), size_unit=unit,
        size_before_mm=before.mm if before else None, size_before_text=before.text if before else "",
        size_after_mm=after.mm if after else None, size_after_text=after.text if after else "",
        instrument_id=instrument.id if instrument else None, close_in_factor=factor, by_id=visit.account.id,
    )  # fmt: skip
