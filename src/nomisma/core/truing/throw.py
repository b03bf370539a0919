"""Off centre on purpose: the readings to aim for at each jaw, and the packing that does it in a three-jaw."""

from decimal import Decimal
from math import cos, pi, radians

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.truing.surface import TruedSurface, sense_of
from nomisma.core.working import ARITHMETIC, Step


class OneThrow(Model):
    """One throw and its direction (jaw 1 at 0°, jaw 2 at 90°)."""

    throw: Size
    towards_deg: float = Field(default=0.0, ge=0, lt=360)


class ThrowInput(Model):
    """A wanted throw (the offset itself, half of what the needle swings) towards a direction (jaw 1 at 0°, jaw 2 at
    90°).

    `diameter`: of the round that is held, for the packing in a three-jaw. `more`: further throws on the same part, set
    one after the other. `mass_kg` and `speed_rpm`: for how hard it pulls; `chuck_rpm`: the speed marked on the chuck.
    """

    throw: Size
    towards_deg: float = Field(default=0.0, ge=0, lt=360)
    surface: TruedSurface = "outside"
    diameter: Size
    range: Size | None = None
    more: list[OneThrow] = Field(default=[], max_length=12)
    mass_kg: Number | None = Field(default=None, gt=0, le=5000)
    speed_rpm: Number | None = Field(default=None, gt=0, le=20_000)
    chuck_rpm: Number | None = Field(default=None, gt=0, le=20_000)
    unit: Unit = "in"


class AimedReading(Model):
    """What the needle should say at a jaw, from the mean of the round."""

    jaw: int
    reading: Difference


class NextThrow(Model):
    """A further throw: the readings to aim for, and how each pair of jaws moves from the throw before."""

    throw: Size
    towards_deg: float
    aimed: list[AimedReading]
    moves: list[str]


class ThrowResult(Model):
    """Readings to aim for, the whole swing, and the packing under one jaw of a three-jaw that gives the same throw."""

    aimed: list[AimedReading]
    towards_deg: float
    total_indicator_reading: Size
    packing: Size
    in_range: bool | None = None
    others: list[NextThrow]
    pull_n: float | None = None
    sentence: str
    cautions: list[str]
    working: list[Step]


