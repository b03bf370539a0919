"""How cuts are taken: what holds until somebody chooses, the shop's choices and a job's, and the form they are typed in."""

from decimal import Decimal
from typing import cast
from uuid import uuid4

from nomisma.core.cutting.coach_words import SCHOOL_WORDS
from nomisma.core.cutting.dial import DIAL_SCHOOLS
from nomisma.core.cutting.speeds import cutting_speeds
from nomisma.core.errors import InputError, OutOfRange, refused_as
from nomisma.core.number import number_from
from nomisma.core.quantity.fields import roughness_um
from nomisma.core.quantity.length import UM_PER_MICROINCH, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.store import shop
from nomisma.store.append import append
from nomisma.store.models import Job, ShopSetting
from nomisma.web.visit import Form, Visit

OF_SHOP = {
    "cut_school": "equal_cuts", "dial_school": "count_in", "cut_risk_percent": "0.2", "parts_of_line": "1", "least_cut": "0.02 mm",
    "finish_cut": "0.2 mm",
}  # fmt: skip
"""What a shop may choose for all its jobs."""
DEFAULTS = {
    **OF_SHOP, "cut_machine": "", "cut_material": "", "cut_tool": "hss", "nose_radius": "", "wanted_ra_um": "",
    "largest_outside": "", "work_balanced": "yes",
}  # fmt: skip
"""How cuts are taken unless the shop or the job says otherwise."""
FIELDS = tuple(DEFAULTS)
SMALLEST_RISK_PERCENT = Decimal("0.0001")


OF_INCH = {"least_cut": "0.0008 in", "finish_cut": "0.008 in"}
"""The same in an inch job, until somebody chooses."""


def choices_of(visit: Visit, job: Job | None) -> dict[str, str]:
    """The choices in force: a job's own before the shop's before what is shipped, in the unit of the job or else of who looks."""
    own = shop.settings(visit.db, job.id if job else None)
    inch = (job.unit if job else visit.account.unit) == "in"
    if job:
        inherited = shop.settings(visit.db)
        own |= {
            name: _said_in(own[name], cast(Unit, job.unit))
            for name in OF_INCH
            if name in own and own[name] == inherited.get(name)
        }
    return {name: own.get(name, value) for name, value in {**DEFAULTS, **(OF_INCH if inch else {})}.items()}


def _said_in(length: str, unit: Unit) -> str:
    """What the shop chose in its own unit, as it is said in a job's: to a tenth, or to 0.002 mm."""
    chosen = parse_length(length)
    step = Decimal("0.0001") if unit == "in" else Decimal("0.001")
    return length if chosen.unit == unit else str(parse_length(f"{max(chosen.value(unit).quantize(step), step)} {unit}"))


def as_shown(choices: dict[str, str], unit: Unit) -> dict[str, str]:
    """The choices as the form shows them: the finish wanted in µin in an inch job."""
    ra = choices["wanted_ra_um"]
    return {**choices, "wanted_ra_um": f"{Decimal(ra) / UM_PER_MICROINCH:.0f}"} if ra and unit == "in" else choices


def keep(visit: Visit, wanted: dict[str, str], job: Job | None) -> None:
    """Append what changed; earlier choices stay on record."""
    in_force = choices_of(visit, job)
    for name, value in wanted.items():
        if value != in_force[name]:
            job_id = job.id if job else None
            append(visit.db, ShopSetting(id=uuid4(), name=name, value=value, job_id=job_id, by_id=visit.account.id))
    visit.db.commit()


def shop_choices_from(form: Form, unit: Unit) -> dict[str, str]:
    """What a shop may choose. Raises InputError, OutOfRange."""
    found = {
        "cut_school": form.choice("cut_school", tuple(SCHOOL_WORDS)),
        "dial_school": form.choice("dial_school", tuple(DIAL_SCHOOLS)),
        "cut_risk_percent": _risk(form.text("cut_risk_percent", needed=True, longest=8)),
        "parts_of_line": form.choice("parts_of_line", ("1", "2", "4")),
        **{name: _length(form, name, unit) or OF_SHOP[name] for name in ("least_cut", "finish_cut")},
    }
    least, finish = (parse_length(found[name]) for name in ("least_cut", "finish_cut"))
    if not least.mm < finish.mm <= 5:
        raise OutOfRange(
            f"A finishing cut of {finish} does not go with a least cut of {least}.",
            "The finishing cut is the larger, and at most 5 mm (0.2 in) on diameter.",
            field="finish_cut",
        )
    return found


def job_choices_from(visit: Visit, form: Form, unit: Unit) -> dict[str, str]:
    """What a job may choose. Raises InputError, OutOfRange."""
    return {
        **shop_choices_from(form, unit),
        "cut_machine": _machine(visit, form),
        "cut_material": form.choice("cut_material", tuple(cutting_speeds())) if form.text("cut_material") else "",
        "cut_tool": form.choice("cut_tool", ("hss", "carbide")) if form.text("cut_tool") else "hss",
        "nose_radius": _length(form, "nose_radius", unit),
        "wanted_ra_um": _ra(form.text("wanted_ra_um", longest=12), unit),
        "largest_outside": _length(form, "largest_outside", unit),
        "work_balanced": form.choice("work_balanced", ("yes", "no")) if form.text("work_balanced") else "yes",
    }


def _length(form: Form, name: str, unit: Unit) -> str:
    return str(form.size(name, unit)) if form.text(name) else ""


def _risk(text: str) -> str:
    usual = "Give a chance in per cent: above 0, at most 10; 0.2 is usual."
    with refused_as(f"“{text}” is no risk to take.", usual, field="cut_risk_percent"):
        return f"{number_from(text.removesuffix('%'), least=SMALLEST_RISK_PERCENT, most=10):f}"


def _ra(text: str, unit: Unit) -> str:
    try:
        return f"{roughness_um(text, unit):f}" if text else ""
    except InputError as error:
        raise error.at("wanted_ra_um") from None


def _machine(visit: Visit, form: Form) -> str:
    chosen = form.text("cut_machine", longest=40)
    if chosen and chosen not in {str(row.id) for row in shop.machines(visit.db)}:
        raise InputError("That machine is not in the shop.", "Choose it again.", field="cut_machine")
    return chosen
