"""V-grooves of a pulley: their widths and depths, how the compound is set and how far it travels, in which order, and
their check over a rod.
"""

from dataclasses import dataclass
from decimal import Decimal
from math import cos, radians, sin, tan

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.cutting.dial import turns_and_lines
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

GEOMETRY = "geometry of a V: top = floor + 2·depth·tan(half angle)"
RELIEF = Length.of("0.010", "in")
"""How much deeper than the V the straight roughing goes, so that the belt runs on the flanks. Source: common practice,
no source.
"""


SHARP_MM = Decimal("1e-6")
"""A floor less than this is none. Source: this tool's own choice."""


class VGrooveInput(Model):
    """A V by its included angle and two of top width, floor width (0: sharp) and depth; the top also from pitch and
    `land`.

    `outside`: the pulley's diameter. `count` grooves at a `pitch`, the first centre `first` from the datum face;
    `shoulder`: from there to a shoulder behind the last one, `shoulder_before`: to one before the first.
    `rod`: a rod or wire laid in; `over_rods`: as measured over two of them. `line`: one line of the compound's dial,
    `turn`: a whole turn of it.
    """

    included_deg: Number = Field(default=Decimal(40), gt=5, lt=120)
    top: Size | None = None
    floor: Difference | None = None
    depth: Size | None = None
    land: Difference | None = None
    outside: Size
    count: int = Field(default=1, ge=1, le=60)
    pitch: Size | None = None
    first: Size | None = None
    shoulder: Size | None = None
    shoulder_before: Difference | None = None
    rod: Size | None = None
    over_rods: Size | None = None
    line: Size | None = None
    turn: Size | None = None
    tool_room: Size = Length.of("0.125", "in")
    unit: Unit = "mm"


class VGrooveResult(WorksheetAnswer):
    """Widths and depth, the compound's angle from the axis (degrees) and its travel along a flank, and the size over
    rods.

    `roughing_tool`: the widest tool that goes straight in without touching a flank; none where the V is sharp.
    """

    top: Size
    floor: Difference
    depth: Size
    compound_deg: float
    travel: Size
    rough_depth: Size
    roughing_tool: Length | None = None
    land: Difference | None = None
    over_rods: Size | None = None
    top_measured: Size | None = None


@dataclass(frozen=True, slots=True)
class _V:
    """A V in mm; `half` its half angle in radians."""

    half: float
    top: Decimal
    floor: Decimal
    depth: Decimal

    @property
    def apex(self) -> float:
        """How deep its flanks would meet, mm."""
        return float(self.top) / 2 / tan(self.half)


@calculation(
    name="v_groove",
    title="V-grooves",
    validity="Straight flanks alike on both sides; rods that touch the flanks and not the floor.",
    source=f"{GEOMETRY}; common practice, no source (order, roughing a little deeper)",
    example={"included_deg": 40, "top": "0.500 in", "depth": "0.450 in", "outside": "4 in", "count": 3,
        "pitch": "0.625 in", "first": "0.400 in",
             "rod": "0.4375 in", "unit": "in"},
)  # fmt: skip
def v_groove(given: VGrooveInput) -> VGrooveResult:
    """Widths, settings, order and check of V-grooves. Raises InputError for what is missing, OutOfRange for a V that
    cannot be.

    Source: geometry; a rod's centre lies d/2/sin(half angle) above where the flanks meet.

    >>> found = v_groove(VGrooveInput(included_deg=60, top="20 mm", depth="12 mm", outside="100 mm", rod="11 mm"))
    >>> round(float(found.floor.mm), 4), round(found.compound_deg, 3), round(float(found.over_rods.mm), 4)
    (6.1436, 60.0, 98.359)
    """
    v = _v(given)
    unit = given.unit
    land = _land(v, given)
    travel = as_mm(float(v.depth) / cos(v.half))
    rough = v.depth + RELIEF.mm if v.floor else v.depth
    if given.outside.mm <= 2 * rough:
        raise OutOfRange(
            "So deep there is no pulley left.", "Check the outside diameter and the depth.", field="outside"
        )
    over = _over_rods(v, given)
    measured = _top_from(v, given) if given.over_rods else None
    compound = 90 - float(given.included_deg) / 2
    return VGrooveResult(
        top=Length(v.top, unit),
        floor=Length(v.floor, unit),
        depth=Length(v.depth, unit),
        compound_deg=compound,
        travel=Length(travel, unit),
        rough_depth=Length(rough, unit),
        roughing_tool=Length(v.floor, unit) if v.floor else None,
        land=Length(land, unit) if land is not None else None,
        over_rods=Length(over, unit) if over is not None else None,
        top_measured=Length(measured, unit) if measured is not None else None,
        headline=f"{compound:.2f}°",
        sentence=(
            f"Compound from the lathe’s axis, {90 - compound:.2f}° from the cross-slide’s: one way for all right"
            " flanks, the other for all left ones."
        ),
        facts=_facts(v, land, travel, over, measured, given),
        table=_table(v, given),
        notes=_notes(v, given, measured),
        steps=[
            "Touch a light mark on each centre line, and hold the belt or its partner against the marks.",
            _rough_step(v, rough, unit),
            "All right flanks with the compound one way, then all left ones the other way: the same dial each time.",
            "Break every top edge; check the first and the last over the rod.",
        ],
        cautions=["Plunge in zig-zag, do not dwell at the floor, draw back at once."],
        working=_working(v, travel, over, given),
    )


