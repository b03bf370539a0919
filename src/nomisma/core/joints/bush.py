"""The bush as one problem: press outside, close-in, running clearance inside, cold and warm, and which order to work
in.
"""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.fits.aim import AimMethod, aim_size, round_inward
from nomisma.core.fits.partner import Partner, PartnerInput, partner_from
from nomisma.core.fits.suit import Window, suit_limits
from nomisma.core.joints.bush_model import BushInput, BushResult, Order, SizeSpan, Span
from nomisma.core.joints.bush_working import (
    BushWorkedOut,
    bush_cautions,
    bush_sentence,
    bush_working,
    press_rule,
    run_rule,
    warm_cautions,
)
from nomisma.core.joints.close_in import CloseIn, check_housing, close_in
from nomisma.core.joints.cylinders import SOURCE, Cylinders, checked
from nomisma.core.joints.interference import check_temperature
from nomisma.core.joints.press_lead import lead_step, press_lead
from nomisma.core.materials.material import material_named
from nomisma.core.part.member import of_member
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.length import MM_PER, MM_PER_INCH, Length, Unit, as_mm, in_unit, round_to

WORKABLE_SHARE = Decimal("0.4")
"""Boring before pressing is worth it while this share of the tolerance is left. Source: common practice, no source."""


@calculation(
    name="bush",
    title="The bush worksheet: press, close-in, running clearance",
    validity="A plain or flanged bush without a split, pressed into one housing; elastic housing; the bush may yield "
        "and is then bounded.",
    source=f"{SOURCE}; close-in 70 to 100 % of the interference as a check: common practice, no source",
    example={
        "housing": {"kind": "bore", "callout": "0.7500/0.7506 in"},
        "shaft": {"kind": "shaft", "callout": "0.4990/0.4995 in"},
        "housing_outer": "2 in", "length": "0.75 in", "unit": "in",
    },
)  # fmt: skip
def bush(given: BushInput) -> BushResult:
    """Outside, bore before and after pressing, clearances cold and warm, force and order. Raises InputError or
    OutOfRange.

    Source: Lamé with the bush as inner cylinder (Shigley 3-16); arithmetic on limits; shop rules: common practice.

    >>> found = bush(BushInput(housing={"kind": "bore", "callout": "0.7500/0.7506 in"}, housing_outer="2 in",
    ...     length="0.75 in",
    ...     shaft={"kind": "shaft", "callout": "0.4990/0.4995 in"}, unit="in"))
    >>> str(found.outside.lower), str(found.outside.upper), found.order
    ('0.7511 in', '0.7515 in', 'after')
    """
    housing, shaft = _member(given.housing, "bore", "housing"), _member(given.shaft, "shaft", "shaft")
    unit = given.unit
    squeeze = _interference_window(given, housing)
    outside, made = _outside(given, housing, squeeze, unit)
    run = _clearance_window(given, shaft)
    bore_after = _limits(suit_limits(shaft, run), "running clearance", unit, given.aim, "bore")
    joint = _joint(given, housing, bore_after)
    fitted = _fitted(outside, housing)
    lost = Decimal("0.8") * given.roughness.mm * 2
    ends = [max(float(end - lost), 0.0) for end in fitted]
    found = [close_in(joint, end, float(given.close_in_factor)) for end in ends]
    check_housing(joint, found, ends, lost, unit)
    closes = as_mm(found[0].least_mm), as_mm(found[1].greatest_mm)
    before = _before(bore_after, closes, given.aim, unit)
    bored = bore_after.lower.mm, bore_after.upper.mm
    after_found = _after_found(given, closes)
    order, reason = _order(bore_after, before, found[1].bush_yields, unit)
    in_work = _warm_close_in(given, joint, outside, housing, lost)
    squeeze_warm = in_work.interference
    cold, warm = _in_service(given, joint, bored if after_found is None else after_found, shaft, found, in_work)
    forces = [joint.axial_force_n(one.pressure_mpa, float(given.length.mm), float(given.friction)) for one in found]
    loose, binds = _loose_at(joint, fitted[0] - lost), _binds_at(given, cold[0], warm[0])
    yields = found[1].bush_yields
    wall = (as_mm(joint.interface_mm) - as_mm(joint.bore_mm)) / 2
    worked_out = BushWorkedOut(
        joint=joint,
        housing=housing,
        shaft=shaft,
        squeeze=squeeze,
        run=run,
        outside=outside,
        after=bore_after,
        before=before,
        fitted=fitted,
        found=found,
        closes=closes,
        forces=forces,
        warm=warm,
        squeeze_warm=squeeze_warm,
        loose_c=loose,
    )
    return BushResult(
        outside=outside,
        outside_made=made,
        interference=_span(fitted, unit),
        close_in=_span(closes, unit),
        close_in_share_percent=_share(found, ends),
        bore_after=bore_after,
        bore_before=before,
        rough_bore_at_most=_rough_bore(bore_after.lower.mm + closes[0], unit),
        bore_after_found=_span(after_found, unit) if after_found else None,
        ream=_ream(after_found, bore_after, unit),
        clearance_cold=_span(cold, unit),
        clearance_warm=_span(warm, unit),
        interference_warm=_span(squeeze_warm, unit),
        press_force_n=(forces[0], forces[1]),
        pressure_mpa=(found[0].pressure_mpa, found[1].pressure_mpa),
        housing_use_percent=100 * joint.hub_stress_mpa(found[1].pressure_mpa, "maximum_shear") / joint.hub.yield_mpa,
        housing_working_use_percent=100
        * joint.hub_stress_mpa(in_work.greatest.pressure_mpa, "maximum_shear")
        / joint.hub.yield_mpa,
        bush_yields=yields,
        bush_yields_warm=in_work.greatest.bush_yields,
        order=order,
        order_reason=reason,
        loose_at_c=loose,
        binds_at_c=binds,
        working_c=float(given.working_c),
        wall=Length(wall, unit),
        flange=given.flange,
        sentence=bush_sentence(outside, made, order, before, bore_after, unit),
        cautions=[
            *bush_cautions(given, worked_out),
            *warm_cautions(given, joint, in_work.greatest, yields_cold=yields),
        ],
        press_lead=press_lead(outside.upper.mm, unit),
        working=[
            *bush_working(given, worked_out),
            lead_step(outside.upper.mm, unit),
        ],
    )


