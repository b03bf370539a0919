"""Bench: the jobs and what each needs next; a job is started here."""

from typing import Any, cast
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.number import whole_from
from nomisma.core.part.member import MemberKind
from nomisma.jobs.bench.summary import on_the_lathes, page_of_jobs
from nomisma.jobs.opening.new_job import open_bush, open_by_lines, open_mated
from nomisma.jobs.opening.recipe import carry_over, recipe_of
from nomisma.jobs.opening.requirements import make_pieces, pieces_from
from nomisma.jobs.planning.plan_lathes import against_the_machine
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.shop.clock import now
from nomisma.jobs.shop.rights import Action, may
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.state import JobState
from nomisma.store import accounts, shop
from nomisma.store.jobs import LARGEST_NUMBER
from nomisma.store.models import Job
from nomisma.store.sign_ins import shut_out
from nomisma.store.summaries import JobFilter
from nomisma.web.drawings.silhouette import silhouette
from nomisma.web.frame.job_in_hand import href
from nomisma.web.frame.pages import page
from nomisma.web.frame.sign_in import rules_of
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.sketch_lines import LONGEST, TOLERANCES, lines_from, long_text

router = APIRouter(include_in_schema=False)
JOBS_A_PAGE = 20
MOST_DUE = 200
"""So many jobs are listed by the day they are needed: on one page, the soonest first."""


@router.get("/")
def bench(
    visit: Visit = Depends(signed_in),
    below: int | None = None,
    lines: str = "",
    unit: str = "",
    q: str = "",
    which: str = "",
    machine: str = "",
    person: str = "",
    like: int | None = None,
) -> Response:
    """The jobs, newest first; those looked for by words, by which and by machine. `lines`, `unit`: what a job is about
    to start with.

    `like`: the number of a job that another is begun from.
    """
    if like is not None:
        return _bench(visit, typed=_like(state_numbered(visit.db, like)))
    begun = {"lines": lines[:LONGEST], **({"unit": unit} if unit in ("in", "mm") else {})} if lines else {}
    looked = {"q": q.strip()[:100], "which": which if which in WHICH else "", "machine": machine}
    looked["person"] = person
    return _bench(visit, below=below, typed=begun, looked=looked)


def _like(former: JobState) -> dict[str, Any]:
    """The form filled in from a former job."""
    job, recipe = former.job, recipe_of(former)
    return {
        "title": job.title,
        "lines": recipe.lines,
        "unit": job.unit,
        "machine_id": str(job.machine_id or ""),
        "asked": job.asked,
        "partner_kind": "none",
        "like": str(recipe.number),
        "pieces": str(former.in_force.pieces_wanted),
    }


WHICH = {
    "": "all", "open": "open", "due": "by due day", "decide": "needs a decision", "question": "held up by a question",
    "waiting": "not begun", "mine": "mine", "closed": "handed over",
}  # fmt: skip
"""Which jobs are shown, in words."""


def _filter(visit: Visit, looked: dict[str, str]) -> JobFilter | None:
    """What is looked for; none where everything is."""
    if not any(looked.values()):
        return None
    machines = {str(row.id): row.id for row in shop.machines(visit.db)}
    people = {str(one.id): one.id for one in accounts.accounts(visit.db)}
    which = looked["which"]
    return JobFilter(
        words=looked["q"].replace("\x00", ""),
        machine_id=machines.get(looked["machine"]),
        by_id=visit.account.id if which == "mine" else people.get(looked["person"]),
        closed=which == "closed" if which else None,
        needs_decision=which == "decide",
        questions=which == "question",
        by_due_day=which == "due",
        begun=False if which == "waiting" else None,
    )


