"""The shop's own surface speeds: shown beside the table, changed with a name to it, never overwritten."""

from typing import Any, get_args

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.cutting.speeds import Tool, cutting_speeds, surface_speed_m_min
from nomisma.core.errors import InputError
from nomisma.jobs.shop.choices import choose
from nomisma.jobs.shop.own_speeds import speed_setting
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import shop
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
TOOLS: tuple[Tool, ...] = get_args(Tool)


@router.get("/shop/speeds")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """The table, and what the shop runs instead."""
    return _page(visit)


def _page(
    visit: Visit, *, status: int = 200, error: InputError | None = None, typed: dict[str, str] | None = None
) -> Response:
    own = shop.settings(visit.db)
    rows: list[dict[str, Any]] = [
        {
            "material": one,
            "tools": [
                (tool, getattr(one, f"{tool}_m_min"), speed_setting(tool, name), own.get(speed_setting(tool, name), ""))
                for tool in TOOLS
            ],
        }
        for name, one in cutting_speeds().items()
    ]
    return page(visit, "shop/speeds.html", status=status, rows=rows, error=error, typed=typed or {})


@router.post("/shop/speeds")
def change(post: Post = Depends(posted)) -> Response:
    """Keep the shop's own speeds; an empty field goes back to the table."""
    visit, form = post.visit, post.form
    must(visit.account, Action.CHANGE_SHOP_RULES)
    names = [speed_setting(tool, material) for material in cutting_speeds() for tool in TOOLS]
    try:
        wanted = {name: _speed(form.text(name, longest=20), name) for name in names}
    except InputError as error:
        return _page(visit, status=422, error=error, typed={name: form.shown(name) for name in names})
    choose(visit.db, wanted, by=visit.account)
    visit.db.commit()
    return RedirectResponse("/shop/speeds", 303)


def _speed(text: str, name: str) -> str:
    if not text:
        return ""
    try:
        return f"{surface_speed_m_min(text):.1f}"
    except InputError as error:
        raise error.at(name) from None
