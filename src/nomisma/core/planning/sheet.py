"""What stands on the set-up sheet beside an operation: how fast, what to leave, how long about, and what to look out
for.
"""

from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from math import ceil
from typing import assert_never

from nomisma.core.cutting.speeds import SpeedsInput, cutting_speed_of, speeds
from nomisma.core.errors import NomismaError
from nomisma.core.planning.operations import BY_HAND, Operation
from nomisma.core.planning.set_ups import Worked
from nomisma.core.planning.workpiece import Workpiece
from nomisma.core.quantity.length import Length, Unit

WORKED_AS = {
    "bearing_bronze": "bronze", "phosphor_bronze": "bronze", "aluminium_6061": "aluminium",
    "cast_aluminium": "aluminium",
    "hardened_steel": "alloy_steel", "ductile_iron": "grey_iron",
}  # fmt: skip
"""Materials that are turned like another of the table of speeds. Source: common practice, no source."""
LEFT_ROUGH: dict[Unit, Length] = {"in": Length.of("0.030", "in"), "mm": Length.of("0.75", "mm")}
"""What roughing leaves on every surface, on diameter. Source: common practice, no source."""
_ROUGH_DEPTH_MM = 3.0  # common practice, no source: a roughing pass takes so much on diameter


@dataclass(frozen=True, slots=True)
class Handling:
    """Minutes for a set-up, a change of tool, a measuring, and any operation's approach. Source: common practice, no
    source.
    """

    set_up_min: float = 10.0
    tool_min: float = 1.0
    measuring_min: float = 1.5
    approach_min: float = 0.5


USUAL_HANDLING = Handling()
"""What handling takes until a shop says its own."""


@dataclass(frozen=True, slots=True)
class Run:
    """How fast an operation is run: rpm as the machine has it, and its surface speed, m/min."""

    rpm: float
    surface_m_min: float


SPOTTED_MM = Decimal(6)
"""How wide a hole is spotted or centred, for its speed. Source: common practice, no source."""
CAUTIOUS = 0.67
"""What share of the table's speed a material is begun at that nobody knows. Source: common practice, no source."""


def run_of(
    one: Operation,
    *,
    material: str,
    workpiece: Workpiece,
    machine_speeds: str,
    most_rpm: int | None,
    cautious: bool = False,
) -> Run | None:
    """The speed for an operation with high-speed steel (mm); None for what is done by hand, or where the table has no
    such material.

    `workpiece`: before it; what is largest holds the speed down. `cautious`: the material is not known for certain.

    Source: handbook ranges, recalled (core/cutting/speeds.py).

    >>> run_of(Operation("deburr"), material="brass", workpiece=Workpiece(Decimal(20), Decimal(20)),
    ...     machine_speeds="", most_rpm=None) is None
    True
    """
    return _run_of(one, material, workpiece, machine_speeds, most_rpm, cautious)


@lru_cache(maxsize=4096)  # the same operations of the same part are shown again and again
def _run_of(
    one: Operation, material: str, workpiece: Workpiece, machine_speeds: str, most_rpm: int | None, cautious: bool
) -> Run | None:
    largest_mm = workpiece.across_mm
    diameter = one.diameter_mm or largest_mm
    if one.kind in ("face", "part_off", "chamfer"):
        diameter = workpiece.faced_mm
    elif one.kind in ("centre", "centre_drill"):
        diameter = SPOTTED_MM
    if not one.row.run_as or diameter <= 0:
        return None
    try:
        table = cutting_speed_of(WORKED_AS.get(material, material))
        found = speeds(
            SpeedsInput(
                diameter=Length(diameter, "mm"),
                material=table.name,
                own_m_min=f"{table.hss_m_min * (CAUTIOUS if cautious else 1):.2f}",
                operation=one.row.run_as,
                speeds=machine_speeds,
                most_rpm=Decimal(most_rpm) if most_rpm else None,
                largest_outside=Length(max(largest_mm, diameter), "mm"),
                unit="mm",
            )
        )
    except NomismaError:
        return None
    return Run(found.rpm, found.surface_m_min)


