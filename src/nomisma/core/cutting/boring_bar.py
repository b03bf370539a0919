"""Will the bar go in, reach, clear and stay stiff? Asked before it goes into the hole."""

from decimal import Decimal
from math import atan2, degrees, sqrt
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.cutting.deflection import DeflectionInput, deflection
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

BarMaterial = Literal["carbon_steel", "tungsten_carbide"]
DIAMETERS_OUT: dict[BarMaterial, int] = {"carbon_steel": 4, "tungsten_carbide": 6}
"""How many of its diameters a bar may stick out before it sings. Source: handbook order, recalled."""
GIVES: dict[BarMaterial, Decimal] = {"carbon_steel": Decimal(1), "tungsten_carbide": Decimal("0.35")}
"""What a bar gives of what a steel one would: carbide is about 590 GPa stiff, steel 205. Source: handbook order,
recalled.
"""
CHIP_ROOM = Length.of("0.020", "in")
"""What is left behind the bar at least, so that chips get out. Source: this tool's own choice."""
RUN_OUT = Length.of("0.040", "in")
"""How far the tip goes past the end of a through hole. Source: this tool's own choice."""


class BoringBarInput(Model):
    """A hole as it is now, and a bar: `across` from its back to the tip, `overhang` out of the holder.

    `nose`: how far the bar's end stands before the tip (of a blind hole it strikes first). `heel`: how far below the
    tip the tool's flank reaches, with `relief_deg` its relief. `depth_of_cut` on radius, `feed` a turn, in
    `work_material`.
    """

    hole: Size
    depth: Size
    bar_diameter: Size
    across: Size
    overhang: Size
    bar_material: BarMaterial = "carbon_steel"
    blind: bool = False
    nose: Difference = Length(Decimal(0))
    heel: Size | None = None
    relief_deg: Number = Field(default=Decimal(8), gt=0, lt=60)
    depth_of_cut: Size = Length.of("0.005", "in")
    feed: Size = Length.of("0.003", "in")
    work_material: str = "carbon_steel"
    unit: Unit = "in"


class BoringBarResult(Model):
    """Room behind the bar, what the overhang has to spare, the thickest bar that would go in, and how far it gives."""

    goes: bool
    hole: Size
    bar_diameter: Size
    across: Size
    behind: Difference
    reach_spare: Difference
    relief_needed_deg: float | None = None
    thickest_bar: Size | None = None
    diameters_out: float
    gives: Size
    on_diameter: Size
    sentence: str
    problems: list[str]
    helps: list[str]
    cautions: list[str]
    working: list[Step]


@calculation(
    name="boring_bar",
    title="Will the bar go in, and reach?",
    validity="A round bar with its tip on the hole's centre height, in a hole along the spindle's axis.",
    source="geometry; beam tables; overhang: handbook order, recalled; room for chips: this tool's own choice",
    example={"hole": "0.850 in", "depth": "1.5 in", "bar_diameter": "0.5 in", "across": "0.65 in",
        "overhang": "1.75 in", "heel": "0.100 in"},
)  # fmt: skip
def boring_bar(given: BoringBarInput) -> BoringBarResult:
    """Clearance all round, reach, heel and stiffness of a bar. Raises InputError, OutOfRange, NotDefined.

    Source: geometry: a bar whose width from back to tip is w clears a hole of D by D − w; a flank h below the tip needs
    a relief of atan((R − √(R² − h²))/h); bending as of `deflection`.

    >>> found = boring_bar(BoringBarInput(hole="20 mm", depth="30 mm", bar_diameter="12 mm", across="15 mm",
    ...     overhang="35 mm", unit="mm"))
    >>> found.goes, str(found.behind), str(found.thickest_bar)
    (True, '5 mm', '16.492 mm')
    """
    _check(given)
    behind = given.hole.mm - given.across.mm
    spare = given.overhang.mm - _needed(given)
    relief = _relief_needed(given)
    out = float(given.overhang.mm / given.bar_diameter.mm)
    bent = deflection(
        DeflectionInput(
            hold="boring_bar",
            diameter=given.bar_diameter,
            overhang=given.overhang,
            stiff_material="carbon_steel",
            work_material=given.work_material,
            depth=given.depth_of_cut,
            feed=given.feed,
            unit=given.unit,
        )
    )
    problems = _problems(given, behind, spare, relief, out)
    thickest = given.hole.mm - (given.across.mm - given.bar_diameter.mm) - CHIP_ROOM.mm
    strikes = given.blind and given.nose.mm > 0
    stops = behind < CHIP_ROOM.mm or spare < 0 or strikes or (relief is not None and relief > float(given.relief_deg))
    return BoringBarResult(
        goes=not stops,
        hole=given.hole,
        bar_diameter=given.bar_diameter,
        across=given.across,
        behind=Length(behind, given.unit),
        reach_spare=Length(spare, given.unit),
        relief_needed_deg=relief,
        thickest_bar=Length(thickest, given.unit) if thickest > 0 else None,
        diameters_out=out,
        gives=Length(bent.deflection.mm * GIVES[given.bar_material], given.unit),
        on_diameter=Length(bent.on_diameter.mm * GIVES[given.bar_material], given.unit),
        sentence=_sentence(given, stops=stops, behind=behind, spare=spare, problems=problems),
        problems=problems,
        helps=_helps(given, thickest, spare, out),
        cautions=[
            "Run the bar to the end of the hole with the spindle stopped before the feed goes in; no finger in a bore"
            " that turns. The machine’s manual comes first."
        ],
        working=_working(given, behind, spare, relief, out),
    )


