"""The entry line's answers: shop writing in, the right tool with the numbers in it."""

import re
from typing import Any
from urllib.parse import urlencode

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.calculation import BadInput
from nomisma.core.entry_line import HELP, EntryResult
from nomisma.core.fits.fit import FitResult
from nomisma.core.planning.feature_lines import FeatureLinesResult
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.size import SizeResult
from nomisma.core.registry import calculation_named
from nomisma.store import shop
from nomisma.store.models import Machine
from nomisma.web.drawings.fit import code_picture
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Visit, signed_in, unit_shown
from nomisma.web.worksheets.catalog import TOOLS

_JOB = re.compile(r"job\s*#?\s*(?P<number>[0-9]{1,9})", re.IGNORECASE)
router = APIRouter(include_in_schema=False)


@router.get("/ask")
def ask(visit: Visit = Depends(signed_in), q: str = "", unit: str = "") -> Response:
    """Understand a line and answer it; what is not understood is said plainly, and kept in the field."""
    in_force = unit_shown(visit.request, visit.account.unit, asked=unit)
    shown: dict[str, Any] = {
        "line": q[:2000],
        "entry": None,
        "result": None,
        "picture": "",
        "errors": [],
        "help": HELP,
        "entry_unit": in_force,
        "starts": False,
    }
    if job := _JOB.fullmatch(q.strip()):
        return RedirectResponse(f"/jobs/{job['number']}/part", 303)
    if not q.strip():
        return page(visit, "worksheets/ask.html", **shown)
    try:
        entry = calculation_named("entry_line").run({"text": q, "unit": in_force})
        assert isinstance(entry, EntryResult)
        if entry.calculation == "fit_options":
            return RedirectResponse(f"/mate?{urlencode(entry.inputs)}", 303)
        if tool := TOOLS.get(entry.calculation):
            known = {**tool.asked_from(entry.inputs), "unit": _unit_of(entry.inputs, in_force), "q": q.strip()}
            return RedirectResponse(f"{tool.path}?{urlencode(known)}", 303)
        run = calculation_named(entry.calculation).run
        result = run(entry.inputs)
        dials = [(machine, run({**entry.inputs, **_dial(machine)})) for machine in _machines_for(visit, entry)]
    except BadInput as error:
        return page(visit, "worksheets/ask.html", status=422, **{**shown, "errors": error.errors})
    picture = code_picture(result, in_force) if isinstance(result, FitResult) else ""
    answer = {"entry": entry, "result": result, "picture": picture, "dials": dials, "starts": _starts_a_job(result)}
    return page(visit, "worksheets/ask.html", own_unit=_own_unit(result, in_force), **{**shown, **answer})


def _starts_a_job(result: Any) -> bool:
    """Whether a job can be started with the line: it says a feature, or a size with limits, or the class of
    one member.
    """
    match result:
        case FeatureLinesResult():
            return bool(result.features)
        case SizeResult():
            return result.lower is not None and result.angle_deg is None
        case FitResult():
            return (result.hole is None) != (result.shaft is None)
        case _:
            return False


def _unit_of(inputs: dict[str, Any], in_force: Unit) -> Unit:
    """The unit a line was written in: that of its sizes where they all name one, else the unit in force."""
    named = {
        text.rsplit(" ", 1)[-1] for text in inputs.values() if isinstance(text, str) and text.endswith((" mm", " in"))
    }
    return "mm" if named == {"mm"} else "in" if named == {"in"} else in_force


def _own_unit(result: Any, in_force: Unit) -> Unit:
    """A fit is read in the unit of its nominal, a size or an amount in the unit it was written in."""
    if isinstance(result, FeatureLinesResult):
        sizes = [one.nominal or one.upper or one.lower for one in result.features]
        return next((size.unit for size in sizes if size), in_force)
    written = getattr(result, "nominal", None) or getattr(result, "size", None) or getattr(result, "on_diameter", None)
    return written.unit if isinstance(written, Length) else in_force


def _machines_for(visit: Visit, entry: EntryResult) -> list[Machine]:
    """The machines whose lines an amount is given in: those of its unit."""
    if entry.calculation != "amount_to_take":
        return []
    return [machine for machine in shop.machines(visit.db) if entry.inputs["measured"].endswith(machine.unit)]


def _dial(machine: Machine) -> dict[str, str]:
    return {"dial_line": f"{machine.dial_line_mm.normalize():f} mm", "dial_reads": machine.dial_reads}
