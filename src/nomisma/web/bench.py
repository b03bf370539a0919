"""Bench: the jobs and what each needs next; a job is started here."""

from typing import Any
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.store import jobs, shop
from nomisma.store.append import append
from nomisma.store.models import Job
from nomisma.web.job_state import states_of
from nomisma.web.pages import page
from nomisma.web.visit import Form, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
JOBS_A_PAGE = 20


@router.get("/")
def bench(visit: Visit = Depends(signed_in), below: int | None = None) -> Response:
    """The jobs, newest first."""
    return _bench(visit, below=below)


def _bench(visit: Visit, *, below: int | None = None, status: int = 200, **form: Any) -> Response:
    found = jobs.job_page(visit.db, below=below, count=JOBS_A_PAGE + 1)
    states = states_of(visit.db, found[:JOBS_A_PAGE])
    return page(
        visit, "bench.html", status=status, states=states, more=len(found) > JOBS_A_PAGE, below=below,
        machines=shop.machines(visit.db), **{"error": None, "typed": {}, **form},
    )  # fmt: skip


@router.get("/health")
def health() -> dict[str, str]:
    """For whoever watches the process; says nothing of what is recorded."""
    return {"status": "up"}


@router.post("/jobs")
def start_job(post: Post = Depends(posted)) -> Response:
    """Start a job and go to its Mate page."""
    visit, form = post.visit, post.form
    try:
        row = _job_from(form, visit)
    except InputError as error:
        typed = {name: form.shown(name) for name in ("title", "asked", "partner_kind", "unit", "machine_id")}
        return _bench(visit, status=422, error=error, typed=typed)
    job = append(visit.db, row)
    visit.db.commit()
    return RedirectResponse(f"/jobs/{job.number}/mate", 303)


def _job_from(form: Form, visit: Visit) -> Job:
    machine_id: UUID | None = form.id("machine_id") if form.text("machine_id") else None
    if machine_id and machine_id not in {machine.id for machine in shop.machines(visit.db)}:
        raise InputError("That machine is not in the shop.", "Choose it again.", field="machine_id")
    return Job(
        id=form.client_id(),
        title=form.text("title", needed=True, longest=120),
        asked=form.text("asked", longest=1000),
        unit=form.unit(),
        partner_kind=form.choice("partner_kind", ("shaft", "bore")),
        machine_id=machine_id,
        by_id=visit.account.id,
    )
