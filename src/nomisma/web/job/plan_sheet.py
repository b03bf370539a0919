"""The set-up sheet: the plan as large steps for the lathe, one at a time, ticked off as they are done; and all of them to print."""

from decimal import Decimal

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.planning.order import PlannedOperation
from nomisma.core.planning.sheet import CAUTIONS, FEED_MM, LEFT_ROUGH, held_words
from nomisma.core.registry import calculation_named, calculations
from nomisma.jobs.plan_entries import Tick
from nomisma.jobs.plan_log import tick
from nomisma.jobs.plan_state import JobPlan, plan_of
from nomisma.store.jobs import kept_answers
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Post, Visit, posted, signed_in
from nomisma.web.job.plan import open_plan

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{number}/plan/sheet")
def sheet(number: int, visit: Visit = Depends(signed_in), step: int = 0) -> Response:
    """One step, large: the one the address names, else the first that is not done."""
    plan = plan_of(visit.db, job_in_hand(visit, number))
    return _sheet_page(visit, plan, step)


def _sheet_page(visit: Visit, plan: JobPlan, step: int, *, status: int = 200, error: InputError | None = None) -> Response:
    operations = plan.order.operations if plan.order else ()
    named = next((one for one in operations if one.number == step), None)
    here = named or plan.next_operation or (operations[-1] if operations else None)
    return page(
        visit, "job/plan/sheet.html", status=status, own_unit=plan.state.unit, state=plan.state, job=plan.state.job, stage="plan", plan=plan,
        here=here, **_beside(plan, here), error=error, kept=_kept(visit, plan),
    )  # fmt: skip


def _beside(plan: JobPlan, here: PlannedOperation | None) -> dict[str, object]:
    """What stands beside a step."""
    if here is None:
        return {}
    set_up = plan.set_up_of(here)
    letters = here.operation.letters
    return {
        "set_up": set_up, "held": held_words(set_up.set_up.station, set_up.set_up.held_on), "caution": CAUTIONS[here.operation.kind],
        "features": plan.features_of(here), "run": plan.run_of(here), "left_rough": LEFT_ROUGH[plan.state.unit],
        "minutes": plan.minutes[here.key], "feed_mm": _feed_mm(here),
        "section": section_of_job(plan.state, stressed=letters),
    }  # fmt: skip


def _feed_mm(here: PlannedOperation) -> Decimal | None:
    feed = FEED_MM.get(here.operation.kind)
    return Decimal(str(feed)) if feed is not None else None


def _kept(visit: Visit, plan: JobPlan) -> list[tuple[str, str]]:
    """What was worked out and kept with the job: its title and what it is for."""
    rows = kept_answers(visit.db, plan.state.job.id)
    return [(calculation_named(row.calculation).title, row.note) for row in rows if row.calculation in calculations()]


@router.get("/jobs/{number}/plan/sheet/print")
def printed(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """All set-ups to be printed, one a page."""
    plan = plan_of(visit.db, job_in_hand(visit, number))
    operations = plan.order.operations if plan.order else ()
    return page(
        visit, "job/plan/print.html", own_unit=plan.state.unit, state=plan.state, job=plan.state.job, stage="plan", plan=plan,
        section=section_of_job(plan.state), cautions=CAUTIONS, held_words=held_words, runs={one.key: plan.run_of(one) for one in operations},
    )  # fmt: skip


@router.post("/jobs/{number}/plan/tick")
def tick_it(number: int, post: Post = Depends(posted)) -> Response:
    """Tick a step off, or take that back; then the next one."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    done = form.text("what") != "back"
    said = Tick(key=form.text("key", longest=200), done=done, note=form.text("note", longest=400))
    try:
        tick(visit.db, plan, said, by=visit.account, sent_id=form.client_id())
    except InputError as error:
        return _sheet_page(visit, plan, 0, status=422, error=error)
    here = next(one.number for one in plan.order.operations if one.key == said.key) if plan.order else 0
    return RedirectResponse(href(plan.state, "plan/sheet", **({} if done else {"step": here})), 303)
