"""Measure: readings of the made feature against its limits, one after the other; and a quick verdict without a job."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.fits.called_out import called_out
from nomisma.core.measuring.suited import is_too_coarse
from nomisma.core.measuring.verdict import VerdictResult
from nomisma.core.part.feature import Feature, State
from nomisma.core.part.member import MemberKind, member_named
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named
from nomisma.jobs.readings.instrument_choice import InstrumentChoice, finer_than
from nomisma.jobs.readings.reading_log import supersede
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.state import JobState
from nomisma.store import readings, shop
from nomisma.store.append import AlreadyChanged
from nomisma.store.checks import calibration_failed, failed_calibrations
from nomisma.store.gauges import gauges_of, waiting
from nomisma.store.measuring_method import method_of
from nomisma.store.models import Reading
from nomisma.store.readings import LoggedReading, uncertainty_of
from nomisma.web.drawings.strip import StripMark, strip
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in, unit_shown
from nomisma.web.job.job_page import job_page
from nomisma.web.job.reading_form import ReadingForm, correction_from, feature_log, form_for, log_from
from nomisma.web.job.trials import trial_page

router = APIRouter(include_in_schema=False)
A_PAGE = 50


@dataclass(frozen=True)
class JudgedReading:
    """A logged reading with its state against the limits in force, and whether its instrument failed the next check."""

    logged: LoggedReading
    state: State | None
    calibration_failed: bool = False


def judged_log(visit: Visit, state: JobState, log: list[LoggedReading]) -> list[JudgedReading]:
    """Every reading against the limits in force now."""
    windows = failed_calibrations(visit.db)

    return [
        JudgedReading(
            item,
            item.state_within(state.feature, state.acceptance),
            item.stands and calibration_failed(windows, item.instrument, item.row.at),
        )
        for item in log
    ]


def strip_of(state: JobState, judged: list[JudgedReading]) -> str:
    """The drawn strip of the standing readings between the limits."""
    if not state.limits:
        return ""
    marks = [
        StripMark(item.logged.row.size_mm, item.logged.uncertainty_mm, item.state, item.logged.row.place)
        for item in judged
        if item.logged.stands and item.state
    ]
    return strip(state.feature, marks, state.unit)


def _values(
    visit: Visit, state: JobState, *, typed: Form | None = None, error: InputError | None = None
) -> dict[str, Any]:
    log = feature_log(visit, state)
    form = form_for(visit, state, log, action=href(state, "measure/readings"), typed=typed, error=error)
    return {
        "state": state,
        "job": state.job,
        "since": _since(state, log),
        "form": form,
        "gauges": gauges_of(visit.db, state.feature_id),
        "waiting": waiting(visit.db, state.feature_id, now()),
        "stage": "measure",
        "section": section_of_job(state) if len(state.made) > 1 else "",
        **measured(visit, state, log, form),
    }


def measured(visit: Visit, state: JobState, log: list[LoggedReading], form: ReadingForm) -> dict[str, Any]:
    """What the readings so far say: the newest with its verdict and budget, all of them judged and drawn."""
    judged = judged_log(visit, state, log)
    newest = next((item.logged for item in reversed(judged) if item.logged.stands), None)
    verdict = _verdict(state, newest) if newest else None
    return {
        "judged": judged,
        "newest": newest,
        "budget": method_of(visit.db, newest.row).budget(newest.row.size_mm) if newest else None,
        "finer": _finer(form, verdict, newest.row.size_mm) if newest else "",
        "doubted": sum(item.calibration_failed for item in judged),
        "verdict": verdict,
        "lines": state.lines(verdict.to_aim.mm if verdict else Decimal(0)),
        "strip": strip_of(state, judged),
        "too_coarse": _too_coarse(state, form),
    }


def _verdict(state: JobState, logged: LoggedReading) -> VerdictResult | None:
    """The whole verdict of one reading, with amounts and working."""
    return state.judged(
        logged.row.size_mm,
        logged.uncertainty_mm,
        logged.row.size_unit,
        half_bracket_mm=logged.row.half_bracket_mm,
    )


def _finer(form: ReadingForm, verdict: VerdictResult | None, size_mm: Decimal) -> str:
    """The finest instrument at hand that reaches the size (mm), where it is too close to call with the one in use."""
    if verdict is None or verdict.state is not State.TOO_CLOSE_TO_CALL or form.chosen is None:
        return ""
    found = finer_than(form.chosen, form.instruments, size_mm)
    return found.name if found else ""


def _too_coarse(state: JobState, form: ReadingForm) -> Decimal | None:
    """What a reading is worth (mm) with the instrument at hand, where it could never call these limits kept."""
    limits = state.both_limits
    if form.chosen is None or limits is None or state.acceptance == "simple":
        return None
    if form.chosen.brackets:
        return None
    uncertainty = uncertainty_of(form.chosen.instrument)
    return uncertainty if is_too_coarse(uncertainty, limits.upper_mm - limits.lower_mm) else None


def _since(state: JobState, log: list[LoggedReading]) -> str:
    """What a page has seen: the newest reading, the limits in force, whether it is closed."""
    newest = log[-1].row.sequence if log else 0
    return f"{newest}.{state.requirement.version if state.requirement else 0}.{int(state.handed_over)}"


@router.get("/jobs/{number}/measure")
def show(number: int, visit: Visit = Depends(signed_in), part: str = "", since: str = "") -> Response:
    """The Measure page, or only the part that other people's readings change (nothing at all if they changed
    nothing).
    """
    state = job_in_hand(visit, number)
    if state.is_compared:
        return trial_page(visit, state)
    if part == "seen" and since == _since(state, feature_log(visit, state)):
        return Response(status_code=204)
    template = "job/measure/_seen.html" if part == "seen" else "job/measure/page.html"
    return page(visit, template, own_unit=state.unit, **_values(visit, state))


@router.get("/jobs/{number}/readings")
def older(number: int, visit: Visit = Depends(signed_in), before: int | None = None) -> Response:
    """The whole log of the made member, page by page, newest first."""
    state = job_in_hand(visit, number)
    found = readings.log(visit.db, state.feature_id, last=A_PAGE + 1, before=before)
    shown = found[-A_PAGE:]
    return job_page(
        visit,
        "job/measure/log.html",
        state,
        "measure",
        judged=judged_log(visit, state, shown),
        older=shown[0].row.sequence if len(found) > A_PAGE else None,
        before=before,
    )


@router.post("/jobs/{number}/measure/readings")
def add_reading(number: int, post: Post = Depends(posted)) -> Response:
    """Log one reading; the answer is the page with its verdict and the next field ready."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    try:
        log_from(visit, state, post.form)
    except InputError as error:
        return _answer(visit, state, status=422, typed=post.form, error=error)
    if not visit.request.headers.get("hx-request"):
        return RedirectResponse(href(state, "measure"), 303)
    return _answer(visit, job_in_hand(visit, number))


