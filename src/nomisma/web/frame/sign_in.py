"""Signing in and out, one's own account, and sending again what was typed when a sign-in ran out."""

import secrets
from datetime import timedelta
from urllib.parse import urlsplit

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from itsdangerous import BadSignature, URLSafeSerializer
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import InputError
from nomisma.jobs.shop.clock import now
from nomisma.settings import Settings
from nomisma.store.accounts import SetBy, set_password, sign_out_everywhere
from nomisma.store.passwords import LONGEST_PASSWORD, SHORTEST_PASSWORD, matches, strength_of
from nomisma.store.sign_ins import SignInRefused, SignInRules, count_the_try, note_good, sign_in, sign_out
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import (
    Form,
    Post,
    Visit,
    database,
    find_visit,
    own_cookie,
    posted,
    read_form,
    session_cookie,
    signed_in,
)

router = APIRouter(include_in_schema=False)
OLD_PAGE = "This page was opened in another way, or long ago. Nothing was checked; sign in here."


@router.get("/sign-in")
def show(request: Request, db: OrmSession = Depends(database)) -> Response:
    """The sign-in page, or the bench for somebody who is signed in already."""
    if find_visit(request, db):
        return RedirectResponse("/", 303)
    return sign_in_page(request)


def sign_in_page(
    request: Request, *, message: str = "", kept: str = "", next_path: str = "", status: int = 200
) -> HTMLResponse:
    """The page with a token that only this browser's cookie fits, so that no other site can sign it in."""
    kept_form = request.app.state.keeper.read(kept) if kept else None
    name = own_cookie(request, "nomisma_page")
    own = request.cookies.get(name) or secrets.token_urlsafe(18)
    html = request.app.state.renderer.render(
        "frame/sign_in.html",
        request,
        message=message,
        kept=kept if kept_form else "",
        kept_form=kept_form,
        next_path=next_path,
        page_token=_page_signer(request).dumps(own),
    )
    response = HTMLResponse(html, status)
    response.set_cookie(name, own, httponly=True, samesite="strict", secure=_secure(request))
    return response


def _page_signer(request: Request) -> URLSafeSerializer:
    settings: Settings = request.app.state.settings
    return URLSafeSerializer(settings.secret, salt="sign-in-page")


def _of_this_browser(request: Request, token: str) -> bool:
    own = request.cookies.get(own_cookie(request, "nomisma_page"), "")
    try:
        return bool(own) and secrets.compare_digest(str(_page_signer(request).loads(token)).encode(), own.encode())
    except BadSignature:
        return False


def _secure(request: Request) -> bool:
    settings: Settings = request.app.state.settings
    return settings.secure_cookies or request.url.scheme == "https"


def rules_of(settings: Settings) -> SignInRules:
    """How often one may fail here, and for how long a name then waits."""
    return SignInRules(
        tries=settings.sign_in_tries,
        pause=timedelta(minutes=settings.sign_in_pause_minutes),
        lasts=timedelta(hours=settings.session_hours),
    )


def _address(request: Request) -> str:
    return request.client.host if request.client else ""


@router.post("/sign-in")
def enter(request: Request, form: Form = Depends(read_form), db: OrmSession = Depends(database)) -> Response:
    """Check name and password; then the bench, the page asked for, or what was typed before."""
    settings: Settings = request.app.state.settings
    kept, next_path = form.text("kept", longest=200_000), form.text("next")
    if not _of_this_browser(request, form.text("page_token")):
        return sign_in_page(request, message=OLD_PAGE, kept=kept, next_path=next_path, status=403)
    try:
        token, session = sign_in(
            db,
            sign_in_name=form.text("sign_in_name"),
            password=form.secret("password"),
            address=_address(request),
            now=now(),
            rules=rules_of(settings),
        )
    except SignInRefused as refused:
        return sign_in_page(request, message=str(refused), kept=kept, next_path=next_path, status=401)
    kept_form = request.app.state.keeper.read(kept) if kept else None
    response: Response
    if kept_form:
        visit_like = request.app.state.renderer.render(
            "frame/kept.html", request, kept_form=kept_form, csrf_token=session.csrf_token
        )
        response = HTMLResponse(visit_like)
    else:
        response = RedirectResponse(_own_path(next_path), 303)
    response.set_cookie(
        session_cookie(request),
        token,
        max_age=int(settings.session_hours * 3600),
        httponly=True,
        samesite="lax",
        secure=_secure(request),
    )
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
    sign_out(post.visit.db, post.visit.request.cookies.get(session_cookie(post.visit.request), ""))
    return _left(post.visit.request)


def _left(request: Request) -> Response:
    response = RedirectResponse("/sign-in", 303)
    response.delete_cookie(session_cookie(request), secure=_secure(request), httponly=True, samesite="lax")
    return response


@router.get("/account")
def own_account(visit: Visit = Depends(signed_in)) -> Response:
    """One's own name and role, another password, and an end to every sign-in."""
    return _account_page(visit)


def _account_page(visit: Visit, *, status: int = 200, error: InputError | None = None) -> Response:
    return page(visit, "frame/account.html", status=status, error=error, strength=None)


@router.post("/account/password")
def change_password(post: Post = Depends(posted)) -> Response:
    """Another password, with the one until now; every sign-in of it ends, this one too."""
    visit, form = post.visit, post.form
    try:
        _check_own(visit, form.secret("password"))
        if form.secret("new_password") != form.secret("new_password_again"):
            raise InputError("The two new passwords differ.", "Type the same twice.", field="new_password_again")
        if form.secret("new_password") == form.secret("password"):
            raise InputError("That is the password until now.", "Choose another one.", field="new_password")
        by = SetBy(now(), _address(visit.request), given=False)
        set_password(visit.db, visit.account, form.secret("new_password"), by, field="new_password")
    except InputError as error:
        return _account_page(visit, status=422, error=error)
    visit.db.commit()
    return _left(visit.request)


@router.post("/account/password/strength")
def show_strength(post: Post = Depends(posted)) -> Response:
    """How soon a password that is being typed would be guessed; nothing of it is kept."""
    account, typed = post.visit.account, post.form.secret("new_password")
    short = SHORTEST_PASSWORD - len(typed)
    strength = strength_of(typed[: LONGEST_PASSWORD + 1], (account.sign_in_name, account.name)) if typed else None
    return page(post.visit, "frame/_strength.html", strength=strength, short=max(short, 0))


def _check_own(visit: Visit, password: str) -> None:
    """Raises InputError where it is not the password of who is signed in; tries count as those of the sign-in
    page do.
    """
    account, request = visit.account, visit.request
    try:
        count_the_try(visit.db, account.sign_in_name, _address(request), now(), rules_of(visit.settings))
    except SignInRefused as refused:
        raise InputError(str(refused), "", field="password") from None
    if not matches(account.password_hash, password):
        raise InputError("That is not your password.", "Check it, and Caps Lock.", field="password")
    note_good(visit.db, account.sign_in_name, _address(request), now())
    visit.db.commit()  # whatever is wrong with the new one: this try was a good one


@router.post("/account/sign-out")
def leave_everywhere(post: Post = Depends(posted)) -> Response:
    """End every sign-in of this person, on whatever tablet."""
    sign_out_everywhere(post.visit.db, post.visit.account.id)
    post.visit.db.commit()
    return _left(post.visit.request)
