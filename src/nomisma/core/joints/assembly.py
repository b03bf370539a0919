"""Putting it together: the steps of a push, a press, a shrink or a bond, and what to make of what was seen."""

from decimal import Decimal
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.joints.compound import CAUTIONS as BOND_CAUTIONS
from nomisma.core.joints.interference import PRESS_CAUTION
from nomisma.core.joints.press_lead import LEAD_DEG
from nomisma.core.joints.shrink import CAUTIONS as SHRINK_CAUTIONS
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_forces, show_small
from nomisma.core.quantity.fields import Celsius, Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

AssemblyMethod = Literal["push", "press", "shrink", "bond"]
METHOD_TITLES: dict[AssemblyMethod, str] = {
    "push": "Push on by hand", "press": "Press in", "shrink": "Shrink or cool", "bond": "Bond",
}  # fmt: skip
Felt = Literal["as_expected", "too_easy", "too_hard", "rose_early", "stopped_short"]
FELT_WORDS: dict[Felt, str] = {
    "as_expected": "as expected", "too_easy": "too easy", "too_hard": "too hard",
    "rose_early": "the force rose too early",
    "stopped_short": "stopped short",
}  # fmt: skip


class AssemblyInput(Model):
    """How it goes together, and the figures that method needs, from the joint's own worksheet."""

    method: AssemblyMethod
    force_least_n: Number | None = None
    force_greatest_n: Number | None = None
    hub_c: Celsius | None = None
    shaft_c: Celsius | None = None
    seconds: Number | None = None
    is_bush: bool = False
    finish_after: bool = False
    flange: bool = False
    press_lead: Size | None = None
    unit: Unit = "mm"


class AssemblyStep(Model):
    """One step; `caution` where its hazard is."""

    text: str
    caution: str = ""


class AssemblyResult(Model):
    """Steps in order, the headline figure in words, and the cautions of the method."""

    method: AssemblyMethod
    title: str
    headline: str
    steps: list[AssemblyStep]
    cautions: list[str]
    working: list[Step]


@calculation(
    name="assembly",
    title="The steps of putting a joint together",
    validity="One hub, housing or bush on one shaft, by hand, press, heat and cold, or retaining compound.",
    source="common practice, no source",
    example={"method": "press", "force_least_n": 3000, "force_greatest_n": 6900, "is_bush": True, "finish_after": True},
)
def assembly(given: AssemblyInput) -> AssemblyResult:
    """Steps, headline and cautions. Raises InputError where a method's figures are missing or impossible.

    Source: common practice, no source.

    >>> assembly(AssemblyInput(method="push")).steps[0].text
    'Mark both parts at one place with a felt pen, so that they go back the same way round.'
    """
    maker = {"push": _push, "press": _press, "shrink": _shrink, "bond": _bond}[given.method]
    headline, own, cautions = maker(given)
    before = [
        AssemblyStep(text="Mark both parts at one place with a felt pen, so that they go back the same way round."),
        AssemblyStep(
            text=(
                f"Deburr, wipe, and feel the entering edges: {_lead(given)} on the edge that goes in first, none left"
                " sharp."
            )
        ),
    ]
    return AssemblyResult(
        method=given.method,
        title=METHOD_TITLES[given.method],
        headline=headline,
        steps=[*before, *own, *_after(given)],
        cautions=cautions,
        working=[
            Step(
                name="Steps",
                formula="as practitioners do it",
                result=f"{len(before) + len(own)} before it sits",
                source=COMMON_PRACTICE,
            )
        ],
    )


def _lead(given: AssemblyInput) -> str:
    """The lead on the edge that goes in first, with its figure where a press knows it."""
    if given.press_lead is None:
        return "a lead chamfer"
    return f"a lead {both(given.press_lead.mm, given.unit)} long at {LEAD_DEG}° or flatter"


Made = tuple[str, list[AssemblyStep], list[str]]


def _push(_: AssemblyInput) -> Made:
    return (
        "By hand, with a film of oil and a slight twist.",
        [
            AssemblyStep(text="Oil both lightly. Both at the room's temperature, neither warm from the tool."),
            AssemblyStep(
                text="Start it square, with a slight twist. If it stops, take it off and look: never drive it."
            ),
        ],
        [],
    )