def _member(given: PartnerInput, kind: Literal["bore", "shaft"], name: str) -> Partner:
    if given.kind != kind:
        raise InputError(f"The {name} is entered as a {given.kind}.", f"It is a {kind}.", field=f"{name}.kind")
    try:
        return partner_from(given)
    except InputError as error:
        error.field = error.field.replace("partner", name)
        raise


def _interference_window(given: BushInput, housing: Partner) -> Window:
    """The interference wanted, as a clearance window below zero."""
    if given.interference_min is not None and given.interference_max is not None:
        low, high = given.interference_min.mm, given.interference_max.mm
        if not 0 <= low < high:
            raise InputError(
                "The interference wanted is not in order.",
                "Give the least first, at least 0, then the greatest.",
                field="interference_min",
            )
        if high > housing.mean_mm / 50:
            raise OutOfRange(
                f"An interference of {given.interference_max} is far beyond any press fit here.",
                "Check the unit.",
                field="interference_max",
            )
        return Window(-high, -low)
    if given.interference_min is not None or given.interference_max is not None:
        missing = "interference_max" if given.interference_min is not None else "interference_min"
        raise InputError("An interference needs both its ends.", "Give the least and the greatest.", field=missing)
    return Window(*press_rule(given, housing.mean_mm).window_mm(housing.mean_mm))


def finishing_allowance_mm(bore_mm: Decimal) -> Decimal:
    """What to leave on diameter for boring or reaming after pressing (mm): 1/64 in from 1/2 in up, 0.010 in below.

    Source: common practice, no source.

    >>> finishing_allowance_mm(Decimal("12.7")), finishing_allowance_mm(Decimal(6))
    (Decimal('0.396875'), Decimal('0.254'))
    """
    return MM_PER_INCH / 64 if bore_mm >= MM_PER_INCH / 2 else MM_PER_INCH / 100


def _rough_bore(finished_before_mm: Decimal, unit: Unit) -> Length:
    """The most to bore before pressing, rounded down to a thou or a hundredth of a millimetre."""
    exact = finished_before_mm - finishing_allowance_mm(finished_before_mm)
    return Length(round_to(in_unit(exact, unit), 3 if unit == "in" else 2, "down") * MM_PER[unit], unit)


def _clearance_window(given: BushInput, shaft: Partner) -> Window:
    if given.clearance_min is not None and given.clearance_max is not None:
        if given.clearance_min.mm >= given.clearance_max.mm:
            raise InputError(
                "The least running clearance is not below the greatest.", "Exchange them.", field="clearance_min"
            )
        return Window(given.clearance_min.mm, given.clearance_max.mm)
    if given.clearance_min is not None or given.clearance_max is not None:
        missing = "clearance_max" if given.clearance_min is not None else "clearance_min"
        raise InputError("A clearance needs both its ends.", "Give the least and the greatest.", field=missing)
    return Window(*run_rule(given, shaft.mean_mm).window_mm(shaft.mean_mm))


