"""Cut along the axis: what is left to face or to deepen, in passes, by the dial, indicator or readout that is
at hand.
"""

from dataclasses import dataclass
from typing import Any, get_args

from fastapi.responses import Response

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.facing import By, FacingInput, FacingResult
from nomisma.core.errors import InputError
from nomisma.core.part.feature import State, cut_direction
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.state import JobState
from nomisma.store.gauges import gauges_of, waiting
from nomisma.web.drawings.cutting import facing_picture
from nomisma.web.frame.job_in_hand import href
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Form, Visit
from nomisma.web.job.job_page import job_page
from nomisma.web.job.reading_form import feature_log, form_for

ASKED = ("by", "compound_deg", "depth", "finish")
LINES: dict[str, str] = {"carriage": "carriage_line", "compound": "compound_line"}
"""Which of a machine's figures says one line of which dial."""


@dataclass(frozen=True)
class AlongTheAxis:
    """What the coach says of a length: passes and lines; or what is wrong, or none where nothing is left or nothing was
    measured.
    """

    asked: dict[str, str]
    result: FacingResult | None = None
    errors: tuple[InputError, ...] = ()


def along_page(
    visit: Visit,
    state: JobState,
    *,
    part: str = "",
    status: int = 200,
    typed: Form | None = None,
    error: InputError | None = None,
) -> Response:
    """The Cut page of a length, a height or a depth."""
    form = form_for(
        visit, state, feature_log(visit, state), action=href(state, "cut/readings"), typed=typed, error=error
    )
    return job_page(
        visit,
        "job/cut/_along_work.html" if part == "work" else "job/cut/page.html",
        state,
        "cut",
        status=status,
        form=form,
        error=error,
        gauges=gauges_of(visit.db, state.feature_id),
        waiting=waiting(visit.db, state.feature_id, now()),
        section=section_of_job(state) if len(state.made) > 1 else "",
        before_metal=[] if part else plan_of(visit.db, state).before_metal,
        **along_of(visit, state, form.piece),
    )


def along_of(visit: Visit, state: JobState, piece: str) -> dict[str, Any]:
    """What the coach says of a length of a piece, as a page shows it: passes, dials, what a readout shows."""
    found, now_mm = _coached(visit, state, piece), _size_mm(state, piece)
    return {
        "found": found,
        "picture": facing_picture(found.result, state.unit) if found.result else "",
        "now_mm": now_mm,
        "cut_direction": cut_direction(state.feature.kind),
        "readout_stop_mm": _readout_stop_mm(state, found.result, now_mm),
        "dials": tuple(_dials(state)),
        "usual": {
            name: show_exact(FacingInput.model_fields[name].default.mm, state.unit) for name in ("depth", "finish")
        },
    }


def _readout_stop_mm(state: JobState, result: FacingResult | None, now_mm: Any) -> Any:
    """Where a readout set to the measured length stands at the end of the next pass, mm; none where none is to come."""
    return (
        None
        if result is None or not result.passes
        else now_mm - cut_direction(state.feature.kind) * result.passes[0].mm
    )


def _dials(state: JobState) -> dict[str, str]:
    """One line of each dial that moves along the axis, where the job's machine says it."""
    room = state.job.machine.room if state.job.machine else {}
    return {dial: room[name] for dial, name in LINES.items() if room.get(name)}


def _asked(visit: Visit, state: JobState) -> dict[str, str]:
    """How it is set, as asked for; else by the first dial that is known, else by the readout."""
    asked = {name: visit.request.query_params.get(name, "").strip()[:40] for name in ASKED}
    known = [by for by in get_args(By) if by not in LINES or by in _dials(state)]
    if asked["by"] not in known:
        asked["by"] = next(iter([*_dials(state), "readout"]))
    return asked


def _size_mm(state: JobState, piece: str) -> Any:
    """The size to work from (mm): the largest place of what gets shorter, the shallowest of what gets deeper, so that
    all of it gets there.
    """
    groups = state.own_readings.of_piece(piece).groups
    ends = [mm for group in groups for mm in (group.smallest_mm, group.largest_mm)]
    return max(ends, key=lambda mm: state.feature.metal_to_take(mm, mm * 0), default=None)


def _coached(visit: Visit, state: JobState, piece: str) -> AlongTheAxis:
    asked = _asked(visit, state)
    limits, size_mm = state.both_limits, _size_mm(state, piece)
    verdict = state.verdict_of(state.own_readings.of_piece(piece))
    if limits is None or size_mm is None or verdict is None or verdict.state is not State.METAL_TO_GO:
        return AlongTheAxis(asked)
    values: dict[str, Any] = {
        "kind": state.kind,
        "measured": Length(size_mm, state.unit),
        "wanted": Length(limits.aim_mm, state.unit),
        "by": asked["by"],
        "unit": state.unit,
        "line": _dials(state).get(asked["by"]),
        "may_stay": Length(state.feature.metal_may_stay_mm, state.unit),
        **{name: asked[name] for name in ("compound_deg", "depth", "finish") if asked[name]},
    }
    for name in ("depth", "finish"):
        if name in values and values[name].replace(".", "").replace(",", "").isdigit():
            values[name] = f"{values[name]} {state.unit}"
    try:
        result = calculation_named("facing").run(values)
    except BadInput as bad:
        return AlongTheAxis(asked, errors=tuple(bad.errors))
    assert isinstance(result, FacingResult)
    return AlongTheAxis(asked, result)
