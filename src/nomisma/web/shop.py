"""Shop: the instruments, the machines and the chucks, and what each is worth."""

from typing import Any
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError, OutOfRange
from nomisma.store import shop, truing
from nomisma.store.append import append
from nomisma.store.models import Chuck, Machine
from nomisma.web.instruments import listed, only_for_shop_hands
from nomisma.web.pages import page
from nomisma.web.truing_view import habit_of
from nomisma.web.visit import Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)


@router.get("/shop")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """Instruments with their uncertainty, machines with their dials."""
    return _page(visit)


def _page(visit: Visit, *, status: int = 200, **form: Any) -> Response:
    return page(
        visit, "shop.html", status=status, instruments=listed(visit), machines=shop.machines(visit.db),
        chucks=truing.chucks(visit.db), habits={row.id: habit_of(visit, row) for row in truing.chucks(visit.db)},
        **{"error": None, "typed": {}, "which": "", **form},
    )  # fmt: skip


def _typed(post: Post, names: tuple[str, ...]) -> dict[str, str]:
    return {name: post.form.shown(name) for name in names}


@router.post("/shop/machines")
def add_machine(post: Post = Depends(posted)) -> Response:
    """Enter a machine and its cross-slide dial."""
    visit, form = post.visit, post.form
    only_for_shop_hands(visit)
    names = ("name", "unit", "dial_line", "dial_reads")
    try:
        unit = form.unit()
        line = form.size("dial_line", unit)
        row = Machine(
            id=form.client_id(), name=form.text("name", needed=True, longest=80), unit=unit, by_id=visit.account.id,
            dial_line_mm=line.mm, dial_line_text=line.text, dial_reads=form.choice("dial_reads", ("diameter", "radius")),
        )  # fmt: skip
    except InputError as error:
        return _page(visit, status=422, error=error, typed=_typed(post, names), which="machine")
    append(visit.db, row)
    visit.db.commit()
    return RedirectResponse("/shop", 303)


@router.post("/shop/chucks")
def add_chuck(post: Post = Depends(posted)) -> Response:
    """Enter an independent four-jaw, or change one: what was learned of it stays with it."""
    visit, form = post.visit, post.form
    only_for_shop_hands(visit)
    names = ("name", "unit", "screw_lead", "most_rpm")
    try:
        unit = form.unit()
        lead = form.size("screw_lead", unit)
        before = _chuck_before(visit, form.id("supersedes_id")) if form.text("supersedes_id") else None
        row = Chuck(
            id=form.client_id(), name=form.text("name", needed=True, longest=80), unit=unit, by_id=visit.account.id,
            screw_lead_mm=lead.mm, screw_lead_text=lead.text, most_rpm=_rpm(form.text("most_rpm", longest=6)),
            of_id=before.first_id if before else None, supersedes_id=before.id if before else None,
        )  # fmt: skip
    except InputError as error:
        return _page(visit, status=422, error=error, typed=_typed(post, names), which="chuck")
    append(visit.db, row)
    visit.db.commit()
    return RedirectResponse("/shop#chucks", 303)


def _chuck_before(visit: Visit, id: UUID) -> Chuck:
    found = visit.db.get(Chuck, id)
    if found is None:
        raise InputError("That chuck is not in the shop.", "Choose it again.", field="name")
    return found


def _rpm(text: str) -> int | None:
    """The speed marked on a chuck; none where it bears none. Raises OutOfRange."""
    if not text:
        return None
    if not text.isdigit() or not 10 <= int(text) <= 20_000:
        raise OutOfRange(f"“{text}” is no speed of a chuck.", "Give the rpm marked on it, 10 to 20000.", field="most_rpm")
    return int(text)
