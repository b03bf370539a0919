"""Decide: what is done about a piece that is out, by someone allowed to, tied to its readings; and the first off."""

from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.measuring.decision import DECISIONS, DecisionRule, decisions_open
from nomisma.core.part.feature import State
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit
from nomisma.jobs.state import JobState
from nomisma.store import jobs, readings
from nomisma.store.append import append
from nomisma.store.live import announce
from nomisma.store.models import Decision
from nomisma.store.readings import Extremes
from nomisma.web.job_in_hand import href, job_in_hand
from nomisma.web.pages import page
from nomisma.web.reading_form import serials
from nomisma.web.visit import NotAllowed, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class PieceState:
    """One piece and how it stands; serial empty for a single piece."""

    serial: str
    state: State
    sizes: str


def piece_states(state: JobState) -> list[PieceState]:
    """Every measured piece against the limits in force."""
    return [
        PieceState(serial, verdict.state, _ends(state.own_readings.of_piece(serial), state.unit))
        for serial, verdict in state.verdict_of_piece.items()
    ]


def _ends(sizes: Extremes, unit: Unit) -> str:
    """The smallest and the largest size, once where they are the same."""
    return " to ".join(dict.fromkeys(show_exact(mm, unit) for mm in (sizes.smallest_mm, sizes.largest_mm)))


@router.get("/jobs/{number}/decide")
def show(number: int, visit: Visit = Depends(signed_in), piece: str = "") -> Response:
    """What may be decided, with who may."""
    return _page(visit, job_in_hand(visit, number), piece)


def _page(
    visit: Visit,
    state: JobState,
    piece: str,
    *,
    status: int = 200,
    error: InputError | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    pieces = piece_states(state)
    out = [one for one in pieces if one.state is not State.IN_LIMITS]
    chosen = next((one for one in pieces if one.serial == piece), next(iter([*out, *pieces]), None))
    return page(
        visit, "measure/decide.html", status=status, own_unit=state.unit, state=state, job=state.job, stage="measure", pieces=pieces,
        chosen=chosen, open_ways=decisions_open(chosen.state, visit.account.role) if chosen else [], error=error, typed=typed or {},
        decisions=jobs.decisions(visit.db, state.feature_id), rules=DECISIONS, remake=remake_address(state, chosen) if chosen else "",
    )  # fmt: skip


def remake_address(state: JobState, chosen: PieceState) -> str:
    """Quick mate with this part's readings as the partner: the mate is then made to suit it."""
    of_piece = state.own_readings.of_piece(chosen.serial)
    ends = dict.fromkeys((of_piece.smallest_mm, of_piece.largest_mm))
    sizes = "+".join(show_exact(mm, state.unit).replace(" ", "+") for mm in ends)
    function = str(state.limits.inputs.get("function", "slides_by_hand")) if state.limits else "slides_by_hand"
    return f"/mate?kind={state.made_kind}&partner={sizes}&function={function}"


@router.post("/jobs/{number}/decisions")
def write(number: int, post: Post = Depends(posted)) -> Response:
    """Write a decision, tied to the standing readings and the limits in force."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    back = RedirectResponse(href(state, "decide"), 303)
    sent_before = visit.db.get(Decision, form.client_id()) if form.text("client_id") else None
    if sent_before:
        return back
    piece = form.text("piece", longest=40)
    try:
        row = _decision(visit, post, state, piece)
    except InputError as error:
        typed = {name: form.shown(name) for name in ("kind", "reason")}
        return _page(visit, state, piece, status=422, error=error, typed=typed)
    append(visit.db, row)
    announce(visit.db, number, "decision")
    visit.db.commit()
    if row.kind == "remake_partner":
        chosen = next(one for one in piece_states(state) if one.serial == piece)
        return RedirectResponse(remake_address(state, chosen), 303)
    return back


def _decision(visit: Visit, post: Post, state: JobState, piece: str) -> Decision:
    form = post.form
    state.must_be_open()
    kind = form.choice("kind", tuple(DECISIONS))
    found = next((one for one in piece_states(state) if one.serial == piece), None)
    if found is None or piece not in ("", *serials(state), *state.own_readings.pieces):
        raise InputError("That piece has no readings.", "Measure it first.", field="piece")
    rule: DecisionRule = DECISIONS[kind]
    if found.state not in rule.states:
        raise InputError(
            f"“{rule.title}” is no way on for a piece that is {found.state.words}.", "Choose another.", field="kind"
        )
    if visit.account.role not in rule.roles:
        raise NotAllowed(f"“{rule.title}” is decided by the {' or the '.join(rule.roles)}. Call one of them.")
    cut = readings.last_cut_number(visit.db, state.feature_id, piece)
    values: dict[str, Any] = {
        "reason": form.text("reason", needed=kind != "approve_first_off", longest=500),
        "reading_ids": readings.standing_ids(visit.db, state.feature_id, piece, cut),
    }
    return Decision(
        id=form.client_id(), job_id=state.job.id, feature_id=state.feature_id, kind=kind, piece=piece, state=found.state.value,
        limits_id=state.limits.id if state.limits else None, by_id=visit.account.id, **values,
    )  # fmt: skip
