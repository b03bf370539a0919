"""Bring in: readings from a CSV table, looked at row by row before any of them is written."""

from typing import cast

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.exchange.readings_in import DecimalMark
from nomisma.jobs.readings.readings_in import OUTCOMES, RowLookedAt, bring_in_rows, looked_at
from nomisma.jobs.standing.state import JobState
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.job_page import job_page

router = APIRouter(include_in_schema=False)
LONGEST = 200_000


@router.get("/jobs/{number}/import")
def show(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The form: paste a table or choose a file."""
    return _page(visit, job_in_hand(visit, number))


def _page(
    visit: Visit,
    state: JobState,
    *,
    status: int = 200,
    rows: list[RowLookedAt] | None = None,
    typed: dict[str, str] | None = None,
    error: InputError | None = None,
) -> Response:
    return job_page(
        visit,
        "job/measure/import.html",
        state,
        "measure",
        status=status,
        looked=rows,
        typed=typed or {},
        error=error,
        counts={name: sum(one.outcome == name for one in rows or ()) for name in OUTCOMES},
    )


@router.post("/jobs/{number}/import")
def bring_in(number: int, post: Post = Depends(posted)) -> Response:
    """Look at the rows; write them only when asked to, and the doubtful ones only where they are ticked."""
    visit, form, asked = post.visit, post.form, job_in_hand(post.visit, number)
    state = asked
    typed = {name: _typed(form, name) for name in ("csv", "decimal_mark", "member")}
    try:
        state.must_be_open()
        if form.text("member") == "partner":
            state = state.at(state.must_have_a_joint().row.id)
        mark = cast(DecimalMark, form.choice("decimal_mark", ("either", "point", "comma")))
        rows = looked_at(visit.db, state, form.text("csv", needed=True, longest=LONGEST), decimal_mark=mark)
    except InputError as error:
        return _page(visit, asked, status=422, typed=typed, error=error)
    if form.text("step") != "take":
        return _page(visit, asked, rows=rows, typed=typed)
    ticked = frozenset(one.row.number for one in rows if form.text(f"row_{one.row.number}") == "yes")
    bring_in_rows(visit.db, state, rows, ticked, by=visit.account, batch_id=form.client_id())
    visit.db.commit()
    return RedirectResponse(href(asked, "mate" if state is not asked else "measure"), 303)


def _typed(form: Form, name: str) -> str:
    value = form.data.get(name, "")
    return value[:LONGEST] if isinstance(value, str) else ""
