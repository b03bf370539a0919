"""Mate: the partner as measured or called out, what the joint must do, and every school's limits side by side."""

from collections.abc import Sequence
from typing import Any, Literal
from uuid import UUID, uuid4

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response
from pydantic import ValidationError

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.fits.fit import FitKind
from nomisma.core.fits.functions import functions
from nomisma.core.fits.options import FitOption, OptionsInput, OptionsResult
from nomisma.core.fits.partner import PartnerInput, partner_from
from nomisma.core.fits.shop_rules import ShopRule
from nomisma.core.materials.material import materials
from nomisma.core.measuring.uncertainty import shared_uncertainty_mm
from nomisma.core.number import is_whole
from nomisma.core.quantity.callout import with_unit_in_force
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named
from nomisma.jobs.state import JobState
from nomisma.store import jobs, shop
from nomisma.store.append import AlreadyChanged, append
from nomisma.store.models import Limits, PartnerStatement, ShopSetting
from nomisma.store.readings import LoggedReading, uncertainty_of
from nomisma.web.drawings.fit import fit_picture
from nomisma.web.gate import reason_to_judge_anew
from nomisma.web.job_in_hand import href, job_in_hand
from nomisma.web.pages import page
from nomisma.web.reading_form import feature_log, form_for
from nomisma.web.reading_log import log_reading
from nomisma.web.shop_rules import DEFAULTS, shop_rules_of
from nomisma.web.tools.tool import member_input
from nomisma.web.visit import Form, Post, Visit, posted, signed_in, unit_shown

router = APIRouter(include_in_schema=False)
ASKED = (
    "function", "nominal", "clearance_min", "clearance_max", "aim", "option", "school", "confidence_percent", "same_instrument",
    "temperature_c", "material", "aim_spread", "rework_cost", "scrap_cost",
)  # fmt: skip
SETTINGS = ("school", "aim", "confidence_percent", "aim_spread", "rework_cost", "scrap_cost")
"""What the shop, or the job, has a choice of its own for."""


def asked_of(visit: Visit) -> dict[str, str]:
    """What the page was asked, as typed."""
    return {name: visit.request.query_params.get(name, "").strip()[:200] for name in ASKED}


def with_settings(visit: Visit, asked: dict[str, str], job_id: UUID | None = None) -> dict[str, str]:
    """What was asked, and the shop's or the job's own choice where nothing was."""
    own = shop.settings(visit.db, job_id)
    return {**asked, **{name: own[name] for name in SETTINGS if not asked[name] and name in own}}


def options_input(
    partner: PartnerInput, asked: dict[str, str], unit: Unit, rules: Sequence[ShopRule] = ()
) -> dict[str, Any]:
    """The fields of `fit_options` from what was typed. Raises InputError with the field's name."""
    values: dict[str, Any] = {
        "partner": as_it_is(partner, asked),
        "function": asked["function"],
        "unit": unit,
        "aim": asked["aim"] or "middle",
        "school": asked["school"] or "make_to_suit",
        "same_instrument": asked["same_instrument"] == "yes",
        "shop_rules": list(rules),
    }
    lengths = (("nominal", True), ("clearance_min", False), ("clearance_max", False), ("aim_spread", False))
    for name, positive in lengths:
        if asked[name]:
            try:
                values[name] = parse_length(asked[name], unit, positive=positive)
            except InputError as error:
                raise error.at(name) from None
    return {**values, **{name: asked[name] for name in ("confidence_percent", "rework_cost", "scrap_cost") if asked[name]}}


def as_it_is(partner: PartnerInput, asked: dict[str, str]) -> PartnerInput:
    """The partner with its temperature and material, where they were said. Raises InputError."""
    if not asked["temperature_c"] or partner.callout:
        return partner
    values = {
        **partner.model_dump(),
        "temperature_c": asked["temperature_c"].replace(",", "."),
        "material": asked["material"],
    }
    try:
        return PartnerInput.model_validate({**values, "readings": partner.readings, "uncertainty": partner.uncertainty,
                                            "shared_uncertainty": partner.shared_uncertainty})  # fmt: skip
    except ValidationError:
        raise InputError(
            f"“{asked['temperature_c'][:20]}” is no temperature.", "Write degrees Celsius, like 24.5.", field="temperature_c"
        ) from None