def _v(given: VGrooveInput) -> _V:
    half = radians(float(given.included_deg) / 2)
    slope = Decimal(repr(2 * tan(half)))
    top, floor, depth = (one.mm if one else None for one in (given.top, given.floor, given.depth))
    if top is None and given.land is not None:
        top = _top_by_land(given)
    if top is not None and depth is not None:
        floor = top - slope * depth if floor is None else floor
    elif top is not None and floor is not None:
        depth = (top - floor) / slope
    elif floor is not None and depth is not None:
        top = floor + slope * depth
    else:
        raise InputError(
            "Two of top, floor and depth are needed.", "Give another one.", field="depth" if depth is None else "top"
        )
    if given.floor is not None and given.floor.mm < 0:
        raise OutOfRange("A floor is not less than nothing.", "0 is a sharp V.", field="floor")
    if floor < -SHARP_MM:
        raise OutOfRange(
            f"So deep the flanks meet before the floor: at most {show_exact(top / slope, given.unit)}.",
            "Less deep, or wider.",
            field="depth",
        )
    if depth <= 0:
        raise OutOfRange("The floor is as wide as the top.", "Check the two widths.", field="floor")
    if abs(top - floor - slope * depth) > Decimal("0.01") * top:
        raise InputError("Top, floor and depth do not agree with the angle.", "Leave one of them out.", field="floor")
    return _V(half, top, max(floor, Decimal(0)).quantize(Decimal("1e-6")), depth.quantize(Decimal("1e-6")))


def _top_by_land(given: VGrooveInput) -> Decimal:
    """The top width that leaves so much land between two grooves, mm."""
    if given.pitch is None or given.land is None:
        raise InputError("A land needs the pitch.", "From centre to centre.", field="pitch")
    if not 0 <= given.land.mm < given.pitch.mm:
        raise OutOfRange("Such a land leaves no groove.", "Less land, or farther apart.", field="land")
    return given.pitch.mm - given.land.mm


def _rough_step(v: _V, rough: Decimal, unit: Unit) -> str:
    if not v.floor:
        return (
            "Rough straight in with a narrow tool, no deeper than where the V is as wide as the tool: at its floor this"
            " V is sharp."
        )
    return (
        f"Rough all straight in, {show_exact(rough, unit)} deep, with a tool at most {show_exact(v.floor, unit)} wide:"
        " a little more than the V, the belt runs on its flanks."
    )


def _land(v: _V, given: VGrooveInput) -> Decimal | None:
    if given.count > 1 and given.pitch is None:
        raise InputError("Several grooves need their pitch.", "From centre to centre.", field="pitch")
    if given.pitch is None:
        return None
    land = given.pitch.mm - v.top
    if land < 0:
        raise OutOfRange(
            f"The V is wider than its pitch by {show_small(-land, given.unit)}: the grooves run into one another.",
            "Less deep, or farther apart.",
            field="pitch",
        )
    return land


def _centre_below(v: _V, rod_mm: float) -> float:
    """How far a rod's centre lies under the outside, mm; below zero above it."""
    return v.apex - rod_mm / 2 / sin(v.half)


def _over_rods(v: _V, given: VGrooveInput) -> Decimal | None:
    if given.rod is None:
        return None
    rod = float(given.rod.mm)
    centre = _centre_below(v, rod)
    touches = centre + rod / 2 * sin(v.half)
    if touches < 0 or centre + rod / 2 > float(v.depth) + 1e-9:
        why = "stands on the edges" if touches < 0 else "lies on the floor"
        raise OutOfRange(
            f"That rod {why} and does not touch the flanks.",
            "A rod about as thick as the V is wide half way down.",
            field="rod",
        )
    return as_mm(float(given.outside.mm) - 2 * centre + rod)


