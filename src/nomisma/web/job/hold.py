"""Hold: work trued in a four-jaw, round by round, until it is ready to cut; kept with the job."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Literal
from urllib.parse import urlencode

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.quantity.display import show_exact
from nomisma.core.truing.surface import surfaces, uses
from nomisma.jobs.holding.chucking import Chucking, chuckings_of
from nomisma.jobs.holding.truing_log import NeedleEntry, declare_true, log_truing, mark_round, set_up_truing
from nomisma.jobs.holding.truing_state import SAFETY, TruingState, truing_state
from nomisma.jobs.planning.plan_lathes import against_the_machine
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.readings.runout import log_as_runout, runout_to_log
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.state import JobState
from nomisma.store.gauges import gauges_of, waiting
from nomisma.store.models import Truing
from nomisma.store.truing import chucks, truing_of, truings_of
from nomisma.web.drawings.truing import grip_pictures, path_picture, round_picture
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted
from nomisma.web.job.job_page import job_page
from nomisma.web.job.truing_set_up import NAMES, indicators, set_up_from, to_be_indicated, typed_of

router = APIRouter(include_in_schema=False)
SAFETY_STEPS = tuple(name for name, _ in SAFETY)


@dataclass(frozen=True)
class HoldAnswer:
    """What an answer has to say beside the page: what was wrong, what was typed, what was noticed."""

    error: InputError | None = None
    typed: dict[str, str] = field(default_factory=dict)
    note: str = ""


def shown(view: TruingState, base: str, said: HoldAnswer) -> dict[str, Any]:
    """What the working part of a truing's page is given, in a job or in practice."""
    return {
        "view": view,
        "phase": view.phase.value,
        "base": base,
        "said": said,
        "safety": SAFETY,
        "picture": round_picture(view),
        "path_picture": path_picture(view),
    }


PARTS = {"seen": "job/hold/_seen.html", "work": "job/hold/_work.html"}
"""Parts of the page that may be asked for alone."""


def truing_page(
    visit: Visit, state: JobState, truing: Truing, *, part: str = "", status: int = 200, said: HoldAnswer | None = None
) -> Response:
    said = said or HoldAnswer()
    found = truing_state(visit.db, truing)
    template = PARTS.get(part, "job/hold/page.html")
    return page(
        visit,
        template,
        status=status,
        own_unit=truing.unit,
        state=state,
        job=state.job,
        stage="hold",
        gauges=gauges_of(visit.db, state.feature_id),
        waiting=waiting(visit.db, state.feature_id, now()),
        earlier=len(truings_of(visit.db, state.job.id)) - 1,
        runout=runout_to_log(state, found),
        **({} if part else _planned(visit, state)),
        **shown(found, href(state, "hold"), said),
    )


def _planned(visit: Visit, state: JobState) -> dict[str, Any]:
    """What the plan says of holding, beside a truing."""
    plan = plan_of(visit.db, state)
    return planned(visit, plan, chuckings_of(visit.db, plan), "needle")


def planned(visit: Visit, plan: JobPlan, chuckings: list[Chucking], here: str) -> dict[str, Any]:
    """What stands open before metal is cut, the set-ups as they stand, tapers, and what the job's own lathe has no room
    for.
    """
    return {
        "plan": plan,
        "chuckings": chuckings,
        "here": here,
        "no_room": against_the_machine(visit.db, plan),
        "tapers": [
            (one.letter, _taper_href(plan, one)) for one in plan.state.made if one.kind == "taper" and one.requirement
        ],
    }


def _taper_href(plan: JobPlan, one: JobState) -> str:
    """The worksheet of a taper with the feature's own rate, and the part's length between the centres."""
    assert one.requirement is not None
    asked = {"taper": one.requirement.text.removeprefix("taper ").split(" over ")[0], "unit": one.unit}
    if plan.section is not None and not plan.length_not_known:
        asked["between_centres"] = show_exact(plan.section.length_mm, one.unit)
    return f"/taper?{urlencode(asked)}"


def _letter_of(state: JobState, truing: Truing | None) -> str:
    """The letter of the feature that is indicated; before a first set-up that of the feature in hand, if it has a
    surface for a needle.
    """
    if truing is not None and truing.feature_id is not None:
        return state.at(truing.feature_id).letter
    return next((one.letter for one in to_be_indicated(state) if one.letter == state.letter), "")


def set_up_page(
    visit: Visit,
    state: JobState,
    truing: Truing | None,
    *,
    planned_set_up: str = "",
    piece: str = "",
    status: int = 200,
    said: HoldAnswer | None = None,
) -> Response:
    begun = {"feature": _letter_of(state, truing), "planned_set_up": planned_set_up, "piece": piece}
    said = said or HoldAnswer(typed={**begun, **typed_of(visit, truing, state.unit)})
    return job_page(
        visit,
        "job/hold/set_up.html",
        state,
        "hold",
        status=status,
        chucks=[(str(row.id), row.name) for row in chucks(visit.db)],
        indicators=[(str(row.id), f"{row.name} · reads {row.unit}") for row in indicators(visit)],
        surfaces=surfaces(),
        uses=uses(),
        grip_pictures=grip_pictures(),
        error=said.error,
        typed=said.typed,
        truing=truing,
        indicated=to_be_indicated(state),
        **_planned(visit, state),
    )


