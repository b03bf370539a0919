"""Cut: the coach at the dial. What to wind in now, what it will measure, the run so far and the passes to come."""

from dataclasses import replace
from typing import Any
from urllib.parse import urlencode

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.coach_words import APPROACH_WORDS
from nomisma.core.cutting.dial import DIALLING_METHODS, alike, turns_and_lines
from nomisma.core.cutting.speeds import SpeedsResult, cutting_speeds
from nomisma.core.errors import InputError
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.cutting.cutting_run import CuttingRun, cleans_up, cutting_run, forget_earlier_set_ups, spindle_of
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.shop.clock import now
from nomisma.jobs.shop.cut_choices import FIELDS, as_shown, keep_choices
from nomisma.jobs.standing.limits_in_force import Between
from nomisma.jobs.standing.state import JobState
from nomisma.store import shop
from nomisma.store.gauges import gauges_of, waiting
from nomisma.web.drawings.dial import wheel_picture
from nomisma.web.drawings.passes import CutDrawn, Run, passes_picture
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.cut_along import along_page
from nomisma.web.job.cut_choices import job_choices_from
from nomisma.web.job.reading_form import ReadingForm, feature_log, form_for, log_from

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
    run, refused = _with_what_if(visit, run)
    template = PARTS.get(part, "job/cut/page.html")
    return page(
        visit,
        template,
        status=status,
        own_unit=state.unit,
        state=state,
        job=state.job,
        stage="cut",
        form=_ready(form, run, typed),
        run=run,
        error=error,
        **_said(visit, run),
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
    return page(
        visit,
        "job/cut/by_its_step.html",
        status=status,
        own_unit=state.unit,
        state=state,
        job=state.job,
        stage="cut",
        steps=steps,
    )


def _said(visit: Visit, run: CuttingRun) -> dict[str, Any]:
    """What the coach says and draws; where it cannot, what is wrong. A hazard of the spindle stands above the amounts,
    not in their place.
    """
    problems: list[InputError] = []
    try:
        result, wound = run.result, run.wound
    except BadInput as bad:
        result, wound, problems = None, None, bad.errors
    except InputError as one:
        result, wound, problems = None, None, [one]
    spindle, hazards = _spindle(visit, run)
    scale, ovality = (_asked_length(visit, name, run) for name in ("scale", "ovality"))
    return {
        "result": result,
        "wound": wound,
        "spindle": spindle,
        "hazards": hazards,
        "beside": _beside(run),
        "problems": problems,
        "clean": cleans_up(visit.db, run, scale=scale, ovality=ovality),
        "asked": {name: visit.request.query_params.get(name, "")[:40] for name in ("scale", "ovality")},
        "wheel": wheel_picture(wound) if wound else "",
        "passes": passes_picture(_drawn(run, limits), result) if (limits := run.state.both_limits) else "",
    }


def _spindle(visit: Visit, run: CuttingRun) -> tuple[SpeedsResult | None, list[InputError]]:
    """The spindle speed, or why none of this machine's will do."""
    try:
        return spindle_of(visit.db, run), []
    except BadInput as bad:
        return None, bad.errors
    except InputError as one:
        return None, [one]


def _beside(run: CuttingRun) -> list[tuple[str, str]]:
    """Worksheets that help with this piece, the numbers known in them: address and question."""
    limits, unit = run.state.both_limits, run.state.unit
    if run.state.feature.side != "internal" or limits is None:
        return []
    if run.size_mm is None:
        known = {
            "finished": show_exact(limits.aim_mm, unit),
            "method": "bore",
            "job": run.state.job.number,
            "feature": run.state.letter,
        }
        return [(f"/hole?{urlencode(known)}", "No hole yet? Which drill leaves enough")]
    known = {"hole": show_exact(run.size_mm, unit), "job": run.state.job.number, "feature": run.state.letter}
    return [(f"/boring-bar?{urlencode(known)}", "Will the bar go in, and reach?")]


def _drawn(run: CuttingRun, limits: Between) -> Run:
    cuts = [
        CutDrawn(one.before_mm, one.after_mm, one.row.expected_low_mm, one.row.expected_high_mm)
        for one in run.cuts
        if one.row.piece == run.piece and one.after_mm is not None
    ]
    return Run(run.state.made_kind, limits.lower_mm, limits.upper_mm, limits.aim_mm, run.size_mm, cuts)


def _asked_length(visit: Visit, name: str, run: CuttingRun) -> Length | None:
    """A length from the address; what is none is left out, and the page shows it empty."""
    text = visit.request.query_params.get(name, "")[:40]
    try:
        return parse_length(text, run.state.unit, positive=False) if text else None
    except InputError:
        return None


def _ready(form: ReadingForm, run: CuttingRun, typed: Form | None) -> ReadingForm:
    """The reading's form with what the coach advised to be said or not: what was really dialled is asked, not taken for
    granted.
    """
    try:
        advised = run.result.dialled if run.result else None
    except (BadInput, InputError):
        advised = None
    if typed is not None or advised is None:
        return form
    return replace(form, advised=_in_lines(run) or show_exact(advised.mm, run.state.unit), cut=True)


def _in_lines(run: CuttingRun) -> str:
    """What was advised as it is wound: 28 lines, 1 turn + 88 lines then 20 lines."""
    result = run.result
    if result is None or not result.lines:
        return ""
    parts = alike(result.parts or [result.lines])
    return " then ".join(
        f"{f'{times} x ' if times > 1 else ''}{turns_and_lines(one, run.lines_a_turn)}" for one, times in parts
    )


def _with_what_if(visit: Visit, run: CuttingRun) -> tuple[CuttingRun, InputError | None]:
    """The run with an amount to be tried in thought, and what is wrong with it."""
    text = visit.request.query_params.get("if_dialled", "").strip()[:120]
    if not text:
        return run, None
    try:
        return replace(run, if_dialled=run.dialled(text).total), None
    except InputError as error:
        return run, error


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
