"""The routes of the worksheets: an index, and one page each that answers as soon as something is typed."""

from collections.abc import Callable, Mapping
from dataclasses import asdict
from decimal import Decimal
from typing import Any, get_args

from fastapi import APIRouter, Depends
from fastapi.responses import Response

from nomisma.core.calculation import BadInput
from nomisma.core.entry_line import LONGEST_LINE
from nomisma.core.errors import InputError
from nomisma.core.fits.options import FitOption, FitSystem
from nomisma.core.joints.bush_model import BushResult
from nomisma.core.part.member import of_member
from nomisma.core.quantity.display import show_between, show_exact
from nomisma.core.quantity.length import Unit, in_unit
from nomisma.core.registry import calculation_named
from nomisma.jobs.opening.bush_work import BushLimits, bush_limits, known_of, versions_of
from nomisma.jobs.shop.own_speeds import own_speed
from nomisma.jobs.shop.shop_rules import shop_rules_of
from nomisma.jobs.shop.slip_shelf import USUAL_SET, slips_owned
from nomisma.jobs.standing.state import JobState
from nomisma.store import assembly
from nomisma.web.frame.job_in_hand import job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.slots import calculating
from nomisma.web.frame.visit import Visit, signed_in, unit_shown
from nomisma.web.worksheets import along
from nomisma.web.worksheets.catalog import CUT, FITS, HOLD, JOINTS, TOOLS
from nomisma.web.worksheets.length_tools import LENGTHS, SMALL_SUMS
from nomisma.web.worksheets.plan_tools import PLAN
from nomisma.web.worksheets.tool import JobValues, Tool

router = APIRouter(include_in_schema=False)
LEARNED = ("close_in_factor",)
"""Fields the shop fills from what it has seen."""


@router.get("/worksheets")
def index(visit: Visit = Depends(signed_in)) -> Response:
    """All worksheets, each with its question."""
    return page(
        visit,
        "worksheets/index.html",
        groups=(
            ("Fits", FITS),
            ("Joints", JOINTS),
            ("Plan", PLAN),
            ("Hold", HOLD),
            ("Cut", CUT),
            ("Lengths and angles", LENGTHS),
            ("Small sums", SMALL_SUMS),
        ),
    )


def worksheet_page(tool: Tool) -> Callable[..., Response]:
    """The page of one worksheet."""

    def show(visit: Visit = Depends(signed_in), job: int | None = None) -> Response:
        state = job_in_hand(visit, job) if job is not None else None
        typed = dict(visit.request.query_params)
        unit = unit_shown(visit.request, state.unit if state else visit.account.unit, asked=typed.get("unit", ""))
        if state and tool.nothing_typed(typed):
            typed |= _from_job(tool, state)
        is_example = state is None and not typed.get("q") and tool.nothing_typed(typed)
        asked = with_shop(visit, tool, tool.asked(typed, with_example=is_example), typed, unit)
        template = (
            "worksheets/_answer.html" if visit.request.headers.get("hx-target") == "answer" else "worksheets/page.html"
        )
        shown = answered(visit, tool, asked, unit)
        shown["on_part"] = tool.on_part(state, shown["answer"]) if state and shown["answer"] else ""
        shown |= bush_shown(state, shown["answer"])
        return page(
            visit,
            template,
            tool=tool,
            asked=asked,
            state=state,
            job=state.job if state else None,
            is_example=is_example,
            line=typed.get("q", "")[:LONGEST_LINE],
            own_unit=unit,
            **shown,
        )

    return show


def bush_shown(state: JobState | None, answer: Any) -> dict[str, Any]:
    """What a bush's answer may be put in force as, where the worksheet was opened from the bush's own job."""
    if state is None or state.bush is None or state.handed_over or not isinstance(answer, BushResult):
        return {"to_work_to": None}
    bush: BushLimits = bush_limits(answer, state.unit)
    return {"to_work_to": bush, "based_on": versions_of(state.bush)}


for _tool in TOOLS.values():
    router.add_api_route(_tool.path, worksheet_page(_tool), methods=["GET"], name=_tool.calculation)


def with_shop(visit: Visit, tool: Tool, asked: dict[str, str], typed: Mapping[str, str], unit: Unit) -> dict[str, str]:
    """What the shop has learned, and what is on its shelf, where nobody typed anything else."""
    if tool.takes_slips and not typed.get("set"):
        owned = slips_owned(visit.db, unit)
        return {**asked, **asdict(owned), "set": owned.set or USUAL_SET[unit]}
    if LEARNED[0] in asked and not typed.get(LEARNED[0]):
        learned = assembly.close_in_factor(visit.db)
        return {**asked, LEARNED[0]: str(learned[0]) if learned else "1"}
    return asked