def _answer(
    visit: Visit, state: JobState, *, status: int = 200, typed: Form | None = None, error: InputError | None = None
) -> Response:
    part = bool(visit.request.headers.get("hx-request"))
    template = "job/measure/_work.html" if part else "job/measure/page.html"
    return page(visit, template, status=status, own_unit=state.unit, **_values(visit, state, typed=typed, error=error))


@router.get("/jobs/{number}/readings/{reading_id}/correct")
def correct(number: int, reading_id: UUID, visit: Visit = Depends(signed_in)) -> Response:
    """The form that supersedes a reading."""
    return _correct_page(visit, job_in_hand(visit, number), reading_id)


def _correct_page(
    visit: Visit,
    state: JobState,
    reading_id: UUID,
    *,
    status: int = 200,
    form: Form | None = None,
    error: InputError | None = None,
) -> Response:
    reading = _standing(visit, state, reading_id)
    return job_page(
        visit,
        "job/measure/correct.html",
        state,
        _stage_of(state, reading),
        status=status,
        reading=reading,
        error=error,
        typed=form.shown("size") if form else "",
        reason=form.shown("reason") if form else "",
    )


def _stage_of(state: JobState, reading: Reading) -> str:
    """Where a reading was logged: of the feature on the other side of the joint on Mate."""
    return "measure" if reading.feature_id == state.feature_id else "mate"


