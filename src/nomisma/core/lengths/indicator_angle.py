"""An indicator out of line: what its reading is worth as true travel."""

from decimal import Decimal
from math import cos, radians
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Number
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

GEOMETRY = "geometry: the travel is the reading's part along itself"
MOST_DEG = 60
NEGLIGIBLE_DEG = 8
"""Up to this angle it reads long by less than a hundredth. Source: 1/cos 8° = 1.0098."""


class IndicatorAngleInput(Model):
    """A reading and how far out of line: a plunger from the direction of travel, a lever's stylus from the surface it
    lies along.

    A lever with a stylus shaped to correct itself needs no correction within its maker's range.
    """

    reading: Difference
    angle_deg: Number = Field(ge=0, le=MOST_DEG)
    kind: Literal["plunger", "lever"] = "plunger"
    unit: Unit = "mm"


class IndicatorAngleResult(WorksheetAnswer):
    """True travel, and how much the indicator reads too much."""

    travel: Difference
    reads_long: Difference


@calculation(
    name="indicator_angle",
    title="An indicator out of line",
    validity=f"Plungers and levers up to {MOST_DEG}° out of line; the contact as the maker has it.",
    source=GEOMETRY,
    example={"reading": "0.010 in", "angle_deg": 20, "kind": "plunger", "unit": "in"},
)
def indicator_angle(given: IndicatorAngleInput) -> IndicatorAngleResult:
    """True travel = reading × cos(angle). Raises InputError for an angle out of range.

    Source: geometry; both kinds read long, never short.

    >>> found = indicator_angle(IndicatorAngleInput(reading="0.010 in", angle_deg=60, unit="in"))
    >>> str(found.travel)
    '0.005 in'
    """
    share = Decimal(f"{cos(radians(float(given.angle_deg))):.9f}")
    travel = given.reading.mm * share
    long, unit = given.reading.mm - travel, given.unit
    what = "plunger from the direction of travel" if given.kind == "plunger" else "stylus from the surface"
    return IndicatorAngleResult(
        travel=Length(travel, unit),
        reads_long=Length(long, unit),
        headline=show_small(travel, unit),
        headline_length=Length(travel, unit),
        sentence=f"It reads {show_small(abs(long), unit)} too much: the {what} is {given.angle_deg}° out.",
        facts=[
            Fact(name="True travel", length=Length(travel, unit)),
            Fact(name="Reads too much by", words=f"{100 * (1 - share):.2f} % of it"),
        ],
        notes=(
            [f"Up to {NEGLIGIBLE_DEG}° it is less than a hundredth of the reading."]
            if given.angle_deg <= NEGLIGIBLE_DEG
            else []
        ),
        steps=["Set a plunger along the travel, a lever’s stylus along the surface; correct only what cannot be set."],
        working=[
            Step(
                name="True travel",
                formula="reading × cos(angle)",
                values=f"{both(given.reading.mm, unit, decimals=5)} × cos {given.angle_deg}°",
                result=both(travel, unit, decimals=5),
                source=GEOMETRY,
            ),
            Step(
                name="From when it counts",
                formula=f"{NEGLIGIBLE_DEG}°",
                result="a hundredth of the reading",
                source=COMMON_PRACTICE,
            ),
        ],
    )
