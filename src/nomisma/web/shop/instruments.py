"""One instrument: what it is, its checks on its standard, what a failed one puts in doubt; entering and changing it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal
from typing import Any
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError, NotDefined
from nomisma.core.measuring.instrument_kinds import InstrumentKind, instrument_kind, instrument_kinds
from nomisma.core.measuring.zero_check import ZERO_WORDS, ZeroCheckInput, ZeroCheckResult, zero_check
from nomisma.core.quantity.day import LONGEST_DAY, parse_day
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length
from nomisma.exchange.due import Due, as_icalendar
from nomisma.jobs.shop.clock import now
from nomisma.jobs.shop.equipment import (
    MEASURES,
    CheckGiven,
    InstrumentGiven,
    enter_instrument,
    instrument_numbered,
    log_check,
)
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import checks, shop
from nomisma.store.checks import FailedCalibration
from nomisma.store.measuring_method import zero_state
from nomisma.store.models import Instrument, InstrumentCheck, Job
from nomisma.store.readings import uncertainty_of
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
FIELDS = (
    "kind", "name", "measures", "unit", "resolution", "permitted_error", "repeatability", "range_from", "range_to",
    "standard", "due_on",
)  # fmt: skip
LENGTHS = ("resolution", "permitted_error", "repeatability")


@dataclass(frozen=True)
class ListedInstrument:
    """An instrument in the list: what a reading is worth, its newest check, whether it is due."""

    row: Instrument
    uncertainty: Any
    check: InstrumentCheck | None
    zero_words: str
    overdue: bool


def listed(visit: Visit) -> list[ListedInstrument]:
    """Every instrument with its state today."""
    newest = checks.newest_checks(visit.db)
    found = []
    for row in shop.instruments(visit.db):
        check = newest.get(row.first_id)
        words = "failed its check" if check and check.failed else ZERO_WORDS[zero_state(check, now())]
        overdue = row.due_on is not None and row.due_on < now().date()
        found.append(ListedInstrument(row, uncertainty_of(row), check, words, overdue))
    return found


@router.get("/shop/instruments/due.ics")
def due(visit: Visit = Depends(signed_in)) -> Response:
    """The days instruments are due, as iCalendar."""
    rows = [
        Due(id=str(row.first_id), name=row.name, due_on=row.due_on, standard=row.standard)
        for row in shop.instruments(visit.db)
        if row.due_on
    ]
    headers = {"content-disposition": 'attachment; filename="nomisma-instruments-due.ics"'}
    return Response(as_icalendar(rows, made_at=now()), media_type="text/calendar; charset=utf-8", headers=headers)


@router.get("/shop/instruments/new")
def new(visit: Visit = Depends(signed_in), kind: str = "") -> Response:
    """The form for an instrument, with the usual values of its kind."""
    must(visit.account, Action.SET_UP_SHOP)
    try:
        typed = _usual(instrument_kind(kind)) if kind else {}
    except NotDefined as error:
        return _form_page(visit, None, {}, status=422, error=error)
    return _form_page(visit, None, typed)


def _usual(kind: InstrumentKind) -> dict[str, str]:
    """A kind's usual values, as they would be typed."""
    return {
        "kind": kind.name,
        "name": kind.title,
        "measures": kind.measures,
        "unit": kind.unit,
        "resolution": kind.resolution,
        "permitted_error": kind.permitted_error,
        "repeatability": kind.repeatability,
        "range_from": kind.range_from,
        "range_to": kind.range_to,
        "standard": kind.standard,
        "due_on": str(now().date() + timedelta(days=kind.check_every_days)),
    }


def _form_page(
    visit: Visit, row: Instrument | None, typed: dict[str, str], *, status: int = 200, error: InputError | None = None
) -> Response:
    chosen = instrument_kinds().get(typed.get("kind", ""))
    return page(
        visit,
        "shop/instrument_form.html",
        status=status,
        row=row,
        typed=typed,
        error=error,
        kinds=instrument_kinds(),
        chosen=chosen,
    )


@router.post("/shop/instruments")
def add(post: Post = Depends(posted)) -> Response:
    """Enter an instrument."""
    return _write(post, None)


@router.get("/shop/instruments/{first_id}/change")
def change(first_id: UUID, visit: Visit = Depends(signed_in)) -> Response:
    """The form to change an instrument: what is written supersedes, readings keep what was true of theirs."""
    must(visit.account, Action.SET_UP_SHOP)
    row = instrument_numbered(visit.db, first_id)
    typed = {name: str(getattr(row, f"{name}_text", "")) for name in (*LENGTHS, "range_from", "range_to")}
    typed |= {
        name: str(getattr(row, name) or "") for name in ("kind", "name", "measures", "unit", "standard", "due_on")
    }
    return _form_page(visit, row, typed)


