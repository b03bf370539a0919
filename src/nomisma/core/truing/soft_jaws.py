"""Soft jaws for a round: what they are bored (or turned) to under preload, and what to do when they came out wrong."""

from decimal import Decimal
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.truing.surface import Grip
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

OVER = Length.of("0.001", "in")
"""How much a jaw's bore may be over the round it holds (under, inside a hole). Source: common practice, no source."""
CLEAN_UP = Length.of("0.010", "in")
"""What is taken off each jaw so that the whole arc is cut. Source: common practice, no source."""


class SoftJawsInput(Model):
    """A round that is held, as measured; `grip`: on its outside, or in its bore with the jaws pushing out.

    `bored`: what the jaws came to, where they came out wrong, and `preload`: the ring or the spider as it was set for
    that.
    """

    held: Size
    grip: Grip = "outside"
    bored: Size | None = None
    preload: Size | None = None
    clean_up: Size = CLEAN_UP
    unit: Unit = "in"


class SoftJawsResult(Model):
    """The limits of the jaws' arc; what is to be done about jaws that came out wrong, and the preload for the
    next try.
    """

    lower: Size
    upper: Size
    state: Literal["to_do", "good", "more_to_cut", "start_again"]
    next_preload: Size | None = None
    headline: str
    sentence: str
    steps: list[str]
    cautions: list[str]
    working: list[Step]


@calculation(
    name="soft_jaws",
    title="Soft jaws for a round",
    validity=(
        "Soft jaws cut in place under preload in the direction they will clamp; a round that is measured, not nominal."
    ),
    source="common practice, no source; arithmetic",
    example={"held": "2.2500 in"},
)
def soft_jaws(given: SoftJawsInput) -> SoftJawsResult:
    """Limits of the jaws' bore (or outside), and the preload that mends jaws cut too far. Raises InputError,
    OutOfRange.

    Source: common practice, no source (preload, a thou over); arithmetic: the jaws come in by what they were cut too
    far and by a cut that cleans them up, on both sides.

    >>> found = soft_jaws(SoftJawsInput(held="2.25 in", bored="2.254 in", preload="1.75 in"))
    >>> found.state, str(found.next_preload)
    ('start_again', '1.726 in')
    """
    outside = given.grip == "outside"
    held, unit = given.held.mm, given.unit
    low, high = (held, held + OVER.mm) if outside else (held - OVER.mm, held)
    if low <= 0:
        raise OutOfRange(f"Jaws do not go into a bore of {given.held}.", "Use a mandrel or a collet.", field="held")
    state = _state(given, low, high)
    preload = _next_preload(given) if state == "start_again" else None
    ends = f"{show(low, unit)} to {show(high, unit)}"
    return SoftJawsResult(
        lower=Length(low, unit),
        upper=Length(high, unit),
        state=state,
        next_preload=preload,
        headline=f"{'Bore' if outside else 'Turn'} the jaws to {ends}",
        sentence=_sentence(state, given, preload),
        steps=_steps(outside, ends, preload),
        cautions=[
            "The arc is cut in three pieces with gaps: light cuts, sleeves and hands away, below the chuck’s marked"
            " speed, and the ring or spider well clear of the tool. The chuck’s manual and the shop’s rules come first."
        ],
        working=_working(given, low, high, preload),
    )


def _state(given: SoftJawsInput, low: Decimal, high: Decimal) -> Literal["to_do", "good", "more_to_cut", "start_again"]:
    if given.bored is None:
        return "to_do"
    if low <= given.bored.mm <= high:
        return "good"
    too_little = given.bored.mm < low if given.grip == "outside" else given.bored.mm > high
    return "more_to_cut" if too_little else "start_again"


def _next_preload(given: SoftJawsInput) -> Length | None:
    """The ring for the next try; none where it was not said what the last one was. Raises InputError."""
    if given.preload is None or given.bored is None:
        return None
    sign = -1 if given.grip == "outside" else 1
    found = given.preload.mm + sign * (abs(given.bored.mm - given.held.mm) + 2 * given.clean_up.mm)
    if found <= 0:
        raise InputError("There is no ring that small.", "Use another set of soft jaws.", field="preload")
    return Length(found, given.unit)


def _sentence(state: str, given: SoftJawsInput, preload: Length | None) -> str:
    outside, unit = given.grip == "outside", given.unit
    if state == "good" and given.bored:
        return f"{given.bored} holds {given.held} all along the arc."
    if state == "more_to_cut" and given.bored:
        return f"{show(abs(given.held.mm - given.bored.mm), unit)} still to cut, on diameter."
    if state == "start_again":
        word = "big" if outside else "small"
        to = f" to {show(preload.mm, unit)}" if preload else ""
        return (
            f"Cut too {word}: it would hold on the middles of the jaws alone. Reset the preload "
            f"{'smaller' if outside else 'larger'}{to} and cut again."
        )
    return "Jaws cut to the work’s own size hold it along the whole arc and mark it least."


def _steps(outside: bool, ends: str, preload: Length | None) -> list[str]:
    ring = f"Set the ring or the spider{f' to {preload}' if preload else ''}"
    return [
        (
            f"{ring} so that the jaws clamp it"
            f" {'inward, behind where the work will sit' if outside else 'outward, as they will the work'}."
        ),
        "Tighten hard once, back off, then tighten to the torque you will work with.",
        f"{'Bore' if outside else 'Turn'} to {ends}, with a relief in the corner for the work's edge.",
        "Ring out, work in against the shoulder, the same torque. Indicate it before cutting.",
        (
            f"Cut too {'big' if outside else 'small'}? Reset the preload {'smaller' if outside else 'larger'} and cut"
            " again."
        ),
    ]


def _working(given: SoftJawsInput, low: Decimal, high: Decimal, preload: Length | None) -> list[Step]:
    unit = given.unit
    found = [
        Step(
            name="What the jaws are cut to",
            formula="the work as measured, to a thou over (under, in a bore)",
            values=both(given.held.mm, unit),
            result=f"{both(low, unit)} to {both(high, unit)}",
            source=COMMON_PRACTICE,
        )
    ]
    if preload and given.bored and given.preload:
        found.append(
            Step(
                name="Preload for the next try",
                formula="preload ∓ (what it is off by + 2 × clean-up cut)",
                values=(
                    f"{both(given.preload.mm, unit)}, off by {both(abs(given.bored.mm - given.held.mm), unit)}, "
                    f"clean-up {both(given.clean_up.mm, unit)}"
                ),
                result=both(preload.mm, unit),
                source=ARITHMETIC,
            )
        )
    return found
