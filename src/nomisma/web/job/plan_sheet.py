"""The set-up sheet on paper: all set-ups of a plan, one a page."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response
from markupsafe import Markup

from nomisma.core.cutting.hole import Drill
from nomisma.core.lengths.stops import StopStep
from nomisma.core.order.order import PlannedOperation
from nomisma.core.planning.sheet import Run
from nomisma.exchange.pdf import Paper
from nomisma.jobs.cutting.planned_stops import stops_for
from nomisma.jobs.holding.chucking import Chucking, chuckings_of
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.state import JobState
from nomisma.store.jobs import kept_answers
from nomisma.web.drawings.code import code_picture
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.paper import LONGEST_SECONDS, as_drawn, on_paper, pdf
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Visit, signed_in
from nomisma.web.job.moments import moments_of

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{number}/plan/sheet")
def sheet(number: int, visit: Visit = Depends(signed_in), piece: str = "", step: int = 0) -> RedirectResponse:
    """Where the sheet's steps are now: on Make."""
    plan = plan_of(visit.db, job_in_hand(visit, number), piece)
    operations = plan.order.operations if plan.order else ()
    key = next((one.key for one in operations if one.number == step), "")
    asked = {name: value for name, value in {"step": key, "piece": piece}.items() if value}
    return RedirectResponse(href(plan.state, "make", **asked), 303)


@dataclass(frozen=True, slots=True)
class SheetStep:
    """One operation as it is printed: the features it makes, how it is run, its drills and its stops."""

    planned: PlannedOperation
    features: list[JobState]
    run: Run | None
    drills: tuple[Drill, ...]
    stops: list[StopStep]
    found: list[tuple[str, Decimal | None]]
    is_done: bool


@dataclass(frozen=True, slots=True)
class SetUpPage:
    """One set-up as it is printed: how it is held, what is cut in it marked on the part, its steps."""

    chucking: Chucking
    section: Markup
    held: list[str]
    steps: list[SheetStep]
    strip: list[tuple[PlannedOperation, Markup]]
    code: Markup


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
                _found(plan, one),
                plan.is_done(one),
            )
            for one in planned.operations
        ]
        found.append(
            SetUpPage(
                chucking,
                section_of_job(plan.state, stressed=cut),
                work.held_words(planned),
                steps,
                moments_of(planned),
                _code(visit, chucking),
            )
        )
    return found


def _found(plan: JobPlan, one: PlannedOperation) -> list[tuple[str, Decimal | None]]:
    """What was found at an operation, mm, by letter; none where nothing was read, and a box is left for it."""
    verdicts = [(made.letter, made.verdict_of_piece.get(plan.piece)) for made in plan.measured_at(one)]
    return [(letter, found.deciding_mm if found else None) for letter, found in verdicts]


def _code(visit: Visit, chucking: Chucking) -> Markup:
    """The mark that brings a tablet to the first open step of a set-up, by the address this page was asked at."""
    path = href(chucking.plan.state, "make", set_up=chucking.key)
    return code_picture(f"{str(visit.request.base_url).rstrip('/')}{path}", f"To {chucking.planned.title} on a tablet")


@router.get("/jobs/{number}/plan/sheet/print")
def printed(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """All set-ups to be printed from the browser, one a page."""
    return page(
        visit, "job/plan/print.html", longest_seconds=LONGEST_SECONDS, on_paper=as_drawn, **_on_paper(visit, number)
    )


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
