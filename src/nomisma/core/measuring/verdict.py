"""The metal-safe verdict: metal to go, in limits, too close to call, gone too far."""

from decimal import Decimal
from enum import StrEnum
from statistics import NormalDist
from typing import Literal, assert_never

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step

FeatureKind = Literal["shaft", "bore"]
NearLimit = Literal["upper", "lower", "both", ""]
Acceptance = Literal["guarded", "simple", "limit_gauge"]
ACCEPTANCE_WORDS: dict[Acceptance, str] = {
    "guarded": "guarded: in limits only by more than the reading's uncertainty (ISO 14253-1)",
    "simple": "simple: in limits if the reading is (JCGM 106, 8.2); the chance of being wrong is shared with the next shop",
    "limit_gauge": "limit gauges: in limits where the go pin enters and the no-go pin does not, at each place (ISO 1938-1)",
}
SOURCE = (
    "metal-safe side: common practice, no source; guard by the uncertainty: ISO 14253-1:2017, 5; simple: JCGM 106:2012, 8.2; "
    "limit gauges: ISO 1938-1"
)


class State(StrEnum):
    """The four states a reading can be in."""

    METAL_TO_GO = "metal_to_go"
    IN_LIMITS = "in_limits"
    TOO_CLOSE_TO_CALL = "too_close_to_call"
    GONE_TOO_FAR = "gone_too_far"

    @property
    def words(self) -> str:
        """As it is said at the bench."""
        return self.value.replace("_", " ")


SEVERITY = (State.IN_LIMITS, State.METAL_TO_GO, State.TOO_CLOSE_TO_CALL, State.GONE_TOO_FAR)
"""From what asks for nothing to what asks for a decision; the worst reading speaks for the feature."""


class VerdictInput(Model):
    """A reading, the limits it is held against, and what the reading is worth (expanded, k = 2).

    `acceptance`: guarded (the uncertainty is kept away from the limits), simple (the reading alone decides), or by limit gauges (a
    bracket may end on the limits, for the pins that made it are the limits). `bracket`: the uncertainty is half a bracket
    between two pins, a bound that the size does not pass.
    """

    kind: FeatureKind
    reading: Size
    lower: Size
    upper: Size
    uncertainty: Difference
    aim: Size | None = None
    acceptance: Acceptance = "guarded"
    bracket: bool = False


class VerdictResult(Model):
    """The state and how much, on diameter.

    `to_aim`: metal still to take to the aim (below zero: past the aim). `beyond`: how far outside the limit it is
    out of, zero when inside. `near_limit`: the limit that the uncertainty straddles. `conformity_percent`: the chance that
    the true size is in limits, from this reading alone.
    """

    state: State
    to_aim: Difference
    beyond: Difference
    near_limit: NearLimit = ""
    conformity_percent: Number
    sentence: str
    working: list[Step]


def judge(
    kind: FeatureKind,
    reading_mm: Decimal,
    lower_mm: Decimal,
    upper_mm: Decimal,
    uncertainty_mm: Decimal,
    acceptance: Acceptance = "guarded",
) -> State:
    """The state alone; all lengths in mm on diameter, uncertainty expanded (k = 2).

    A reading exactly its uncertainty from a limit is still too close to call. Where the shaft is over or the bore
    under, metal is left; the other way round it is gone. Simple acceptance leaves nothing too close to call: a reading on
    a limit is in. By limit gauges a bracket that ends on a limit has kept it. Source: ISO 14253-1:2017, 5 (guard by the
    uncertainty); JCGM 106:2012, 8.2 (simple); ISO 1938-1 (limit gauges).

    >>> judge("shaft", Decimal("25.010"), Decimal("24.98"), Decimal("24.993"), Decimal("0.002")).words
    'metal to go'
    """
    nearest_mm = min(abs(reading_mm - lower_mm), abs(reading_mm - upper_mm))
    match acceptance:
        case "guarded":
            too_close = nearest_mm <= uncertainty_mm
        case "limit_gauge":
            too_close = nearest_mm < uncertainty_mm
        case "simple":
            too_close = False
        case _:
            assert_never(acceptance)
    if too_close:
        return State.TOO_CLOSE_TO_CALL
    if lower_mm <= reading_mm <= upper_mm:
        return State.IN_LIMITS
    over = reading_mm > upper_mm
    return State.METAL_TO_GO if over == (kind == "shaft") else State.GONE_TOO_FAR


