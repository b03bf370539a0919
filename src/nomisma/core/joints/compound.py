"""Retaining compound: is the gap right, what does the bond hold, and how does it come off again."""

from decimal import Decimal
from math import pi
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.fits.aim import round_inward
from nomisma.core.fits.called_out import called_out
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Celsius, Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

CAUTIONS = (
    "Gloves on and air the room: compound, cleaner and the fumes of heating it off are bad for skin, eyes and lungs.",
    "Degrease both faces, keep them dry, follow the sheet's cure time before any load. The sheet comes first.",
)


class CompoundInput(Model):
    """A bond: both members by their limits, the length, and the compound as its own data sheet has it.

    `shear_strength_mpa` is the sheet's value for these materials; `gap_min` and `gap_max` the diametral gap it fills.
    `safety_factor` divides the strength; `strength_left_percent` what is left of it at the working temperature (the
    sheet's curve).
    """

    bore: str
    shaft: str
    length: Size
    shear_strength_mpa: Number
    gap_min: Difference = Length.of("0.02", "mm")
    gap_max: Difference = Length.of("0.15", "mm")
    safety_factor: Number = Decimal(2)
    strength_left_percent: Number = Decimal(100)
    release_c: Celsius | None = None
    unit: Unit | None = None


class CompoundResult(Model):
    """Gap, area, force and torque; whether the gap suits the sheet; the limits that would, for either member."""

    gap_least: Difference
    gap_greatest: Difference
    sheet_least: Difference
    sheet_greatest: Difference
    suits: Literal["yes", "sometimes", "no"]
    area_mm2: float
    force_n: float
    torque_nm: float
    allowed_force_n: float
    allowed_torque_nm: float
    shaft_lower: Size | None = None
    shaft_upper: Size | None = None
    sentence: str
    rescue: str
    release: str
    cautions: list[str]
    working: list[Step]


@calculation(
    name="retaining_compound",
    title="A bond with retaining compound",
    validity="Cylindrical joint; the sheet's shear strength above 0 up to 100 MPa; safety factor 1 to 20.",
    source="strength × area (the compound's own sheet); gap 0.02 to 0.15 mm on diameter: common practice, no source",
    example={"bore": "12.05/12.07 mm", "shaft": "11.99/12.00 mm", "length": "20 mm", "shear_strength_mpa": 20},
)
def retaining_compound(given: CompoundInput) -> CompoundResult:
    """What a bond holds and whether its gap suits. Raises InputError or OutOfRange. Source: the sheet's strength ×
    π·d·L.

    >>> found = retaining_compound(
    ...     CompoundInput(bore="12.05/12.07 mm", shaft="11.99/12.00 mm", length="20 mm", shear_strength_mpa=20))
    >>> found.suits, round(found.allowed_force_n)
    ('yes', 7537)
    """
    bore = called_out("bore", given.bore, unit=given.unit, field="bore")
    shaft = called_out("shaft", given.shaft, unit=given.unit, field="shaft")
    _check(given)
    unit = given.unit or bore.unit
    least, greatest = bore.lower_mm - shaft.upper_mm, bore.upper_mm - shaft.lower_mm
    if greatest <= 0:
        raise InputError(
            "There is no gap: the shaft is not smaller than the bore.",
            "Compound needs room. Open the bore, or press the parts dry.",
            field="shaft",
        )
    if greatest > bore.upper_mm / 10:
        raise OutOfRange("The gap is over a tenth of the diameter.", "Check the unit of each member.", field="shaft")
    diameter = float(shaft.lower_mm + shaft.upper_mm) / 2
    area = pi * diameter * float(given.length.mm)
    force = float(given.shear_strength_mpa) * area
    allowed = force * float(given.strength_left_percent) / 100 / float(given.safety_factor)
    suits: Literal["yes", "sometimes", "no"] = (
        "yes"
        if given.gap_min.mm <= least and greatest <= given.gap_max.mm
        else "no"
        if greatest < given.gap_min.mm or least > given.gap_max.mm
        else "sometimes"
    )
    low, high = bore.upper_mm - given.gap_max.mm, bore.lower_mm - given.gap_min.mm
    made = round_inward(low, high, unit) if low < high else None
    return CompoundResult(
        gap_least=Length(least, unit),
        gap_greatest=Length(greatest, unit),
        sheet_least=given.gap_min,
        sheet_greatest=given.gap_max,
        suits=suits,
        area_mm2=area,
        force_n=force,
        torque_nm=force * diameter / 2000,
        allowed_force_n=allowed,
        allowed_torque_nm=allowed * diameter / 2000,
        shaft_lower=Length(made[0], unit) if made else None,
        shaft_upper=Length(made[1], unit) if made else None,
        sentence=_sentence(suits, least, greatest, given, unit),
        rescue=_rescue(suits, least, given, unit),
        release=_release(given),
        cautions=list(CAUTIONS),
        working=_working(given, diameter, area, force, allowed, (least, greatest), unit),
    )