def _standing(visit: Visit, state: JobState, reading_id: UUID) -> Reading:
    reading = readings.standing(visit.db, reading_id)
    if reading is None or reading.job_id != state.job.id:
        raise AlreadyChanged(
            "That reading has been superseded already. Look at the newest one, and correct that if it is wrong."
        )
    return reading


@router.post("/jobs/{number}/readings/{reading_id}/correct")
def write_correction(number: int, reading_id: UUID, post: Post = Depends(posted)) -> Response:
    """Write the superseding row; nothing is overwritten."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    sent = visit.db.get(Reading, post.form.client_id())
    reading = (
        visit.db.get_one(Reading, reading_id)
        if sent and sent.supersedes_id == reading_id
        else _standing(visit, state, reading_id)
    )
    try:
        supersede(visit.db, state, reading, correction_from(post.form), by=visit.account)
        visit.db.commit()
    except InputError as error:
        return _correct_page(visit, state, reading_id, status=422, form=post.form, error=error)
    return RedirectResponse(href(state, _stage_of(state, reading)), 303)


@router.get("/verdict")
def quick(visit: Visit = Depends(signed_in)) -> Response:
    """A reading against limits at once, without a job."""
    asked = {
        name: visit.request.query_params.get(name, "")[:200] for name in ("kind", "limits", "reading", "instrument_id")
    }
    own = unit_shown(visit.request, visit.account.unit)
    answer, errors = None, []
    if asked["limits"] or asked["reading"]:
        try:
            answer = _quick_verdict(visit, asked, own)
        except BadInput as error:
            errors = error.errors
        except InputError as error:
            errors = [error]
    drawn = ""
    if answer:
        low, high, aim, size = answer["bounds"]
        mark = StripMark(size, answer["uncertainty"], answer["result"].state, "")
        drawn = strip(Feature(answer["kind"], low, high, aim), [mark], own)
    return page(
        visit,
        "worksheets/verdict.html",
        asked=asked,
        answer=answer,
        errors=errors,
        strip=drawn,
        instruments=shop.instruments(visit.db),
    )


def _quick_verdict(visit: Visit, asked: dict[str, str], unit: Unit) -> dict[str, Any]:
    instrument = next((row for row in shop.instruments(visit.db) if str(row.id) == asked["instrument_id"]), None)
    if instrument is None:
        raise InputError("No instrument is chosen.", "Choose the one you measured with.", field="instrument_id")
    kind = member_named(asked["kind"] or "shaft")
    low, high = limits_from(asked["limits"], unit, kind)
    try:
        size = parse_length(asked["reading"], instrument.unit)
    except InputError as error:
        raise error.at("reading") from None
    InstrumentChoice(instrument).must_reach(size, "reading")
    uncertainty = uncertainty_of(instrument)
    result = calculation_named("verdict").run(
        {"kind": kind, "reading": size, "lower": low, "upper": high, "uncertainty": Length(uncertainty, unit)}
    )
    resolution = instrument.resolution_mm
    return {
        "result": result,
        "kind": kind,
        "feature": Feature(kind, low.mm, high.mm),
        "uncertainty": uncertainty,
        "resolution": resolution,
        "bounds": (low.mm, high.mm, (low.mm + high.mm) / 2, size.mm),
    }


def limits_from(text: str, unit: Unit, kind: MemberKind) -> tuple[Length, Length]:
    """Two limits from a callout: 0.3755/0.3760, 28±0.1, 25 H7 or 1 RC4. Raises InputError."""
    found = called_out(kind, text, unit=unit, field="limits")
    return Length(found.lower_mm, found.unit), Length(found.upper_mm, found.unit)
