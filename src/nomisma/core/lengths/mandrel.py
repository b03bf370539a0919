"""A tapered mandrel: where a bore will sit on it, the sizes at its marks, and how far it is pressed for a grip."""

from decimal import Decimal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.part.taper import taper_rate
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

USUAL_TAPER = "0.0005 per inch"
"""0.006 in per foot. Source: handbook (recalled); common practice, no source."""
MOST_MARKS = 24


class MandrelInput(Model):
    """A mandrel by its small end, length and taper; the bore's limits (or its size twice) and how long it is; `grip`:
    wanted interference.
    """

    small_end: Size
    length: Size
    taper: str = Field(default=USUAL_TAPER, max_length=60)
    bore_lower: Size
    bore_upper: Size | None = None
    bore_length: Size
    grip: Difference = Length(Decimal(0))
    unit: Unit = "in"


class MandrelResult(WorksheetAnswer):
    """How far from the mandrel's small end the bore's leading end comes to rest, least and most, and how loose its
    other end is.
    """

    large_end: Size
    rests_least: Difference
    rests_most: Difference
    press: Difference
    loose_behind: Size


@calculation(
    name="mandrel",
    title="A tapered mandrel",
    validity="Plain mandrels of an even taper; light cuts towards the large end.",
    source=f"arithmetic; {COMMON_PRACTICE} (0.0005 in per inch)",
    example={
        "small_end": "0.9990 in",
        "length": "6 in",
        "bore_lower": "1.0000 in",
        "bore_upper": "1.0008 in",
        "bore_length": "1.5 in",
        "unit": "in",
    },
)
def mandrel(given: MandrelInput) -> MandrelResult:
    """Where the bore rests and how far it is pressed. Raises OutOfRange where it does not fit on, InputError.

    Source: arithmetic: along a taper the size grows by taper × length. The bore is gripped at its end towards the
    mandrel's large end.

    >>> found = mandrel(MandrelInput(small_end="0.999 in", length="6 in", bore_lower="1 in", bore_upper="1.0005 in",
    ...     bore_length="1 in"))
    >>> str(found.rests_least), str(found.rests_most)
    ('2 in', '3 in')
    """
    rate, unit = _rate(given), given.unit
    low = given.bore_lower.mm
    high = given.bore_upper.mm if given.bore_upper else low
    if high < low:
        raise OutOfRange("The bore's limits are the wrong way round.", "Least first.", field="bore_upper")
    if given.grip.mm < 0:
        raise InputError("A grip is not below zero.", "Leave it out, or give the interference wanted.", field="grip")
    rests = [(size - given.small_end.mm) / rate for size in (low, high)]
    press, large = given.grip.mm / rate, given.small_end.mm + rate * given.length.mm
    _check(given, rests, press, large)
    loose = rate * given.bore_length.mm
    ends = [Length(one, unit) for one in rests]
    return MandrelResult(
        large_end=Length(large, unit),
        rests_least=ends[0],
        rests_most=ends[1],
        press=Length(press, unit),
        loose_behind=Length(loose, unit),
        headline=str(ends[0]),
        headline_length=ends[0],
        sentence=_sentence(rests, press, loose, given),
        facts=_facts(ends, press, large, loose, given),
        table=_marks(rate, given),
        steps=[
            (
                "Oil both; press from the bore’s own face, square, on the mandrel’s large end side last; never hammer"
                " on a centre hole."
            ),
            (
                "Turn with the cut towards the mandrel’s large end: it tightens. A dog on the flat, centres oiled,"
                " light cuts."
            ),
            "Indicate the mandrel itself between its centres before it is trusted.",
        ],
        cautions=["Press with a guard, square, and stand aside; the press’s own manual comes first."],
        working=[
            Step(
                name="Where it rests",
                formula="(bore − small end)/taper",
                values=f"({both(low, unit)} − {both(given.small_end.mm, unit)})/{rate:.7f}",
                result=f"{both(rests[0], unit)} to {both(rests[1], unit)}",
                source=ARITHMETIC,
            ),
            Step(name="Pressed on for the grip", formula="grip/taper", result=both(press, unit), source=ARITHMETIC),
            Step(
                name="Taper",
                formula="as entered, usual 0.0005 in per inch",
                result=f"{rate:.7f}",
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _rate(given: MandrelInput) -> Decimal:
    try:
        return taper_rate(given.taper)
    except InputError as error:
        raise error.at("taper") from None


def _check(given: MandrelInput, rests: list[Decimal], press: Decimal, large: Decimal) -> None:
    if rests[0] < 0:
        raise OutOfRange(
            f"The bore does not go on: the small end, {given.small_end}, is larger than its least.",
            "A smaller mandrel.",
            field="small_end",
        )
    if rests[1] + press > given.length.mm:
        raise OutOfRange(
            f"The largest bore runs off the mandrel: its large end is {both(large, given.unit)}.",
            "A larger one, or a longer one.",
            field="length",
        )


def _sentence(rests: list[Decimal], press: Decimal, loose: Decimal, given: MandrelInput) -> str:
    unit = given.unit
    pressed = f", then pressed {both(press, unit)} on" if press else ""
    short = rests[0] < given.bore_length.mm
    tail = " Part of the bore hangs over the small end: a smaller mandrel carries it all." if short else ""
    return (
        f"From the small end to the bore’s gripped end{pressed}. Its other end is {show_small(loose, unit)}"
        f" loose.{tail}"
    )


def _facts(ends: list[Length], press: Decimal, large: Decimal, loose: Decimal, given: MandrelInput) -> list[Fact]:
    unit = given.unit
    found = [Fact(name="The smallest bore rests at", length=ends[0]), Fact(name="The largest at", length=ends[1])]
    if press:
        found.append(Fact(name="Pressed on, for the grip", length=Length(press, unit)))
    return [
        *found,
        Fact(name="Its other end is loose by", length=Length(loose, unit)),
        Fact(name="Large end of the mandrel", length=Length(large, unit)),
    ]


def _marks(rate: Decimal, given: MandrelInput) -> AnswerTable:
    """Sizes at whole inches or 25 mm from the small end."""
    unit = given.unit
    pitch = Decimal("25.4") if unit == "in" else Decimal(25)
    count = min(int(given.length.mm / pitch), MOST_MARKS)
    rows = [
        [Fact(length=Length(n * pitch, unit)), Fact(length=Length(given.small_end.mm + rate * n * pitch, unit))]
        for n in range(count + 1)
    ]
    return AnswerTable(head=["From the small end", "Size there"], rows=rows)
