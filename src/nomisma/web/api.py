"""The JSON API: every calculation of the registry under /api/v1/calc, documented in OpenAPI; job records."""

import json
from collections.abc import Callable
from functools import cache
from typing import Any

from anyio import CapacityLimiter, to_thread
from fastapi import APIRouter, Depends, Request
from fastapi.openapi.utils import get_openapi
from fastapi.responses import JSONResponse, Response
from starlette.concurrency import run_in_threadpool

from nomisma.core.calculation import BadInput, Calculation
from nomisma.core.model import Model
from nomisma.core.registry import calculation_named, calculations
from nomisma.exchange.record import JobRecord
from nomisma.jobs.closing.record import record_of
from nomisma.settings import Settings
from nomisma.store.tokens import holder_of
from nomisma.web.frame.job_in_hand import job_in_hand
from nomisma.web.frame.meter import Meter
from nomisma.web.frame.processes import OwnProcesses, Patience, TookTooLong
from nomisma.web.frame.slots import AT_ONCE
from nomisma.web.frame.visit import SignInNeeded, Visit, find_visit, signed_in

TITLE = "Nomisma"
VERSION = "1"
"""Of the API; the program's own is nobody's business."""
router = APIRouter(prefix="/api/v1")


class FieldError(Model):
    """One field that cannot be used: its dotted name, the value as sent (cut), and a sentence."""

    field: str
    value: str
    sentence: str


class Errors(Model):
    """What is wrong, a sentence per field."""

    errors: list[FieldError]


@cache
def described() -> bytes:
    """What this API takes and answers, as it is served; made once a process, when it is first asked for: it takes
    seconds, and no server need wait for it to start.
    """
    return json.dumps(get_openapi(title=TITLE, version=VERSION, routes=router.routes), separators=(",", ":")).encode()


@router.get("/openapi.json", include_in_schema=False)
async def show_described(request: Request) -> Response:
    """What this API takes and answers; for who is signed in, or has a token."""
    if not await run_in_threadpool(_known, request):
        raise SignInNeeded("Sign in first.")
    return Response(await run_in_threadpool(described), media_type="application/json")


@router.get("/calc", summary="The calculations: name, title, validity, source, an example")
def list_calculations() -> list[dict[str, Any]]:
    """The registry."""
    return [
        {"name": c.name, "title": c.title, "validity": c.validity, "source": c.source, "example": c.example}
        for c in calculations().values()
    ]


def _refused(status: int, sentence: str) -> Response:
    return JSONResponse({"errors": [{"field": "", "value": "", "sentence": sentence}]}, status)


def _known(request: Request) -> bool:
    """Whether somebody signed in asks, or a program by its token (Authorization: Bearer …)."""
    scheme, _, token = request.headers.get("authorization", "").partition(" ")
    state = request.app.state
    if scheme.lower() == "bearer":
        with state.reading.session() as db:
            return bool(token) and bool(holder_of(db, kind="program", token=token.strip()))
    with state.reading_sessions() as db:
        return find_visit(request, db) is not None


async def _may_calculate(request: Request) -> Response | None:
    """None where the request may calculate; else what it is answered. Raises SignInNeeded."""
    settings: Settings = request.app.state.settings
    if await run_in_threadpool(_known, request):
        return None
    if not settings.open_calculations:
        raise SignInNeeded("Sign in first.")
    anonymous: Meter = request.app.state.anonymous
    if not anonymous.lets(request.client.host if request.client else ""):
        return _refused(429, f"That is more than {settings.open_calculations} a minute. Wait, or sign in.")
    return None


def _worked(name: str, body: bytes) -> tuple[int, str]:
    """Status and JSON of an answer, or of what is wrong; run in a process of its own, which can be ended."""
    try:
        values = json.loads(body)
    except (ValueError, RecursionError):
        values = None
    if not isinstance(values, dict):
        return 422, _errors("The body is not a JSON object. Send the fields as one object.")
    try:
        return 200, calculation_named(name).run(values).model_dump_json()
    except BadInput as error:
        return 422, json.dumps({"errors": error.as_dicts()})


def _errors(sentence: str) -> str:
    return json.dumps({"errors": [{"field": "", "value": "", "sentence": sentence}]})


def _loaded() -> int:
    """Load every calculation, so that the first one asked for has its whole time."""
    return len(calculations())


PROCESSES = OwnProcesses(AT_ONCE, _loaded)
"""Where calculations are worked: what is given up is ended with its process, and its place is free at once."""


def _endpoint(calculation: Calculation) -> Callable[..., Any]:
    async def run(request: Request) -> Response:
        if refusal := await _may_calculate(request):
            return refusal
        body = await request.body()
        settings: Settings = request.app.state.settings
        limiter: CapacityLimiter = request.app.state.calculating
        try:
            status, answer = await to_thread.run_sync(
                PROCESSES.run, Patience(settings.calculation_seconds), _worked, calculation.name, body, limiter=limiter
            )
        except TookTooLong:
            return _refused(
                503, "That took longer than any calculation here should. Send it again later, or ask for less."
            )
        return Response(answer, status, media_type="application/json")

    return run


def _add(calculation: Calculation) -> None:
    router.add_api_route(
        f"/calc/{calculation.name}",
        _endpoint(calculation),
        methods=["POST"],
        operation_id=f"calc_{calculation.name}",
        summary=calculation.title,
        description=f"Valid for: {calculation.validity}\n\nSource: {calculation.source}",
        responses={
            200: {"model": calculation.result_model},
            **{status: {"model": Errors} for status in (401, 422, 429, 503)},
        },
        openapi_extra={
            "requestBody": {
                "required": True,
                "content": {
                    "application/json": {
                        "schema": calculation.input_model.model_json_schema(),
                        "example": calculation.example,
                    }
                },
            }
        },
    )


for _calculation in calculations().values():
    _add(_calculation)


@router.post("/calc/{name}", include_in_schema=False)
async def unknown_calculation(name: str, request: Request) -> Response:
    """Says which calculations there are."""
    if refusal := await _may_calculate(request):
        return refusal
    calculation_named(name)
    raise AssertionError("every known calculation has a route of its own")  # pragma: no cover


@router.get("/jobs/{number}", summary="The record of a job; needs a sign-in")
def job_record(number: int, visit: Visit = Depends(signed_in)) -> JobRecord:
    """Everything recorded of one job."""
    return record_of(visit.db, job_in_hand(visit, number))
