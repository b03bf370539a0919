"""Mate: the partner as measured or called out, what the joint must do, and every fit system's limits side by side."""

from collections.abc import Sequence
from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.fits.fit import FitKind
from nomisma.core.fits.functions import functions
from nomisma.core.fits.options import FitOption, OptionsResult
from nomisma.core.fits.partner import PartnerInput, partner_from
from nomisma.core.fits.shop_rules import ShopRule
from nomisma.core.materials.material import materials
from nomisma.core.number import is_whole
from nomisma.core.part.member import member_named
from nomisma.core.quantity.length import Length, Unit
from nomisma.jobs.opening.mating import (
    ASKED,
    OptionChosen,
    choose_option,
    measured_partner,
    options_input,
    run_options,
    with_settings,
)
from nomisma.jobs.opening.requirements import say_partner
from nomisma.jobs.shop.shop_rules import shop_rules_of
from nomisma.jobs.standing.state import JobState
from nomisma.store import readings, shop
from nomisma.store.by_version import by_version
from nomisma.store.readings import NEWEST_READINGS, uncertainty_of
from nomisma.web.drawings.fit import fit_picture
from nomisma.web.frame.job_in_hand import href, href_at, job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in, unit_shown
from nomisma.web.job.reading_form import feature_log, form_for, log_from
from nomisma.web.worksheets.tool import member_input

router = APIRouter(include_in_schema=False)


def asked_of(visit: Visit) -> dict[str, str]:
    """What the page was asked, as typed."""
    return {name: visit.request.query_params.get(name, "").strip()[:200] for name in ASKED}


def answer_for(
    partner: PartnerInput | None, asked: dict[str, str], unit: Unit, rules: Sequence[ShopRule] = ()
) -> dict[str, Any]:
    """What the answer part of the page shows: the options, the one looked at, its picture, or what is wrong."""
    shown: dict[str, Any] = {
        "functions": functions(),
        "asked": asked,
        "answer": None,
        "chosen": None,
        "picture": "",
        "errors": [],
    }
    if partner is None or not asked["function"]:
        return shown
    try:
        values = options_input(partner, asked, unit, rules)
        result = run_options(values)
        picture_of = partner_from(values["partner"])
    except BadInput as error:
        return {**shown, "errors": error.errors}
    except InputError as error:
        return {**shown, "errors": [error]}
    chosen = _looked_at(result, asked["option"])
    picture = fit_picture(picture_of, result, chosen, unit)
    return {**shown, "answer": result, "chosen": chosen, "picture": picture}


def _looked_at(result: OptionsResult, name: str) -> FitOption | None:
    """The option asked for, else the one of the fit system to look at first, else the first that is recommended and
    possible.
    """
    possible = [option for option in result.options if option.possible]
    named = [option for option in possible if option.name in (name, result.look_at)]
    named.sort(key=lambda option: option.name != name)
    recommended = [option for option in possible if option.recommended]
    return next(iter([*named, *recommended, *possible]), None)


def _values(
    visit: Visit, state: JobState, *, typed: Form | None = None, error: InputError | None = None
) -> dict[str, Any]:
    other = _other(state)
    log = feature_log(visit, other)
    asked = with_settings(visit.db, asked_of(visit), state.job.id)
    if not asked["function"] and state.limits:
        asked["function"] = str(state.limits.inputs.get("function", ""))
    return {
        "state": state,
        "job": state.job,
        "log": log,
        "partner_called": other.called if state.bush else state.partner_kind,
        "form": form_for(visit, other, log, action=href(state, "mate/readings"), typed=typed, error=error),
        "callout_error": None,
        "callout_typed": state.partner_callout,
        "stage": "mate",
        "kind_words": KIND_WORDS,
        "query": {**asked, "feature": state.letter},
        "materials": materials(),
        **_answer_of_job(visit.db, state, tuple(asked.items())),
    }


@by_version("job")
def _answer_of_job(db: OrmSession, state: JobState, asked: tuple[tuple[str, str], ...]) -> dict[str, Any]:
    log = readings.log(db, _other(state).feature_id, last=NEWEST_READINGS)
    return answer_for(measured_partner(state, log), dict(asked), state.unit, shop_rules_of(db))


def _other(state: JobState) -> JobState:
    """The job seen at the feature on the other side of the joint. Raises NotDefined."""
    return state.at(state.must_have_a_joint().row.id)


KIND_WORDS: dict[FitKind, str] = {
    "clearance": "clearance",
    "transition": "may be loose or tight",
    "interference": "interference",
}