def _outside(given: BushInput, housing: Partner, squeeze: Window, unit: Unit) -> tuple[SizeSpan, bool]:
    """The bush's outside: as made, or limits to suit the housing."""
    if given.bush_outside is None:
        return _limits(suit_limits(housing, squeeze), "interference", unit, given.aim, "shaft"), False
    made = _member(given.bush_outside, "shaft", "bush_outside")
    low, high = made.smallest_mm - made.uncertainty_mm, made.largest_mm + made.uncertainty_mm
    if high <= housing.smallest_mm - housing.uncertainty_mm:
        raise InputError(
            f"This bush is loose in its housing: at its largest {both(high, unit)} it is smaller than the bore.",
            "Bond it with retaining compound, or make a new one to suit the housing.",
            field="bush_outside",
        )
    return SizeSpan(lower=Length(low, unit), upper=Length(high, unit)), True


def _limits(
    ends: tuple[Decimal, Decimal], what: str, unit: Unit, aim: AimMethod, kind: Literal["bore", "shaft"]
) -> SizeSpan:
    low, high = ends
    if low >= high:
        raise OutOfRange(
            f"The {what} wanted is narrower than what it is to suit: its own form, tolerance and doubt take it all.",
            "Ask for a wider window, correct the other part first, or measure it with a finer instrument.",
            field=of_member(kind, shaft="interference_max", bore="clearance_max"),
        )
    low, high = round_inward(low, high, unit)
    return SizeSpan(
        lower=Length(low, unit), upper=Length(high, unit), aim=Length(aim_size(kind, low, high, aim, unit), unit)
    )


def _joint(given: BushInput, housing: Partner, bore_after: SizeSpan) -> Cylinders:
    joint = Cylinders(
        float(bore_after.lower.mm + bore_after.upper.mm) / 2,
        float(housing.mean_mm),
        float(given.housing_outer.mm),
        material_named(given.bush_material, field="bush_material"),
        material_named(given.housing_material, field="housing_material"),
    )
    for word, material in (("bush", joint.inner), ("housing", joint.hub)):
        check_temperature(float(given.working_c), material, word, field="working_c")
    if not 0 < given.friction <= 1:
        raise OutOfRange(
            "A coefficient of friction lies above 0 and at most at 1.",
            "Bronze in steel, oiled, is about 0.12.",
            field="friction",
        )
    if not Decimal("0.3") <= given.close_in_factor <= 2:
        raise OutOfRange("A close-in factor lies between 0.3 and 2.", "1 is as computed.", field="close_in_factor")
    if abs(given.shaft_warmer_by_k) > 200:
        raise OutOfRange("The shaft cannot run that much warmer.", "At most 200 K.", field="shaft_warmer_by_k")
    if given.roughness.mm < 0:
        raise InputError("A roughness is never below zero.", "Leave out the sign.", field="roughness")
    return checked(joint, inner_word="bush", hub_word="housing")


def _fitted(outside: SizeSpan, housing: Partner) -> tuple[Decimal, Decimal]:
    """Least and greatest interference of this outside in this housing, doubt counted; the least not below zero here."""
    return (
        max(outside.lower.mm - housing.largest_mm - housing.uncertainty_mm, Decimal(0)),
        outside.upper.mm - housing.smallest_mm + housing.uncertainty_mm,
    )


def _before(after: SizeSpan, closes: tuple[Decimal, Decimal], aim: AimMethod, unit: Unit) -> SizeSpan | None:
    """Bore before pressing so that it lands inside the limits after; None where close-in spreads too far."""
    low, high = after.lower.mm + closes[1], after.upper.mm + closes[0]
    if low >= high:
        return None
    low, high = round_inward(low, high, unit)
    return SizeSpan(
        lower=Length(low, unit), upper=Length(high, unit), aim=Length(aim_size("bore", low, high, aim, unit), unit)
    )


def _after_found(given: BushInput, closes: tuple[Decimal, Decimal]) -> tuple[Decimal, Decimal] | None:
    """What a bush that is already bored becomes when it is pressed in."""
    if given.bush_bore is None:
        return None
    bore = _member(given.bush_bore, "bore", "bush_bore")
    return bore.smallest_mm - bore.uncertainty_mm - closes[1], bore.largest_mm + bore.uncertainty_mm - closes[0]


def _ream(found: tuple[Decimal, Decimal] | None, after: SizeSpan, unit: Unit) -> Span | None:
    """How much to ream or bore out after pressing, to the middle of the limits; None where it is not made or lands
    inside.
    """
    if found is None or (after.lower.mm <= found[0] and found[1] <= after.upper.mm):
        return None
    middle = (after.lower.mm + after.upper.mm) / 2
    return _span((middle - found[1], middle - found[0]), unit)