def _press(given: AssemblyInput) -> Made:
    if given.force_greatest_n is None:
        raise InputError(
            "A press needs the force it is to expect.", "Work the joint out first.", field="force_greatest_n"
        )
    least = given.force_least_n if given.force_least_n is not None else Decimal(0)
    if not 0 <= least <= given.force_greatest_n <= 10_000_000:
        raise OutOfRange(
            "The forces are not in order.", "Least first, at least 0, then greatest.", field="force_greatest_n"
        )
    goes = "bush" if given.is_bush else "part that is moving"
    steps = [
        AssemblyStep(
            text="Support the part below close round its bore, square and solid, with room for what comes through."
        ),
        AssemblyStep(text="Oil both, start it by hand in its chamfer, and check it square in two directions."),
        AssemblyStep(
            text=f"Press on the {goes} itself, in one steady stroke, and watch the force rise evenly to its end.",
            caution=(
                "If the force rises before it should, stop: it is crooked or picked up a burr. Guard on, stand aside."
            ),
        ),
    ]
    if given.is_bush and not given.flange:
        steps.append(
            AssemblyStep(
                text="Stop it with a stepped mandrel that lands on the housing: nothing else stops a plain bush."
            )
        )
    if given.flange:
        steps.append(AssemblyStep(text="Press until the flange seats all round: a feeler must not go under it."))
    return f"{_forces(least, given.force_greatest_n, given.unit)} at the end of the stroke.", steps, [PRESS_CAUTION]


def _forces(least_n: Decimal, greatest_n: Decimal, unit: Unit) -> str:
    """Two forces in the job's unit, and in the other."""
    first, second = (
        show_forces(float(least_n), float(greatest_n), one) for one in (unit, "in" if unit == "mm" else "mm")
    )
    return f"{first} ({second})"


def _shrink(given: AssemblyInput) -> Made:
    if given.hub_c is None and given.shaft_c is None:
        raise InputError("A shrink needs a temperature.", "Work the joint out first.", field="hub_c")
    heat = f"hub at {given.hub_c:.0f} °C" if given.hub_c is not None and given.hub_c > 30 else ""
    cold = (
        f"shaft at {given.shaft_c:.0f} °C".replace("-", "−") if given.shaft_c is not None and given.shaft_c < 0 else ""
    )
    time = f", about {given.seconds:.0f} s to work, an estimate" if given.seconds is not None else ""
    steps = [
        AssemblyStep(text="Rehearse it dry: stop and square in place, a hand for each part, the way clear."),
        AssemblyStep(
            text=(
                "A gauge turned to the bore wanted (shaft size and the clearance to go together) tells when it is hot"
                " enough."
            )
        ),
    ]
    if heat:
        steps.append(
            AssemblyStep(
                text=f"Heat evenly: {heat}, through and through.",
                caution="Gloves and face shield; oven or oil rather than a flame.",
            )
        )
    if cold:
        steps.append(
            AssemblyStep(
                text=f"Cool until it stops boiling: {cold}. Wipe off the frost.",
                caution="Dry ice and nitrogen burn, and push the air out of the room: doors open.",
            )
        )
    steps += [
        AssemblyStep(
            text="Drop it on in one go to the stop, square. Do not tap it round once it touches.",
            caution="It grabs in seconds.",
        ),
        AssemblyStep(
            text=(
                "Hold it against the stop until it has gripped: it draws away from the shoulder as it cools. No"
                " quenching."
            )
        ),
    ]
    at = " and ".join(filter(None, (heat, cold)))
    return f"{at[:1].upper()}{at[1:]}{time}.", steps, list(SHRINK_CAUTIONS)


def _bond(_: AssemblyInput) -> Made:
    return (
        "Clean, wet both, turn once, hold true until it cures.",
        [
            AssemblyStep(
                text="Degrease both faces until a white cloth stays white; let them dry.",
                caution="Cleaner: gloves on, room aired.",
            ),
            AssemblyStep(
                text="A ring of compound on the leading edge of both; push on with a turning stroke to spread it."
            ),
            AssemblyStep(
                text=(
                    "It centres nothing: hold the parts true on V-blocks or a mandrel, and leave them for the sheet's"
                    " time."
                )
            ),
        ],
        list(BOND_CAUTIONS),
    )


