"""The form in which it is chosen how cuts are taken, of the shop or of a job."""

from decimal import Decimal

from nomisma.core.cutting.coach_words import APPROACH_WORDS
from nomisma.core.cutting.dial import DIALLING_METHODS
from nomisma.core.cutting.speeds import cutting_speeds
from nomisma.core.errors import InputError, OutOfRange, refused_as
from nomisma.core.number import number_from
from nomisma.core.quantity.fields import roughness_um
from nomisma.core.quantity.length import Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.shop.cut_choices import OF_SHOP
from nomisma.store import shop
from nomisma.web.frame.visit import Form, Visit

SMALLEST_RISK_PERCENT = Decimal("0.0001")


def shop_choices_from(form: Form, unit: Unit) -> dict[str, str]:
    """What a shop may choose. Raises InputError, OutOfRange."""
    found = {
        "approach": form.choice("approach", tuple(APPROACH_WORDS)),
        "dialling_method": form.choice("dialling_method", tuple(DIALLING_METHODS)),
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