def measured_partner(state: JobState, log: Sequence[LoggedReading]) -> PartnerInput | None:
    """The partner with the place of each reading, for taper and ovality; its extremes where there are too many to list."""
    standing = [item for item in log if item.stands]
    known = state.partner_input
    if known is None or known.callout or not standing or len(standing) != state.partner_readings.count:
        return known
    worst = max(standing, key=lambda item: item.uncertainty_mm)
    shared = shared_uncertainty_mm(worst.instrument.permitted_error_mm)
    return PartnerInput(
        kind=state.partner_kind,
        readings=[Length(item.row.size_mm, state.unit) for item in standing],
        places=[item.row.place for item in standing],
        uncertainty=known.uncertainty,
        shared_uncertainty=Length(min(shared, worst.uncertainty_mm), state.unit),
    )


def answer_for(
    partner: PartnerInput | None, asked: dict[str, str], unit: Unit, rules: Sequence[ShopRule] = ()
) -> dict[str, Any]:
    """What the answer part of the page shows: the options, the one looked at, its picture, or what is wrong."""
    shown: dict[str, Any] = {
        "functions": functions(), "asked": asked, "answer": None, "chosen": None, "picture": "", "errors": [],
    }  # fmt: skip
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


def run_options(values: dict[str, Any]) -> OptionsResult:
    """The calculation behind the page. Raises BadInput."""
    result = calculation_named("fit_options").run(values)
    assert isinstance(result, OptionsResult)
    return result


def _looked_at(result: OptionsResult, name: str) -> FitOption | None:
    """The option asked for, else the one of the school to look at first, else the first that is recommended and possible."""
    possible = [option for option in result.options if option.possible]
    named = [option for option in possible if option.name in (name, result.look_at)]
    named.sort(key=lambda option: option.name != name)
    recommended = [option for option in possible if option.recommended]
    return next(iter([*named, *recommended, *possible]), None)


def _values(visit: Visit, state: JobState, *, typed: Form | None = None, error: InputError | None = None) -> dict[str, Any]:
    other = _other(state)
    log = feature_log(visit, other)
    asked = with_settings(visit, asked_of(visit), state.job.id)
    if not asked["function"] and state.limits:
        asked["function"] = str(state.limits.inputs.get("function", ""))
    return {
        "state": state,
        "job": state.job,
        "log": log,
        "form": form_for(visit, other, log, action=href(state, "mate/readings"), typed=typed, error=error),
        "callout_error": None,
        "callout_typed": state.partner_callout,
        "stage": "mate",
        "kind_words": KIND_WORDS,
        "query": asked,
        "materials": materials(),
        **answer_for(measured_partner(state, log), asked, state.unit, shop_rules_of(visit)),
    }


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
        return RedirectResponse(href(state, "part"), 303)
    return _page(
        visit, state, "mate/_answer.html" if visit.request.headers.get("hx-target") == "answer" else "mate/page.html"
    )


def _page(visit: Visit, state: JobState, template: str, *, status: int = 200, **values: Any) -> Response:
    given = _values(visit, state, typed=values.pop("typed", None), error=values.pop("error", None))
    return page(visit, template, status=status, own_unit=state.unit, **{**given, **values})


@router.post("/jobs/{number}/mate/readings")
def add_reading(number: int, post: Post = Depends(posted)) -> Response:
    """Log one reading of the partner."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    part = "mate/_partner.html" if visit.request.headers.get("hx-request") else "mate/page.html"
    try:
        log_reading(visit, post.form, _other(state))
    except InputError as error:
        return _page(visit, state, part, status=422, typed=post.form, error=error)
    if part == "mate/page.html":
        return RedirectResponse(href(state, "mate"), 303)
    return _page(visit, job_in_hand(visit, number), part)


@router.post("/jobs/{number}/mate/callout")
def set_callout(number: int, post: Post = Depends(posted)) -> Response:
    """Say the partner by a callout, or (empty) let the readings count again."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    callout = form.text("callout", longest=20_000)
    try:
        state.must_be_open()
        if callout:
            callout = with_unit_in_force(callout, state.unit)
            partner_from(PartnerInput(kind=state.partner_kind, callout=callout))
    except InputError as error:
        return _page(
            visit,
            state,
            "mate/page.html",
            status=422,
            callout_error=error,
            callout_typed=form.shown("callout"),
        )
    append(
        visit.db,
        PartnerStatement(
            id=form.client_id(),
            job_id=state.job.id,
            feature_id=_other(state).feature_id,
            callout=callout,
            by_id=visit.account.id,
        ),
    )
    visit.db.commit()
    return RedirectResponse(href(state, "mate"), 303)