def _check(given: BoringBarInput) -> None:
    if given.across.mm < given.bar_diameter.mm:
        raise InputError(
            "From its back to the tip the bar is less than it is thick.",
            "Measure across bar and tip together.",
            field="across",
        )
    if given.heel and given.heel.mm >= given.hole.mm / 2:
        raise OutOfRange(
            "The flank reaches below the hole itself.", "Measure from the tip down to the heel.", field="heel"
        )


def _needed(given: BoringBarInput) -> Decimal:
    """What must stick out so that the tip comes to the end before the holder comes to the face, mm."""
    return given.depth.mm if given.blind else given.depth.mm + RUN_OUT.mm


def _relief_needed(given: BoringBarInput) -> float | None:
    """The relief at which the flank just clears the wall, degrees."""
    if given.heel is None:
        return None
    radius, heel = float(given.hole.mm) / 2, float(given.heel.mm)
    return degrees(atan2(radius - sqrt(radius**2 - heel**2), heel))


def _problems(given: BoringBarInput, behind: Decimal, spare: Decimal, relief: float | None, out: float) -> list[str]:
    unit = given.unit
    found = []
    if behind <= 0:
        found.append(
            f"It does not go in: {show(given.across.mm, unit)} across in a hole of {show(given.hole.mm, unit)}."
        )
    elif behind < CHIP_ROOM.mm:
        found.append(f"Only {show_small(behind, unit)} is left behind it: chips have no way out, and the back may rub.")
    if spare < 0:
        found.append(f"It is {show(-spare, unit)} short: the holder strikes the face before the tip is through.")
    if given.blind and given.nose.mm > 0:
        found.append(f"Its end strikes the bottom {show(given.nose.mm, unit)} before the tip is there: grind it back.")
    if relief is not None and relief > float(given.relief_deg):
        found.append(f"Its heel rubs: {relief:.1f}° of relief are needed, it has {given.relief_deg}°.")
    if out > DIAMETERS_OUT[given.bar_material]:
        found.append(
            f"It sticks out {out:.1f} of its diameters; past {DIAMETERS_OUT[given.bar_material]} it is likely to"
            " chatter."
        )
    return found


def _sentence(given: BoringBarInput, *, stops: bool, behind: Decimal, spare: Decimal, problems: list[str]) -> str:
    if stops:
        return problems[0]
    unit = given.unit
    room = f"It goes in with {show(behind, unit)} behind it, and reaches with {show(spare, unit)} to spare."
    return f"{room} {problems[0]}" if problems else room


def _helps(given: BoringBarInput, thickest: Decimal, spare: Decimal, out: float) -> list[str]:
    unit = given.unit
    found = []
    if thickest > given.bar_diameter.mm:
        ratio = float(given.bar_diameter.mm / thickest) ** 4
        found.append(f"A bar of {show(thickest, unit)} would still go in, and give {ratio:.2f} of this.")
    if spare > RUN_OUT.mm:
        ratio = (1 - float(spare / given.overhang.mm)) ** 3
        found.append(
            f"Push it back {show(spare, unit)} into the holder: it still reaches, and gives {ratio:.2f} of this."
        )
    if out > DIAMETERS_OUT[given.bar_material]:
        found.append("If it sings: slower, a little more feed, a smaller nose radius, a sharp tip.")
    found.append("Measure mouth and deep: a tight deep end is the bar giving; the same dial again takes some of it.")
    return found


def _working(given: BoringBarInput, behind: Decimal, spare: Decimal, relief: float | None, out: float) -> list[Step]:
    unit = given.unit
    found = [
        Step(
            name="Behind the bar",
            formula="hole − (back to tip)",
            values=f"{given.hole} − {given.across}",
            result=both(behind, unit),
            source="geometry",
        ),
        Step(
            name="Reach",
            formula="overhang − depth" if given.blind else f"overhang − depth − {RUN_OUT} to run out",
            values=f"{given.overhang}, {given.depth}",
            result=both(spare, unit),
            source=ARITHMETIC,
        ),
    ]
    if relief is not None:
        found.append(
            Step(
                name="Heel",
                formula="relief ≥ atan((R − √(R² − h²))/h)",
                values=f"R = {both(given.hole.mm / 2, unit)}, h = {given.heel}",
                result=f"{relief:.1f}°",
                source="geometry",
            )
        )
    found.append(
        Step(
            name="Overhang",
            formula=f"over its diameter, against {DIAMETERS_OUT[given.bar_material]}",
            result=f"{out:.1f}",
            source=f"handbook order, recalled; {COMMON_PRACTICE}",
        )
    )
    return found