def conformity(
    reading_mm: Decimal, lower_mm: Decimal, upper_mm: Decimal, uncertainty_mm: Decimal, *, bracket: bool = False
) -> float:
    """The probability (0 to 1) that the true size is in limits; uncertainty expanded (mm, k = 2).

    Nothing but this reading is known of the size (a flat prior); in a `bracket` every size is as likely (JCGM 100:2008, 4.3.7).
    Source: JCGM 106:2012, 7.4 and 7.5.

    >>> round(conformity(Decimal("25.000"), Decimal("24.98"), Decimal("25.000"), Decimal("0.002")), 3)
    0.5
    """
    if bracket and uncertainty_mm:
        inside = min(upper_mm, reading_mm + uncertainty_mm) - max(lower_mm, reading_mm - uncertainty_mm)
        return float(max(inside, Decimal(0)) / (2 * uncertainty_mm))
    if uncertainty_mm == 0:
        return 1.0 if lower_mm <= reading_mm <= upper_mm else 0.0
    spread = NormalDist(float(reading_mm), float(uncertainty_mm) / 2)
    return spread.cdf(float(upper_mm)) - spread.cdf(float(lower_mm))


def metal_to_take(kind: FeatureKind, reading_mm: Decimal, target_mm: Decimal) -> Decimal:
    """Metal between a reading and a target, mm on diameter; below zero when it is past the target."""
    return reading_mm - target_mm if kind == "shaft" else target_mm - reading_mm


@calculation(
    name="verdict",
    title="A reading against its limits",
    validity="One reading of a shaft or a bore; limits in order; uncertainty zero or more.",
    source=SOURCE,
    example={
        "kind": "shaft", "reading": "0.8786 in", "lower": "0.8744 in", "upper": "0.8750 in",
        "uncertainty": "0.00015 in", "aim": "0.8747 in",
    },
)  # fmt: skip
def verdict(given: VerdictInput) -> VerdictResult:
    """State, amount on diameter and a sentence, from a reading and its limits.

    Raises OutOfRange when the limits are out of order or the uncertainty is negative.
    Source: common practice (metal-safe side); ISO 14253-1:2017, 5 (guard).
    """
    _check(given)
    low, high, unit = given.lower.mm, given.upper.mm, given.reading.unit
    aim_mm = given.aim.mm if given.aim else (low + high) / 2
    guard = given.uncertainty.mm
    state = judge(given.kind, given.reading.mm, low, high, guard, given.acceptance)
    chance = conformity(given.reading.mm, low, high, guard, bracket=given.bracket)
    to_aim = metal_to_take(given.kind, given.reading.mm, aim_mm)
    beyond = max(given.reading.mm - high, low - given.reading.mm, Decimal(0))
    near: NearLimit = _near(given.reading.mm, low, high, guard) if state is State.TOO_CLOSE_TO_CALL else ""
    return VerdictResult(
        state=state,
        to_aim=Length(to_aim, unit),
        beyond=Length(beyond, unit),
        near_limit=near,
        conformity_percent=Decimal(f"{100 * chance:.1f}"),
        sentence=_sentence(state, to_aim, beyond, near, unit, by_pins=given.bracket),
        working=[*_working(given, aim_mm, state, to_aim, beyond), _chance_step(chance, bracket=given.bracket)],
    )


