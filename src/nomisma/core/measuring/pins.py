"""Go and no-go pins: a bracket, never a number."""

from decimal import Decimal

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.part.feature import Acceptance, Feature, State
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length
from nomisma.core.working import COMMON_PRACTICE, Step


class PinBracketInput(Model):
    """The largest pin that enters and the smallest that does not, the ± of the pins, and the bore's limits if it has
    any.

    Against limits the pins judge as limit gauges, at their own sizes. `acceptance` by limit gauges: the limits were
    given as these pins, so that the pins' own error is in them already.
    """

    go: Size
    no_go: Size
    pin_error: Difference = Length(Decimal(0))
    lower: Size | None = None
    upper: Size | None = None
    acceptance: Acceptance = "guarded"


class PinBracketResult(Model):
    """The bore lies between `least` and `greatest`; `state` only where limits are given."""

    least: Size
    greatest: Size
    state: State | None = None
    sentence: str
    working: list[Step]


@calculation(
    name="pin_bracket",
    title="Go and no-go pins",
    validity="A round bore; the pin that enters is below the one that does not.",
    source="common practice, no source",
    example={"go": "0.125 in", "no_go": "0.127 in", "pin_error": "0.0001 in"},
)
def pin_bracket(given: PinBracketInput) -> PinBracketResult:
    """The bracket a go pin and a no-go pin put a bore in, widened by the pins' own error. Raises OutOfRange.

    Source: common practice, no source; ISO 1938-1:2015 (limit gauges; edition recalled). In limits where both pins are
    within them.

    >>> found = pin_bracket(PinBracketInput(go="0.125 in", no_go="0.127 in")); str(found.least), str(found.greatest)
    ('0.125 in', '0.127 in')
    """
    if given.go.mm >= given.no_go.mm:
        raise OutOfRange(
            f"The pin that enters ({given.go}) is not below the one that does not ({given.no_go}).",
            "Exchange them, or look for a burr.",
            field="no_go",
            value=str(given.no_go),
        )
    if given.pin_error.mm < 0:
        raise OutOfRange("The pins' error is a ±, so never below zero.", "Leave out the sign.", field="pin_error")
    unit = given.go.unit
    error_mm = Decimal(0) if given.acceptance == "limit_gauge" else given.pin_error.mm
    low, high = given.go.mm - error_mm, given.no_go.mm + error_mm
    state = None
    if given.lower and given.upper:
        if given.lower.mm >= given.upper.mm:
            raise OutOfRange("The lower limit is not below the upper limit.", "Exchange them.", field="lower")
        middle, half = (given.go.mm + given.no_go.mm) / 2, (given.no_go.mm - given.go.mm) / 2
        state = Feature("bore", given.lower.mm, given.upper.mm).judge(middle, half + error_mm, half_bracket_mm=half)
    ends = f"between {show(low, unit)} and {show(high, unit)}"
    doubt = f"; what the pins are off, ±{show(error_mm, unit)}, is the doubt" if error_mm else ""
    said = f" By limit gauges {state.words}{doubt}." if state else ""
    return PinBracketResult(
        least=Length(low, unit),
        greatest=Length(high, unit),
        state=state,
        sentence=f"The bore lies {ends}; where in between, pins cannot say.{said}",
        working=[
            Step(
                name="Bracket",
                formula=(
                    "go pin to no-go pin: these are the limits"
                    if given.acceptance == "limit_gauge"
                    else "go pin − pin error to no-go pin + pin error"
                ),
                values=f"{both(given.go.mm, unit)}, {both(given.no_go.mm, unit)} ± {both(error_mm, unit, decimals=5)}",
                result=f"{both(low, unit, decimals=5)} to {both(high, unit, decimals=5)}",
                source=COMMON_PRACTICE,
            )
        ],
    )
