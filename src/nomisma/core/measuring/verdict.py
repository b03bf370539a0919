"""The metal-safe verdict: metal to go, in limits, too close to call, gone too far."""

from decimal import Decimal
from statistics import NormalDist
from typing import Literal, assert_never

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.part.feature import Acceptance, Feature, State, kept_away, toward_metal
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step

NearLimit = Literal["upper", "lower", "both", ""]
_FAR_MM = Decimal(1_000_000)
"""Beyond any part: where a limit that is not there would stand."""
SOURCE = (
    "metal-safe side: common practice, no source; guard by the uncertainty: ISO 14253-1:2017, 5; simple: JCGM 106:2012,"
    " 8.2; limit gauges: ISO 1938-1:2015 (edition recalled)"
)


class VerdictInput(Model):
    """A reading, the limits it is held against, and what the reading is worth (expanded, k = 2).

    `acceptance`: guarded (the uncertainty is kept away from the limits), simple (the reading alone decides), or by
    limit gauges (a bracket may end on the limits). `half_bracket`: half the way between two pins that bound the size,
    the reading their middle: they judge as limit gauges, whatever the rule, and what they are off is in the
    uncertainty. `kind`: shaft, bore or any other kind of feature; it says on which side of the limits there is metal.
    One of the limits may be left out where there is only the other.
    """

    kind: KindName
    reading: Difference
    lower: Difference | None = None
    upper: Size | None = None
    uncertainty: Difference
    aim: Size | None = None
    acceptance: Acceptance = "guarded"
    half_bracket: Difference | None = None


class VerdictResult(Model):
    """The state and how much: on diameter where the feature is one.

    `to_aim`: metal still to take to the aim (below zero: past the aim). `beyond`: how far outside the limit it is
    out of, zero when inside. `near_limit`: the limit that the uncertainty straddles. `conformity_percent`: the chance
    that the true size is in limits, from this reading alone.
    """

    state: State
    to_aim: Difference
    beyond: Difference
    near_limit: NearLimit = ""
    conformity_percent: Number
    sentence: str
    working: list[Step]


def conformity(
    reading_mm: Decimal,
    lower_mm: Decimal | None,
    upper_mm: Decimal | None,
    uncertainty_mm: Decimal,
    *,
    bracket: bool = False,
) -> float:
    """The probability (0 to 1) that the true size is in limits (None: no such limit); uncertainty expanded (mm, k = 2).

    Nothing but this reading is known of the size (a flat prior); in a `bracket` every size is as likely (JCGM 100:2008,
    4.3.7). Source: JCGM 106:2012, 7.4 and 7.5.

    >>> round(conformity(Decimal("25.000"), Decimal("24.98"), Decimal("25.000"), Decimal("0.002")), 3)
    0.5
    """
    low = lower_mm if lower_mm is not None else -_FAR_MM
    high = upper_mm if upper_mm is not None else _FAR_MM
    if bracket and uncertainty_mm:
        inside = min(high, reading_mm + uncertainty_mm) - max(low, reading_mm - uncertainty_mm)
        return float(max(inside, Decimal(0)) / (2 * uncertainty_mm))
    if uncertainty_mm == 0:
        return 1.0 if low <= reading_mm <= high else 0.0
    spread = NormalDist(float(reading_mm), float(uncertainty_mm) / 2)
    return spread.cdf(float(high)) - spread.cdf(float(low))