_RULE: dict[Acceptance, str] = {
    "guarded": "within the uncertainty of a limit it is too close to call",
    "simple": "simple acceptance: the reading alone decides",
    "limit_gauge": "by limit gauges a bracket that ends on a limit has kept it; across one it is too close to call",
}


def _chance_step(chance: float, *, bracket: bool) -> Step:
    return Step(
        name="Probability of conformity",
        formula="the share of the bracket that lies between the limits: nothing more is known"
        if bracket
        else "chance that the true size is between the limits; normal about the reading, standard uncertainty half the expanded one",
        result=f"{100 * chance:.1f} %",
        source="JCGM 106:2012, 7.4 and 7.5; nothing else known of the size",
    )


def _check(given: VerdictInput) -> None:
    if given.lower.mm >= given.upper.mm:
        raise OutOfRange(
            f"The lower limit {given.lower} is not below the upper limit {given.upper}.",
            "Exchange them or correct one.",
            field="lower",
            value=str(given.lower),
        )
    if given.uncertainty.mm < 0:
        raise InputError("An uncertainty is never below zero.", "Leave out the sign.", field="uncertainty")
    if given.aim and not given.lower.mm <= given.aim.mm <= given.upper.mm:
        raise OutOfRange(
            f"The aim {given.aim} lies outside the limits {given.lower} to {given.upper}.",
            "Aim inside the limits, or leave the aim out for their middle.",
            field="aim",
            value=str(given.aim),
        )


def _near(reading: Decimal, low: Decimal, high: Decimal, guard: Decimal) -> NearLimit:
    near_low, near_high = abs(reading - low) <= guard, abs(reading - high) <= guard
    return "both" if near_low and near_high else "lower" if near_low else "upper"


def _sentence(state: State, to_aim: Decimal, beyond: Decimal, near: str, unit: Unit, *, by_pins: bool) -> str:
    if state is State.METAL_TO_GO:
        return f"Take {show(to_aim, unit)} on diameter to the aim."
    if state is State.GONE_TOO_FAR:
        return f"Past the limit by {show(beyond, unit)} on diameter: metal cannot be put back; ask who decides."
    if state is State.TOO_CLOSE_TO_CALL and by_pins:
        limit = "both limits" if near == "both" else f"the {near} limit"
        return f"What the pins bound lies across {limit}: try pins at the limits, or measure it with what reads a size."
    if state is State.TOO_CLOSE_TO_CALL and near == "both":
        return "This instrument is too coarse for these limits: use a finer one."
    if state is State.TOO_CLOSE_TO_CALL:
        return f"Within the instrument's uncertainty of the {near} limit: measure again, finer if you can."
    return "Leave it." if to_aim <= 0 else f"Leave it: {show(to_aim, unit)} from the aim."


def _working(given: VerdictInput, aim_mm: Decimal, state: State, to_aim: Decimal, beyond: Decimal) -> list[Step]:
    unit = given.reading.unit
    decimals = 5 if unit == "in" else 4
    side = "over the upper" if given.kind == "shaft" else "under the lower"
    reading, low, high, aim, guard = (
        show(mm, unit, decimals=decimals)
        for mm in (given.reading.mm, given.lower.mm, given.upper.mm, aim_mm, given.uncertainty.mm)
    )
    order = (reading, aim) if given.kind == "shaft" else (aim, reading)
    return [
        Step(
            name="To take, on diameter",
            formula="reading − aim" if given.kind == "shaft" else "aim − reading",
            values=f"{order[0]} − {order[1]}",
            result=both(to_aim, unit, decimals=decimals),
            source=COMMON_PRACTICE,
        ),
        Step(
            name="Verdict",
            formula=f"a {given.kind} {side} limit has metal to go; {_RULE[given.acceptance]}",
            values=f"reading {reading}, limits {low} to {high}, uncertainty ±{guard}, outside by {show(beyond, unit, decimals=decimals)}",
            result=state.words,
            source=SOURCE,
        ),
    ]
