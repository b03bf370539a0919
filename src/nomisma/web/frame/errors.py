"""Turns errors into a page, a fragment or JSON; the only module that knows both errors and status codes."""

import structlog
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from sqlalchemy.exc import InterfaceError, OperationalError
from starlette.exceptions import HTTPException
from starlette.responses import HTMLResponse, JSONResponse, RedirectResponse, Response

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError, NomismaError, NotDefined
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.standing.state import Withdrawn
from nomisma.store.append import AlreadyChanged, AlreadySent, HandedOver
from nomisma.web.frame.job_in_hand import NotTheFeatureShown
from nomisma.web.frame.pages import csrf_for
from nomisma.web.frame.sign_in import sign_in_page
from nomisma.web.frame.visit import ACCOUNT_PATH, OwnPasswordNeeded, SignInNeeded, StaleForm

log = structlog.get_logger("nomisma.error")
_WHOLE = {"HX-Retarget": "body", "HX-Reswap": "innerHTML"}


def install(app: FastAPI) -> None:
    """Register the handlers."""
    app.add_exception_handler(BadInput, _bad_input)
    app.add_exception_handler(RequestValidationError, _bad_request)
    app.add_exception_handler(SignInNeeded, _sign_in)
    app.add_exception_handler(OwnPasswordNeeded, _own_password)
    app.add_exception_handler(StaleForm, _confirm)
    app.add_exception_handler(NomismaError, _refused)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(OperationalError, _no_database)
    app.add_exception_handler(InterfaceError, _no_database)


def wants_json(request: Request) -> bool:
    """The API answers JSON, everything else a page."""
    return request.url.path.startswith("/api/")


def address_of(request: Request) -> str:
    """Where a request went on this site, with what it asked for: the feature in hand is part of it."""
    return f"{request.url.path}?{request.url.query}" if request.url.query else request.url.path


async def _kept_token(request: Request) -> str:
    if request.method != "POST":
        return ""
    form = getattr(request.state, "form", None) or await request.form()
    return str(request.app.state.keeper.keep(address_of(request), form))


def _whole_page(html: str, status: int) -> HTMLResponse:
    """A page that replaces everything, also when htmx asked for a part."""
    return HTMLResponse(html, status, headers=_WHOLE)


async def _bad_input(request: Request, error: Exception) -> Response:
    assert isinstance(error, BadInput)
    if wants_json(request):
        return JSONResponse({"errors": error.as_dicts()}, 422)
    return await _page(request, 422, "That cannot be used", " ".join(e.sentence for e in error.errors))


async def _bad_request(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    found = [
        InputError(f"{item['msg']}.", "Change it and try again.", field=".".join(str(part) for part in item["loc"][1:]))
        for item in error.errors()
    ]
    return await _bad_input(request, BadInput(found))


async def _sign_in(request: Request, _error: Exception) -> Response:
    if wants_json(request):
        return JSONResponse({"errors": [{"field": "", "value": "", "sentence": "Sign in first."}]}, 401)
    if request.headers.get("hx-request") and request.method == "GET":
        # A page that refreshes itself must not take away what is being typed in it.
        return Response(status_code=401, headers={"HX-Reswap": "none", "X-Nomisma-Sign-In": "needed"})
    response = sign_in_page(
        request,
        kept=await _kept_token(request),
        next_path=address_of(request) if request.method == "GET" else "",
        status=401,
    )
    response.headers.update(_WHOLE)
    return response


async def _own_password(request: Request, error: Exception) -> Response:
    if wants_json(request):
        return JSONResponse({"errors": [{"field": "", "value": "", "sentence": str(error)}]}, 403)
    if request.headers.get("hx-request"):
        return Response(status_code=403, headers={"HX-Redirect": ACCOUNT_PATH})
    return RedirectResponse(ACCOUNT_PATH, 303)


async def _confirm(request: Request, _error: Exception) -> Response:
    kept = request.app.state.keeper.read(await _kept_token(request))
    html = request.app.state.renderer.render("frame/kept.html", request, kept_form=kept, csrf_token=csrf_for(request))
    return _whole_page(html, 409)


async def _refused(request: Request, error: Exception) -> Response:
    status, title = 422, "That cannot be used"
    if isinstance(error, NotDefined) and error.field == "number":
        status, title = 404, "Not here"
    elif isinstance(error, NotAllowed):
        status, title = 403, "Not for this role"
    elif isinstance(error, HandedOver):
        title = "This job is closed"
    elif isinstance(error, Withdrawn):
        title = "Nothing is logged of it now"
    elif isinstance(error, AlreadySent | AlreadyChanged):
        status, title = 409, "Somebody was first"
    elif isinstance(error, NotTheFeatureShown):
        status, title = 409, "Another feature"
    if wants_json(request):
        field = error.field if isinstance(error, InputError) else ""
        return JSONResponse({"errors": [{"field": field, "value": "", "sentence": str(error)}]}, status)
    return await _page(request, status, title, str(error))


async def _http(request: Request, error: Exception) -> Response:
    assert isinstance(error, HTTPException)
    sentence = {404: "There is no such page.", 405: "This address does not take that."}.get(
        error.status_code, str(error.detail)
    )
    if wants_json(request):
        return JSONResponse({"errors": [{"field": "", "value": "", "sentence": sentence}]}, error.status_code)
    return await _page(request, error.status_code, "Not here", sentence)


async def _no_database(request: Request, error: Exception) -> Response:
    log.error("database", reference=request.state.reference, exc_info=error)
    return await _page(
        request,
        503,
        "The record cannot be reached",
        "The database does not answer, so nothing was written. Wait a moment, then send it again.",
    )


async def unexpected(request: Request, error: Exception) -> Response:
    """A calm page with a reference, for what nobody foresaw."""
    log.error("unexpected", reference=request.state.reference, path=request.url.path, exc_info=error)
    sentence = "Something went wrong on our side. Nothing more was written; what you typed is below."
    return await _page(request, 500, "That did not work", sentence)


async def _page(request: Request, status: int, title: str, sentence: str) -> Response:
    reference = request.state.reference
    if wants_json(request):
        return JSONResponse(
            {"errors": [{"field": "", "value": "", "sentence": sentence}], "reference": reference}, status
        )
    try:
        kept = request.app.state.keeper.read(await _kept_token(request))
    except Exception:
        kept = None
    html = request.app.state.renderer.render(
        "frame/error.html",
        request,
        status=status,
        title=title,
        sentence=sentence,
        reference=reference,
        kept_form=kept,
        csrf_token=csrf_for(request),
    )
    return _whole_page(html, status)
