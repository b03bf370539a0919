"""The shop's rules and choices: shown, changed in new versions, never overwritten."""

from decimal import Decimal
from typing import Any, get_args

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response
from pydantic import ValidationError

from nomisma.core.calculation import CarriedError
from nomisma.core.cutting.coach_words import APPROACH_WORDS
from nomisma.core.cutting.dial import DIALLING_METHODS
from nomisma.core.errors import InputError
from nomisma.core.fits.aim import AimMethod
from nomisma.core.fits.functions import functions
from nomisma.core.fits.options import FitSystem
from nomisma.core.fits.shop_rules import Growth, ShopRule, shop_rules
from nomisma.core.number import number_from
from nomisma.core.part.feature import ACCEPTANCE_WORDS, Acceptance
from nomisma.core.quantity.coverage import coverage_factor
from nomisma.core.quantity.drill_list import COMMON_SETS
from nomisma.core.quantity.fields import Difference
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.shop.choices import choose
from nomisma.jobs.shop.cut_choices import OF_SHOP, choices_of, keep_choices
from nomisma.jobs.shop.plan_choices import DEFAULTS as PLAN_DEFAULTS
from nomisma.jobs.shop.plan_choices import keep_plan_choices, plan_choices
from nomisma.jobs.shop.rights import Action, must
from nomisma.jobs.shop.shop_rules import DEFAULTS, rules_now, write_rule
from nomisma.jobs.standing.limits_in_force import LIMITS_FROM_TITLES
from nomisma.store import shop
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.cut_choices import shop_choices_from

router = APIRouter(include_in_schema=False)
LENGTHS = ("reference", "base_least", "base_most", "least", "most", "from_size", "to_size")
AIM_TITLES = {"middle": "middle of the limits", "metal_safe": "metal-safe side", "costed": "least cost"}
GROWTH_TITLES: dict[Growth, str] = {
    "fixed": "the same at every size", "cube_root": "with the cube root of diameter", "linear": "with the diameter",
}  # fmt: skip


@router.get("/shop/rules")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """The rules by diameter, and what the shop looks at first."""
    return _page(visit)


def _page(visit: Visit, *, status: int = 200, **form: Any) -> Response:
    used: dict[str, list[str]] = {}
    for function in functions().values():
        for name in function.rules:
            used.setdefault(name, []).append(function.title)
    return page(
        visit,
        "shop/rules.html",
        status=status,
        rules=rules_now(visit.db),
        own=shop.rules(visit.db),
        used=used,
        settings={**DEFAULTS, **shop.settings(visit.db)},
        fit_systems={name: LIMITS_FROM_TITLES[name] for name in get_args(FitSystem)},
        aims=AIM_TITLES,
        growths=GROWTH_TITLES,
        acceptances=ACCEPTANCE_WORDS,
        approaches=APPROACH_WORDS,
        dialling_methods=DIALLING_METHODS,
        drill_sets=COMMON_SETS,
        **{
            "error": None,
            "planning": plan_choices(visit.db),
            "chosen": choices_of(visit.db, None, unit=visit.account.unit),
            **form,
        },
    )


@router.get("/shop/rules/{name}")
def show_rule(name: str, visit: Visit = Depends(signed_in)) -> Response:
    """One rule, every version of it, and the form that writes the next."""
    return _rule_page(visit, name)


def _rule_page(
    visit: Visit, name: str, *, status: int = 200, error: InputError | None = None, typed: Any = None
) -> Response:
    rule = rules_now(visit.db).get(name)
    if rule is None:
        raise InputError(f"There is no rule “{name[:40]}”.", "See the list of rules in the Shop.", field="name")
    values = {field: str(getattr(rule, field)) for field in ("title", "text", "growth", "note", *LENGTHS)}
    return page(
        visit,
        "shop/rule.html",
        status=status,
        rule=rule,
        shipped=shop_rules()[name],
        history=shop.rule_history(visit.db, name),
        error=error,
        typed={**values, **(typed or {})},
        growths=GROWTH_TITLES,
        samples=_samples(rule),
    )


def _samples(rule: ShopRule) -> list[tuple[Difference, Difference, Difference]]:
    """The rule at three sizes of its range: an end, the middle, the other end."""
    low, high = rule.from_size.mm, rule.to_size.mm
    sizes = [
        rule.from_size,
        rule.reference if low < rule.reference.mm < high else rule.from_size.with_mm((low + high) / 2),
        rule.to_size,
    ]
    windows = [rule.window_mm(size.mm) for size in sizes]
    return [(size, size.with_mm(least), size.with_mm(most)) for size, (least, most) in zip(sizes, windows, strict=True)]