@calculation(
    name="verdict",
    title="A reading against its limits",
    validity="One reading of one feature; one limit or two in order; uncertainty zero or more.",
    source=SOURCE,
    example={
        "kind": "shaft", "reading": "0.8786 in", "lower": "0.8744 in", "upper": "0.8750 in",
        "uncertainty": "0.00015 in", "aim": "0.8747 in",
    },
)  # fmt: skip
def verdict(given: VerdictInput) -> VerdictResult:
    """State, amount and a sentence, from a reading and its limits.

    Raises OutOfRange when the limits are out of order or missing, or a size or the uncertainty is negative.
    Source: common practice (metal-safe side); ISO 14253-1:2017, 5 (guard).

    >>> given = VerdictInput(kind="bore", reading="25.01 mm", lower="25 mm", upper="25.021 mm", uncertainty="0.002 mm")
    >>> verdict(given).state.words
    'in limits'
    """
    _check(given)
    feature = feature_of(given)
    reading, guard, unit = given.reading.mm, given.uncertainty.mm, given.reading.unit
    half = given.half_bracket.mm if given.half_bracket else None
    away, rule = kept_away(guard, given.acceptance, half)
    state = feature.judge(reading, guard, given.acceptance, half_bracket_mm=half)
    chance = conformity(reading, feature.lower_mm, feature.upper_mm, guard, bracket=half is not None)
    to_aim = feature.metal_to_take(reading, _target_mm(feature))
    near: NearLimit = _near(feature, reading, away) if state is State.TOO_CLOSE_TO_CALL else ""
    return VerdictResult(
        state=state,
        to_aim=Length(to_aim, unit),
        beyond=Length(feature.beyond_mm(reading), unit),
        near_limit=near,
        conformity_percent=Decimal(f"{100 * chance:.4f}"),
        sentence=(
            _by_pins(guard - half, unit)
            if half is not None and state is State.IN_LIMITS
            else _sentence(feature, state, reading, near, unit, by_pins=half is not None)
        ),
        working=[*_working(given, feature, state, rule), _chance_step(chance, bracket=half is not None)],
    )


def feature_of(given: VerdictInput) -> Feature:
    """The feature that is judged, in mm.

    Source: arithmetic.

    >>> given = VerdictInput(kind="bore", reading="25.01 mm", lower="25 mm", upper="25.021 mm", uncertainty="0.002 mm")
    >>> feature_of(given).target_mm
    Decimal('25.0105')
    """
    lower, upper, aim = (length.mm if length else None for length in (given.lower, given.upper, given.aim))
    return Feature(given.kind, lower, upper, aim)


def _target_mm(feature: Feature) -> Decimal:
    target = feature.target_mm
    assert target is not None  # it has been checked that there is a limit
    return target


_RULE: dict[Acceptance, str] = {
    "guarded": "within the uncertainty of a limit it is too close to call",
    "simple": "simple acceptance: the reading alone decides",
    "limit_gauge": "by limit gauges a bracket that ends on a limit has kept it; across one it is too close to call",
}


def _chance_step(chance: float, *, bracket: bool) -> Step:
    return Step(
        name="Probability of conformity",
        formula=(
            "the share of the bracket that lies between the limits: nothing more is known"
            if bracket
            else (
                "chance that the true size is between the limits; normal about the reading, standard uncertainty half"
                " the expanded one"
            )
        ),
        result=f"{100 * chance:.2f} %",
        source="JCGM 106:2012, 7.4 and 7.5; nothing else known of the size",
    )


def _check(given: VerdictInput) -> None:
    if given.lower is None and given.upper is None:
        raise OutOfRange(
            "There is no limit to hold it against.", "Give a lower limit, an upper one, or both.", field="lower"
        )
    if given.lower and given.upper and given.lower.mm >= given.upper.mm:
        raise OutOfRange(
            f"The lower limit {given.lower} is not below the upper limit {given.upper}.",
            "Exchange them or correct one.",
            field="lower",
            value=str(given.lower),
        )
    _check_sign(given)
    if given.aim and feature_of(given).beyond_mm(given.aim.mm):
        limits = " to ".join(str(limit) for limit in (given.lower, given.upper) if limit)
        raise OutOfRange(
            f"The aim {given.aim} lies outside the limits {limits}.",
            "Aim inside the limits, or leave the aim out for their middle.",
            field="aim",
            value=str(given.aim),
        )


def _check_sign(given: VerdictInput) -> None:
    if given.uncertainty.mm < 0:
        raise InputError("An uncertainty is never below zero.", "Leave out the sign.", field="uncertainty")
    if given.half_bracket and not 0 <= given.half_bracket.mm <= given.uncertainty.mm:
        raise OutOfRange(
            "Half a bracket is never below zero, nor more than what the reading is worth: that holds the pins' own"
            " error too.",
            "Give the uncertainty with the half bracket in it.",
            field="half_bracket",
            value=str(given.half_bracket),
        )
    may_be_zero = toward_metal(feature_kind(given.kind).material_side) == 0
    for name, length in (("reading", given.reading), ("lower", given.lower)):
        if length is not None and (length.mm < 0 or (length.mm == 0 and not may_be_zero)):
            raise OutOfRange(
                f"A size is above zero; this is {length}.",
                "Check the sign and the decimal point.",
                field=name,
                value=str(length),
            )


