"""Cut: the coach at the dial. What to wind in now, what it will measure, the run so far and the passes to come."""

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.cutting.coach_words import APPROACH_WORDS
from nomisma.core.cutting.dial import DIALLING_METHODS
from nomisma.core.cutting.speeds import cutting_speeds
from nomisma.core.errors import InputError
from nomisma.jobs.cutting.cutting_run import cutting_run, forget_earlier_set_ups
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.shop.clock import now
from nomisma.jobs.shop.cut_choices import FIELDS, as_shown, keep_choices
from nomisma.jobs.standing.state import JobState
from nomisma.store import shop
from nomisma.store.gauges import gauges_of, waiting
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.coach_shown import advised_in, said_of, with_what_if
from nomisma.web.job.cut_along import along_page
from nomisma.web.job.cut_choices import job_choices_from
from nomisma.web.job.job_page import job_page
from nomisma.web.job.reading_form import feature_log, form_for, log_from

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{number}/cut")
def show(number: int, visit: Visit = Depends(signed_in), part: str = "") -> Response:
    """The page of the run; of a length what is left along the axis."""
    return _page(visit, job_in_hand(visit, number), part=part if part in PARTS else "")


PARTS = {"work": "job/cut/_work.html", "seen": "job/cut/_seen.html"}
"""Parts of the page that may be asked for alone."""


def _page(
    visit: Visit,
    state: JobState,
    *,
    part: str = "",
    status: int = 200,
    typed: Form | None = None,
    error: InputError | None = None,
    chosen: Form | None = None,
) -> Response:
    if state.coached_by == "carriage":
        return along_page(visit, state, part=part, status=status, typed=typed, error=error)
    if not state.is_coached:
        return _by_its_step(visit, state, status)
    form = form_for(
        visit, state, feature_log(visit, state), action=href(state, "cut/readings"), typed=typed, error=error
    )
    run = cutting_run(visit.db, state, form.piece)
    run, refused = with_what_if(visit, run)
    template = PARTS.get(part, "job/cut/page.html")
    return job_page(
        visit,
        template,
        state,
        "cut",
        status=status,
        form=advised_in(form, run, typed),
        run=run,
        error=error,
        **said_of(visit, run),
        what_if=visit.request.query_params.get("if_dialled", "")[:120],
        what_if_problem=refused,
        gauges=gauges_of(visit.db, state.feature_id),
        waiting=waiting(visit.db, state.feature_id, now()),
        machines=shop.machines(visit.db),
        chosen={name: chosen.shown(name) for name in FIELDS} if chosen else as_shown(run.choices, state.unit),
        approaches=APPROACH_WORDS,
        work_materials=cutting_speeds().values(),
        dialling_methods=DIALLING_METHODS,
        section=section_of_job(state) if len(state.made) > 1 else "",
        before_metal=[] if part else plan_of(visit.db, state).before_metal,
    )


def _by_its_step(visit: Visit, state: JobState, status: int) -> Response:
    """What is not cut to its size pass by pass: the steps of the plan that make it."""
    plan = plan_of(visit.db, state)
    steps = [one for one in plan.order.operations if state.letter in one.operation.letters] if plan.order else []
    return job_page(
        visit,
        "job/cut/by_its_step.html",
        state,
        "cut",
        status=status,
        steps=steps,
    )


@router.post("/jobs/{number}/cut/forget")
def forget(number: int, post: Post = Depends(posted)) -> Response:
    """From now on the machine's earlier set-ups count no more; they stay on record."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    forget_earlier_set_ups(visit.db, state, by=visit.account, sent_id=post.form.client_id())
    visit.db.commit()
    return RedirectResponse(href(state, "cut"), 303)


@router.post("/jobs/{number}/cut/readings")
def read(number: int, post: Post = Depends(posted)) -> Response:
    """Log the size after a cut, with what was dialled; the answer is the page with the next cut."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    part = "work" if visit.request.headers.get("hx-request") else ""
    try:
        log_from(visit, state, post.form)
    except InputError as error:
        return _page(visit, state, part=part, status=422, typed=post.form, error=error)
    if not part:
        return RedirectResponse(href(state, "cut"), 303)
    return _page(visit, job_in_hand(visit, number), part=part)


@router.post("/jobs/{number}/cut/how")
def how(number: int, post: Post = Depends(posted)) -> Response:
    """How cuts are taken on this job; earlier choices stay on record."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    state.must_be_open()
    try:
        wanted = job_choices_from(visit, post.form, state.unit)
    except InputError as error:
        return _page(visit, state, status=422, error=error, chosen=post.form)
    keep_choices(visit.db, wanted, state.job, by=visit.account)
    visit.db.commit()
    return RedirectResponse(href(state, "cut"), 303)
