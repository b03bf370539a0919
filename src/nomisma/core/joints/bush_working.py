"""How the bush worksheet speaks: its sentence, its cautions and its working, and the shop rules it starts from."""

from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.fits.partner import Partner
from nomisma.core.fits.shop_rules import ShopRule, shop_rules
from nomisma.core.fits.suit import Window
from nomisma.core.joints.bush_model import BushInput, Order, SizeSpan
from nomisma.core.joints.close_in import CloseIn
from nomisma.core.joints.cylinders import SOURCE, Cylinders
from nomisma.core.joints.interference import PRESS_CAUTION
from nomisma.core.materials.material import SOURCE as MATERIAL_SOURCE
from nomisma.core.materials.material import material_named
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.length import Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

THIN_WALL = 0.05
"""A wall thinner than this share of the outside diameter is thin: it buckles or turns. Source: common practice, no
source.
"""


@dataclass(frozen=True, slots=True)
class BushWorkedOut:
    """What a bush comes to: its members, the windows wanted, its limits, and what pressing and warmth make of them.

    `fitted` and `squeeze_warm` are interferences (mm) cold and warm, `closes` the close-in, `warm` the running
    clearance at the working temperature, `forces` in N; least first. `loose_c`: where it comes loose, None where not.
    """

    joint: Cylinders
    housing: Partner
    shaft: Partner
    squeeze: Window
    run: Window
    outside: SizeSpan
    after: SizeSpan
    before: SizeSpan | None
    fitted: tuple[Decimal, Decimal]
    found: list[CloseIn]
    closes: tuple[Decimal, Decimal]
    forces: list[float]
    warm: tuple[Decimal, Decimal]
    squeeze_warm: tuple[Decimal, Decimal]
    loose_c: float | None


def rule_of(given: BushInput, name: str) -> ShopRule:
    """The rule of that name, the shop's own version where it has one. Source: common practice, no source."""
    return {**shop_rules(), **{rule.name: rule for rule in given.shop_rules}}[name]


def press_rule(given: BushInput, diameter_mm: Decimal) -> ShopRule:
    """The rule for the outside of a bush of that diameter (mm): the small bush's as far as it goes. Source: common
    practice, no source.
    """
    small = rule_of(given, "small_bush_press")
    return small if diameter_mm <= small.to_size.mm else rule_of(given, "press_thin")


def run_rule(given: BushInput, diameter_mm: Decimal) -> ShopRule:
    """The rule for the running clearance on a shaft of that diameter (mm), likewise. Source: common practice, no
    source.
    """
    small = rule_of(given, "small_bush_running")
    return small if diameter_mm <= small.to_size.mm else rule_of(given, "running")


def bush_sentence(
    outside: SizeSpan, made: bool, order: Order, before: SizeSpan | None, after: SizeSpan, unit: Unit
) -> str:
    """What to do, in one sentence, in the order the numbers favour. Source: arithmetic."""
    first = (
        "The bush as it is"
        if made
        else f"Turn the outside to {both(outside.aim.mm if outside.aim else outside.upper.mm, unit)}"
    )
    if order == "before" and before and before.aim:
        return f"{first}, bore it {both(before.aim.mm, unit)}, press it in."
    assert after.aim is not None
    return f"{first}, press it in with the bore undersize, then bore or ream it to {both(after.aim.mm, unit)}."


def warm_cautions(given: BushInput, joint: Cylinders, greatest: CloseIn, *, yields_cold: bool) -> list[str]:
    """What working temperature does to housing and bush at the greatest interference. Source: Lamé, Tresca."""
    found = []
    use = 100 * joint.hub_stress_mpa(greatest.pressure_mpa, "maximum_shear") / joint.hub.yield_mpa
    if use > 100:
        word = "cracks" if joint.hub.brittle else "yields"
        found.append(
            f"At {given.working_c} °C the bush presses the housing to {use:.0f} % of its strength: it {word}. Less"
            " interference, a thicker housing, or a bush that grows less."
        )
    if greatest.bush_yields and not yields_cold:
        found.append(
            f"At {given.working_c} °C the bush is squeezed beyond its elastic limit, and cold again it is smaller"
            " outside: what it grips with is then less than was pressed in."
        )
    return found


def bush_cautions(given: BushInput, of: BushWorkedOut) -> list[str]:
    """What can go wrong with this bush, in words. Source: common practice, no source."""
    unit = given.unit
    found = [PRESS_CAUTION]
    oval = of.housing.largest_mm - of.housing.smallest_mm
    if of.housing.origin == "measured" and oval > of.fitted[1] / 2:
        found.append(
            f"The housing is {show_small(oval, unit)} out of round or tapered, over half the interference: "
            "bore it true first, and make the bush to suit."
        )
    if of.fitted[0] == 0:
        found.append("At the loosest the bush has no grip: a pin, a screw or retaining compound must hold it.")
    if of.found[1].bush_yields:
        found.append(
            "The bush is squeezed beyond its elastic limit: usual for bronze, but its close-in is then only bounded, "
            "and pressed out it will not hold a second time."
        )
    wall = (of.joint.interface_mm - of.joint.bore_mm) / 2
    if wall < THIN_WALL * of.joint.interface_mm:
        found.append("A thin wall: it can buckle as it goes in. Press it over a close mandrel, oiled, dead square.")
    if given.flange:
        found.append(
            "The flange keeps it from going through: chamfer the housing's edge over the corner under the flange, or it"
            " will not seat."
        )
    else:
        found.append("Without a flange nothing stops it: press it with a stepped mandrel that lands on the of.housing.")
    if of.squeeze_warm[0] <= 0 < of.fitted[0] or (of.loose_c is not None and 20 < of.loose_c <= float(given.working_c)):
        at = f" from about {of.loose_c:.0f} °C" if of.loose_c is not None else ""
        found.append(
            f"Warm, the bush can come loose in its housing{at}: pin it, bond it, or choose a housing that grows less."
        )
    if of.warm[0] <= 0:
        found.append(f"At {given.working_c} °C it can seize: the least running clearance is used up. Ask for more.")
    if of.joint.inner.name == "acetal":
        found.append(
            "Plastic creeps: the squeeze fades, the bore opens and closes with warmth and damp. Take the maker's"
            " allowances."
        )
    return found


