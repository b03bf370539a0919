"""A radius cut by steps with a round-nosed tool: where its edges stand for each, on an outside corner or a ball, or in
a fillet.
"""

from decimal import Decimal
from math import cos, radians, sin
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

GEOMETRY = "geometry: the nose's centre runs on a circle of R + r outside, R − r inside"


class RadiusStepsInput(Model):
    """A radius, the tool's nose radius, and in steps of how many degrees. `kind`: an outside corner (a ball is two of
    them), or a fillet.

    `outside`: the diameter the corner breaks, for the cross-slide's own figures.
    """

    radius: Size
    nose: Size
    kind: Literal["corner", "fillet"] = "corner"
    step_deg: Number = Field(default=Decimal(10), ge=1, le=45)
    outside: Size | None = None
    unit: Unit = "mm"


class RadiusStepsResult(WorksheetAnswer):
    """For each step how far the tool's side edge stands from the face and its front edge from the diameter, the latter
    on radius.
    """

    along: list[Difference]
    inward: list[Difference]
    ridge: Size


@calculation(
    name="radius_steps",
    title="A radius by steps",
    validity="A true round nose, smaller than a fillet's radius; the small ridges between steps are filed or stoned.",
    source=GEOMETRY,
    example={"radius": "0.250 in", "nose": "0.031 in", "kind": "corner", "outside": "1.000 in", "unit": "in"},
)
def radius_steps(given: RadiusStepsInput) -> RadiusStepsResult:
    """Where both edges of the tool stand at each step. Raises OutOfRange for a nose too large for a fillet, or a radius
    too large.

    Source: geometry: on a corner along = (R + r)(1 − sin a), inward = (R + r)(1 − cos a); in a fillet R − r in place of
    R + r.

    >>> found = radius_steps(RadiusStepsInput(radius="10 mm", nose="2 mm", step_deg=45))
    >>> [str(one) for one in found.along], [str(one) for one in found.inward]
    (['12 mm', '3.5147186 mm', '0 mm'], ['0 mm', '3.5147186 mm', '12 mm'])
    """
    unit, sign = given.unit, 1 if given.kind == "corner" else -1
    path = float(given.radius.mm) + sign * float(given.nose.mm)
    if path <= 0:
        raise OutOfRange(
            "The tool’s nose is as large as the fillet.",
            "A smaller nose, or let it make the fillet by itself.",
            field="nose",
        )
    if given.outside and 2 * given.radius.mm > given.outside.mm:
        raise OutOfRange("The radius is more than half the diameter.", "Check the two.", field="radius")
    angles = _angles(float(given.step_deg))
    along = [as_mm(path * (1 - sin(radians(a)))) for a in angles]
    inward = [as_mm(path * (1 - cos(radians(a)))) for a in angles]
    ridge = as_mm(float(given.radius.mm) * (1 - cos(radians(float(given.step_deg) / 2))))
    where = "face" if given.kind == "corner" else "shoulder"
    return RadiusStepsResult(
        along=[Length(one, unit) for one in along],
        inward=[Length(one, unit) for one in inward],
        ridge=Length(ridge, unit),
        headline=f"{len(angles)} steps",
        sentence=f"Touch the {where} and the diameter, zero both there: the edges then stand as in the table.",
        facts=[
            Fact(name="Ridge left between two steps, about", length=Length(ridge, unit), small=True),
            Fact(name="The nose’s centre runs on a radius of", length=Length.from_mm(path, unit)),
        ],
        table=_table(angles, along, inward, where, given),
        steps=[
            "Rough the corner off by a chamfer or by plain steps first.",
            "Go through the table from the diameter to the face, each figure come to in the same direction.",
            "Blend the ridges with a file of a good handle, or a stone; left arm clear of the chuck.",
        ],
        working=[
            Step(
                name="Along and inward",
                formula="(R ± r)(1 − sin a), (R ± r)(1 − cos a)",
                values=f"R {both(given.radius.mm, unit)}, r {both(given.nose.mm, unit)}",
                result="as in the table",
                source=GEOMETRY,
            ),
            Step(
                name="Ridge",
                formula="R(1 − cos(step/2))",
                values=f"{float(given.step_deg):g}°",
                result=both(ridge, unit, decimals=5),
                source=GEOMETRY,
            ),
        ],
    )


def _angles(step: float) -> list[float]:
    """0° at the diameter to 90° at the face; the last step is what is left."""
    found, at = [], 0.0
    while at < 90 - 1e-9:
        found.append(at)
        at += step
    return [*found, 90.0]


def _table(
    angles: list[float], along: list[Decimal], inward: list[Decimal], where: str, given: RadiusStepsInput
) -> AnswerTable:
    unit = given.unit
    head = [
        "At",
        f"Side edge from the {where}",
        "Front edge, on radius",
        *(["Cross-slide at, diameter"] if given.outside else []),
    ]
    sign = -1 if given.kind == "corner" else 1
    rows = []
    for angle, side, front in zip(angles, along, inward, strict=True):
        cross = [Fact(length=Length(given.outside.mm + 2 * sign * front, unit))] if given.outside else []
        rows.append(
            [Fact(words=f"{angle:g}°"), Fact(length=Length(side, unit)), Fact(length=Length(front, unit)), *cross]
        )
    return AnswerTable(head=head, rows=rows)
