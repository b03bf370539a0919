"""A lathe centre, or a taper like it, ground in its own spindle: the compound's angle, the passes, their order, and
what guards the hand.
"""

from decimal import Decimal
from math import ceil, radians, tan
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.angle import show_angle
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

Work = Literal["tailstock_centre", "headstock_centre", "inside"]
WORK_WORDS: dict[Work, str] = {
    "tailstock_centre": "the tailstock’s centre", "headstock_centre": "the headstock’s centre",
    "inside": "a hole, from inside",
}  # fmt: skip
LAST_PASSES = 2
CAUTIONS = (
    (
        "The wheel’s marked speed is never passed; ring it before it is put on, stand aside at the first start. Its"
        " maker’s sheet comes first."
    ),
    (
        "Guard on, eyes covered, dust drawn off or damped; ways covered with a damp cloth, cleaned before anything"
        " slides on them."
    ),
    "No gloves or sleeves near wheel or chuck. Grinding on a lathe is for those whom the shop lets do it.",
)


class CentreGrindingInput(Model):
    """What is ground, its included angle, and how much is to come off on diameter; `a_pass` and `last` on diameter.

    `inside`: a hole (0° included: parallel); the steps are then for a small wheel that reaches in.
    """

    work: Work = "tailstock_centre"
    included_deg: Number = Field(default=Decimal(60), ge=0, le=120)
    to_take: Size
    a_pass: Size = Length.of("0.001", "in")
    last: Size = Length.of("0.0003", "in")
    unit: Unit = "in"


class CentreGrindingResult(WorksheetAnswer):
    """The compound's angle from the axis in degrees, and every pass on diameter, the last ones light."""

    compound_deg: float
    passes: list[Size]


