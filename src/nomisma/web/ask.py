"""The entry line's answers: shop writing in, the right tool with the numbers in it."""

from typing import Any
from urllib.parse import urlencode

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.calculation import BadInput
from nomisma.core.entry_line import HELP, EntryResult
from nomisma.core.fits.fit import FitResult
from nomisma.core.registry import calculation_named
from nomisma.store import shop
from nomisma.web.drawings.fit import code_picture
from nomisma.web.pages import page
from nomisma.web.visit import Visit, signed_in, unit_shown

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
        "in_force": in_force,
    }
    if not q.strip():
        return page(visit, "ask.html", **shown)
    try:
        entry = calculation_named("entry_line").run({"text": q, "unit": in_force})
        assert isinstance(entry, EntryResult)
        if entry.calculation == "fit_options":
            return RedirectResponse(f"/mate?{urlencode(entry.inputs)}", 303)
        result = calculation_named(entry.calculation).run(_with_dial(visit, entry))
    except BadInput as error:
        return page(visit, "ask.html", status=422, **{**shown, "errors": error.errors})
    picture = code_picture(result, in_force) if isinstance(result, FitResult) else ""
    return page(visit, "ask.html", **{**shown, "entry": entry, "result": result, "picture": picture})


def _with_dial(visit: Visit, entry: EntryResult) -> dict[str, Any]:
    """An amount to take is also given in lines, where the shop has just one machine in that unit."""
    inputs = dict(entry.inputs)
    if entry.calculation != "amount_to_take":
        return inputs
    machines = [machine for machine in shop.machines(visit.db) if inputs["measured"].endswith(machine.unit)]
    if len(machines) == 1:
        inputs |= {"dial_line": f"{machines[0].dial_line_mm.normalize():f} mm", "dial_reads": machines[0].dial_reads}
    return inputs
