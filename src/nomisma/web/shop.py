"""Shop: the instruments and the machines, and what each is worth."""

from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.store import shop
from nomisma.store.append import append
from nomisma.store.models import Machine
from nomisma.web.instruments import listed, only_for_shop_hands
from nomisma.web.pages import page
from nomisma.web.visit import Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)


@router.get("/shop")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """Instruments with their uncertainty, machines with their dials."""
    return _page(visit)


def _page(visit: Visit, *, status: int = 200, **form: Any) -> Response:
    return page(
        visit, "shop.html", status=status, instruments=listed(visit), machines=shop.machines(visit.db),
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
