"""A drill's point: how long it is, how deep to go for a depth of full diameter, and where to stop to finish from the
back.
"""

from decimal import Decimal
from math import radians, tan

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

GEOMETRY = "geometry: point = d/(2·tan(point angle/2))"


class DrillPointInput(Model):
    """A drill and its point angle; `full_depth` of full diameter wanted; `part`: how long the part is, `allowance` left
    behind it to part off.

    `skin`: what is left when it is to be drilled nearly through and faced open from the back.
    """

    drill: Size
    point_deg: Number = Field(default=Decimal(118), ge=60, le=170)
    full_depth: Size | None = None
    part: Size | None = None
    skin: Size | None = None
    unit: Unit = "mm"


class DrillPointResult(WorksheetAnswer):
    """The point's length, how deep its tip goes, and what is left between tip and back (below zero: through)."""

    point: Size
    tip_depth: Size | None = None
    left_behind: Difference | None = None
    stop_short: Size | None = None


@calculation(
    name="drill_point",
    title="A drill and its point",
    validity="Twist drills with a plain point of 60 to 170°.",
    source=GEOMETRY,
    example={"drill": "0.5 in", "full_depth": "1 in", "part": "1.25 in", "unit": "in"},
)
def drill_point(given: DrillPointInput) -> DrillPointResult:
    """Length of the point and the depths that follow. Raises OutOfRange where the depth asked for is none.

    Source: geometry.

    >>> str(drill_point(DrillPointInput(drill="10 mm", full_depth="20 mm")).tip_depth)
    '23.00430309 mm'
    """
    unit = given.unit
    point = given.drill.mm / Decimal(f"{2 * tan(radians(float(given.point_deg) / 2)):.9f}")
    point = point.quantize(Decimal("1e-8")).normalize()
    tip = given.full_depth.mm + point if given.full_depth else None
    left = given.part.mm - tip if given.part and tip is not None else None
    short = given.part.mm - given.skin.mm if given.part and given.skin else None
    if short is not None and short <= 0:
        raise OutOfRange("The skin is as thick as the part.", "A thinner one.", field="skin")
    facts = [Fact(name="Length of the point", length=Length(point, unit))]
    for name, mm in (
        ("Tip goes to", tip),
        ("Left behind the tip", left),
        ("Stop the tip at, to open from the back", short),
    ):
        if mm is not None:
            facts.append(Fact(name=name, length=Length(mm, unit)))
    if short is not None:
        facts.append(Fact(name="Full diameter there", length=Length(short - point, unit)))
    notes = (
        ["The point comes through the back: what is behind it is not for use again."]
        if left is not None and left < 0
        else []
    )
    main = tip if tip is not None else point
    return DrillPointResult(
        point=Length(point, unit),
        tip_depth=Length(tip, unit) if tip is not None else None,
        left_behind=Length(left, unit) if left is not None else None,
        stop_short=Length(short, unit) if short is not None else None,
        headline=show_exact(main, unit),
        headline_length=Length(main, unit),
        sentence="From where the tip touches." if tip is not None else "The point alone.",
        facts=facts,
        notes=notes,
        steps=[
            "Touch the tip, zero the tailstock or the readout there; measure the drill and its point before it counts."
        ],
        working=[
            Step(
                name="Point",
                formula="d/(2·tan(point/2))",
                values=f"{both(given.drill.mm, unit)}/(2·tan {float(given.point_deg) / 2:g}°)",
                result=both(point, unit),
                source=GEOMETRY,
            ),
            *(
                [Step(name="Tip", formula="full depth + point", result=both(tip, unit), source=ARITHMETIC)]
                if tip is not None
                else []
            ),
        ],
    )
