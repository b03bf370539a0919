"""The JSON API: every calculation of the registry under /api/v1/calc, documented in OpenAPI; job records."""

from collections.abc import Callable
from typing import Any

from fastapi import APIRouter, Depends, Request
from fastapi.responses import JSONResponse, Response

from nomisma.core.calculation import Calculation
from nomisma.core.model import Model
from nomisma.core.registry import calculation_named, calculations
from nomisma.exchange.record import JobRecord
from nomisma.web.job_state import state_numbered
from nomisma.web.record import record_of
from nomisma.web.visit import Visit, signed_in

router = APIRouter(prefix="/api/v1")


class FieldError(Model):
    """One field that cannot be used: its dotted name, the value as sent (cut), and a sentence."""

    field: str
    value: str
    sentence: str


class Errors(Model):
    """What is wrong, a sentence per field."""

    errors: list[FieldError]


@router.get("/calc", summary="The calculations: name, title, validity, source, an example")
def list_calculations() -> list[dict[str, Any]]:
    """The registry."""
    return [
        {"name": c.name, "title": c.title, "validity": c.validity, "source": c.source, "example": c.example}
        for c in calculations().values()
    ]


def _endpoint(calculation: Calculation) -> Callable[..., Any]:
    async def run(request: Request) -> Response:
        try:
            values = await request.json()
        except ValueError:
            values = None
        if not isinstance(values, dict):
            error = {"field": "", "value": "", "sentence": "The body is not a JSON object. Send the fields as one object."}
            return JSONResponse({"errors": [error]}, 422)
        result = calculation_named(calculation.name).run(values)
        return Response(result.model_dump_json(), media_type="application/json")

    return run


def _add(calculation: Calculation) -> None:
    router.add_api_route(
        f"/calc/{calculation.name}",
        _endpoint(calculation),
        methods=["POST"],
        operation_id=f"calc_{calculation.name}",
        summary=calculation.title,
        description=f"Valid for: {calculation.validity}\n\nSource: {calculation.source}",
        responses={200: {"model": calculation.result_model}, 422: {"model": Errors}},
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
def unknown_calculation(name: str) -> Response:
    """Says which calculations there are."""
    calculation_named(name)
    raise AssertionError("every known calculation has a route of its own")  # pragma: no cover


@router.get("/jobs/{number}", summary="The record of a job; needs a sign-in")
def job_record(number: int, visit: Visit = Depends(signed_in)) -> JobRecord:
    """Everything recorded of one job."""
    return record_of(visit, state_numbered(visit.db, number))