@calculation(
    name="throw",
    title="Off centre on purpose",
    validity=(
        "A round held in an independent four-jaw, or in a three-jaw with one jaw packed; narrow jaws; throw below half"
        " the diameter."
    ),
    source="geometry",
    example={"throw": "0.125 in", "diameter": "1.5 in", "range": "0.5 in"},
)
def throw(given: ThrowInput) -> ThrowResult:
    """Readings to aim for at each jaw, the indicator's range needed, and the packing for a three-jaw. Raises
    OutOfRange.

    Source: geometry: the needle swings twice the throw; a circle of diameter D through three jaw tips at 120° needs the
    packing 1.5·e + (√(D² − 3·e²) − D)/2 under one jaw for a throw e.

    >>> found = throw(ThrowInput(throw="0.125 in", diameter="1.5 in"))
    >>> str(found.total_indicator_reading), round(float(found.packing.value("in")), 4)
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
    for index, one in enumerate(given.more):
        if one.throw.mm * 2 >= d:
            raise OutOfRange(
                f"A throw of {one.throw} would put the axis outside a round of {given.diameter}.",
                "Correct it.",
                field=f"more.{index}",
            )
    if given.chuck_rpm and given.speed_rpm and given.speed_rpm > given.chuck_rpm:
        raise OutOfRange(
            f"{given.speed_rpm} rpm is above the {given.chuck_rpm} rpm marked on the chuck.",
            "Stay well below it: the work is out of balance.",
            field="speed_rpm",
        )
    aimed = _aimed(e, given.towards_deg, given.surface, unit)
    packing = Decimal("1.5") * e + ((d * d - 3 * e * e).sqrt() - d) / 2
    total_indicator_reading = 2 * e
    in_range = None if given.range is None else total_indicator_reading <= given.range.mm
    return ThrowResult(
        aimed=aimed,
        towards_deg=given.towards_deg,
        total_indicator_reading=Length(total_indicator_reading, unit),
        packing=Length(packing.quantize(Decimal("1e-7")), unit),
        in_range=in_range,
        others=_others(given),
        pull_n=_pull_n(given),
        sentence=_sentence(total_indicator_reading, in_range, given, unit),
        cautions=[
            *_pull_words(given),
            (
                "Off-centre work is out of balance: counterweight it, start slow, stand clear of the chuck’s plane, and"
                " never pass the speed marked on the chuck. The machine maker’s manual and the shop’s rules come first."
            ),
        ],
        working=[
            Step(
                name="Swing of the needle",
                formula="2 × throw",
                values=both(e, unit),
                result=both(total_indicator_reading, unit),
                source=ARITHMETIC,
            ),
            Step(
                name="Packing under one jaw of a three-jaw",
                formula="1.5·e + (√(D² − 3·e²) − D)/2",
                values=f"e = {both(e, unit)}, D = {both(d, unit)}",
                result=both(packing, unit, decimals=5 if unit == "in" else 4),
                source=(
                    "geometry: a circle through three jaw tips at 120°; wide jaws differ, so check with the indicator"
                ),
            ),
            *_pull_working(given),
        ],
    )


def _aimed(throw: Decimal, towards_deg: float, surface: TruedSurface, unit: Unit) -> list[AimedReading]:
    """The reading at each jaw, from the mean of the round."""
    sense = sense_of(surface)
    return [
        AimedReading(
            jaw=jaw,
            reading=Length(Decimal(f"{sense * float(throw) * cos(radians(90 * (jaw - 1) - towards_deg)):.6f}"), unit),
        )
        for jaw in (1, 2, 3, 4)
    ]


def _others(given: ThrowInput) -> list[NextThrow]:
    """Every further throw with the moves from the one before it."""
    found = []
    before = OneThrow(throw=given.throw, towards_deg=given.towards_deg)
    for one in given.more:
        aimed = _aimed(one.throw.mm, one.towards_deg, given.surface, given.unit)
        found.append(
            NextThrow(
                throw=one.throw, towards_deg=one.towards_deg, aimed=aimed, moves=_moves_between(before, one, given.unit)
            )
        )
        before = one
    return found


def _moves_between(before: OneThrow, after: OneThrow, unit: Unit) -> list[str]:
    """A driven jaw pushes the work away from itself."""
    found = []
    for jaw, opposite in ((1, 3), (2, 4)):
        at = [float(one.throw.mm) * cos(radians(90 * (jaw - 1) - one.towards_deg)) for one in (before, after)]
        move = Decimal(f"{at[1] - at[0]:.6f}")
        if abs(move) > Decimal("0.0005"):
            ease, drive = (jaw, opposite) if move > 0 else (opposite, jaw)
            found.append(f"Ease jaw {ease}, drive jaw {drive}, by {show(abs(move), unit)}.")
    return found


def _pull_n(given: ThrowInput) -> float | None:
    """Centrifugal force, N, of the work on its chuck. Source: m·e·ω²."""
    if given.mass_kg is None or given.speed_rpm is None:
        return None
    farthest = max([given.throw.mm, *(one.throw.mm for one in given.more)])
    return float(given.mass_kg) * float(farthest) / 1000 * (2 * pi * float(given.speed_rpm) / 60) ** 2


def _pull_working(given: ThrowInput) -> list[Step]:
    pull = _pull_n(given)
    if pull is None:
        return []
    values = f"{given.mass_kg} kg at {given.speed_rpm} rpm, the farthest throw"
    return [
        Step(name="Pull out of balance", formula="m·e·ω²", values=values, result=f"{pull:.0f} N", source="mechanics")
    ]


def _pull_words(given: ThrowInput) -> list[str]:
    pull = _pull_n(given)
    if pull is None or given.mass_kg is None:
        return []
    times = pull / (float(given.mass_kg) * 9.81)
    return [
        f"At {given.speed_rpm} rpm it pulls {pull:.0f} N outwards, {times:.1f} times its own weight, round and round:"
        " counterweight it, or go slower."
    ]


def _sentence(total_indicator_reading: Decimal, in_range: bool | None, given: ThrowInput, unit: Unit) -> str:
    if in_range is False:
        return (
            f"The needle would swing {show(total_indicator_reading, unit)}, more than its range of {given.range}: "
            "set the throw with slips or a longer "
            "indicator, and use this one only near the high and the low."
        )
    return f"The needle swings {show(total_indicator_reading, unit)} from low to high: twice the throw."