def _order(after: SizeSpan, before: SizeSpan | None, yields: bool, unit: Unit) -> tuple[Order, str]:
    tolerance = after.upper.mm - after.lower.mm
    if before is None:
        return (
            "after",
            (
                f"Close-in spreads over more than the {show_small(tolerance, unit)} the bore may vary: "
                "only boring or reaming after pressing hits it."
            ),
        )
    left = before.upper.mm - before.lower.mm
    if yields:
        return (
            "after",
            (
                "The bush yields as it goes in, so its close-in is only bounded: press it undersize and bore or ream"
                " after."
            ),
        )
    if left < tolerance * WORKABLE_SHARE:
        return (
            "after",
            (
                f"Before pressing only {show_small(left, unit)} of {show_small(tolerance, unit)} would be left to work"
                " to: bore it after."
            ),
        )
    return (
        "before",
        (
            f"Close-in is predictable here: {show_small(left, unit)} of {show_small(tolerance, unit)} is left to work"
            " to before pressing, and the bore keeps true to the outside."
        ),
    )


@dataclass(frozen=True, slots=True)
class _InWork:
    """Interference at working temperature (mm, below zero a gap) and the close-in of its least and greatest."""

    interference: tuple[Decimal, Decimal]
    least: CloseIn
    greatest: CloseIn


def _warm_close_in(given: BushInput, joint: Cylinders, outside: SizeSpan, housing: Partner, lost: Decimal) -> _InWork:
    """What the working temperature makes of the interference as it is, a gap at its loosest counted, and how far the
    bore closes then.
    """
    warmed = as_mm(joint.warmed_by_mm(float(given.working_c)))
    low = outside.lower.mm - housing.largest_mm - housing.uncertainty_mm - lost + warmed
    high = outside.upper.mm - housing.smallest_mm + housing.uncertainty_mm - lost + warmed
    least, greatest = (close_in(joint, max(float(end), 0.0), float(given.close_in_factor)) for end in (low, high))
    return _InWork((low, high), least, greatest)


def _in_service(
    given: BushInput,
    joint: Cylinders,
    bore: tuple[Decimal, Decimal],
    shaft: Partner,
    cold_close_in: list[CloseIn],
    in_work: _InWork,
) -> tuple[tuple[Decimal, Decimal], tuple[Decimal, Decimal]]:
    """Running clearance at 20 °C and warm.

    Warm, the free bore grows with the bush, and closes in by what the interference has become. Source: expansion and
    Lamé.
    """
    small, large = shaft.smallest_mm - shaft.uncertainty_mm, shaft.largest_mm + shaft.uncertainty_mm
    cold = bore[0] - large, bore[1] - small
    away = float(given.working_c) - 20
    material = material_named(given.shaft_material, field="shaft_material")
    grown = 1 + material.alpha_per_k * (away + float(given.shaft_warmer_by_k))
    warm = []
    for closed_bore, rod, closed_cold, closes_warm in (
        (bore[0], large, cold_close_in[1].greatest_mm, in_work.greatest.greatest_mm),
        (bore[1], small, cold_close_in[0].least_mm, in_work.least.least_mm),
    ):
        free = float(closed_bore) + closed_cold
        warm.append(as_mm(free * (1 + joint.inner.alpha_per_k * away) - closes_warm - float(rod) * grown))
    return cold, (warm[0], warm[1])


def _loose_at(joint: Cylinders, least: Decimal) -> float | None:
    """The temperature (°C) at which the bush is loose in its housing; None where heat or cold to ±200 K does
    not do it.
    """
    slope = joint.warmed_by_mm(21.0)
    if slope == 0:
        return None
    at = 20 - float(least) / slope
    return at if -100 <= at <= 250 else None


def _binds_at(given: BushInput, cold: Decimal, warm: Decimal) -> float | None:
    """The temperature (°C) at which the running clearance is used up, along the straight line through cold and warm."""
    away = float(given.working_c) - 20
    if away == 0 or cold <= 0 or warm >= cold:
        return None
    at = 20 + away * float(cold / (cold - warm))
    return at if -100 <= at <= 250 else None


def _share(found: list[CloseIn], ends: list[float]) -> tuple[int, int]:
    shares = [
        round(100 * value / end)
        for one, end in zip(found, ends, strict=True)
        if end > 0
        for value in (one.least_mm, one.greatest_mm)
    ] or [0]
    return min(shares), max(shares)


def _span(ends: tuple[Decimal, Decimal], unit: Unit) -> Span:
    return Span(least=Length(ends[0], unit), greatest=Length(ends[1], unit))
