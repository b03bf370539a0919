"""The set-up sheet: the plan as large steps for the lathe, one at a time, ticked off as they are done; and all of them
to print.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response
from markupsafe import Markup

from nomisma.core.cutting.hole import Drill
from nomisma.core.errors import InputError
from nomisma.core.lengths.stops import StopStep
from nomisma.core.order.order import PlannedOperation
from nomisma.core.planning.sheet import Run
from nomisma.core.registry import calculation_named, calculations
from nomisma.exchange.pdf import Paper
from nomisma.exchange.record import RecordedAnswer
from nomisma.jobs.closing.record import recorded_answers
from nomisma.jobs.cutting.planned_stops import stops_for
from nomisma.jobs.holding.chucking import Chucking, chucking_named, chuckings_of
from nomisma.jobs.planning.plan_entries import Tick
from nomisma.jobs.planning.plan_log import tick
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.pieces import serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.jobs import kept_answers
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.paper import LONGEST_SECONDS, on_paper, pdf
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Post, Visit, posted, signed_in
from nomisma.web.job.moments import moment_of, moments_of
from nomisma.web.job.plan import open_plan
from nomisma.web.job.plan_page import plan_page
from nomisma.web.job.plan_stops import stops_address
from nomisma.web.worksheets.kept_shown import kept_shown

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{number}/plan/sheet")
def sheet(number: int, visit: Visit = Depends(signed_in), step: int = 0, piece: str = "") -> Response:
    """One step of one piece, large: the one the address names, else the first that is not done."""
    plan = plan_of(visit.db, job_in_hand(visit, number), piece)
    return _sheet_page(visit, plan, step)


def _sheet_page(
    visit: Visit, plan: JobPlan, step: int, *, status: int = 200, error: InputError | None = None
) -> Response:
    operations = plan.order.operations if plan.order else ()
    named = next((one for one in operations if one.number == step), None)
    here = named or plan.next_operation or (operations[-1] if operations else None)
    kept = kept_answers(visit.db, plan.state.job.id)
    return plan_page(
        visit,
        "job/plan/sheet.html",
        plan,
        status=status,
        here=here,
        **_beside(plan, here, recorded_answers(visit.db, plan.state)),
        error=error,
        work=PlannedWork(plan),
        pieces=serials(plan.state),
        kept=[
            (calculation_named(row.calculation).title, row.note) for row in kept if row.calculation in calculations()
        ],
        stops=stops_for(kept, here.operation.letters) if here else [],
        chucking=chucking_named(chuckings_of(visit.db, plan), plan.set_up_of(here).set_up.name) if here else None,
    )


def _beside(plan: JobPlan, here: PlannedOperation | None, answers: Sequence[RecordedAnswer]) -> dict[str, object]:
    """What stands beside a step; of what was worked out for the job that of its features (stops stand in the step
    itself).
    """
    if here is None:
        return {}
    set_up, work = plan.set_up_of(here), PlannedWork(plan)
    return {
        "set_up": set_up,
        "held": work.held_words(set_up),
        "features": plan.features_of(here),
        "run": work.run_of(here),
        "minutes": work.minutes[here.key],
        "moment": moment_of(set_up, here),
        "stops_worked_out": stops_address(plan, set_up),
        "section": section_of_job(plan.state, stressed=here.operation.letters),
        "worked_out": kept_shown(
            one for one in answers if one.feature in here.operation.letters and one.calculation != "stops"
        ),
    }


@dataclass(frozen=True, slots=True)
class SheetStep:
    """One operation as it is printed: the features it makes, how it is run, its drills and its stops."""

    planned: PlannedOperation
    features: list[JobState]
    run: Run | None
    drills: tuple[Drill, ...]
    stops: list[StopStep]
    is_done: bool


@dataclass(frozen=True, slots=True)
class SetUpPage:
    """One set-up as it is printed: how it is held, what is cut in it marked on the part, its steps."""

    chucking: Chucking
    section: Markup
    held: list[str]
    steps: list[SheetStep]
    strip: list[tuple[PlannedOperation, Markup]]


def _pages(visit: Visit, plan: JobPlan) -> list[SetUpPage]:
    """All set-ups of a plan to be printed, one a page."""
    work, kept = PlannedWork(plan), kept_answers(visit.db, plan.state.job.id)
    found = []
    for chucking in chuckings_of(visit.db, plan):
        planned = chucking.planned
        cut = [letter for one in planned.set_up.surfaces for letter in one.letters]
        steps = [
            SheetStep(
                one,
                plan.features_of(one),
                work.run_of(one),
                work.drills_of(one),
                stops_for(kept, one.operation.letters),
                plan.is_done(one),
            )
            for one in planned.operations
        ]
        found.append(
            SetUpPage(
                chucking, section_of_job(plan.state, stressed=cut), work.held_words(planned), steps, moments_of(planned)
            )
        )
    return found


@router.get("/jobs/{number}/plan/sheet/print")
def printed(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """All set-ups to be printed from the browser, one a page."""
    return page(visit, "job/plan/print.html", longest_seconds=LONGEST_SECONDS, **_on_paper(visit, number))


@router.get("/jobs/{number}/plan/sheet.pdf")
def as_pdf(number: int, visit: Visit = Depends(signed_in), paper: Paper = "a4") -> Response:
    """The same as a PDF, on A4 or letter. Raises NoPaper."""
    values = _on_paper(visit, number)
    return pdf(
        visit, "job/plan/pdf.html", paper=paper, name=f"sheet-{number}", on_paper=on_paper, printed_at=now(), **values
    )


def _on_paper(visit: Visit, number: int) -> dict[str, Any]:
    plan = plan_of(visit.db, job_in_hand(visit, number))
    state = plan.state
    return {
        "own_unit": state.unit,
        "state": state,
        "job": state.job,
        "stage": "plan",
        "plan": plan,
        "pages": _pages(visit, plan),
        "work": PlannedWork(plan),
    }


@router.post("/jobs/{number}/plan/tick")
def tick_it(number: int, post: Post = Depends(posted)) -> Response:
    """Tick a step off, or take that back; then the next one."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number, form.text("piece", longest=40))
    done = form.text("what") != "back"
    said = Tick(key=form.text("key", longest=200), done=done, piece=plan.piece)
    try:
        tick(visit.db, plan, said, by=visit.account, sent_id=form.client_id())
        visit.db.commit()
    except InputError as error:
        return _sheet_page(visit, plan, 0, status=422, error=error)
    here = next(one.number for one in plan.order.operations if one.key == said.key) if plan.order else 0
    asked = {"piece": plan.piece} if plan.piece else {}
    return RedirectResponse(href(plan.state, "plan/sheet", **asked, **({} if done else {"step": here})), 303)
