"""Record: one page of the job, who and when; prints cleanly, downloads as CSV and JSON; hand-over."""

from collections import Counter

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.exchange.data_package import as_data_package
from nomisma.exchange.record import as_csv, as_json
from nomisma.jobs.closing.handing_over import hand_over, take_up_again, why_not_theirs
from nomisma.jobs.closing.record import record_of
from nomisma.jobs.standing.state import JobState
from nomisma.store import readings
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.paper import LONGEST_SECONDS
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Post, Visit, posted, signed_in
from nomisma.web.job.measure import judged_log, strip_of
from nomisma.web.worksheets.kept_shown import kept_shown

router = APIRouter(include_in_schema=False)
SHOWN_READINGS = 40
STRIP_READINGS = 24


@router.get("/jobs/{number}/record")
def show(number: int, visit: Visit = Depends(signed_in), every: bool = False) -> Response:
    """The record as a page: the newest readings of each member, or every one, for printing."""
    return _page(visit, job_in_hand(visit, number), last=None if every else SHOWN_READINGS)


def _page(
    visit: Visit,
    state: JobState,
    *,
    last: int | None = SHOWN_READINGS,
    status: int = 200,
    error: InputError | None = None,
    note: str = "",
) -> Response:
    record = record_of(visit.db, state, last=last)
    judged = judged_log(visit, state, readings.log(visit.db, state.feature_id, last=STRIP_READINGS))
    shortened = last is not None and max(Counter(row.feature for row in record.readings).values(), default=0) >= last
    return page(
        visit,
        "job/record.html",
        status=status,
        own_unit=state.unit,
        state=state,
        job=state.job,
        record=record,
        strip=strip_of(state, judged),
        kept=kept_shown(record.answers),
        stage="record",
        error=error,
        note=note,
        section=section_of_job(state) if state.joint is None else "",
        words={s.words: s for s in State},
        shortened=last if shortened else None,
        every=last is None,
        longest_seconds=LONGEST_SECONDS,
        not_theirs=why_not_theirs(visit.db, state, visit.account),
    )


def _download(text: str, kind: str, number: int, ending: str) -> Response:
    name = f"nomisma-job-{number}.{ending}"
    return Response(text, media_type=kind, headers={"content-disposition": f'attachment; filename="{name}"'})


@router.get("/jobs/{number}/record.json")
def download_json(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The record as JSON."""
    return _download(as_json(record_of(visit.db, job_in_hand(visit, number))), "application/json", number, "json")


@router.get("/jobs/{number}/record.csv")
def download_csv(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The readings as CSV."""
    return _download(as_csv(record_of(visit.db, job_in_hand(visit, number))), "text/csv; charset=utf-8", number, "csv")


@router.get("/jobs/{number}/record.zip")
def download_package(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The record as a Frictionless Data Package."""
    content = as_data_package(record_of(visit.db, job_in_hand(visit, number)))
    headers = {"content-disposition": f'attachment; filename="nomisma-job-{number}.zip"'}
    return Response(content, media_type="application/zip", headers=headers)


@router.post("/jobs/{number}/events")
def write_event(number: int, post: Post = Depends(posted)) -> Response:
    """Hand a job over, or take it up again."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    kind = form.choice("kind", ("handed_over", "taken_up_again"))
    note = form.text("note", longest=500)
    try:
        if kind == "handed_over":
            hand_over(visit.db, state, note, by=visit.account, sent_id=form.client_id())
            visit.db.commit()
        else:
            take_up_again(visit.db, state, note, by=visit.account, sent_id=form.client_id())
            visit.db.commit()
    except InputError as error:
        return _page(visit, state, status=422, error=error, note=note)
    return RedirectResponse(href(state, "record"), 303)
