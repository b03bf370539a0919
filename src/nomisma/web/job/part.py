"""Part: the features of a job with their limits and how they stand; more of them, another requirement, one
withdrawn.
"""

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError, NotDefined
from nomisma.core.number import is_whole
from nomisma.core.part.duty import TRUE_TO, duties, duty_said
from nomisma.exchange.pdf import Paper
from nomisma.jobs.opening.new_job import add_features
from nomisma.jobs.opening.requirements import set_by_line, set_duty_and_place, withdraw
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.limits_in_force import LIMITS_FROM_TITLES
from nomisma.jobs.standing.state import JobState
from nomisma.store.live import announce
from nomisma.web.drawings.dimensioned import NARROW
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.paper import on_paper, pdf, picture
from nomisma.web.frame.part_section import drawing_of_job
from nomisma.web.frame.visit import Post, Visit, posted, signed_in
from nomisma.web.job.job_page import job_page
from nomisma.web.job.sketch_lines import TOLERANCES, lines_from, long_text

router = APIRouter(include_in_schema=False)
SAYS_ITSELF = {"line": "", "code": ""}
"""Limits that stand in the line as it is written, beside them: where they come from needs no words."""


@router.get("/jobs/{number}/part")
def show(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The features of the job's parts; the one the address names is opened to be changed."""
    return _page(visit, job_in_hand(visit, number))


def _page(
    visit: Visit,
    state: JobState,
    *,
    status: int = 200,
    error: InputError | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    opened = bool(visit.request.query_params.get("feature")) or (
        error is not None and error.field in ("line", "reason", "duty", "true_to", "along")
    )
    drawing, unplaced = drawing_of_job(state)
    return job_page(
        visit,
        "job/part/page.html",
        state,
        "part",
        status=status,
        error=error,
        typed=typed or {},
        opened=opened,
        drawing=drawing,
        narrow=drawing_of_job(state, width=NARROW)[0],
        unplaced=unplaced,
        tolerances=TOLERANCES,
        titles={name: words.removeprefix("Limits ") for name, words in LIMITS_FROM_TITLES.items()} | SAYS_ITSELF,
        duties=duties(),
    )


@router.get("/jobs/{number}/drawing.svg")
def as_svg(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The drawing of the part with its sizes, as a picture of its own in the job's unit."""
    state = job_in_hand(visit, number)
    drawing, _ = drawing_of_job(state)
    if not drawing:
        raise NotDefined("Nothing of this part has a place in a drawing yet.", "Give it an outside diameter first.")
    return picture(drawing, state.unit, name=f"part-{number}")


@router.get("/jobs/{number}/drawing.pdf")
def as_pdf(number: int, visit: Visit = Depends(signed_in), paper: Paper = "a4") -> Response:
    """The drawing of the part with its sizes on a page of paper, what has no place in it beneath."""
    state = job_in_hand(visit, number)
    drawing, unplaced = drawing_of_job(state)
    return pdf(
        visit,
        "job/part/pdf.html",
        paper=paper,
        name=f"part-{number}",
        on_paper=on_paper,
        printed_at=now(),
        state=state,
        job=state.job,
        drawing=drawing,
        unplaced=unplaced,
    )


@router.post("/jobs/{number}/features")
def add(number: int, post: Post = Depends(posted)) -> Response:
    """Add the features some lines say, lettered on from the last."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    try:
        add_features(visit.db, state, lines_from(form, state.unit), by_id=visit.account.id, sent_id=form.client_id())
    except InputError as error:
        typed = {"lines": long_text(form, "lines"), "general_tolerance": form.shown("general_tolerance")}
        return _page(visit, state, status=422, error=error, typed=typed)
    return _done(visit, state)


@router.post("/jobs/{number}/requirement")
def change(number: int, post: Post = Depends(posted)) -> Response:
    """Put other limits of the feature in hand in force, as a line says them; the earlier version stays on record."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    based_on = form.text("based_on_version") or "0"
    try:
        set_by_line(
            visit.db,
            state,
            form.text("line", longest=160),
            by=visit.account,
            sent_id=form.client_id(),
            based_on=int(based_on) if is_whole(based_on) else 0,
            why=form.text("why", longest=300),
            judge_reason=form.text("judge_reason", longest=300),
        )
    except InputError as error:
        return _page(visit, state, status=422, error=error, typed={name: form.shown(name) for name in ("line", "why")})
    return _done(visit, state)


@router.post("/jobs/{number}/duty")
def say_duty(number: int, post: Post = Depends(posted)) -> Response:
    """Say what the feature in hand is there for and where it lies; its limits stay as they are."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    based_on = form.text("based_on_version") or "0"
    name, letter = form.text("duty", longest=20), form.text("true_to", longest=4).upper()
    try:
        duty = duty_said(name or (TRUE_TO if letter else ""), letter)
        set_duty_and_place(
            visit.db,
            state,
            duty,
            form.text("along", longest=80),
            based_on=int(based_on) if is_whole(based_on) else 0,
            by=visit.account,
            sent_id=form.client_id(),
            judge_reason=form.text("judge_reason", longest=300),
        )
    except InputError as error:
        return _page(
            visit, state, status=422, error=error, typed={"duty": name, "true_to": letter, "along": form.shown("along")}
        )
    return _done(visit, state)


@router.post("/jobs/{number}/withdraw")
def take_out(number: int, post: Post = Depends(posted)) -> Response:
    """Withdraw the feature in hand, or put it back; its readings stay on record."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    try:
        withdraw(
            visit.db,
            state,
            reason=form.text("reason", longest=300),
            by=visit.account,
            sent_id=form.client_id(),
            back=form.text("what") == "put_back",
            judge_reason=form.text("judge_reason", longest=300),
        )
    except InputError as error:
        return _page(visit, state, status=422, error=error, typed={"reason": form.shown("reason")})
    return _done(visit, state)


def _done(visit: Visit, state: JobState) -> Response:
    announce(visit.db, state.job.number, "limits")
    visit.db.commit()
    return RedirectResponse(href(state, "part"), 303)
