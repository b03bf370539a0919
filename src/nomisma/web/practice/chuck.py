"""Practice: the same page with simulated work, its keys turned on screen, and a score at the end."""

from dataclasses import dataclass
from random import Random, SystemRandom
from typing import cast
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError, NotDefined
from nomisma.core.number import is_whole
from nomisma.core.practice.chuck import FEEL_WORDS, Circle, Feel, SimulatedChuck
from nomisma.core.practice.follow import Followed, follow
from nomisma.core.practice.lathe_levels import lathe_levels
from nomisma.core.practice.levels import level_named, levels
from nomisma.core.quantity.length import Length
from nomisma.core.truing.course import Phase
from nomisma.jobs.holding.truing_log import log_truing, mark_round
from nomisma.jobs.holding.truing_state import TruingState, truing_state
from nomisma.store.append import append
from nomisma.store.models import Truing, TruingEvent
from nomisma.store.practice import practice_set_up
from nomisma.web.drawings.needle import needle_picture
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.hold import HoldAnswer, mark_from, needle_entry_from, shown, typed_reading

router = APIRouter(include_in_schema=False)
TURNS = (("1/32", 1 / 32), ("1/8", 1 / 8), ("1/2", 1 / 2))
"""How far a key is turned at a touch, in turns."""
TAPS_MM = (("light", 0.02), ("firm", 0.08))
PLAYED = ("turn", "tighten", "tap")


@dataclass(frozen=True)
class Score:
    """How it went: rounds that were read, turns of a key, the true swing at the end, and what following the advice
    takes.
    """

    rounds: int
    actions: int
    total_indicator_reading: Length
    floor: Length
    good: bool
    par: Followed


@router.get("/practice")
def index(visit: Visit = Depends(signed_in)) -> Response:
    """The levels."""
    return page(visit, "practice/page.html", levels=levels().values(), lathe_levels=lathe_levels().values())


@router.post("/practice")
def begin(post: Post = Depends(posted)) -> Response:
    """Chuck up a fresh piece of a level."""
    visit, form = post.visit, post.form
    level = level_named(form.text("level", needed=True, longest=40))
    seed = SystemRandom().randrange(2**31)
    row = append(visit.db, practice_set_up(form.client_id(), level, seed, visit.account.id))
    visit.db.commit()
    return RedirectResponse(f"/practice/{row.id}", 303)


def _own(visit: Visit, truing_id: UUID) -> Truing:
    found = visit.db.get(Truing, truing_id)
    if found is None or not found.level or found.by_id != visit.account.id:
        raise NotDefined("That piece of practice is not yours.", "Begin one of your own under Practice.", field="level")
    return found


def played(view: TruingState) -> tuple[SimulatedChuck, str]:
    """The simulated chuck after everything that was done to it, and what the last turn felt like."""
    truing = view.truing
    chuck = SimulatedChuck(level_named(truing.level), truing.seed or 0)
    feel = ""
    for event in view.events:
        feel = _play(chuck, event) if event.kind in PLAYED else feel
    return chuck, feel


def _play(chuck: SimulatedChuck, event: TruingEvent) -> str:
    detail = event.detail
    if event.kind == "turn":
        return FEEL_WORDS[Feel(chuck.turn(int(detail["jaw"]), float(detail["turns"])))]
    if event.kind == "tap":
        chuck.tap(int(detail["jaw"]), float(detail["mm"]))
        return "Tapped. Read near and far again."
    chuck.tighten()
    return "All four are tight. Read it again."


@router.get("/practice/{truing_id}")
def show(truing_id: UUID, visit: Visit = Depends(signed_in), at: int = -1, circle: str = "") -> Response:
    """The page of one piece, the spindle turned to a place."""
    return _page(visit, _own(visit, truing_id), at=at, circle=circle)


def _page(
    visit: Visit, truing: Truing, *, at: int = -1, circle: str = "", status: int = 200, said: HoldAnswer | None = None
) -> Response:
    view = truing_state(visit.db, truing)
    chuck, feel = played(view)
    index = at if 0 <= at < len(view.places) else view.next_place
    where = cast(Circle, circle if circle in ("near", "far") and truing.far_mm is not None else view.next_circle)
    said = said or HoldAnswer()
    part = "practice/_chuck_work.html" if visit.request.headers.get("hx-request") else "practice/chuck.html"
    return page(
        visit,
        part,
        status=status,
        own_unit=truing.unit,
        level=chuck.level,
        chuck=chuck,
        feel=feel,
        at=index,
        circle=where,
        turns=TURNS,
        taps=TAPS_MM,
        score=_score(view, chuck) if view.phase in (Phase.SAFE, Phase.READY) else None,
        needle=needle_picture(view, chuck.needle(view.places[index].at_deg, where), view.places[index].name),
        gauges=[],
        waiting=[],
        **shown(view, f"/practice/{truing.id}", said),
    )