def minutes_of(
    one: Operation, run: Run | None, *, workpiece: Workpiece, new_tool: bool, handling: Handling = USUAL_HANDLING
) -> float:
    """About how long an operation takes, minutes: an estimate from length, feed, speed and passes (mm), and usual
    handling.

    Source: common practice, no source (feeds, depths, handling); t = L/(f·n) per pass.

    >>> bar = Workpiece(Decimal(22), Decimal(22))
    >>> round(minutes_of(Operation("turn", ("A",), Decimal(20), Decimal(40)), Run(500, 31), workpiece=bar,
    ...     new_tool=False), 2)
    3.0
    """
    beside = handling.approach_min + (handling.tool_min if new_tool and one.tool != BY_HAND else 0)
    beside += handling.measuring_min if one.row.is_measured else 0
    feed = one.feed_mm
    if run is None or feed is None or run.rpm <= 0:
        return beside
    before_mm = workpiece.diameter_before_mm(one)
    return beside + _travel_mm(one, before_mm, workpiece.hole_in_face_mm) * _passes(one, before_mm) / (
        float(feed) * run.rpm
    )


def _travel_mm(one: Operation, before_mm: Decimal, hole_in_face_mm: Decimal) -> float:
    if one.kind in ("face", "part_off"):
        return float(before_mm - hole_in_face_mm) / 2
    if one.is_grooving:
        return float(before_mm - (one.diameter_mm or before_mm)) / 2
    return float(one.length_mm) if one.length_mm is not None else 5.0


def _passes(one: Operation, before_mm: Decimal) -> int:
    if one.threading:
        return 2 * one.threading.passes  # and back each time
    if one.kind in ("rough_turn", "rough_bore") and one.diameter_mm is not None:
        return max(ceil(abs(float(before_mm - one.diameter_mm)) / _ROUGH_DEPTH_MM), 1)
    return 1


ON_A_SKIN = (
    "Hold it on its skin just to make a good outside; the rest is held on that.",
    (
        "True it to what is seen running, not to the rough outside; note what comes off this side and take the same off"
        " the other."
    ),
    (
        "Skim the face first: a chilled skin takes the edge off a tool. Light cuts until the grip is on machined"
        " workpiece."
    ),
    "Key out, guard on; turn it by hand once round.",
)
"""How a casting or the like is begun. Source: common practice, no source."""


def held_words(worked: Worked, held_on: str, *, with_skin: bool = False) -> list[str]:
    """How a set-up is held and what is looked at first, as steps. Source: common practice, no source.

    `with_skin`: the stock has a skin, and it is held on that.

    >>> held_words("mandrel", "C")[0]
    'Press it on a mandrel in C, its small end first.'
    """
    match worked:
        case "mandrel":
            return [
                f"Press it on a mandrel in {held_on or 'its bore'}, its small end first.",
                "Between centres with a dog, tail clear of the chuck; light cuts towards the large end.",
                "Needle on the mandrel first: what it shows is not the work's.",
            ]
        case "centres":
            return [
                "Both centres clean and seated; grease on a dead one, and take it up again as the work warms.",
                "Tailstock true: two light cuts at the two ends, measured, tell by how much it is off.",
                "Dog tight, its tail free; turn it by hand once round.",
            ]
        case "right" | "left":
            if with_skin and not held_on:
                return list(ON_A_SKIN)
            first = (
                f"Hold it on {held_on}, finished: soft jaws or strips of aluminium."
                if held_on
                else "Hold the stock as it is."
            )
            return [
                first,
                "Hard against the jaws or on parallels for a square face; parallels out before power.",
                (
                    "Needle on it: true it in a four-jaw where it must run with what is finished."
                    if held_on
                    else "No further out than the work wants; beyond four diameters a centre holds its end."
                ),
                *(
                    ()
                    if held_on
                    else (
                        "The spare end stays rough: if the piece is spoiled, it can be turned round and begun again.",
                    )
                ),
                "Key out, guard on; turn it by hand once round.",
            ]
        case _:
            assert_never(worked)