@router.post("/jobs/{number}/limits")
def choose(number: int, post: Post = Depends(posted)) -> Response:
    """Put one option's limits in force, computed anew from the partner as it is known now."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    reason = reason_to_judge_anew(visit, form, state)
    if state.partner_input is None:
        raise InputError("The partner is not known yet.", "Measure it or give its callout first.")
    asked = {name: form.text(name, longest=200) for name in ASKED}
    partner = measured_partner(state, feature_log(visit, _other(state))) or state.partner_input
    values = options_input(partner, asked, state.unit, shop_rules_of(visit))
    option = next((o for o in run_options(values).options if o.name == asked["option"] and o.possible), None)
    if option is None or option.lower is None or option.upper is None or option.aim is None:
        raise InputError(f"“{asked['option'][:40]}” gives no limits here.", "Choose another.", field="option")
    if form.text("seen_lower") and (form.text("seen_lower"), form.text("seen_upper")) != (
        str(option.lower),
        str(option.upper),
    ):
        raise AlreadyChanged(
            "The partner was measured again while you were choosing, and these limits changed. Look at them again, then choose."
        )
    row = Limits(
        id=form.client_id(), job_id=state.job.id, feature_id=state.feature_id, version=0, school=option.school, option_name=option.name,
        lower_mm=option.lower.mm, upper_mm=option.upper.mm, aim_mm=option.aim.mm,
        inputs=OptionsInput.model_validate(values).model_dump(mode="json"), option=option.model_dump(mode="json"),
        by_id=visit.account.id, reason=reason,
    )  # fmt: skip
    based_on = form.text("based_on_version") or "0"
    jobs.set_limits(visit.db, row, based_on_version=int(based_on) if is_whole(based_on) else 0)
    _keep_the_jobs_choices(visit, state, asked)
    visit.db.commit()
    return RedirectResponse(href(state, "measure"), 303)


def _keep_the_jobs_choices(visit: Visit, state: JobState, asked: dict[str, str]) -> None:
    """Where a job differs from the shop, it keeps its own choice."""
    now = shop.settings(visit.db, state.job.id)
    for name in SETTINGS:
        if asked[name] and asked[name] != now.get(name, DEFAULTS.get(name, "")):
            append(
                visit.db, ShopSetting(id=uuid4(), name=name, value=asked[name], job_id=state.job.id, by_id=visit.account.id)
            )


@router.get("/mate")
def quick(visit: Visit = Depends(signed_in)) -> Response:
    """The same answer at once, without a job: the partner is typed into the address."""
    params = visit.request.query_params
    typed = {name: params.get(name, "").strip()[:400] for name in ("kind", "partner", "instrument_id")}
    own = unit_shown(visit.request, visit.account.unit)
    asked, errors, partner = with_settings(visit, asked_of(visit)), [], None
    if asked["function"] and not typed["partner"] and asked["nominal"]:
        typed["partner"] = asked["nominal"]
    try:
        partner = _typed_partner(visit, typed, own) if typed["partner"] else None
    except InputError as error:
        errors = [error]
    shown = answer_for(partner, asked, own, shop_rules_of(visit))
    template = "mate/_answer.html" if visit.request.headers.get("hx-target") == "answer" else "mate/quick.html"
    return page(
        visit, template, typed=typed, instruments=shop.instruments(visit.db), state=None, job=None, kind_words=KIND_WORDS, materials=materials(),
        query={**asked, **typed}, **{**shown, "errors": errors or shown["errors"]},
    )  # fmt: skip


def _typed_partner(visit: Visit, typed: dict[str, str], unit: Unit) -> PartnerInput:
    """Readings separated by spaces, or one callout; the instrument says what a reading is worth."""
    kind: Literal["bore", "shaft"] = "bore" if typed["kind"] == "bore" else "shaft"
    instrument = next((row for row in shop.instruments(visit.db) if str(row.id) == typed["instrument_id"]), None)
    try:
        return member_input(kind, typed["partner"], unit, Length(uncertainty_of(instrument), unit) if instrument else None)
    except InputError as error:
        raise error.at("partner") from None
