"""Decide: what is done about a piece that is out, by someone allowed to, tied to its readings; and the first off."""

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.measuring.disposition import DISPOSITIONS, dispositions_open
from nomisma.core.part.feature import State
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.closing.dispositions import DispositionGiven, PieceState, decide, piece_states
from nomisma.jobs.shop.rights import RIGHTS, Action
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.job_page import job_page

router = APIRouter(include_in_schema=False)


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
    ways = dispositions_open(chosen.state) if chosen else []
    return job_page(
        visit,
        "job/measure/decide.html",
        state,
        "measure",
        status=status,
        pieces=pieces,
        chosen=chosen,
        open_ways=[(rule, RIGHTS[Action(rule.kind)]) for rule in ways],
        error=error,
        typed=typed or {},
        dispositions=jobs.dispositions(visit.db, state.feature_id),
        rules=DISPOSITIONS,
        remake=remake_address(state, chosen) if chosen else "",
    )


def remake_address(state: JobState, chosen: PieceState) -> str:
    """Quick mate with this part's readings as the partner: the mate is then made to suit it."""
    if state.is_compared:
        return ""  # nothing was measured of it that a mate could be made to suit
    of_piece = state.own_readings.of_piece(chosen.serial)
    ends = dict.fromkeys((of_piece.smallest_mm, of_piece.largest_mm))
    sizes = "+".join(show_exact(mm, state.unit).replace(" ", "+") for mm in ends)
    function = str(state.limits.inputs.get("function", "slides_by_hand")) if state.limits else "slides_by_hand"
    return f"/mate?kind={state.made_kind}&partner={sizes}&function={function}"


@router.post("/jobs/{number}/dispositions")
def write(number: int, post: Post = Depends(posted)) -> Response:
    """Write a disposition, tied to the standing readings and the limits in force."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    back = RedirectResponse(href(state, "decide"), 303)
    piece = form.text("piece", longest=40)
    try:
        row = decide(visit.db, state, _given(form, piece), by=visit.account)
        visit.db.commit()
    except InputError as error:
        typed = {name: form.shown(name) for name in ("kind", "reason")}
        return _page(visit, state, piece, status=422, error=error, typed=typed)
    if row.kind == "remake_partner":
        chosen = next(one for one in piece_states(state) if one.serial == piece)
        return RedirectResponse(remake_address(state, chosen) or href(state, "decide"), 303)
    return back


def _given(form: Form, piece: str) -> DispositionGiven:
    return DispositionGiven(
        id=form.client_id(),
        kind=form.text("kind"),
        piece=piece,
        reason=form.text("reason", longest=500),
        seen=form.seen(),
    )
