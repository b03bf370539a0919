"""Off centre on purpose: the readings to aim for at each jaw, and the packing that does it in a three-jaw."""

from decimal import Decimal
from math import cos, radians

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.truing.four_jaw import Surface
from nomisma.core.working import ARITHMETIC, Step


class ThrowInput(Model):
    """A wanted throw (the offset itself, half of what the needle swings) towards a direction (jaw 1 at 0°, jaw 2 at 90°).

    `diameter`: of the round that is held, for the packing in a three-jaw.
    """

    throw: Size
    towards_deg: float = Field(default=0.0, ge=0, lt=360)
    surface: Surface = "outside"
    diameter: Size
    range: Size | None = None
    unit: Unit = "in"


class AimedReading(Model):
    """What the needle should say at a jaw, from the mean of the round."""

    jaw: int
    reading: Difference


class ThrowResult(Model):
    """Readings to aim for, the whole swing, and the packing under one jaw of a three-jaw that gives the same throw."""

    aimed: list[AimedReading]
    towards_deg: float
    swing: Size
    packing: Size
    in_range: bool | None = None
    sentence: str
    cautions: list[str]
    working: list[Step]


@calculation(
    name="throw",
    title="Off centre on purpose",
    validity="A round held in an independent four-jaw, or in a three-jaw with one jaw packed; narrow jaws; throw below half the diameter.",
    source="geometry",
    example={"throw": "0.125 in", "diameter": "1.5 in", "range": "0.5 in"},
)
def throw(given: ThrowInput) -> ThrowResult:
    """Readings to aim for at each jaw, the indicator's range needed, and the packing for a three-jaw. Raises OutOfRange.

    Source: geometry: the needle swings twice the throw; a circle of diameter D through three jaw tips at 120° needs the packing
    1.5·e + (√(D² − 3·e²) − D)/2 under one jaw for a throw e.

    >>> found = throw(ThrowInput(throw="0.125 in", diameter="1.5 in")); str(found.swing), round(float(found.packing.value("in")), 4)
    ('0.25 in', 0.1796)
    """
    e, d = given.throw.mm, given.diameter.mm
    if e * 2 >= d:
        raise OutOfRange(
            f"A throw of {given.throw} would put the axis outside a round of {given.diameter}.",
            "Hold it on a faceplate or in a fixture, and ask for that.",
            field="throw",
        )
    unit = given.unit
    sense = 1 if given.surface == "outside" else -1
    aimed = [
        AimedReading(
            jaw=jaw,
            reading=Length(Decimal(f"{sense * float(e) * cos(radians(90 * (jaw - 1) - given.towards_deg)):.6f}"), unit),
        )
        for jaw in (1, 2, 3, 4)
    ]
    packing = Decimal("1.5") * e + ((d * d - 3 * e * e).sqrt() - d) / 2
    swing = 2 * e
    in_range = None if given.range is None else swing <= given.range.mm
    return ThrowResult(
        aimed=aimed,
        towards_deg=given.towards_deg,
        swing=Length(swing, unit),
        packing=Length(packing.quantize(Decimal("1e-7")), unit),
        in_range=in_range,
        sentence=_sentence(swing, in_range, given, unit),
        cautions=[
            "Off-centre work is out of balance: counterweight it, start slow, stand clear of the chuck’s plane, and never pass the speed "
            "marked on the chuck. The machine maker’s manual and the shop’s rules come first."
        ],
        working=[
            Step(
                name="Swing of the needle",
                formula="2 × throw",
                values=both(e, unit),
                result=both(swing, unit),
                source=ARITHMETIC,
            ),
            Step(
                name="Packing under one jaw of a three-jaw",
                formula="1.5·e + (√(D² − 3·e²) − D)/2",
                values=f"e = {both(e, unit)}, D = {both(d, unit)}",
                result=both(packing, unit, decimals=5 if unit == "in" else 4),
                source="geometry: a circle through three jaw tips at 120°; wide jaws differ, so check with the indicator",
            ),
        ],
    )


def _sentence(swing: Decimal, in_range: bool | None, given: ThrowInput, unit: Unit) -> str:
    if in_range is False:
        return (
            f"The needle would swing {show(swing, unit)}, more than its range of {given.range}: set the throw with slips or a longer "
            "indicator, and use this one only near the high and the low."
        )
    return f"The needle swings {show(swing, unit)} from low to high: twice the throw."