def _check(given: CompoundInput) -> None:
    checks = (
        (
            "shear_strength_mpa",
            0 < given.shear_strength_mpa <= 100,
            "A compound's shear strength lies above 0, at most at 100 MPa.",
        ),
        ("safety_factor", 1 <= given.safety_factor <= 20, "A safety factor lies between 1 and 20."),
        (
            "strength_left_percent",
            0 < given.strength_left_percent <= 100,
            "What is left of the strength lies above 0, at most at 100 %.",
        ),
    )
    for field, good, problem in checks:
        if not good:
            raise OutOfRange(
                problem, "Take it from the compound's own sheet.", field=field, value=str(getattr(given, field))
            )
    if not 0 <= given.gap_min.mm < given.gap_max.mm:
        raise InputError("The sheet's least gap is not below its greatest.", "Exchange them.", field="gap_min")
    if given.release_c is not None and not 60 <= given.release_c <= 500:
        raise OutOfRange("Compounds let go between about 60 and 500 °C.", "Take the sheet's value.", field="release_c")


def _sentence(suits: str, least: Decimal, greatest: Decimal, given: CompoundInput, unit: Unit) -> str:
    gap = f"Gap {show_small(least, unit)} to {show_small(greatest, unit)} on diameter"
    sheet = f"the sheet's {show_small(given.gap_min.mm, unit)} to {show_small(given.gap_max.mm, unit)}"
    if suits == "yes":
        return f"{gap}: inside {sheet}. Clean, dry, and cured, it holds."
    if least < given.gap_min.mm:
        return f"{gap}: at the tightest under {sheet}. The compound is wiped off as it goes on: give it more room."
    return f"{gap}: at the loosest over {sheet}. It may never cure through."


def _rescue(suits: str, least: Decimal, given: CompoundInput, unit: Unit) -> str:
    if least > given.gap_max.mm:
        return "Cut too far for this compound: sleeve it, or take one whose sheet fills this gap."
    if suits == "no":
        return "Too tight for compound: press it dry, or open the bore."
    return (
        f"As a rescue for a fit cut too far: it holds while the gap stays under {show_small(given.gap_max.mm, unit)}. "
        "It centres nothing by itself: hold the parts true on V-blocks or a mandrel until it has cured."
    )


def _release(given: CompoundInput) -> str:
    if given.release_c is None:
        return "To take it apart: heat as the sheet says, and pull while it is hot; mind the fumes."
    return f"To take it apart: warm the joint to about {given.release_c} °C and pull while it is hot; mind the fumes."


def _working(
    given: CompoundInput,
    diameter: float,
    area: float,
    force: float,
    allowed: float,
    gap: tuple[Decimal, Decimal],
    unit: Unit,
) -> list[Step]:
    return [
        Step(
            name="Gap on diameter",
            formula="smallest bore − largest shaft; largest bore − smallest shaft",
            values=f"bore {given.bore}, shaft {given.shaft}",
            result=f"{both(gap[0], unit, decimals=5)} to {both(gap[1], unit, decimals=5)}",
            source=ARITHMETIC,
        ),
        Step(
            name="Area",
            formula="π·d·L",
            values=f"d = {diameter:.3f} mm, L = {given.length}",
            result=f"{area:.0f} mm²",
            source=ARITHMETIC,
        ),
        Step(
            name="Strength by the sheet",
            formula="shear strength × area; torque = force × d/2",
            values=f"{given.shear_strength_mpa} MPa",
            result=f"{force:.0f} N; {force * diameter / 2000:.1f} N·m",
            source="the compound's own data sheet, as entered",
        ),
        Step(
            name="Allowed",
            formula="strength × share left at the working temperature / safety factor",
            values=f"{given.strength_left_percent} %, {given.safety_factor}",
            result=f"{allowed:.0f} N; {allowed * diameter / 2000:.1f} N·m",
            source=f"factor: {COMMON_PRACTICE}",
        ),
    ]
