"""Batch: every piece of one feature, its run chart, capability and drift; how many, and how much is measured
of each.
"""

from dataclasses import dataclass
from typing import Any, cast

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.measuring.batch import BatchResult
from nomisma.core.measuring.control_chart import LARGEST_SUBGROUP
from nomisma.core.measuring.feature import PLANS
from nomisma.core.part.feature import ACCEPTANCE_WORDS, State, kept_away
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named
from nomisma.jobs.closing.first_off import approve_first_off, first_off
from nomisma.jobs.opening.requirements import plan_measuring
from nomisma.jobs.standing.pieces import serials
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs, readings
from nomisma.web.drawings.run_chart import run_chart
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.visit import Post, Visit, posted, signed_in
from nomisma.web.job.job_page import job_page

router = APIRouter(include_in_schema=False)
SETTINGS = ("pieces", "measuring_plan", "acceptance")


def batch_of(visit: Visit, state: JobState, *, subgroup: int = 1) -> BatchResult | None:
    """The batch as a whole; None without limits or readings. Raises BadInput."""
    limits = state.both_limits
    if limits is None:
        return None
    pieces: dict[str, list[Length]] = {}
    found = readings.of_batch(visit.db, state.feature_id)
    for one in found:
        pieces.setdefault(one.piece or "1", []).append(Length(one.size_mm, state.unit))
    if not pieces:
        return None
    kept = [kept_away(one.uncertainty_mm, state.acceptance, one.half_bracket_mm) for one in found]
    rules = {rule for _, rule in kept}
    values: dict[str, Any] = {
        "kind": state.kind,
        "pieces": [{"serial": serial, "sizes": sizes} for serial, sizes in pieces.items()],
        "lower": Length(limits.lower_mm, state.unit),
        "upper": Length(limits.upper_mm, state.unit),
        "uncertainty": Length(max(away_mm for away_mm, _ in kept), state.unit),
        "subgroup": subgroup,
        "acceptance": rules.pop() if len(rules) == 1 else state.acceptance,
    }
    return cast(BatchResult, calculation_named("batch").run(values))


MOST_IN_MATRIX = 200


@dataclass(frozen=True, slots=True)
class MatrixRow:
    """One piece over all features that are made: the state of each (none: not measured, or not judged), in the order of
    their letters.
    """

    serial: str
    states: tuple[State | None, ...]


def matrix_of(state: JobState) -> list[MatrixRow]:
    """Pieces × features; of a job of one feature or one piece nothing, for then the table below says it."""
    if len(state.made) < 2 or not state.is_batch:
        return []
    by_piece = [one.verdict_of_piece for one in state.made]
    return [
        MatrixRow(serial, tuple(found[serial].state if serial in found else None for found in by_piece))
        for serial in serials(state)[:MOST_IN_MATRIX]
    ]


@router.get("/jobs/{number}/batch")
def show(number: int, visit: Visit = Depends(signed_in), subgroup: int = 1) -> Response:
    """The batch in the order it was measured."""
    return _page(visit, job_in_hand(visit, number), subgroup=min(max(subgroup, 1), LARGEST_SUBGROUP))


def _page(
    visit: Visit,
    state: JobState,
    *,
    subgroup: int = 1,
    status: int = 200,
    error: InputError | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    errors: list[InputError] = []
    result = None
    try:
        result = batch_of(visit, state, subgroup=subgroup)
    except BadInput as bad:
        errors = bad.errors
    limits = state.both_limits
    picture = run_chart(result, limits.lower_mm, limits.upper_mm, state.unit) if result and limits else ""
    in_force = state.in_force
    own = {
        "pieces": str(in_force.pieces_wanted),
        "measuring_plan": in_force.plan or ("one" if state.is_batch else "full"),
        "acceptance": state.acceptance,
    }
    approved = [row for row in jobs.dispositions(visit.db, state.feature_id) if row.kind == "approve_first_off"]
    return job_page(
        visit,
        "job/measure/batch.html",
        state,
        "measure",
        status=status,
        result=result,
        picture=picture,
        subgroup=subgroup,
        error=error,
        errors=errors,
        typed={**own, **(typed or {})},
        plans=PLANS,
        matrix=matrix_of(state),
        first=first_off(visit.db, state) if len(state.made) > 1 else None,
        acceptance_words=ACCEPTANCE_WORDS,
        approved=approved[-1] if approved else None,
    )


@router.post("/jobs/{number}/first-off")
def approve(number: int, post: Post = Depends(posted)) -> Response:
    """Approve the first piece over all its features."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    try:
        approve_first_off(visit.db, state, by=visit.account, sent_id=post.form.client_id())
        visit.db.commit()
    except InputError as error:
        return _page(visit, state, status=422, error=error)
    return RedirectResponse(href(state, "batch"), 303)


@router.post("/jobs/{number}/plan")
def set_plan(number: int, post: Post = Depends(posted)) -> Response:
    """How many pieces, how much is measured of each, and by which rule they are accepted; earlier choices stay on
    record.
    """
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    try:
        wanted = {name: form.text(name, longest=20) for name in SETTINGS}
        plan_measuring(visit.db, state, wanted, by=visit.account, judge_reason=form.text("judge_reason", longest=300))
    except InputError as error:
        return _page(visit, state, status=422, error=error, typed={name: form.shown(name) for name in SETTINGS})
    visit.db.commit()
    return RedirectResponse(href(state, "batch"), 303)
