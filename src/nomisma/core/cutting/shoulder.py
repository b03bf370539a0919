"""A shoulder turned and faced: passes that stop short, the last to the mark and out; what the compound is wound for it;
its corner.
"""

from decimal import ROUND_CEILING, Decimal
from math import cos, radians, tan
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.part.corner import LARGEST_MM, stand_off_mm
from nomisma.core.quantity.display import both, show, show_small
from nomisma.core.quantity.fields import Difference, Number, Size, SizeOrZero
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

SetBy = Literal["readout", "indicator", "stop", "slips", "line"]
STOP_SHORT = Length.of("0.003", "in")
"""How far before the mark each pass stops. Source: common practice, no source: 0.002 to 0.005 in."""
SET_BY: dict[SetBy, str] = {
    "readout": "Readout to 0 with the tool on the face; the shoulder is at {length}.",
    "indicator": (
        "Indicator against the carriage, 0 with the tool on the face; run on for {length}, stopping as it comes to the"
        " mark."
    ),
    "stop": (
        "Carriage stop with {length} between it and the carriage when the tool touches the face; the last of it by"
        " hand, never by feed."
    ),
    "slips": (
        "Slips of {length} between stop and carriage with the tool on the face; take them out, and the carriage comes"
        " to the mark."
    ),
    "line": (
        "A scribed line for the eye only: stop well short of it, and finish by indicator, stop or readout; never to the"
        " line."
    ),
}


class ShoulderInput(Model):
    """A shoulder `length` from the face, from one diameter down to another. `depth`: of a pass, on radius.

    `compound_deg`: the compound's angle from the lathe's axis. `tool_radius`: the corner the tool leaves;
    `partner_chamfer`: the axial leg of the 45° chamfer on the mating edge; `radial_clearance`: the gap on
    the radius between the two. `chamfer`: axial leg of
    one cut on this edge, at `chamfer_deg` from the axis.
    """

    length: Size
    from_diameter: Size
    to_diameter: Size
    depth: Size = Length.of("0.050", "in")
    stop_short: Size = STOP_SHORT
    set_by: SetBy = "stop"
    compound_deg: Number | None = Field(default=None, ge=0, lt=90)
    tool_radius: SizeOrZero | None = None
    partner_chamfer: SizeOrZero | None = None
    radial_clearance: Difference = Length(Decimal(0))
    chamfer: SizeOrZero | None = None
    chamfer_deg: Number = Field(default=Decimal(45), gt=0, lt=90)
    unit: Unit = "in"


class ShoulderResult(Model):
    """How many passes, where each stops, what the compound moves for the last of it, and whether the corner lets the
    faces seat.
    """

    passes: int
    stops_at: Size
    compound_move: Size | None = None
    seats: bool | None = None
    held_off: Difference | None = None
    undercut: Size | None = None
    chamfer_on_diameter: Size | None = None
    sentence: str
    steps: list[str]
    cautions: list[str]
    working: list[Step]


@calculation(
    name="shoulder",
    title="A shoulder to its length",
    validity="A square shoulder turned towards the chuck and faced outwards; lengths from one face.",
    source="common practice, no source (stopping short); geometry",
    example={
        "length": "0.750 in",
        "from_diameter": "1.5 in",
        "to_diameter": "1.0 in",
        "tool_radius": "0.016 in",
        "partner_chamfer": "0.010 in",
    },
)
def shoulder(given: ShoulderInput) -> ShoulderResult:
    """Passes, where they stop, the compound's move, and whether the corner clears its partner. Raises InputError,
    OutOfRange.

    Source: common practice, no source: stop 0.002 to 0.005 in short, the last pass to the mark and out; geometry: a
    chamfer's axial leg is measured along the axis; the corner against its partner's edge as on the worksheet *Corner*
    (core.part.corner).

    >>> found = shoulder(ShoulderInput(length="0.75 in", from_diameter="1.5 in", to_diameter="1 in"))
    >>> found.passes, str(found.stops_at)
    (5, '0.747 in')
    """
    step = (given.from_diameter.mm - given.to_diameter.mm) / 2
    if step <= 0:
        raise InputError(
            "The shoulder goes from the larger diameter to the smaller.", "Exchange the two.", field="to_diameter"
        )
    if given.stop_short.mm >= given.length.mm:
        raise OutOfRange(
            "It stops short by more than the shoulder is long.", "0.002 to 0.005 in is usual.", field="stop_short"
        )
    unit = given.unit
    passes = int((step / given.depth.mm).to_integral_value(ROUND_CEILING))
    stops = given.length.mm - given.stop_short.mm
    move = _compound(given)
    held_off = _held_off(given)
    seats = None if held_off is None else held_off == 0
    undercut = given.tool_radius.mm if given.tool_radius and held_off else None
    leg = (
        given.chamfer.mm * 2 * Decimal(str(round(tan(radians(float(given.chamfer_deg))), 9)))
        if given.chamfer and given.chamfer.mm
        else None
    )
    return ShoulderResult(
        passes=passes,
        stops_at=Length(stops, unit),
        compound_move=Length(move, unit) if move else None,
        seats=seats,
        held_off=Length(held_off, unit) if held_off is not None else None,
        undercut=Length(undercut, unit) if undercut else None,
        chamfer_on_diameter=Length(leg.quantize(Decimal("1e-6")), unit) if leg else None,
        sentence=_sentence(given, passes, stops, held_off),
        steps=_steps(given, passes, stops, move, undercut, leg),
        cautions=[
            "No feed into a shoulder: the last of it by hand, and the chuck’s jaws clear of the tool at its farthest."
            " The machine’s manual comes first."
        ],
        working=_working(given, step, passes, stops, move, held_off),
    )