@router.post("/jobs/{number}/hold/set-up")
def set_up(number: int, post: Post = Depends(posted)) -> Response:
    """A new set-up; the rounds of the one before stay in the record."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    back = RedirectResponse(href(state, "hold"), 303)
    if form.text("client_id") and visit.db.get(Truing, form.client_id()) is not None:
        return back
    try:
        state.must_be_open()
        set_up_truing(visit.db, state, set_up_from(visit, form, state))
        visit.db.commit()
    except InputError as error:
        said = HoldAnswer(error, {name: form.shown(name) for name in NAMES})
        return set_up_page(visit, state, truing_of(visit.db, state.job.id), status=422, said=said)
    return back


def _truing(visit: Visit, state: JobState) -> Truing:
    """What is being trued, to write to. Raises InputError, HandedOver."""
    state.must_be_open()
    found = truing_of(visit.db, state.job.id)
    if found is None:
        raise InputError("Nothing is set up to be trued.", "Say first what is indicated, and with what.", field="size")
    return found


Answered = Callable[[Visit, JobState, Truing, HoldAnswer, int], Response]
"""The page that answers what was sent of a truing: Hold, or Make."""


def read_needle(post: Post, number: int, answer: Answered) -> Response:
    """Log what the needle says. Raises HandedOver."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    truing = _truing(visit, state)
    try:
        note = log_truing(
            visit.db, truing_state(visit.db, truing), needle_entry_from(form), by=visit.account, job=state
        )
        visit.db.commit()
    except InputError as error:
        return answer(visit, state, truing, HoldAnswer(error, typed_reading(form)), 422)
    return answer(visit, state, truing, HoldAnswer(note=note), 200)


def mark_it(post: Post, number: int, answer: Answered) -> Response:
    """The newest round is so, or it is set aside and read again. Raises HandedOver."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    truing = _truing(visit, state)
    try:
        mark_round(
            visit.db,
            truing_state(visit.db, truing),
            mark_from(form),
            by=visit.account,
            sent_id=form.client_id(),
            job=state,
        )
        visit.db.commit()
    except InputError as error:
        return answer(visit, state, truing, HoldAnswer(error), 422)
    return answer(visit, state, truing, HoldAnswer(), 200)


def say_it_is_true(post: Post, number: int, answer: Answered) -> Response:
    """Every safety step is done: ready to cut. Raises HandedOver."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    truing = _truing(visit, state)
    try:
        ticked = frozenset(name for name in SAFETY_STEPS if form.text(name) == "yes")
        declare_true(
            visit.db, truing_state(visit.db, truing), ticked, by=visit.account, sent_id=form.client_id(), job=state
        )
        visit.db.commit()
    except InputError as error:
        typed = {name: form.shown(name) for name in SAFETY_STEPS}
        return answer(visit, state, truing, HoldAnswer(error, typed), 422)
    return answer(visit, state, truing, HoldAnswer(), 200)


@router.post("/jobs/{number}/hold/readings")
def read(number: int, post: Post = Depends(posted)) -> Response:
    """Log what the needle says; the answer is the page with what comes next."""
    return read_needle(post, number, _answer)


def needle_entry_from(form: Form) -> NeedleEntry:
    """What was sent of the needle, its texts as typed. Raises InputError where a field is far too long."""
    return NeedleEntry(
        id=form.client_id(),
        size=form.text("size", longest=1000),
        place=form.text("place"),
        highest=form.text("highest", longest=60),
        lowest=form.text("lowest", longest=60),
        highest_at_deg=form.text("highest_at_deg", longest=10),
        circle=form.text("circle"),
        tightened=form.text("tightened") == "tight",
        round=form.text("round", longest=6),
    )


def mark_from(form: Form) -> Literal["confirmed", "set_aside"]:
    """What is said of the newest round. Raises InputError."""
    return "confirmed" if form.choice("what", ("confirmed", "set_aside")) == "confirmed" else "set_aside"


def typed_reading(form: Form) -> dict[str, str]:
    """What was typed into the reading's form, to be shown again."""
    return {name: form.shown(name) for name in ("size", "place", "tightened", "highest", "lowest", "highest_at_deg")}


def _answer(visit: Visit, state: JobState, truing: Truing, said: HoldAnswer, status: int = 200) -> Response:
    if visit.request.headers.get("hx-request"):
        return truing_page(visit, state, truing, part="work", status=status, said=said)
    if status == 200 and not said.note:
        return RedirectResponse(href(state, "hold"), 303)
    return truing_page(visit, state, truing, status=status, said=said)


@router.post("/jobs/{number}/hold/runout")
def keep_runout(number: int, post: Post = Depends(posted)) -> Response:
    """Log the swing of the newest round, read with the chuck tight, as a reading of the part's runout."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    truing = _truing(visit, state)
    try:
        row = log_as_runout(visit.db, state, truing_state(visit.db, truing), by=visit.account, sent_id=form.client_id())
        visit.db.commit()
    except InputError as error:
        return _answer(visit, state, truing, HoldAnswer(error), 422)
    return RedirectResponse(href(state.at(row.feature_id), "measure"), 303)


@router.post("/jobs/{number}/hold/round")
def mark(number: int, post: Post = Depends(posted)) -> Response:
    """The newest round is so, or it is set aside and read again."""
    return mark_it(post, number, _answer)


@router.post("/jobs/{number}/hold/ready")
def ready(number: int, post: Post = Depends(posted)) -> Response:
    """Every safety step is done: ready to cut."""
    return say_it_is_true(post, number, _answer)