def _bench(visit: Visit, *, below: int | None = None, status: int = 200, **form: Any) -> Response:
    looked = form.pop("looked", None) or {"q": "", "which": "", "machine": "", "person": ""}
    wanted = _filter(visit, looked)
    a_page = MOST_DUE if wanted is not None and wanted.by_due_day else JOBS_A_PAGE
    found = page_of_jobs(visit.db, visit.writing, below=below, count=a_page + 1, wanted=wanted)
    return page(
        visit,
        "job/bench.html",
        status=status,
        jobs=found[:a_page],
        more=len(found) > a_page,
        on_the_lathes=on_the_lathes(visit.db, visit.writing) if wanted is None and below is None else [],
        people=accounts.accounts(visit.db),
        silhouette=silhouette,
        today=now().date(),
        below=below,
        shut_out=(
            shut_out(visit.db, now(), rules_of(visit.settings)) if may(visit.account.role, Action.SEE_SHUT_OUT) else []
        ),
        machines=shop.machines(visit.db),
        starts=STARTS,
        tolerances=TOLERANCES,
        looked=looked,
        which=WHICH,
        **{"error": None, "typed": {}, **form},
    )


@router.get("/health")
def health() -> dict[str, str]:
    """For whoever watches the process; says nothing of what is recorded."""
    return {"status": "up"}


@router.post("/jobs")
def start_job(post: Post = Depends(posted)) -> Response:
    """Start a job and go to where it goes on: Mate, the part, or the first reading."""
    visit, form = post.visit, post.form
    try:
        former, pieces = _former(visit, form), pieces_from(form.text("pieces", longest=12) or "1")
        job = _start(visit, form, form.choice("partner_kind", tuple(STARTS)))
    except InputError as error:
        typed = {
            name: form.shown(name)
            for name in ("title", "asked", "partner_kind", "unit", "machine_id", "general_tolerance", "like", "pieces")
        }
        return _bench(visit, status=422, error=error, typed={**typed, "lines": long_text(form, "lines")})
    state = state_numbered(visit.db, job.number)
    make_pieces(visit.db, state, pieces, by=visit.account)
    if former is not None:
        carry_over(visit.db, former, state, by=visit.account)
    visit.db.commit()
    if former is not None:
        return RedirectResponse(href(state, "plan"), 303)
    no_room = not state.joint and against_the_machine(visit.db, plan_of(visit.db, state))
    return RedirectResponse(f"{href(state, 'plan')}#lathes" if no_room else goes_on(state), 303)


def _former(visit: Visit, form: Form) -> JobState | None:
    """The job that another is begun from, where one is named. Raises InputError, NotDefined."""
    like = form.text("like", longest=12)
    return state_numbered(visit.db, whole_from(like, least=1, most=LARGEST_NUMBER, field="like")) if like else None


STARTS = {
    "none": "a drawing or a size", "sample": "a sample, worn or good", "shaft": "a shaft; I make the bore",
    "bore": "a bore; I make the shaft",
    "bush": "housing and shaft; I make the bush",
}  # fmt: skip
"""What there is when a job starts, in words."""


def _start(visit: Visit, form: Form, begins_with: str) -> Job:
    job = _job_from(form, visit)
    if begins_with in ("none", "sample"):
        return open_by_lines(visit.db, job, lines_from(form, job.unit))
    if begins_with == "bush":
        return open_bush(visit.db, job)
    return open_mated(visit.db, job, cast(MemberKind, begins_with))


def goes_on(state: JobState) -> str:
    """Where a job that was just started goes on."""
    if state.joint:
        return href(state, "mate")
    return href(state, "make" if len(state.made) == 1 else "part")


def _job_from(form: Form, visit: Visit) -> Job:
    machine_id: UUID | None = form.id("machine_id") if form.text("machine_id") else None
    if machine_id and machine_id not in {machine.id for machine in shop.machines(visit.db)}:
        raise InputError("That machine is not in the shop.", "Choose it again.", field="machine_id")
    return Job(
        id=form.client_id(),
        title=form.text("title", needed=True, longest=120),
        asked=form.text("asked", longest=1000),
        unit=form.unit(),
        machine_id=machine_id,
        by_id=visit.account.id,
    )
