"""Signing in and out, and sending again what was typed when a sign-in ran out."""

from datetime import timedelta
from urllib.parse import urlsplit

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from sqlalchemy.orm import Session as OrmSession

from nomisma.settings import Settings
from nomisma.store.accounts import SignInRefused, SignInRules, sign_in, sign_out
from nomisma.web.visit import SESSION_COOKIE, Form, Post, database, find_visit, now, posted, read_form

router = APIRouter(include_in_schema=False)


@router.get("/sign-in")
def show(request: Request, db: OrmSession = Depends(database)) -> Response:
    """The sign-in page, or the bench for somebody who is signed in already."""
    if find_visit(request, db):
        return RedirectResponse("/", 303)
    return _page(request)


def _page(request: Request, *, message: str = "", kept: str = "", next_path: str = "", status: int = 200) -> HTMLResponse:
    kept_form = request.app.state.keeper.read(kept) if kept else None
    html = request.app.state.renderer.render(
        "sign_in.html", request, message=message, kept=kept if kept_form else "", kept_form=kept_form, next_path=next_path
    )
    return HTMLResponse(html, status)


def _rules(settings: Settings) -> SignInRules:
    return SignInRules(
        tries=settings.sign_in_tries,
        pause=timedelta(minutes=settings.sign_in_pause_minutes),
        lasts=timedelta(hours=settings.session_hours),
    )


@router.post("/sign-in")
def enter(request: Request, form: Form = Depends(read_form), db: OrmSession = Depends(database)) -> Response:
    """Check name and password; then the bench, the page asked for, or what was typed before.

    Needs no CSRF token: a post from another site is refused by the guard, and signing in changes nothing by itself.
    """
    settings: Settings = request.app.state.settings
    kept, next_path = form.text("kept", longest=200_000), form.text("next")
    address = request.client.host if request.client else ""
    try:
        token, session = sign_in(
            db, sign_in_name=form.text("sign_in_name"), password=form.text("password"), address=address, now=now(),
            rules=_rules(settings),
        )  # fmt: skip
    except SignInRefused as refused:
        return _page(request, message=str(refused), kept=kept, next_path=next_path, status=401)
    kept_form = request.app.state.keeper.read(kept) if kept else None
    response: Response
    if kept_form:
        visit_like = request.app.state.renderer.render(
            "kept.html", request, kept_form=kept_form, csrf_token=session.csrf_token
        )
        response = HTMLResponse(visit_like)
    else:
        response = RedirectResponse(_own_path(next_path), 303)
    response.set_cookie(
        SESSION_COOKIE, token, max_age=int(settings.session_hours * 3600), httponly=True, samesite="lax",
        secure=settings.secure_cookies or request.url.scheme == "https",
    )  # fmt: skip
    return response


def _own_path(path: str) -> str:
    """A path on this site, never another's address."""
    parts = urlsplit(path)
    if parts.scheme or parts.netloc or not path.startswith("/") or path.startswith(("//", "/\\")):
        return "/"
    return path


@router.post("/sign-out")
def leave(post: Post = Depends(posted)) -> Response:
    """End the sign-in."""
    sign_out(post.visit.db, post.visit.request.cookies.get(SESSION_COOKIE, ""))
    response = RedirectResponse("/sign-in", 303)
    response.delete_cookie(SESSION_COOKIE)
    return response
