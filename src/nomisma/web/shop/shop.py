"""Shop: the instruments, the machines and the chucks, and what each is worth."""

from decimal import Decimal
from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError, refused_as
from nomisma.core.number import number_from, whole_from
from nomisma.core.planning.which_lathe import ROOM_WORDS
from nomisma.jobs.holding.truing_state import habit_of
from nomisma.jobs.shop.equipment import ChuckGiven, MachineGiven, enter_chuck, enter_machine
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import shop, truing
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.shop.instruments import listed

router = APIRouter(include_in_schema=False)
MACHINE_FIELDS = (
    "name",
    "unit",
    "dial_line",
    "dial_reads",
    "dial_turn",
    "backlash",
    "most_cut",
    "speeds",
    "readout",
    "most_rpm",
    "most_force_n",
    *ROOM_WORDS,
)


@router.get("/shop")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """Instruments with their uncertainty, machines with their dials."""
    return _page(visit)


def _page(visit: Visit, *, status: int = 200, **form: Any) -> Response:
    return page(
        visit,
        "shop/page.html",
        status=status,
        instruments=listed(visit),
        machines=shop.machines(visit.db),
        chucks=truing.chucks(visit.db),
        rooms=ROOM_WORDS,
        habits={row.id: habit_of(visit.db, row) for row in truing.chucks(visit.db)},
        **{"error": None, "typed": {}, "which": "", **form},
    )


def _typed(post: Post, names: tuple[str, ...]) -> dict[str, str]:
    return {name: post.form.shown(name) for name in names}


@router.post("/shop/machines")
def add_machine(post: Post = Depends(posted)) -> Response:
    """Enter a machine, its cross-slide dial and its room, or change one by superseding."""
    visit = post.visit
    must(visit.account, Action.SET_UP_SHOP)
    try:
        enter_machine(visit.db, _machine(post.form), by=visit.account)
    except InputError as error:
        return _page(visit, status=422, error=error, typed=_typed(post, MACHINE_FIELDS), which="machine")
    visit.db.commit()
    return RedirectResponse("/shop#machines", 303)


def _machine(form: Form) -> MachineGiven:
    unit = form.unit()
    dial_turn, backlash, most_cut = (
        form.size(name, unit) if form.text(name) else None for name in ("dial_turn", "backlash", "most_cut")
    )
    return MachineGiven(
        id=form.client_id(),
        name=form.text("name", needed=True, longest=80),
        unit=unit,
        dial_line=form.size("dial_line", unit),
        dial_reads=form.choice("dial_reads", ("diameter", "radius")),
        dial_turn=dial_turn,
        backlash=backlash,
        most_cut=most_cut,
        readout=form.text("readout") == "yes",
        speeds=form.text("speeds", longest=300),
        most_rpm=_rpm(form.text("most_rpm", longest=6)),
        most_force_n=_force(form.text("most_force_n", longest=12)),
        room={name: form.size(name, unit) for name in ROOM_WORDS if form.text(name)},
        supersedes_id=form.id("supersedes_id") if form.text("supersedes_id") else None,
    )


@router.post("/shop/chucks")
def add_chuck(post: Post = Depends(posted)) -> Response:
    """Enter an independent four-jaw, or change one: what was learned of it stays with it."""
    visit, form = post.visit, post.form
    must(visit.account, Action.SET_UP_SHOP)
    names = ("name", "unit", "screw_lead", "most_rpm")
    try:
        unit = form.unit()
        given = ChuckGiven(
            id=form.client_id(),
            name=form.text("name", needed=True, longest=80),
            unit=unit,
            screw_lead=form.size("screw_lead", unit),
            most_rpm=_rpm(form.text("most_rpm", longest=6)),
            supersedes_id=form.id("supersedes_id") if form.text("supersedes_id") else None,
        )
        enter_chuck(visit.db, given, by=visit.account)
    except InputError as error:
        return _page(visit, status=422, error=error, typed=_typed(post, names), which="chuck")
    visit.db.commit()
    return RedirectResponse("/shop#chucks", 303)


def _force(text: str) -> Decimal | None:
    """The cutting force a machine stands, N; none where nobody knows. Raises OutOfRange."""
    if not text:
        return None
    with refused_as(f"“{text}” is no cutting force.", "Give it in newton, 10 to 100000.", field="most_force_n"):
        return number_from(text.removesuffix("N"), least=10, most=100_000)


def _rpm(text: str) -> int | None:
    """The speed marked on a chuck; none where it bears none. Raises OutOfRange."""
    if not text:
        return None
    with refused_as(f"“{text}” is no speed of a chuck.", "Give the rpm marked on it, 10 to 20000.", field="most_rpm"):
        return whole_from(text, least=10, most=20_000)