def answered(visit: Visit, tool: Tool, asked: dict[str, str], unit: Unit) -> dict[str, Any]:
    """The answer and its picture, or what is wrong with each field."""
    try:
        with calculating(visit):
            result = calculation_named(tool.calculation).run(values_of(visit, tool, asked, unit))
    except BadInput as error:
        return {"answer": None, "picture": "", "errors": error.errors}
    except InputError as error:
        return {"answer": None, "picture": "", "errors": [error]}
    return {"answer": result, "picture": tool.picture(result, unit), "errors": []}


def values_of(visit: Visit, tool: Tool, asked: Mapping[str, str], unit: Unit) -> dict[str, Any]:
    """What the calculation is given: the fields as typed, and the shop's own rules and speeds. Raises InputError."""
    values = tool.inputs(asked, unit)
    if tool.takes_rules:
        values["shop_rules"] = shop_rules_of(visit.db)
    if tool.takes_speeds and (own := own_speed(visit.db, asked["material"], asked["tool"])):
        values["own_m_min"] = own
    return values


def _from_job(tool: Tool, state: JobState) -> dict[str, str]:
    """What the job knows of the worksheet's fields; nothing is filled in that nobody knows."""
    known = {name: text for name, text in tool.from_job(job_values(state)).items() if text}
    if not known:
        return {}
    return known


def job_values(state: JobState) -> JobValues:
    """What a job knows of its two members, as text."""
    partner, made = _partner_text(state), _made_text(state)
    texts = {state.partner_kind: partner, state.made_kind: made}
    clearance = state.clearance_mm or _drawn_clearance(state)
    limits = state.both_limits
    diameter = limits.aim_mm if limits else state.partner.mean_mm if state.partner else None
    ends = [show_exact(mm, state.unit).replace("−", "-") for mm in clearance] if clearance else ["", ""]
    tight = (
        [show_exact(-mm, state.unit).replace("−", "-") for mm in reversed(clearance)]
        if clearance and clearance[1] < 0
        else ["", ""]
    )
    aim, measured = show_exact(limits.aim_mm, state.unit) if limits else "", made if state.own_readings.count else ""
    return JobValues(
        bore=texts["bore"],
        shaft=texts["shaft"],
        diameter=show_exact(diameter, state.unit) if diameter else "",
        clearance_min=ends[0],
        clearance_max=ends[1],
        interference_min=tight[0],
        interference_max=tight[1],
        reading_uncertainty=_reading_uncertainty(state),
        kind=state.made_kind,
        limits=show_between(limits.lower_mm, limits.upper_mm, state.unit) if limits else "",
        aim=aim,
        measured=measured,
        measured_outside=of_member(state.made_kind, shaft=measured, bore=""),
        bore_aim=of_member(state.made_kind, shaft="", bore=aim),
        outside_aim=of_member(state.made_kind, shaft=aim, bore=""),
        speeds=state.job.machine.speeds if state.job.machine else "",
        most_rpm=str(state.job.machine.most_rpm or "") if state.job.machine else "",
        chain=along.chain_text(state),
        stops=along.stops_text(state),
        outside=along.largest_outside(state),
        thread=_thread_text(state),
        groove=along.first_groove(state),
        blank=along.blank_of(state),
        bore_ends=along.bore_ends(state),
        shoulder=along.shoulder_of(state),
        bush=known_of(state.bush) if state.bush else {},
    )


def _thread_text(state: JobState) -> str:
    wanted = state.requirement if state.feature.of_kind.cut_as == "thread" else None
    return wanted.text if wanted else ""


def _reading_uncertainty(state: JobState) -> str:
    """What the worst of the job's readings is worth."""
    groups = (*state.partner_readings.groups, *state.own_readings.groups)
    worst = max((group.uncertainty_mm for group in groups), default=Decimal(0))
    return f"{in_unit(worst, state.unit).quantize(Decimal('0.000001')):f} {state.unit}" if worst else ""


def _partner_text(state: JobState) -> str:
    if state.partner_callout:
        return state.partner_callout
    found = state.partner_readings
    return show_between(found.smallest_mm, found.largest_mm, state.unit) if found.count else ""


def _made_text(state: JobState) -> str:
    if state.own_readings.count:
        return show_between(state.own_readings.smallest_mm, state.own_readings.largest_mm, state.unit)
    limits = state.both_limits
    return show_between(limits.lower_mm, limits.upper_mm, state.unit) if limits else ""


def _drawn_clearance(state: JobState) -> tuple[Any, Any] | None:
    """The clearance the chosen fit gives; none of limits that come from a drawing, a line or a sample."""
    if state.limits is None or state.limits.limits_from not in get_args(FitSystem):
        return None
    found = FitOption.as_kept(state.limits.option)
    return (found.clearance_min.mm, found.clearance_max.mm) if found.clearance_min and found.clearance_max else None