@router.post("/shop/rules/{name}")
def change_rule(name: str, post: Post = Depends(posted)) -> Response:
    """Write the next version of a rule."""
    visit, form = post.visit, post.form
    must(visit.account, Action.CHANGE_SHOP_RULES)
    try:
        rule = _rule_from(name, form)
    except InputError as error:
        typed = {field: form.shown(field) for field in ("title", "text", "growth", "note", *LENGTHS)}
        return _rule_page(visit, name, status=422, error=error, typed=typed)
    write_rule(visit.db, rule, by=visit.account, sent_id=form.client_id())
    visit.db.commit()
    return RedirectResponse(f"/shop/rules/{name}", 303)


def _rule_from(name: str, form: Form) -> ShopRule:
    if name not in shop_rules():
        raise InputError(f"There is no rule “{name[:40]}”.", "See the list of rules in the Shop.", field="name")
    positive = ("reference", "from_size", "to_size")
    values: dict[str, Any] = {
        "name": name,
        "growth": form.choice("growth", get_args(Growth)),
        "note": form.text("note", longest=200),
    }
    values |= {field: form.text(field, needed=True, longest=200) for field in ("title", "text")}
    for field in LENGTHS:
        try:
            values[field] = parse_length(form.text(field, needed=True), positive=field in positive)
        except InputError as error:
            raise error.at(field) from None
    try:
        return ShopRule.model_validate(values)
    except ValidationError as error:
        cause = error.errors()[0].get("ctx", {}).get("error")
        raise (
            cause.error if isinstance(cause, CarriedError) else InputError(str(cause), "Change it.", field="text")
        ) from None


@router.post("/shop/cuts")
def change_cuts(post: Post = Depends(posted)) -> Response:
    """Keep how this shop takes its cuts."""
    visit, form = post.visit, post.form
    must(visit.account, Action.CHANGE_SHOP_RULES)
    try:
        wanted = shop_choices_from(form, "in" if visit.account.unit == "in" else "mm")
    except InputError as error:
        return _page(visit, status=422, error=error, chosen={name: form.shown(name) for name in OF_SHOP})
    keep_choices(visit.db, wanted, None, by=visit.account)
    visit.db.commit()
    return RedirectResponse("/shop/rules#cuts", 303)


@router.post("/shop/settings")
def change_settings(post: Post = Depends(posted)) -> Response:
    """Keep what the shop looks at first and aims at."""
    visit, form = post.visit, post.form
    must(visit.account, Action.CHANGE_SHOP_RULES)
    try:
        values = _settings_from(form)
    except InputError as error:
        return _page(visit, status=422, error=error)
    choose(visit.db, values, by=visit.account)
    visit.db.commit()
    return RedirectResponse("/shop/rules", 303)


LISTS = ("reamers", "drills")
"""What the shop writes as a list of sizes."""


@router.post("/shop/planning")
def change_planning(post: Post = Depends(posted)) -> Response:
    """Keep from which weight two lift, what handling takes here, and what is at hand for holes."""
    visit, form = post.visit, post.form
    must(visit.account, Action.CHANGE_SHOP_RULES)
    wanted = {name: form.text(name, needed=True, longest=10) for name in PLAN_DEFAULTS if name not in LISTS}
    wanted |= {name: form.text(name, longest=2_000) for name in LISTS}
    try:
        keep_plan_choices(visit.db, wanted, by=visit.account)
        visit.db.commit()
    except InputError as error:
        return _page(visit, status=422, error=error, planning=wanted)
    return RedirectResponse("/shop/rules#planning", 303)


def _settings_from(form: Form) -> dict[str, str]:
    values = {
        "fit_system": form.choice("fit_system", get_args(FitSystem)),
        "aim": form.choice("aim", get_args(AimMethod)),
        "acceptance": (
            form.choice("acceptance", get_args(Acceptance)) if form.text("acceptance") else DEFAULTS["acceptance"]
        ),
        "confidence_percent": form.text("confidence_percent", needed=True, longest=10),
        **{name: form.text(name, longest=20) for name in ("aim_spread", "rework_cost", "scrap_cost")},
    }
    for name in ("confidence_percent", "rework_cost", "scrap_cost"):
        if values[name]:
            _number(name, values[name])
    try:
        coverage_factor(_number("confidence_percent", values["confidence_percent"]))
        if values["aim_spread"]:
            parse_length(values["aim_spread"])
    except InputError as error:
        raise error.at("aim_spread") from None
    if values["aim"] == "costed" and not all(values[name] for name in ("aim_spread", "rework_cost", "scrap_cost")):
        raise InputError("The costed aim needs a spread and both costs.", "Fill in all three.", field="aim_spread")
    return values


def _number(name: str, text: str) -> Decimal:
    return number_from(text, least=0, field=name)