def _compound(given: ShoulderInput) -> Decimal | None:
    """What the compound is wound to move the tool along the axis by what was left, mm."""
    if given.compound_deg is None:
        return None
    along = cos(radians(float(given.compound_deg)))
    return Decimal(f"{float(given.stop_short.mm) / along:.6f}")


def _held_off(given: ShoulderInput) -> Decimal | None:
    """How far the corner holds the partner's face off, mm; None where nobody described the corner and the edge."""
    if given.tool_radius is None or given.partner_chamfer is None:
        return None
    for name, size in (("tool_radius", given.tool_radius), ("partner_chamfer", given.partner_chamfer)):
        if size.mm > LARGEST_MM:
            raise OutOfRange(f"{size} is no corner of a shoulder.", "Check the unit.", field=name)
    if given.radial_clearance.mm < 0:
        raise InputError(
            "The clearance between the two is below zero.", "A press fit has none: enter 0.", field="radial_clearance"
        )
    off = stand_off_mm(
        fillet_radius_mm=float(given.tool_radius.mm),
        edge="chamfer",
        edge_size_mm=float(given.partner_chamfer.mm),
        radial_clearance_mm=float(given.radial_clearance.mm),
    )
    return Decimal(f"{off:.6f}")


def _sentence(given: ShoulderInput, passes: int, stops: Decimal, held_off: Decimal | None) -> str:
    corner = ""
    if held_off is not None:
        corner = (
            f" The corner's radius would hold the faces {show_small(held_off, given.unit)} apart."
            if held_off
            else " The corner clears its partner's edge."
        )
    first = f"{passes} pass{'es' if passes != 1 else ''}, each stopped at {show(stops, given.unit)}"
    return f"{first}; the last goes on to {show(given.length.mm, given.unit)} and faces out in one sweep.{corner}"


def _steps(
    given: ShoulderInput,
    passes: int,
    stops: Decimal,
    move: Decimal | None,
    undercut: Decimal | None,
    leg: Decimal | None,
) -> list[str]:
    unit = given.unit
    found = [SET_BY[given.set_by].format(length=show(given.length.mm, unit))]
    if passes > 1:
        found.append(
            f"{passes - 1} pass{'es' if passes != 2 else ''} {show(given.depth.mm, unit)} deep, each stopped at"
            f" {show(stops, unit)}."
        )
    found.append(
        f"Last pass to the finished diameter, on to {show(given.length.mm, unit)} by hand, and face out in one sweep."
    )
    if move is not None:
        along = show(given.stop_short.mm, unit)
        found.append(
            f"With the compound at {given.compound_deg}° from the axis, {show(move, unit)} of it moves the tool {along}"
            " along."
        )
    if undercut is not None:
        found.append(
            f"Relieve the corner by {show(undercut, unit)} deep and wide, or chamfer the partner's edge larger: else"
            " they never seat."
        )
    if given.chamfer and leg is not None:
        found.append(
            f"Chamfer {show(given.chamfer.mm, unit)} × {given.chamfer_deg}°, measured along the axis: the edge goes"
            f" down by {show(leg, unit)} on diameter."
        )
    return [*found, "Measure the length from the one face everything is measured from."]


def _working(
    given: ShoulderInput, step: Decimal, passes: int, stops: Decimal, move: Decimal | None, held_off: Decimal | None
) -> list[Step]:
    unit = given.unit
    found = [
        Step(
            name="Passes",
            formula="(from − to) / 2 / depth, to the next whole",
            values=f"{both(step, unit)} on radius, {given.depth} a pass",
            result=str(passes),
            source=ARITHMETIC,
        ),
        Step(
            name="Stops at",
            formula="length − what is left",
            values=f"{given.length} − {given.stop_short}",
            result=both(stops, unit),
            source=COMMON_PRACTICE,
        ),
    ]
    if move is not None:
        found.append(
            Step(
                name="Compound",
                formula="amount / cos of its angle from the axis",
                result=both(move, unit),
                source="geometry",
            )
        )
    if held_off is not None:
        found.append(
            Step(
                name="How far the corner holds the face off",
                formula="height of the fillet where either end of the chamfer meets it",
                values=(
                    f"corner radius {given.tool_radius}, chamfer {given.partner_chamfer}, radial clearance"
                    f" {given.radial_clearance}"
                ),
                result=both(held_off, unit, decimals=5 if unit == "in" else 4),
                source="geometry of a circle in a square corner",
            )
        )
    return found
