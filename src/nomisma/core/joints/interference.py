"""An interference joint: pressures, stresses, what it holds and what it takes to press it, least to greatest."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.fits.fit import FitInput, FitResult, fit
from nomisma.core.joints.cylinders import CRITERION_WORDS, SOURCE, Criterion, Cylinders
from nomisma.core.joints.hub_on_shaft import HubOnShaft
from nomisma.core.joints.press_lead import lead_step, press_lead
from nomisma.core.materials.material import SOURCE as MATERIAL_SOURCE
from nomisma.core.materials.material import Material
from nomisma.core.materials.temperature import COLDEST_C
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_force, show_torque
from nomisma.core.quantity.fields import Celsius, Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import ARITHMETIC, Step

CaseName = Literal["least", "mean", "greatest"]
PRESS_CAUTION = (
    "At the press: guard on, square support under the hub, stand aside, never hold the work by hand. "
    "The press maker's manual, the shop's rules and licensed practice come first."
)
STROKE_POINTS = 11


class InterferenceInput(HubOnShaft):
    """A hub pressed or shrunk on a shaft: sizes, materials, and its interference as two figures or as a fit callout.

    `roughness_*` are Rz values. `friction` is the coefficient that holds; `friction_pressing` the one while it goes on.
    """

    interference_min: Difference | None = None
    interference_max: Difference | None = None
    fit: str = Field(default="", description="instead of the two interferences: 25 H7/s6, 1 FN2")
    roughness_hub: Difference = Length(Decimal(0))
    roughness_shaft: Difference = Length(Decimal(0))
    friction: Number = Decimal("0.12")
    friction_pressing: Number = Decimal("0.12")
    temperature_c: Celsius = Decimal(20)
    speed_rpm: Number = Decimal(0)
    criterion: Criterion = "maximum_shear"


class Case(Model):
    """One interference of the range. Numbers are absent (None) where the elastic sum no longer holds; `sentence` says
    why.
    """

    name: CaseName
    interference: Difference
    effective: Difference
    elastic: bool
    sentence: str
    pressure_mpa: float | None = None
    hub_hoop_mpa: float | None = None
    shaft_hoop_mpa: float | None = None
    hub_use_percent: float | None = None
    shaft_use_percent: float | None = None
    press_in_n: float | None = None
    hub_growth: Difference | None = None
    close_in: Difference | None = None
    working_pressure_mpa: float | None = None
    hub_working_use_percent: float | None = None
    shaft_working_use_percent: float | None = None
    axial_n: float | None = None
    torque_nm: float | None = None


class StrokePoint(Model):
    """Force while pressing in, at a distance of engagement."""

    engaged_mm: float
    force_n: float


class InterferenceResult(Model):
    """Least, mean and greatest interference with all that follows; the most it may be; cautions."""

    cases: list[Case]
    greatest_elastic: Difference
    first_to_yield: Literal["hub", "shaft"]
    criterion: str
    lost_to_roughness: Difference
    lost_to_speed: Difference
    change_with_temperature: Difference
    stroke: list[StrokePoint]
    sentence: str
    cautions: list[str]
    working: list[Step]
    press_lead: Size | None = None


@calculation(
    name="interference",
    title="An interference joint by Lamé: what it holds, what it takes",
    validity="Elastic, hub and shaft of one length, plane stress; −50 to the materials' own limit °C; to the hub's own "
        "bursting speed.",
    source=SOURCE,
    example={
        "interface_diameter": "1 in", "hub_outer": "2 in", "length": "1.5 in", "interference_min": "0.0006 in",
        "interference_max": "0.0019 in",
    },
)  # fmt: skip
def interference(given: InterferenceInput) -> InterferenceResult:
    """Pressure, stresses, forces and torque of an interference joint. Raises InputError, OutOfRange or NotDefined.

    Source: Lamé (Shigley 3-16; DIN 7190-1:2017); loss by flattened asperities 0.8·(Rz₁ + Rz₂): DIN 7190-1.
    """
    joint = joint_of(given)
    low, high = interference_range(given)
    unit = given.shown_unit
    _check_service(given, joint)
    lost = Decimal("0.8") * (given.roughness_hub.mm + given.roughness_shaft.mm)
    warmed = as_mm(joint.warmed_by_mm(float(given.temperature_c)))
    spun = as_mm(joint.spun_off_mm(float(given.speed_rpm)))
    service = warmed - spun
    names: tuple[CaseName, ...] = ("least", "mean", "greatest")
    ends = (low, (low + high) / 2, high)
    cases = [_case(name, end, lost, service, joint, given, unit) for name, end in zip(names, ends, strict=True)]
    limit_p = joint.greatest_pressure_mpa(given.criterion)
    most = as_mm(joint.interference_mm(limit_p)) + lost
    first: Literal["hub", "shaft"] = "hub" if joint.hub_yield_pressure_mpa(given.criterion) == limit_p else "shaft"
    return InterferenceResult(
        cases=cases,
        greatest_elastic=Length(most, unit),
        first_to_yield=first,
        criterion=joint.hub_criterion(given.criterion),
        lost_to_roughness=Length(lost, unit),
        lost_to_speed=Length(spun, unit),
        change_with_temperature=Length(warmed, unit),
        stroke=_stroke(cases, float(given.length.mm)),
        sentence=_sentence(cases, given, unit),
        cautions=_cautions(cases, joint, most, first, unit),
        working=[
            *_working(given, joint, cases, lost, warmed, spun, most, unit),
            lead_step(given.interface_diameter.mm, unit),
        ],
        press_lead=press_lead(given.interface_diameter.mm, unit),
    )


def joint_of(given: InterferenceInput) -> Cylinders:
    """The two cylinders of an input. Raises OutOfRange where a wall is missing. Source: geometry."""
    for field in ("friction", "friction_pressing"):
        if not 0 < getattr(given, field) <= 1:
            raise OutOfRange(
                "A coefficient of friction lies above 0 and at most at 1.",
                "Steel in steel, oiled, is about 0.12.",
                field=field,
            )
    for field in ("roughness_hub", "roughness_shaft"):
        if getattr(given, field).mm < 0:
            raise InputError("A roughness is never below zero.", "Leave out the sign.", field=field)
    return given.cylinders


def interference_range(given: InterferenceInput) -> tuple[Decimal, Decimal]:
    """Least and greatest interference (mm) as entered or from the callout. Raises InputError. Source: geometry."""
    if given.fit:
        return _from_callout(given)
    if given.interference_min is None or given.interference_max is None:
        missing = "interference_min" if given.interference_min is None else "interference_max"
        raise InputError(
            "The interference is not known.",
            "Give its least and greatest, or a fit like 25 H7/s6 or 1 FN2.",
            field=missing,
        )
    low, high = given.interference_min.mm, given.interference_max.mm
    if low > high:
        raise InputError("The least interference is above the greatest.", "Exchange them.", field="interference_min")
    if high <= 0:
        raise InputError(
            "There is no interference: the shaft is not larger than the bore.",
            "For a gap, see the running fits or retaining compound.",
            field="interference_max",
            value=str(given.interference_max),
        )
    if high > given.interface_diameter.mm / 50:
        raise OutOfRange(
            f"An interference of {given.interference_max} on {given.interface_diameter} is far beyond any press fit.",
            "Check the unit: a press fit takes about a thousandth of the diameter.",
            field="interference_max",
            value=str(given.interference_max),
        )
    return low, high


def _from_callout(given: InterferenceInput) -> tuple[Decimal, Decimal]:
    try:
        found: FitResult = fit(FitInput(callout=given.fit))
    except InputError as error:
        error.field = "fit"
        raise
    if found.clearance_mm is None or found.clearance_mm[0] >= 0:
        raise InputError(
            f"“{given.fit[:40]}” is no interference fit of two members.",
            "Give one like 25 H7/s6 or 1 FN2.",
            field="fit",
            value=given.fit,
        )
    if abs(found.nominal.mm - given.interface_diameter.mm) > given.interface_diameter.mm * Decimal("0.02"):
        raise InputError(
            f"The fit is for {found.nominal}, and the joint is {given.interface_diameter}.",
            "Use one size for both.",
            field="fit",
        )
    # Of a transition fit the least is a gap, below zero; the mean lies between the two as they are.
    return -found.clearance_mm[1], -found.clearance_mm[0]


def _check_service(given: InterferenceInput, joint: Cylinders) -> None:
    for word, material in (("hub", joint.hub), ("shaft", joint.inner)):
        check_temperature(float(given.temperature_c), material, word)
    if not 0 <= given.speed_rpm <= 500_000:
        raise OutOfRange(
            "A speed lies between 0 and 500 000 rpm.", "Check it.", field="speed_rpm", value=str(given.speed_rpm)
        )
    spin = joint.spin_hoop_mpa(float(given.speed_rpm))
    if spin > joint.hub.yield_mpa / 2:
        raise OutOfRange(
            f"At {given.speed_rpm:f} rpm the hub would carry {spin:.0f} MPa from its own weight alone, over half its"
            f" strength ({joint.hub.yield_mpa:.0f} MPa).",
            "Run it slower; a rim that bursts kills.",
            field="speed_rpm",
            value=str(given.speed_rpm),
        )


def check_temperature(temperature_c: float, material: Material, word: str, *, field: str = "temperature_c") -> None:
    """Raises OutOfRange where a temperature (°C) is below −50 or above what the material stands. Source: geometry."""
    if temperature_c < COLDEST_C:
        raise OutOfRange(
            f"{temperature_c:g} °C is below {COLDEST_C:g} °C, where the table's coefficients no longer hold.",
            "Cooling for assembly has a worksheet of its own, Shrink or cool.",
            field=field,
            value=f"{temperature_c:g}",
        )
    if temperature_c > material.limit_c:
        raise OutOfRange(
            f"At {temperature_c:g} °C the {word} ({material.title}) loses its strength or its size: about"
            f" {material.limit_c:g} °C is its limit.",
            "Stay below it, or choose another material; the maker's data comes first.",
            field=field,
            value=f"{temperature_c:g}",
        )


def _case(
    name: CaseName,
    fitted: Decimal,
    lost: Decimal,
    service: Decimal,
    joint: Cylinders,
    given: InterferenceInput,
    unit: Unit,
) -> Case:
    effective = max(fitted - lost, Decimal(0))
    pressure = joint.pressure_mpa(float(effective))
    elastic = pressure <= joint.greatest_pressure_mpa(given.criterion)
    base = {
        "name": name,
        "interference": Length(fitted, unit),
        "effective": Length(effective, unit),
        "elastic": elastic,
    }
    if not elastic:
        hub_first = pressure > joint.hub_yield_pressure_mpa(given.criterion)
        part, material = ("hub", joint.hub) if hub_first else ("shaft", joint.inner)
        word = "breaks" if material.brittle else "yields"
        return Case(
            **base,
            sentence=(
                f"The {part} {word} ({material.title}, {material.yield_mpa:.0f} MPa): the elastic sum no longer holds."
            ),
        )
    length, hoop = float(given.length.mm), joint.hub_hoop_mpa(pressure)
    in_work = joint.pressure_mpa(max(float(effective + service), 0.0))
    return Case(
        **base,
        sentence="It has nothing left to hold with." if in_work == 0 else "Elastic.",
        pressure_mpa=pressure,
        hub_hoop_mpa=hoop,
        shaft_hoop_mpa=joint.inner_hoop_mpa(pressure),
        hub_use_percent=100 * joint.hub_stress_mpa(pressure, given.criterion) / joint.hub.yield_mpa,
        shaft_use_percent=100 * joint.inner_stress_mpa(pressure) / joint.inner.yield_mpa,
        press_in_n=joint.axial_force_n(pressure, length, float(given.friction_pressing)),
        hub_growth=Length.from_mm(joint.hub_growth_mm(pressure), unit),
        close_in=Length.from_mm(joint.close_in_mm(pressure), unit),
        working_pressure_mpa=in_work,
        hub_working_use_percent=100 * _hub_in_work(joint, in_work, given) / joint.hub.yield_mpa,
        shaft_working_use_percent=100 * joint.inner_stress_mpa(in_work) / joint.inner.yield_mpa,
        axial_n=joint.axial_force_n(in_work, length, float(given.friction)),
        torque_nm=joint.torque_nm(in_work, length, float(given.friction)),
    )


def _hub_in_work(joint: Cylinders, pressure_mpa: float, given: InterferenceInput) -> float:
    """Equivalent stress at the hub's bore in work: what is left of the squeeze, and what rotation adds. Source:
    superposition.
    """
    return joint.hub_stress_mpa(
        pressure_mpa, given.criterion, spin_hoop_mpa=joint.spin_hoop_mpa(float(given.speed_rpm))
    )


def _stroke(cases: list[Case], length_mm: float) -> list[StrokePoint]:
    """The force rises evenly with what is engaged, for the greatest interference that is still elastic."""
    force = next((case.press_in_n for case in reversed(cases) if case.press_in_n is not None), None)
    if force is None:
        return []
    return [
        StrokePoint(engaged_mm=length_mm * step / (STROKE_POINTS - 1), force_n=force * step / (STROKE_POINTS - 1))
        for step in range(STROKE_POINTS)
    ]


def _sentence(cases: list[Case], given: InterferenceInput, unit: Unit) -> str:
    least, greatest = cases[0], cases[-1]
    if not least.elastic:
        return "Even the least interference is beyond what the parts can take elastically: make it less."
    assert least.torque_nm is not None
    assert least.axial_n is not None
    service = "" if given.temperature_c == 20 and given.speed_rpm == 0 else " in work"
    holds = (
        f"It holds at least {show_torque(least.torque_nm, unit)}, or {show_force(least.axial_n, unit)} along{service}"
        if least.axial_n
        else f"At the least interference it holds nothing{service}"
    )
    if greatest.press_in_n is None:
        return f"{holds}; at the greatest it is overstressed."
    return f"{holds}, and takes up to {show_force(greatest.press_in_n, unit)} to press."


def _cautions(cases: list[Case], joint: Cylinders, most: Decimal, first: str, unit: Unit) -> list[str]:
    found = [PRESS_CAUTION]
    if not all(case.elastic for case in cases):
        found.append(f"The {first} is overstressed: stay at or below {both(most, unit, decimals=5)} of interference.")
    for part in ("hub", "shaft"):
        worst = max((getattr(case, f"{part}_working_use_percent") or 0.0 for case in cases), default=0.0)
        if worst > 100:
            found.append(
                f"In work, heat and speed bring the {part} to {worst:.0f} % of its strength: slower, cooler, or less"
                " interference."
            )
    if joint.hub.brittle:
        found.append("Cast iron gives no warning: it cracks. Keep well below its strength, press slowly, no hammer.")
    if cases[0].axial_n == 0:
        found.append(
            "At the least interference nothing is left to hold: roughness, heat or speed has eaten it. Ask for more."
        )
    return found


def _working(
    given: InterferenceInput,
    joint: Cylinders,
    cases: list[Case],
    lost: Decimal,
    warmed: Decimal,
    spun: Decimal,
    most: Decimal,
    unit: Unit,
) -> list[Step]:
    hub, shaft = joint.hub, joint.inner
    steps = [
        Step(
            name="Materials",
            formula="Young's modulus E, Poisson's ratio ν, strength",
            values=(
                f"hub {hub.title}: {hub.e_mpa / 1000:g} GPa, {hub.poisson:g}, {hub.yield_mpa:g} MPa; "
                f"shaft {shaft.title}: {shaft.e_mpa / 1000:g} GPa, {shaft.poisson:g}, {shaft.yield_mpa:g} MPa"
            ),
            result="as the table has them",
            source=MATERIAL_SOURCE,
        ),
        Step(
            name="Interference lost to roughness",
            formula="0.8·(Rz hub + Rz shaft)",
            values=f"{given.roughness_hub} and {given.roughness_shaft}",
            result=both(lost, unit, decimals=6),
            source="DIN 7190-1:2017",
        ),
    ]
    steps += [_pressure_step(case, joint, given) for case in cases if case.pressure_mpa is not None]
    steps.append(
        Step(
            name="In work: change of the interference",
            formula=(
                "d·(α shaft − α hub)·(t − 20 °C), less what rotation opens: 2·(growth of the hub's bore − growth of the"
                " shaft)"
            ),
            values=f"{given.temperature_c} °C, {given.speed_rpm} rpm",
            result=f"{both(warmed, unit, decimals=6)}; − {both(spun, unit, decimals=6)}",
            source=f"{MATERIAL_SOURCE}; rotating discs (Timoshenko, Strength of Materials II)",
        )
    )
    steps += [_holds_step(case, given) for case in cases[:1] if case.torque_nm is not None]
    steps.append(
        Step(
            name="Most interference before something yields",
            formula=(
                "hub 2·p·D²/(D² − d²) (Tresca), solid shaft p, hollow shaft 2·p·d²/(d² − b²), each up to its strength; "
                "plus the roughness lost"
            ),
            values=f"criterion: {joint.hub_criterion(given.criterion)}",
            result=both(most, unit, decimals=5),
            source=SOURCE,
        )
    )
    return steps


def _pressure_step(case: Case, joint: Cylinders, given: InterferenceInput) -> Step:
    return Step(
        name=f"{case.name.capitalize()} interference: pressure and stresses",
        formula=(
            "p = δ/(d·[(K hub + ν)/E hub + (K shaft − ν)/E shaft]), K = (outer² + inner²)/(outer² − inner²); hub hoop ="
            " p·K hub"
        ),
        values=(
            f"δ = {case.effective}, d = {joint.interface_mm:g} mm, K hub = {joint.hub_ratio:.4f}, K shaft ="
            f" {joint.inner_ratio:.4f}"
        ),
        result=(
            f"p = {case.pressure_mpa:.1f} MPa; hub {case.hub_hoop_mpa:.0f} MPa, {case.hub_use_percent:.0f} % by"
            f" {CRITERION_WORDS['maximum_normal' if joint.hub.brittle else given.criterion]}; shaft"
            f" {case.shaft_hoop_mpa:.0f} MPa, {case.shaft_use_percent:.0f} %".replace("-", "−")
        ),
        source=SOURCE,
    )


def _holds_step(case: Case, given: InterferenceInput) -> Step:
    return Step(
        name="What the least interference holds",
        formula="F = µ·p·π·d·L; T = F·d/2",
        values=f"µ = {given.friction}, p = {case.working_pressure_mpa:.1f} MPa, L = {given.length}",
        result=f"{case.axial_n:.0f} N; {case.torque_nm:.1f} N·m",
        source=(
            "DIN 7190-1:2017; the coefficient of friction: common practice, no source" if case.axial_n else ARITHMETIC
        ),
    )