def _top_from(v: _V, given: VGrooveInput) -> Decimal:
    if given.rod is None or given.over_rods is None:
        raise InputError("The rod's own size is needed.", "Measure it.", field="rod")
    rod = float(given.rod.mm)
    centre = (float(given.outside.mm) + rod - float(given.over_rods.mm)) / 2
    return as_mm(2 * (centre + rod / 2 / sin(v.half)) * tan(v.half))


def _facts(
    v: _V, land: Decimal | None, travel: Decimal, over: Decimal | None, measured: Decimal | None, given: VGrooveInput
) -> list[Fact]:
    unit = given.unit
    lengths = (
        ("Top", v.top),
        ("Floor", v.floor),
        ("Depth", v.depth),
        ("Widest roughing tool", v.floor or None),
        ("Travel of the compound along a flank", travel),
        ("Land between two", land),
        ("Over two rods", over),
        ("Top width, as measured", measured),
    )
    facts = [Fact(name=name, length=Length(mm, unit)) for name, mm in lengths if mm is not None]
    if given.line:
        around = given.turn.mm / given.line.mm if given.turn else None
        facts.append(Fact(name="On the compound's dial", words=turns_and_lines(travel / given.line.mm, around)))
    return facts


def _table(v: _V, given: VGrooveInput) -> AnswerTable | None:
    if given.first is None:
        return None
    unit, pitch = given.unit, given.pitch.mm if given.pitch else Decimal(0)
    rows = []
    for n in range(given.count):
        centre = given.first.mm + n * pitch
        rows.append(
            [
                Fact(words=str(n + 1)),
                *(Fact(length=Length(mm, unit)) for mm in (centre, centre - v.top / 2, centre + v.top / 2)),
            ]
        )
    return AnswerTable(head=["Groove", "Centre", "Edge towards the datum", "Edge away from it"], rows=rows)


def _notes(v: _V, given: VGrooveInput, measured: Decimal | None) -> list[str]:
    notes = []
    if given.first and given.first.mm < v.top / 2:
        notes.append("The first groove reaches over the datum face.")
    if given.shoulder_before is not None and given.first:
        room = given.first.mm - v.top / 2 - given.shoulder_before.mm
        if room < given.tool_room.mm:
            notes.append(_own_tool("first", room, given.unit))
    if given.shoulder and given.first:
        last = given.first.mm + (given.count - 1) * (given.pitch.mm if given.pitch else Decimal(0)) + v.top / 2
        room = given.shoulder.mm - last
        if room < given.tool_room.mm:
            notes.append(_own_tool("last", room, given.unit))
    if measured is not None:
        off = measured - v.top
        way = "wider" if off > 0 else "narrower"
        notes.append(f"As measured the V is {show_small(abs(off), given.unit)} {way} than wanted.")
    return notes


def _own_tool(which: str, room_mm: Decimal, unit: Unit) -> str:
    if room_mm < 0:
        return (
            f"The {which} flank reaches {show_small(-room_mm, unit)} into the shoulder: move the grooves, or the"
            " shoulder."
        )
    return (
        f"The {which} flank has {show_small(room_mm, unit)} to the shoulder: it needs a tool of its own, ground to the"
        " angle."
    )


def _working(v: _V, travel: Decimal, over: Decimal | None, given: VGrooveInput) -> list[Step]:
    unit, half = given.unit, float(given.included_deg) / 2
    steps = [
        Step(
            name="Widths and depth",
            formula="top = floor + 2·depth·tan(half angle)",
            values=f"{both(v.floor, unit)} + 2 × {both(v.depth, unit)} × tan {half:g}°",
            result=both(v.top, unit),
            source=GEOMETRY,
        ),
        Step(
            name="Travel along a flank",
            formula="depth/cos(half angle)",
            values=f"{both(v.depth, unit)}/cos {half:g}°",
            result=both(travel, unit),
            source=GEOMETRY,
        ),
        *(
            [
                Step(
                    name="Roughing",
                    formula="depth + a little",
                    result=both(v.depth + RELIEF.mm, unit),
                    source=COMMON_PRACTICE,
                )
            ]
            if v.floor
            else []
        ),
    ]
    if over is not None and given.rod:
        steps.append(
            Step(
                name="Over two rods",
                formula="outside − 2·(top/(2·tan) − d/(2·sin)) + d",
                values=f"tan {tan(v.half):.6f}, sin {sin(v.half):.6f}, d {both(given.rod.mm, unit)}",
                result=both(over, unit, decimals=5),
                source=GEOMETRY,
            )
        )
    return steps
