"""A sine bar or sine centres set to an angle by a pile of slips, and how true the angle is that they make."""

from decimal import Decimal
from math import asin, cos, degrees, radians, sin
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.lengths.slip_shelf import SetName, SlipGrade, slip_sets
from nomisma.core.lengths.slips import SlipPile, SlipsInput, SlipsResult, slips
from nomisma.core.model import Model
from nomisma.core.part.standard_tapers import standard_taper_named
from nomisma.core.part.taper import taper_rate
from nomisma.core.quantity.angle import parse_angle_deg, show_angle
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

MOST_DEG = 75
"""Beyond it a sine bar is not set: a micron of the pile moves the angle without end towards 90°. Source: this tool's
own choice.
"""
CAUTIOUS_FROM_DEG = 45
"""From what angle the other flank is set instead, by the complement. Source: common practice, no source."""
ASKED_TO_MM = Decimal("0.000001")
"""To what a pile is asked for: so fine that the nearest pile of the shelf is the nearest to the true height. Source:
arithmetic.
"""


class SineBarInput(Model):
    """An angle (or a taper: 1:20, Morse 3), the distance between the rollers, and the slips on the shelf.

    `sets`: the whole angle (a sine bar under a face), or half of it (sine centres under the axis of a taper, so that
    its upper side lies flat).
    """

    angle: str = Field(max_length=80)
    rollers_apart: Size = Length.of("5", "in")
    sets: Literal["whole", "half"] = "whole"
    set: SetName = "m88"
    missing: str = ""
    own: str = ""
    wear: str = ""
    grade: SlipGrade = "1"
    unit: Unit = "mm"


class SineBarResult(WorksheetAnswer):
    """The height under the roller, the pile that comes nearest, the angle it makes and how far that is off, in degrees
    and seconds of arc.
    """

    angle_deg: float
    height: Size
    pile: SlipPile
    made_deg: float
    off_arc_seconds: Number
    uncertainty_arc_seconds: Number


@calculation(
    name="sine_bar",
    title="A sine bar, set by slips",
    validity=(
        f"Angles above 0 up to {MOST_DEG}°; the bar and its rollers as true as they should be; on a surface plate at"
        " 20 °C."
    ),
    source="geometry: height = distance of the rollers × sin(angle); slips as in `slips`",
    example={"angle": "16°35'40\"", "rollers_apart": "5 in", "set": "in81", "unit": "in"},
)
def sine_bar(given: SineBarInput) -> SineBarResult:
    """The height, its pile and the angle made. Raises InputError, OutOfRange for an angle that is not set like that, or
    too low a pile.

    Source: geometry; slips as in `slips`.

    >>> found = sine_bar(SineBarInput(angle="30°", rollers_apart="100 mm"))
    >>> str(found.height), round(found.made_deg, 6)
    ('50 mm', 30.0)
    """
    angle = _angle_deg(given)
    apart = given.rollers_apart.mm
    exact = float(apart) * sin(radians(angle))
    unit = slip_sets()[given.set].unit if given.set in slip_sets() else given.unit
    height = Decimal(exact).quantize(ASKED_TO_MM)
    if height <= 0:
        raise OutOfRange("The pile would have no height.", "A larger angle, or a longer bar.", field="angle")
    found = _slips(given, Length(height, unit))
    pile, worth = found.pile, float(found.uncertainty_um)
    made = degrees(asin(min(float(pile.height.mm / apart), 1.0)))
    off = (made - angle) * 3600
    per_um = degrees(1 / (float(apart) * 1000 * cos(radians(angle)))) * 3600
    return SineBarResult(
        angle_deg=angle,
        height=Length.from_mm(exact, unit),
        pile=pile,
        made_deg=made,
        off_arc_seconds=Decimal(f"{off:.1f}") + 0,
        uncertainty_arc_seconds=Decimal(f"{per_um * worth:.1f}"),
        headline=" + ".join(f"{size.value(unit).normalize():f}" for size in pile.pieces),
        sentence=_sentence(angle, made, off, given),
        facts=_facts(angle, exact, pile, made, off, per_um * worth, unit),
        notes=_notes(angle),
        steps=[
            "Clean plate, bar and slips; the pile under the roller at the high end, the other roller on the plate.",
            (
                "Clamp the work on the bar, run the needle along it: it reads the same at both ends when the angle is"
                " right."
            ),
            "Turn the bar end for end and read again: half of what changed is the bar’s own.",
        ],
        working=_working(angle, exact, made, per_um, given),
    )