def _score(view: TruingState, chuck: SimulatedChuck) -> Score:
    chance = Random(view.truing.seed)
    par = follow(SimulatedChuck(chuck.level, view.truing.seed or 0), lambda: chance.uniform(0.9, 1.1))
    total_indicator_reading, floor = chuck.total_indicator_reading(), chuck.floor()
    wanted = float(chuck.level.target.mm)
    return Score(
        rounds=len([one for one in view.logged if one.whole]),
        actions=chuck.actions,
        total_indicator_reading=Length.of(f"{total_indicator_reading:.6f}", "mm"),
        floor=Length.of(f"{floor:.6f}", "mm"),
        good=total_indicator_reading <= max(wanted, floor) or 2 * chuck.offset() <= wanted,
        par=par,
    )


@router.post("/practice/{truing_id}/keys")
def act(truing_id: UUID, post: Post = Depends(posted)) -> Response:
    """Turn a key, tap, or tighten all four."""
    visit, form = post.visit, post.form
    truing = _own(visit, truing_id)
    kind, detail = _action(form)
    append(
        visit.db,
        TruingEvent(id=form.client_id(), truing_id=truing.id, kind=kind, detail=detail, by_id=visit.account.id),
    )
    visit.db.commit()
    at, circle = form.text("at", longest=3), form.text("circle", longest=4)
    if not visit.request.headers.get("hx-request"):
        return RedirectResponse(f"/practice/{truing_id}?at={at}&circle={circle}", 303)
    return _page(visit, truing, at=int(at) if is_whole(at) else -1, circle=circle)


def _action(form: Form) -> tuple[str, dict[str, object]]:
    if form.text("tighten") == "yes":
        return "tighten", {}
    if tapped := form.text("tap", longest=20):
        jaw, amount = _jaw_and(tapped, dict(TAPS_MM), "tap")
        return "tap", {"jaw": jaw, "mm": amount}
    jaw, turns = _jaw_and(form.text("turn", needed=True, longest=20).lstrip("-"), dict(TURNS), "turn")
    return "turn", {"jaw": jaw, "turns": -turns if form.text("turn").startswith("-") else turns}


def _jaw_and(text: str, amounts: dict[str, float], field: str) -> tuple[int, float]:
    """`3 1/8`: a jaw and how much. Raises InputError."""
    jaw, _, amount = text.partition(" ")
    if jaw not in ("1", "2", "3", "4") or amount not in amounts:
        raise InputError("That is no jaw and no turn of a key.", "Use the buttons on the page.", field=field)
    return int(jaw), amounts[amount]


@router.post("/practice/{truing_id}/readings")
def read(truing_id: UUID, post: Post = Depends(posted)) -> Response:
    """Log what was read off the simulated needle."""
    visit, form = post.visit, post.form
    truing = _own(visit, truing_id)
    try:
        note = log_truing(visit.db, truing_state(visit.db, truing), needle_entry_from(form), by=visit.account, job=None)
        visit.db.commit()
    except InputError as error:
        return _page(visit, truing, status=422, said=HoldAnswer(error, typed_reading(form)))
    return _done(visit, truing, HoldAnswer(note=note))


def _done(visit: Visit, truing: Truing, said: HoldAnswer | None = None) -> Response:
    if visit.request.headers.get("hx-request") or (said and said.note):
        return _page(visit, truing, said=said)
    return RedirectResponse(f"/practice/{truing.id}", 303)


@router.post("/practice/{truing_id}/round")
def mark(truing_id: UUID, post: Post = Depends(posted)) -> Response:
    """The newest round is so, or it is read again."""
    visit, form = post.visit, post.form
    truing = _own(visit, truing_id)
    try:
        mark_round(
            visit.db,
            truing_state(visit.db, truing),
            mark_from(form),
            by=visit.account,
            sent_id=form.client_id(),
            job=None,
        )
        visit.db.commit()
    except InputError as error:
        return _page(visit, truing, status=422, said=HoldAnswer(error))
    return _done(visit, truing)
