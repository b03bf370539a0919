"""Assemble: the plan, its steps and cautions, and what was seen; a bush measured again feeds the next one."""

from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.joints.assembly import FELT_WORDS, METHOD_TITLES
from nomisma.jobs.opening.assembling import (
    AssemblyEntry,
    PlannedBy,
    bush_planned,
    close_in_seen,
    joint_id_of,
    log_assembly,
    plan_assembly,
    steps_of,
)
from nomisma.jobs.shop.shop_rules import shop_rules_of
from nomisma.jobs.standing.state import JobState
from nomisma.store import assembly, shop
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.job_page import job_page
from nomisma.web.worksheets.catalog import TOOLS
from nomisma.web.worksheets.tool import Tool

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
    joint_id = joint_id_of(state)
    plan = assembly.newest_plan(visit.db, joint_id)
    results = assembly.results_of(visit.db, joint_id)
    return job_page(
        visit,
        "job/assemble.html",
        state,
        "assemble",
        status=status,
        plan=plan,
        steps=steps_of(plan, state.unit) if plan else None,
        found=bush_planned(plan) if plan else None,
        results=results,
        felt_words=FELT_WORDS,
        checks={row.id: found for row in results if (found := close_in_seen(plan, row, state.unit))},
        tools=[TOOLS[name] for name in PLANNED_BY],
        checks_first=[TOOLS[name] for name in CHECKED_BY],
        tool=TOOLS.get(plan.tool) if plan else None,
        method_titles=METHOD_TITLES,
        instruments=shop.instruments(visit.db),
        error=error,
        typed=typed or {},
        learned=assembly.close_in_factor(visit.db),
    )


@router.post("/jobs/{number}/assemble/plan")
def plan_it(number: int, post: Post = Depends(posted)) -> Response:
    """Keep a worksheet as the job's assembly, worked out anew; or a plain push by hand."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    name = form.text("tool", longest=40)
    if name and name not in PLANNED_BY:
        raise InputError(
            "An assembly is not planned with that worksheet.", "Choose bush, press, shrink or bond.", field="tool"
        )
    plan_assembly(
        visit.db,
        state,
        _worksheet(visit, form, state, TOOLS[name]) if name else None,
        by=visit.account,
        sent_id=form.client_id(),
    )
    visit.db.commit()
    return RedirectResponse(href(state, "assemble"), 303)


@router.post("/jobs/{number}/assemble/results")
def log_it(number: int, post: Post = Depends(posted)) -> Response:
    """Log what was seen. Nothing logged is ever changed; a second look is a second entry."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    names = ("felt", "force", "size_before", "size_after", "instrument_id", "note")
    try:
        log_assembly(visit.db, state, _seen(form), by=visit.account)
        visit.db.commit()
    except InputError as error:
        return _page(visit, state, status=422, error=error, typed={name: form.shown(name) for name in names})
    return RedirectResponse(href(state, "assemble"), 303)


def _worksheet(visit: Visit, form: Form, state: JobState, tool: Tool) -> PlannedBy:
    """The worksheet as it was filled in, to be worked out anew."""
    asked = {one.name: form.text(one.name, longest=200) for one in tool.fields}
    values = tool.inputs(asked, state.unit)
    if tool.takes_rules:
        values["shop_rules"] = shop_rules_of(visit.db)
    return PlannedBy(tool.method, tool.calculation, asked, values)


def _seen(form: Form) -> AssemblyEntry:
    return AssemblyEntry(
        id=form.client_id(),
        felt=form.text("felt", longest=40),
        force=form.text("force", longest=60),
        note=form.text("note", longest=500),
        size_before=form.text("size_before", longest=60),
        size_after=form.text("size_after", longest=60),
        instrument_id=form.id("instrument_id") if form.text("instrument_id") else None,
    )
