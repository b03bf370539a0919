"""Mating: the options for a joint from its partner as known now, and one of them put in force."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from pydantic import ValidationError
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.fits.options import FitOption, OptionsInput, OptionsResult
from nomisma.core.fits.partner import PartnerInput
from nomisma.core.fits.shop_rules import ShopRule
from nomisma.core.measuring.uncertainty import shared_uncertainty_mm
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named
from nomisma.jobs.shop.choices import choose
from nomisma.jobs.shop.shop_rules import shop_rules_of
from nomisma.jobs.standing.permissions import check_loosening, reason_to_judge_anew
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs, readings, shop
from nomisma.store.append import AlreadyChanged
from nomisma.store.models import Account, Limits
from nomisma.store.readings import NEWEST_READINGS, LoggedReading

ASKED = (
    "function", "nominal", "clearance_min", "clearance_max", "aim", "option", "fit_system", "confidence_percent",
    "same_instrument",
    "temperature_c", "material", "aim_spread", "rework_cost", "scrap_cost",
)  # fmt: skip
SETTINGS = ("fit_system", "aim", "confidence_percent", "aim_spread", "rework_cost", "scrap_cost")
"""What the shop, or the job, has a choice of its own for."""


def with_settings(session: Session, asked: dict[str, str], job_id: UUID | None = None) -> dict[str, str]:
    """What was asked, and the shop's or the job's own choice where nothing was."""
    own = shop.settings(session, job_id)
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
        "fit_system": asked["fit_system"] or "make_to_suit",
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
    return {
        **values,
        **{name: asked[name] for name in ("confidence_percent", "rework_cost", "scrap_cost") if asked[name]},
    }


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
        return PartnerInput.model_validate(
            {
                **values,
                "readings": partner.readings,
                "uncertainty": partner.uncertainty,
                "shared_uncertainty": partner.shared_uncertainty,
            }
        )
    except ValidationError:
        raise InputError(
            f"“{asked['temperature_c'][:20]}” is no temperature.",
            "Write degrees Celsius, like 24.5.",
            field="temperature_c",
        ) from None


def measured_partner(state: JobState, log: Sequence[LoggedReading]) -> PartnerInput | None:
    """The partner with the place of each reading, for taper and ovality; its extremes where there are too
    many to list.
    """
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


def run_options(values: dict[str, Any]) -> OptionsResult:
    """The calculation behind the page. Raises BadInput."""
    result = calculation_named("fit_options").run(values)
    assert isinstance(result, OptionsResult)
    return result


@dataclass(frozen=True, slots=True, kw_only=True)
class OptionChosen:
    """One option chosen on a page: what was asked, the limits that were seen, and the version in force then."""

    id: UUID
    asked: dict[str, str]
    seen: tuple[str, str]
    based_on: int
    judge_reason: str = ""


def choose_option(session: Session, state: JobState, chosen: OptionChosen, *, by: Account) -> Limits:
    """Put one option's limits in force, computed anew from the partner as it is known now. Commits nothing.

    Raises InputError, NotAllowed, HandedOver, AlreadyChanged where the limits are not the ones that were seen.
    """
    reason = reason_to_judge_anew(by, state, chosen.judge_reason) or chosen.judge_reason
    if state.partner_input is None:
        raise InputError("The partner is not known yet.", "Measure it or give its callout first.")
    other = state.at(state.must_have_a_joint().row.id)
    log = readings.log(session, other.feature_id, last=NEWEST_READINGS)
    partner = measured_partner(state, log) or state.partner_input
    values = options_input(partner, chosen.asked, state.unit, shop_rules_of(session))
    option = _named(run_options(values), chosen.asked["option"])
    ends = (str(option.lower), str(option.upper))
    if chosen.seen[0] and chosen.seen != ends:
        raise AlreadyChanged(
            "The partner was measured again while you were choosing, and these limits changed. Look at them again, then"
            " choose."
        )
    row = Limits(
        id=chosen.id,
        job_id=state.job.id,
        feature_id=state.feature_id,
        version=0,
        limits_from=option.fit_system,
        option_name=option.name,
        lower_mm=option.lower.mm if option.lower else None,
        upper_mm=option.upper.mm if option.upper else None,
        aim_mm=option.aim.mm if option.aim else None,
        inputs=OptionsInput.model_validate(values).model_dump(mode="json"),
        option=option.model_dump(mode="json"),
        by_id=by.id,
        reason=reason,
        duty=state.duty.name,
        true_to=state.duty.true_to,
        along=state.along.words,
    )
    check_loosening(by, state, row)
    row = jobs.set_limits(session, row, based_on_version=chosen.based_on)
    _keep_choices(session, state, chosen.asked, by)
    return row


def _named(result: OptionsResult, name: str) -> FitOption:
    """The option of that name that gives limits. Raises InputError."""
    option = next((one for one in result.options if one.name == name and one.possible), None)
    if option is None or option.lower is None or option.upper is None or option.aim is None:
        raise InputError(f"“{name[:40]}” gives no limits here.", "Choose another.", field="option")
    return option


def _keep_choices(session: Session, state: JobState, asked: dict[str, str], by: Account) -> None:
    """Where a job differs from the shop, it keeps its own choice."""
    choose(session, {name: asked[name] for name in SETTINGS if asked[name]}, by=by, job_id=state.job.id)