def _slips(given: SineBarInput, height: Length) -> SlipsResult:
    shelf = given.model_dump(include={"set", "missing", "own", "wear", "grade"})
    try:
        return slips(SlipsInput(target=height, unit=height.unit, **shelf))
    except InputError as error:
        if error.field == "target":
            error.field = "angle"
        raise


def _angle_deg(given: SineBarInput) -> float:
    """The angle that is set: of a taper its included one; half of either where the axis is set."""
    text = given.angle
    standard = standard_taper_named(text)
    try:
        if standard or any(mark in text for mark in (":", "%", "per", "/")):
            rate = standard.rate if standard else taper_rate(text)
            whole = degrees(2 * asin(float(rate) / 2 / (1 + float(rate) ** 2 / 4) ** 0.5))
        else:
            whole = float(parse_angle_deg(text))
    except InputError as error:
        raise error.at("angle") from None
    angle = whole / 2 if given.sets == "half" else whole
    if not 0 < angle <= MOST_DEG:
        other = (
            f"Up to {MOST_DEG}°; set the complement, {90 - angle:.4g}°, against a square."
            if 0 < 90 - angle < 90
            else f"Up to {MOST_DEG}°."
        )
        raise OutOfRange(f"{angle:.4g}° is not set on a sine bar.", other, field="angle")
    return angle


def _sentence(angle: float, made: float, off: float, given: SineBarInput) -> str:
    what = "Half the angle: sine centres under the axis" if given.sets == "half" else "The whole angle"
    if abs(off) < 0.05:
        return f"{what}: {show_angle(angle)}, exactly."
    return (
        f"{what}: {show_angle(angle)}; the pile makes {show_angle(made)}, {abs(off):.1f} seconds of arc"
        f" {'more' if off > 0 else 'less'}."
    )


def _facts(angle: float, exact: float, pile: SlipPile, made: float, off: float, worth: float, unit: Unit) -> list[Fact]:
    return [
        Fact(name="Height under the roller", length=Length.from_mm(exact, unit)),
        Fact(name="The pile", length=pile.height),
        Fact(name="Angle wanted", words=show_angle(angle)),
        Fact(name="Angle made", words=show_angle(made)),
        Fact(name="Off by", words=f"{off:+.1f} seconds of arc".replace("-", "−")),
        Fact(name="The slips alone are worth", words=f"±{worth:.1f} seconds of arc"),
    ]


def _notes(angle: float) -> list[str]:
    if angle <= CAUTIOUS_FROM_DEG:
        return []
    return [
        f"Above {CAUTIOUS_FROM_DEG}° small errors of pile and bar grow fast: set {90 - angle:.4g}° instead and turn the"
        " work a square."
    ]


def _working(angle: float, exact: float, made: float, per_um: float, given: SineBarInput) -> list[Step]:
    unit, apart = given.unit, given.rollers_apart.mm
    return [
        Step(
            name="Height",
            formula="distance of the rollers × sin(angle)",
            values=f"{both(apart, unit)} × sin {angle:.6f}°",
            result=both(as_mm(exact), unit, decimals=5),
            source="geometry",
        ),
        Step(
            name="Angle made",
            formula="asin(pile/distance of the rollers)",
            values=f"to {show_small(Decimal('0.001'), unit)} of pile {per_um:.2f} seconds of arc",
            result=show_angle(made),
            source="geometry",
        ),
        Step(
            name="From where it is set by the complement",
            formula=f"above {CAUTIOUS_FROM_DEG}°",
            result=f"{angle:.4g}°",
            source=COMMON_PRACTICE,
        ),
    ]
