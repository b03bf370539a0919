"""What the coach says of a run of cuts, as a page shows it: on Cut, and on Make."""

from dataclasses import replace
from typing import Any
from urllib.parse import urlencode

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.dial import alike, turns_and_lines
from nomisma.core.cutting.speeds import SpeedsResult
from nomisma.core.errors import InputError
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.cutting.cutting_run import CuttingRun, cleans_up, spindle_of
from nomisma.jobs.standing.limits_in_force import Between
from nomisma.web.drawings.dial import wheel_picture
from nomisma.web.drawings.passes import CutDrawn, Run, passes_picture
from nomisma.web.frame.visit import Form, Visit
from nomisma.web.job.reading_form import ReadingForm


def said_of(visit: Visit, run: CuttingRun) -> dict[str, Any]:
    """All that the coach says and draws of a run: its advice, whether the stock cleans up, the passes so far."""
    scale, ovality = (_asked_length(visit, name, run) for name in ("scale", "ovality"))
    limits, advice = run.state.both_limits, advice_of(visit, run)
    return advice | {
        "beside": _beside(run),
        "clean": cleans_up(visit.db, run, scale=scale, ovality=ovality),
        "asked": {name: visit.request.query_params.get(name, "")[:40] for name in ("scale", "ovality")},
        "passes": passes_picture(_drawn(run, limits), advice["result"]) if limits else "",
    }


def advice_of(visit: Visit, run: CuttingRun) -> dict[str, Any]:
    """What the coach advises of the next cut, and the handwheel; where it cannot, what is wrong. A hazard of the
    spindle stands above the amounts, not in their place.
    """
    problems: list[InputError] = []
    try:
        result, wound = run.result, run.wound
    except BadInput as bad:
        result, wound, problems = None, None, bad.errors
    except InputError as one:
        result, wound, problems = None, None, [one]
    spindle, hazards = _spindle(visit, run)
    return {
        "result": result,
        "wound": wound,
        "spindle": spindle,
        "hazards": hazards,
        "problems": problems,
        "wheel": wheel_picture(wound) if wound else "",
    }


def _spindle(visit: Visit, run: CuttingRun) -> tuple[SpeedsResult | None, list[InputError]]:
    """The spindle speed, or why none of this machine's will do."""
    try:
        return spindle_of(visit.db, run), []
    except BadInput as bad:
        return None, bad.errors
    except InputError as one:
        return None, [one]


def _beside(run: CuttingRun) -> list[tuple[str, str]]:
    """Worksheets that help with this piece, the numbers known in them: address and question."""
    limits, unit = run.state.both_limits, run.state.unit
    if run.state.feature.side != "internal" or limits is None:
        return []
    if run.size_mm is None:
        known = {
            "finished": show_exact(limits.aim_mm, unit),
            "method": "bore",
            "job": run.state.job.number,
            "feature": run.state.letter,
        }
        return [(f"/hole?{urlencode(known)}", "No hole yet? Which drill leaves enough")]
    known = {"hole": show_exact(run.size_mm, unit), "job": run.state.job.number, "feature": run.state.letter}
    return [(f"/boring-bar?{urlencode(known)}", "Will the bar go in, and reach?")]


def _drawn(run: CuttingRun, limits: Between) -> Run:
    cuts = [
        CutDrawn(one.before_mm, one.after_mm, one.row.expected_low_mm, one.row.expected_high_mm)
        for one in run.cuts
        if one.row.piece == run.piece and one.after_mm is not None
    ]
    return Run(run.state.made_kind, limits.lower_mm, limits.upper_mm, limits.aim_mm, run.size_mm, cuts)


def _asked_length(visit: Visit, name: str, run: CuttingRun) -> Length | None:
    """A length from the address; what is none is left out, and the page shows it empty."""
    text = visit.request.query_params.get(name, "")[:40]
    try:
        return parse_length(text, run.state.unit, positive=False) if text else None
    except InputError:
        return None


def advised_in(form: ReadingForm, run: CuttingRun, typed: Form | None) -> ReadingForm:
    """The reading's form with what the coach advised to be said or not: what was really dialled is asked, not taken for
    granted.
    """
    try:
        advised = run.result.dialled if run.result else None
    except (BadInput, InputError):
        advised = None
    if typed is not None or advised is None:
        return form
    return replace(form, advised=_in_lines(run) or show_exact(advised.mm, run.state.unit), cut=True)


def _in_lines(run: CuttingRun) -> str:
    """What was advised as it is wound: 28 lines, 1 turn + 88 lines then 20 lines."""
    result = run.result
    if result is None or not result.lines:
        return ""
    parts = alike(result.parts or [result.lines])
    return " then ".join(
        f"{f'{times} x ' if times > 1 else ''}{turns_and_lines(one, run.lines_a_turn)}" for one, times in parts
    )


def with_what_if(visit: Visit, run: CuttingRun) -> tuple[CuttingRun, InputError | None]:
    """The run with an amount to be tried in thought, and what is wrong with it."""
    text = visit.request.query_params.get("if_dialled", "").strip()[:120]
    if not text:
        return run, None
    try:
        return replace(run, if_dialled=run.dialled(text).total), None
    except InputError as error:
        return run, error
