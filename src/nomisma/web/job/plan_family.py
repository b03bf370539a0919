"""Jobs that are made together: their set-ups side by side, what is alike and what each has of its own."""

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.planning.holding import holdings
from nomisma.jobs.planning.plan_family import family_plans, family_set_ups, name_family, siblings_named
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.web.frame.job_in_hand import job_in_hand
from nomisma.web.frame.visit import Post, Visit, posted, signed_in
from nomisma.web.job.job_page import plan_page
from nomisma.web.job.plan import open_plan

router = APIRouter()


@router.get("/jobs/{number}/plan/family")
def show_family(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The set-ups of all of the family side by side."""
    return _page(visit, plan_of(visit.db, job_in_hand(visit, number)))


def _page(
    visit: Visit, plan: JobPlan, *, status: int = 200, error: InputError | None = None, typed: str | None = None
) -> Response:
    plans = family_plans(visit.db, plan)
    return plan_page(
        visit,
        "job/plan/family.html",
        plan,
        status=status,
        plans=plans,
        works=[PlannedWork(one) for one in plans],
        set_ups=family_set_ups(plans) if len(plans) > 1 else (),
        typed=typed if typed is not None else " ".join(str(one) for one in plan.family),
        error=error,
        way_titles={name: one.title for name, one in holdings().items()},
    )


@router.post("/jobs/{number}/plan/family")
def say_family(number: int, post: Post = Depends(posted)) -> Response:
    """Which jobs are made together with this one."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    try:
        others = siblings_named(visit.db, plan, form.text("jobs", longest=120))
        name_family(visit.db, plan, others, by=visit.account, sent_id=form.client_id())
        visit.db.commit()
    except InputError as error:
        return _page(visit, plan, status=422, error=error, typed=form.shown("jobs"))
    return RedirectResponse(f"/jobs/{number}/plan/family", 303)