@router.get("/jobs/{number}/mate")
def show(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The Mate page; the answer part alone when htmx asks for it."""
    state = job_in_hand(visit, number)
    if state.joint is None:
        return RedirectResponse(href(state.bush.outside, "mate") if state.bush else href(state, "part"), 303)
    if not state.in_hand.made_here:  # what is at hand is looked at on the page of what is made to go with it
        return RedirectResponse(href(_other(state), "mate"), 303)
    return _page(
        visit,
        state,
        "job/mate/_answer.html" if visit.request.headers.get("hx-target") == "answer" else "job/mate/page.html",
    )


def _page(visit: Visit, state: JobState, template: str, *, status: int = 200, **values: Any) -> Response:
    given = _values(visit, state, typed=values.pop("typed", None), error=values.pop("error", None))
    return page(visit, template, status=status, own_unit=state.unit, **{**given, **values})


@router.post("/jobs/{number}/mate/readings")
def add_reading(number: int, post: Post = Depends(posted)) -> Response:
    """Log one reading of the partner."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    part = "job/mate/_partner.html" if visit.request.headers.get("hx-request") else "job/mate/page.html"
    try:
        log_from(visit, _other(state), post.form)
    except InputError as error:
        return _page(visit, state, part, status=422, typed=post.form, error=error)
    if part == "job/mate/page.html":
        return RedirectResponse(href(state, "mate"), 303)
    return _page(visit, job_in_hand(visit, number), part)


@router.post("/jobs/{number}/mate/callout")
def set_callout(number: int, post: Post = Depends(posted)) -> Response:
    """Say the partner by a callout, or (empty) let the readings count again."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    callout = form.text("callout", longest=20_000)
    try:
        say_partner(visit.db, state, callout, by=visit.account, sent_id=form.client_id())
    except InputError as error:
        return _page(
            visit,
            state,
            "job/mate/page.html",
            status=422,
            callout_error=error,
            callout_typed=form.shown("callout"),
        )
    visit.db.commit()
    return RedirectResponse(href(state, "mate"), 303)


@router.post("/jobs/{number}/limits")
def choose(number: int, post: Post = Depends(posted)) -> Response:
    """Put one option's limits in force, computed anew from the partner as it is known now."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    based_on = form.text("based_on_version") or "0"
    chosen = OptionChosen(
        id=form.client_id(),
        asked={name: form.text(name, longest=200) for name in ASKED},
        seen=(form.text("seen_lower"), form.text("seen_upper")),
        based_on=int(based_on) if is_whole(based_on) else 0,
        judge_reason=form.text("judge_reason", longest=300),
    )
    choose_option(visit.db, state, chosen, by=visit.account)
    visit.db.commit()
    return RedirectResponse(href_at(state, "make"), 303)


@router.get("/mate")
def quick(visit: Visit = Depends(signed_in)) -> Response:
    """The same answer at once, without a job: the partner is typed into the address."""
    params = visit.request.query_params
    typed = {name: params.get(name, "").strip()[:400] for name in ("kind", "partner", "instrument_id")}
    own = unit_shown(visit.request, visit.account.unit)
    asked, errors, partner = with_settings(visit.db, asked_of(visit)), [], None
    if asked["function"] and not typed["partner"] and asked["nominal"]:
        typed["partner"] = asked["nominal"]
    try:
        partner = _typed_partner(visit, typed, own) if typed["partner"] else None
    except InputError as error:
        errors = [error]
    shown = answer_for(partner, asked, own, shop_rules_of(visit.db))
    template = "job/mate/_answer.html" if visit.request.headers.get("hx-target") == "answer" else "worksheets/mate.html"
    return page(
        visit,
        template,
        typed=typed,
        instruments=shop.instruments(visit.db),
        state=None,
        job=None,
        kind_words=KIND_WORDS,
        materials=materials(),
        query={**asked, **typed},
        **{**shown, "errors": errors or shown["errors"]},
    )


def _typed_partner(visit: Visit, typed: dict[str, str], unit: Unit) -> PartnerInput:
    """Readings separated by spaces, or one callout; the instrument says what a reading is worth."""
    kind = member_named(typed["kind"] or "shaft")
    instrument = next((row for row in shop.instruments(visit.db) if str(row.id) == typed["instrument_id"]), None)
    try:
        return member_input(
            kind, typed["partner"], unit, Length(uncertainty_of(instrument), unit) if instrument else None
        )
    except InputError as error:
        raise error.at("partner") from None
