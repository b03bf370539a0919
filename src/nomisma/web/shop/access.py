"""Gauges and programs: who may speak to the shop without signing in, by a token that is shown once."""

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.devices.protocol import NAME_WORDS, is_name
from nomisma.jobs.shop.rights import Action, must
from nomisma.store.tokens import TOKEN_KINDS, TokenKind, make_token, token_holders, withdraw_token
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)


@router.get("/shop/access")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """Whose token holds, and the form that makes one."""
    return _page(visit)


def _page(
    visit: Visit,
    *,
    status: int = 200,
    made_for: str = "",
    token: str = "",
    error: InputError | None = None,
    typed: str = "",
) -> Response:
    return page(
        visit,
        "shop/access.html",
        status=status,
        holders=token_holders(visit.db),
        kinds=TOKEN_KINDS,
        made_for=made_for,
        token=token,
        error=error,
        typed=typed,
    )


def _holder(form: Form) -> tuple[TokenKind, str]:
    kind: TokenKind = "program" if form.choice("kind", tuple(TOKEN_KINDS)) == "program" else "gauge"
    name = form.text("name", needed=True, longest=60)
    if not is_name(name):
        raise InputError(f"“{name}” is no name of a gauge.", NAME_WORDS, field="name", value=name)
    return kind, name


@router.post("/shop/access")
def make(post: Post = Depends(posted)) -> Response:
    """Make a token, in place of any its holder had, and show it this once."""
    visit, form = post.visit, post.form
    must(visit.account, Action.MAKE_TOKENS)
    try:
        kind, name = _holder(form)
    except InputError as error:
        return _page(visit, status=422, error=error, typed=form.shown("name"))
    token = make_token(visit.db, kind=kind, name=name, by_id=visit.account.id)
    visit.db.commit()
    return _page(visit, made_for=name, token=token)


@router.post("/shop/access/withdraw")
def withdraw(post: Post = Depends(posted)) -> Response:
    """A token holds no more."""
    visit = post.visit
    must(visit.account, Action.MAKE_TOKENS)
    kind, name = _holder(post.form)
    withdraw_token(visit.db, kind=kind, name=name, by_id=visit.account.id)
    visit.db.commit()
    return RedirectResponse("/shop/access", 303)