def bush_working(given: BushInput, of: BushWorkedOut) -> list[Step]:
    """The working of the whole worksheet, in the order it is done. Source: named at each step."""
    unit = given.unit
    d = 5 if unit == "in" else 4

    def span(ends: tuple[Decimal, Decimal]) -> str:
        return f"{both(ends[0], unit, decimals=d)} to {both(ends[1], unit, decimals=d)}"

    own = given.interference_min is not None
    runs = given.clearance_min is not None
    return [
        *of.housing.working,
        *of.shaft.working,
        Step(
            name="Interference wanted",
            formula="as entered" if own else press_rule(given, of.housing.mean_mm).text,
            result=span((-of.squeeze.greatest_mm, -of.squeeze.least_mm)),
            source="entered" if own else COMMON_PRACTICE,
        ),
        Step(
            name="Outside of the bush",
            formula=(
                "as made" if given.bush_outside else "largest housing + least interference; smallest housing + greatest"
            ),
            values=(
                f"housing {span((of.housing.smallest_mm, of.housing.largest_mm))} ±"
                f" {both(of.housing.uncertainty_mm, unit, decimals=d)}"
            ),
            result=span((of.outside.lower.mm, of.outside.upper.mm)),
            source=ARITHMETIC,
        ),
        Step(
            name="Running clearance wanted",
            formula="as entered" if runs else run_rule(given, of.shaft.mean_mm).text,
            result=span((of.run.least_mm, of.run.greatest_mm)),
            source="entered" if runs else COMMON_PRACTICE,
        ),
        Step(
            name="Bore after pressing",
            formula="largest shaft + least clearance; smallest shaft + greatest clearance",
            values=(
                f"shaft {span((of.shaft.smallest_mm, of.shaft.largest_mm))} ±"
                f" {both(of.shaft.uncertainty_mm, unit, decimals=d)}"
            ),
            result=span((of.after.lower.mm, of.after.upper.mm)),
            source=ARITHMETIC,
        ),
        Step(
            name="Pressure at the interface",
            formula="p = δ/(d·[(K housing + ν)/E + (K bush − ν)/E])",
            values=(
                f"δ {span(of.fitted)}; housing {of.joint.hub.title} {of.joint.outer_mm:.2f} mm outside;"
                f" bush {of.joint.inner.title} {of.joint.interface_mm:.2f} × {of.joint.bore_mm:.2f} mm"
            ),
            result=f"{of.found[0].pressure_mpa:.1f} to {of.found[1].pressure_mpa:.1f} MPa"
            + (
                ", held to what the ring bears when it yields right through, σ·ln(d/b)"
                if of.found[1].bush_yields
                else ""
            ),
            source=f"{SOURCE}; {MATERIAL_SOURCE}",
        ),
        Step(
            name="Close-in of the bore",
            formula="2·p·d²·b/(E·(d² − b²)), × the shop's own factor"
            + (
                "; where the bush yields also (δ − what the housing gives)·d/b, a ring of constant area"
                if of.found[1].bush_yields
                else ""
            ),
            values=f"factor {given.close_in_factor}",
            result=f"{span(of.closes)}; 70 to 100 % of the interference is usual",
            source=f"{SOURCE}; the check: {COMMON_PRACTICE}",
        ),
        Step(
            name="Bore before pressing",
            formula="lower limit after + greatest close-in; upper limit after + least close-in",
            result=span((of.before.lower.mm, of.before.upper.mm))
            if of.before
            else "the two cross: it cannot be promised",
            source=ARITHMETIC,
        ),
        Step(
            name="Force to press",
            formula="F = µ·p·π·d·L",
            values=f"µ = {given.friction}, L = {given.length}",
            result=f"{of.forces[0]:.0f} to {of.forces[1]:.0f} N",
            source="DIN 7190-1:2017; µ: common practice, no source",
        ),
        Step(
            name=f"Running clearance at {given.working_c} °C",
            formula="free bore·(1 + α·Δt) − close-in at that interference − shaft·(1 + α·Δt)",
            values=f"shaft {material_named(given.shaft_material).title}, warmer by {given.shaft_warmer_by_k} K",
            result=span(of.warm),
            source=f"{MATERIAL_SOURCE}; linear expansion",
        ),
    ]