def _after(given: AssemblyInput) -> list[AssemblyStep]:
    found = [AssemblyStep(text="Check that the faces seat and the marks meet.")]
    if given.is_bush:
        found.append(
            AssemblyStep(
                text="Measure the bush's bore again, mouth, middle and deep, two ways: it has closed in. Log it below."
            )
        )
    if given.finish_after:
        found.append(AssemblyStep(text="Bore or ream it to its limits now, in line with what it must run true to."))
    if not given.is_bush:
        found.append(
            AssemblyStep(
                text="Measure again what the assembly can have changed: a thin hub grows, a hollow shaft closes."
            )
        )
    return found


class CloseInFoundInput(Model):
    """A bush's bore before and after pressing, and what the worksheet predicted."""

    bore_before: Size
    bore_after: Size
    predicted_least: Difference
    predicted_greatest: Difference
    uncertainty: Difference = Length(Decimal(0))
    unit: Unit | None = None


class CloseInFoundResult(Model):
    """What it closed in by, over what was predicted in the middle, and whether that is inside the prediction."""

    close_in: Difference
    close_in_factor: Number
    as_predicted: bool
    sentence: str
    working: list[Step]


@calculation(
    name="close_in_found",
    title="Did the bush close in as predicted?",
    validity="One bush, its bore read before and after pressing with one instrument at one temperature.",
    source="arithmetic; doubt of a difference: JCGM 100:2008, 5.1.2",
    example={
        "bore_before": "0.5012 in", "bore_after": "0.5003 in", "predicted_least": "0.0006 in",
        "predicted_greatest": "0.0012 in",
    },
)  # fmt: skip
def close_in_found(given: CloseInFoundInput) -> CloseInFoundResult:
    """Close-in as found and the factor for the next bush. Raises OutOfRange for what no bush does. Source: arithmetic.

    >>> found = close_in_found(CloseInFoundInput(bore_before="0.5012 in", bore_after="0.5003 in",
    ...     predicted_least="0.0006 in", predicted_greatest="0.0012 in"))
    >>> str(found.close_in), str(found.close_in_factor)
    ('0.0009 in', '1.00')
    """
    unit = given.unit or given.bore_before.unit
    low, high = given.predicted_least.mm, given.predicted_greatest.mm
    if not 0 <= low <= high or high == 0:
        raise OutOfRange(
            "The prediction is not in order.", "Least first, at least 0, then greatest.", field="predicted_least"
        )
    found = given.bore_before.mm - given.bore_after.mm
    if abs(found) > given.bore_before.mm / 20:
        raise OutOfRange(
            f"From {given.bore_before} to {given.bore_after} is more than any bush closes in.",
            "Check both readings and their units.",
            field="bore_after",
            value=str(given.bore_after),
        )
    middle = (low + high) / 2
    uncertainty = given.uncertainty.mm * Decimal(2).sqrt()
    inside = low - uncertainty <= found <= high + uncertainty
    factor = (found / middle).quantize(Decimal("0.01"))
    sentence = (
        f"It closed in {show_small(found, unit)}, as predicted ({show_small(low, unit)} to {show_small(high, unit)})."
        if inside
        else (
            f"It closed in {show_small(found, unit)}; {show_small(low, unit)} to {show_small(high, unit)} was"
            " predicted. "
        )
        + (
            "More than computed: was it burred or crooked?"
            if found > high
            else "Less than computed: was the housing worn, or the bush soft?"
        )
    )
    return CloseInFoundResult(
        close_in=Length(found, unit),
        close_in_factor=factor,
        as_predicted=inside,
        sentence=sentence,
        working=[
            Step(
                name="Close-in as found",
                formula="bore before − bore after, over the middle of the prediction",
                values=(
                    f"{both(given.bore_before.mm, unit)} − {both(given.bore_after.mm, unit)}; predicted"
                    f" {both(middle, unit, decimals=5)}"
                ),
                result=f"{both(found, unit, decimals=5)}, factor {factor}",
                source=ARITHMETIC,
            )
        ],
    )