@router.post("/shop/instruments/{first_id}/change")
def write_change(first_id: UUID, post: Post = Depends(posted)) -> Response:
    """Write the row that supersedes."""
    sent_before = post.visit.db.get(Instrument, post.form.client_id()) if post.form.text("client_id") else None
    if sent_before:
        return RedirectResponse(f"/shop/instruments/{first_id}", 303)
    return _write(post, instrument_numbered(post.visit.db, first_id))


def _write(post: Post, before: Instrument | None) -> Response:
    visit, form = post.visit, post.form
    must(visit.account, Action.SET_UP_SHOP)
    try:
        row = enter_instrument(visit.db, _instrument(form), by=visit.account, before=before)
    except InputError as error:
        return _form_page(visit, before, {name: form.shown(name) for name in FIELDS}, status=422, error=error)
    visit.db.commit()
    return RedirectResponse(f"/shop/instruments/{row.first_id}" if before else "/shop", 303)


def _instrument(form: Form) -> InstrumentGiven:
    unit = form.unit()
    resolution, permitted_error, repeatability = (
        form.size(name, unit, positive=name != "repeatability") for name in LENGTHS
    )
    range_from, range_to = (
        form.size(name, unit, positive=False) if form.text(name) else None for name in ("range_from", "range_to")
    )
    return InstrumentGiven(
        id=form.client_id(),
        name=form.text("name", needed=True, longest=80),
        unit=unit,
        measures=form.choice("measures", MEASURES),
        resolution=resolution,
        permitted_error=permitted_error,
        repeatability=repeatability,
        kind=form.text("kind", longest=40),
        range_from=range_from,
        range_to=range_to,
        standard=form.text("standard", longest=80),
        due_on=_day(form, "due_on"),
    )


def _day(form: Form, name: str) -> date | None:
    text = form.text(name, longest=LONGEST_DAY)
    try:
        return parse_day(text) if text else None
    except InputError as error:
        raise error.at(name) from None


@router.get("/shop/instruments/{first_id}")
def show(first_id: UUID, visit: Visit = Depends(signed_in)) -> Response:
    """One instrument: its figures, its checks, and what is in doubt because of it."""
    return _page(visit, instrument_numbered(visit.db, first_id))


@dataclass(frozen=True)
class DoubtedTime:
    """A time in which its readings are in doubt, and the jobs that have some."""

    window: FailedCalibration
    jobs: list[tuple[Job, int]]


def _doubted(visit: Visit, first_id: UUID) -> list[DoubtedTime]:
    found = []
    for window in dict.fromkeys(checks.failed_calibrations(visit.db).get(first_id, ())):
        counts = checks.jobs_with_failed_calibration(visit.db, {first_id: [window]})
        found.append(DoubtedTime(window, [(job, counts[job.id]) for job in checks.jobs_by_id(visit.db, list(counts))]))
    return found


def _page(
    visit: Visit,
    row: Instrument,
    *,
    status: int = 200,
    error: InputError | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    history = checks.checks_of(visit.db, row.first_id)
    kind = instrument_kinds().get(row.kind)
    return page(
        visit,
        "shop/instrument.html",
        status=status,
        row=row,
        kind=kind,
        uncertainty=uncertainty_of(row),
        checks=history,
        versions=checks.versions_of(visit.db, row.first_id),
        doubted=_doubted(visit, row.first_id),
        error=error,
        typed=typed or {},
        newest=_judged(history[0]) if history else None,
        own_unit=row.unit,
        standard=_standard(row, kind, history),
    )


def _standard(row: Instrument, kind: InstrumentKind | None, history: Sequence[InstrumentCheck]) -> str:
    """The standard it was last checked on, else what its kind usually is; empty where only the standard
    itself says it.
    """
    if history:
        return history[0].standard_text
    at_mm = kind.checked_at_mm(row.range_from_mm or Decimal(0)) if kind else Decimal(0)
    if at_mm is None:
        return ""
    return show_exact(at_mm, row.unit) if at_mm else "0"


def _judged(check: InstrumentCheck) -> ZeroCheckResult:
    """The newest check as the calculation tells it."""
    unit = check.unit
    return zero_check(
        ZeroCheckInput(
            standard=Length(check.standard_mm, unit),
            readings=[Length(check.standard_mm + check.zero_error_mm, unit)],
            permitted_error=Length(check.permitted_error_mm, unit),
        )
    )


@router.post("/shop/instruments/{first_id}/checks")
def add_check(first_id: UUID, post: Post = Depends(posted)) -> Response:
    """Log a check on the standard; everybody who measures may."""
    visit, form, row = post.visit, post.form, instrument_numbered(post.visit.db, first_id)
    try:
        given = CheckGiven(
            id=form.client_id(),
            standard=form.size("standard", row.unit, positive=False),
            read=form.text("read", needed=True, longest=200),
            note=form.text("note", longest=300),
        )
        log_check(visit.db, row, given, by=visit.account)
    except InputError as error:
        return _page(
            visit, row, status=422, error=error, typed={n: form.shown(n) for n in ("standard", "read", "note")}
        )
    visit.db.commit()
    return RedirectResponse(f"/shop/instruments/{first_id}#check", 303)