@calculation(
    name="centre_grinding",
    title="Grinding a centre in place",
    validity=(
        "Centres of 60, 75 or 90° and light internal grinding with a toolpost grinder; wheel and speeds by their"
        " makers."
    ),
    source=f"geometry (half the angle); {COMMON_PRACTICE} (passes, order of the two centres)",
    example={"work": "tailstock_centre", "included_deg": 60, "to_take": "0.006 in"},
)
def centre_grinding(given: CentreGrindingInput) -> CentreGrindingResult:
    """Angle, passes and steps. Raises OutOfRange where a pass is as large as what is to come off, or an angle is none.

    Source: geometry; common practice, no source: 0.001 in a pass, the last ones 0.0002 to 0.0005.

    >>> found = centre_grinding(CentreGrindingInput(to_take="0.006 in"))
    >>> found.compound_deg, [str(one) for one in found.passes][-2:]
    (30.0, ['0.0003 in', '0.0003 in'])
    """
    unit = given.unit
    if given.work != "inside" and given.included_deg == 0:
        raise OutOfRange("A centre of 0° is none.", "60° is usual; 75 or 90° for heavy work.", field="included_deg")
    if given.last.mm > given.a_pass.mm:
        raise OutOfRange("The last passes are lighter than the others.", "0.0002 to 0.0005 in.", field="last")
    passes = _passes(given)
    half = float(given.included_deg) / 2
    return CentreGrindingResult(
        compound_deg=half,
        passes=[Length(one, unit) for one in passes],
        headline=f"{half:g}°",
        sentence=f"Compound from the lathe’s axis, for {show_angle(2 * half)} included; {len(passes)} passes.",
        facts=[
            Fact(name="To come off, on diameter", length=Length(given.to_take.mm, unit)),
            Fact(name="Passes", words=str(len(passes))),
            Fact(
                name="A pass, wound in at the cross-slide", length=Length(given.a_pass.mm / 2, unit), words="on radius"
            ),
            *_by_the_carriage(given, half),
        ],
        table=AnswerTable(head=["Pass", "On diameter", "Still to come"], rows=_rows(passes, unit)),
        notes=_notes(given),
        steps=_steps(given),
        steps_ticked=True,
        cautions=list(CAUTIONS),
        working=[
            Step(
                name="Compound",
                formula="half the included angle",
                values=f"{float(given.included_deg):g}°/2",
                result=f"{half:g}°",
                source="geometry",
            ),
            Step(
                name="Passes",
                formula="the last two light, the rest in even ones of at most a pass",
                values=(
                    f"{both(given.to_take.mm, unit, decimals=5)} in passes of {both(given.a_pass.mm, unit, decimals=5)}"
                ),
                result=f"{len(passes)}",
                source=ARITHMETIC,
            ),
            Step(
                name="How light",
                formula=f"{show_small(given.a_pass.mm, unit)} a pass, the last ones {show_small(given.last.mm, unit)}",
                result="on diameter",
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _by_the_carriage(given: CentreGrindingInput, half_deg: float) -> list[Fact]:
    """A pass by the carriage instead, along the axis; none for a parallel hole. Source: geometry."""
    if half_deg == 0:
        return []
    along = Decimal(repr(float(given.a_pass.mm) / 2 / tan(radians(half_deg)))).quantize(Decimal("1e-6"))
    return [Fact(name="Or at the carriage, along the axis", length=Length(along, given.unit))]


def _passes(given: CentreGrindingInput) -> list[Decimal]:
    """Even passes, then two light ones; where there is too little for that, light ones alone."""
    light = min(LAST_PASSES, max(int(given.to_take.mm / given.last.mm), 1))
    last = min(given.last.mm, given.to_take.mm / light)
    rest = given.to_take.mm - light * last
    count = ceil(rest / given.a_pass.mm) if rest > 0 else 0
    if count > 200:
        raise OutOfRange(f"That is {count} passes.", "Turn it nearer first, or take more in a pass.", field="to_take")
    even = [rest / count] * count if count else []
    return even + [last] * light


def _rows(passes: list[Decimal], unit: Unit) -> list[list[Fact]]:
    rows, left = [], sum(passes, Decimal(0))
    for number, one in enumerate(passes, 1):
        left -= one
        rows.append(
            [
                Fact(words=str(number)),
                Fact(length=Length(one, unit), small=True),
                Fact(length=Length(left, unit), small=True),
            ]
        )
    return rows


def _notes(given: CentreGrindingInput) -> list[str]:
    if given.work == "inside":
        return [
            "A long thin spindle bends: lighter passes, and let it spark out in both directions before it is measured."
        ]
    return [
        "The tailstock’s centre first, in the headstock; the headstock’s own last, and it stays where it was ground: "
        "taken out, it is no longer true."
    ]


def _steps(given: CentreGrindingInput) -> list[str]:
    where = (
        "in the headstock, wiped and seated"
        if given.work == "tailstock_centre"
        else "where it runs"
        if given.work == "headstock_centre"
        else ""
    )
    before = (
        [
            f"Put {WORK_WORDS[given.work]} {where}; set the compound by the needle against a true bar, to"
            f" {float(given.included_deg) / 2:g}°."
        ]
        if given.work != "inside"
        else [
            "Indicate the work; set the compound, or the carriage for a parallel hole, so that the wheel clears its far"
            " end before it starts."
        ]
    )
    parallel = given.work == "inside" and given.included_deg == 0
    stroke = (
        f"Traverse with the {'carriage' if parallel else 'compound'} alone, the whole length and clear of it at both"
        " ends."
    )
    return [
        *before,
        "Dress the wheel; again whenever it shines or the work turns brown: a loaded wheel burns.",
        (
            "Work slowly, against the wheel at the contact. Touch with a mark of ink: the first trace shows whether the"
            " angle is right."
        ),
        (
            f"{stroke} The cross-slide feeds, {show_exact(given.a_pass.mm, given.unit)} on diameter a pass; spark out"
            " the last two without feed."
        ),
        "Check with blue in a gauge, or on a centre hole that is known; then the runout with a needle.",
    ]