def _near(feature: Feature, reading_mm: Decimal, guard_mm: Decimal) -> NearLimit:
    low, high = feature.lower_mm, feature.upper_mm
    near_low = low is not None and abs(reading_mm - low) <= guard_mm
    near_high = high is not None and abs(reading_mm - high) <= guard_mm
    return "both" if near_low and near_high else "lower" if near_low else "upper"


def _sentence(feature: Feature, state: State, reading_mm: Decimal, near: str, unit: Unit, *, by_pins: bool) -> str:
    match state:
        case State.METAL_TO_GO:
            to_aim = feature.metal_to_take(reading_mm, _target_mm(feature))
            return f"Take {show(to_aim, unit)}{feature.on_what} to the aim."
        case State.GONE_TOO_FAR:
            return _gone(feature, feature.beyond_mm(reading_mm), unit)
        case State.TOO_CLOSE_TO_CALL:
            return _too_close(near, by_pins=by_pins)
        case State.IN_LIMITS:
            return _leave_it(feature, reading_mm, unit)
        case _:
            assert_never(state)


def _gone(feature: Feature, beyond_mm: Decimal, unit: Unit) -> str:
    past = f"Past the limit by {show(beyond_mm, unit)}{feature.on_what}"
    if toward_metal(feature.side) == 0:
        return (
            f"{past}: out of limits, and a {feature.title} has no side where more can simply be taken; ask who decides."
        )
    return f"{past}: metal cannot be put back; ask who decides."


def _by_pins(doubt_mm: Decimal, unit: Unit) -> str:
    doubt = f" The doubt is what the pins themselves are off, ±{show(doubt_mm, unit)}." if doubt_mm else ""
    return f"Leave it: by limit gauges it has kept its limits; where between the pins it lies, they cannot say.{doubt}"


def _too_close(near: str, *, by_pins: bool) -> str:
    if by_pins:
        limit = "both limits" if near == "both" else f"the {near} limit"
        return f"What the pins bound lies across {limit}: try pins at the limits, or measure it with what reads a size."
    if near == "both":
        return "This instrument is too coarse for these limits: use a finer one."
    return f"Within the instrument's uncertainty of the {near} limit: measure again, finer if you can."


def _leave_it(feature: Feature, reading_mm: Decimal, unit: Unit) -> str:
    one_limit = feature.lower_mm is None or feature.upper_mm is None
    to_aim = feature.metal_to_take(reading_mm, _target_mm(feature))
    if (one_limit and feature.aim_mm is None) or (to_aim <= 0 and toward_metal(feature.side)):
        return "Leave it."
    return f"Leave it: {show(abs(to_aim), unit)} from the aim." if to_aim else "Leave it: it is at the aim."


def _side_words(feature: Feature) -> str:
    match feature.side:
        case "external":
            return f"a {feature.title} over the upper limit has metal to go"
        case "internal":
            return f"a {feature.title} under the lower limit has metal to go"
        case "two_sided":
            return f"a {feature.title} out of either limit is out"
        case "upper_only":
            return f"a {feature.title} over its limit is out"
        case _:
            assert_never(feature.side)


def _working(given: VerdictInput, feature: Feature, state: State, rule: Acceptance) -> list[Step]:
    unit = given.reading.unit
    decimals = 5 if unit == "in" else 4
    aim_mm = _target_mm(feature)
    reading, aim, guard = (show(mm, unit, decimals=decimals) for mm in (given.reading.mm, aim_mm, given.uncertainty.mm))
    limits = " to ".join(show(limit.mm, unit, decimals=decimals) for limit in (given.lower, given.upper) if limit)
    inward = toward_metal(feature.side) == -1
    beyond = show(feature.beyond_mm(given.reading.mm), unit, decimals=decimals)
    return [
        Step(
            name=f"To take,{feature.on_what}" if feature.on_what else "From the aim",
            formula="aim − reading" if inward else "reading − aim",
            values=f"{aim} − {reading}" if inward else f"{reading} − {aim}",
            result=both(feature.metal_to_take(given.reading.mm, aim_mm), unit, decimals=decimals),
            source=COMMON_PRACTICE,
        ),
        Step(
            name="Verdict",
            formula=f"{_side_words(feature)}; {_RULE[rule]}",
            values=f"reading {reading}, limits {limits}, uncertainty ±{guard}, outside by {beyond}",
            result=state.words,
            source=SOURCE,
        ),
    ]
