"""What stands on the set-up sheet beside an operation: how fast, what to leave, how long about, and what to look out
for.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from nomisma.core.cutting.speeds import SpeedsInput, cutting_speed_of, speeds
from nomisma.core.errors import NomismaError
from nomisma.core.metal.cut import Cut
from nomisma.core.operations.operations import BY_HAND, Operation
from nomisma.core.quantity.length import Length

WORKED_AS = {
    "bearing_bronze": "bronze", "phosphor_bronze": "bronze", "aluminium_6061": "aluminium",
    "cast_aluminium": "aluminium",
    "hardened_steel": "alloy_steel", "ductile_iron": "grey_iron",
}  # fmt: skip
"""Materials that are turned like another of the table of speeds. Source: common practice, no source."""


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


CAUTIOUS = 0.67
"""What share of the table's speed a material is begun at that nobody knows. Source: common practice, no source."""


def run_of(
    one: Operation,
    cuts: Sequence[Cut],
    *,
    material: str,
    machine_speeds: str,
    most_rpm: int | None,
    cautious: bool = False,
) -> Run | None:
    """The speed for an operation with high-speed steel; None for what is done by hand, or where the table has no such
    material.

    `cuts`: what it takes away; what is largest among them (mm) holds the speed down, of drills the largest. `cautious`:
    the material is not known for certain.

    Source: handbook ranges, recalled (core/cutting/speeds.py).

    >>> run_of(Operation("deburr"), [], material="brass", machine_speeds="", most_rpm=None) is None
    True
    """
    return _run_of(one, tuple(cuts), material, machine_speeds, most_rpm, cautious)


@lru_cache(maxsize=4096)  # the same operations of the same part are shown again and again
def _run_of(
    one: Operation, cuts: tuple[Cut, ...], material: str, machine_speeds: str, most_rpm: int | None, cautious: bool
) -> Run | None:
    diameter = max((_run_at_mm(cut) for cut in cuts), default=one.diameter_mm or Decimal(0))
    return _speed(one, diameter, diameter, material, machine_speeds, most_rpm, cautious)


def _run_at_mm(cut: Cut) -> Decimal:
    """The largest diameter a cut is made at, mm; of a drill, a reamer or a centre drill its own."""
    if cut.tool.diameter_mm is not None:
        return cut.tool.diameter_mm
    return max(cut.before_mm or Decimal(0), cut.after_mm or Decimal(0)) + 2 * cut.throw_mm


def _speed(
    one: Operation,
    diameter_mm: Decimal,
    largest_mm: Decimal,
    material: str,
    machine_speeds: str,
    most_rpm: int | None,
    cautious: bool,
) -> Run | None:
    if not one.row.run_as or diameter_mm <= 0:
        return None
    try:
        table = cutting_speed_of(WORKED_AS.get(material, material))
        found = speeds(
            SpeedsInput(
                diameter=Length(diameter_mm, "mm"),
                material=table.name,
                own_m_min=f"{table.hss_m_min * (CAUTIOUS if cautious else 1):.2f}",
                operation=one.row.run_as,
                speeds=machine_speeds,
                most_rpm=Decimal(most_rpm) if most_rpm else None,
                largest_outside=Length(largest_mm, "mm"),
                unit="mm",
            )
        )
    except NomismaError:
        return None
    return Run(found.rpm, found.surface_m_min)


@lru_cache(maxsize=4096)  # the same cuts of the same part are answered again and again
def rpm_of(one: Operation, cut: Cut, *, material: str) -> int | None:
    """The speed of one cut with high-speed steel, rpm: for the largest diameter being cut (mm), of a drill or reamer
    its own; None for what is done by hand, or where the table has no such material.

    Source: handbook ranges, recalled (core/cutting/speeds.py).

    >>> rpm_of(Operation("turn", ("A",), Decimal(20)), Cut("turn", ("A",), Decimal(0), Decimal(9), Decimal(22),
    ...     Decimal(20)), material="mild_steel")
    543
    """
    diameter = _run_at_mm(cut)
    found = _speed(one, diameter, diameter, material, "", None, cautious=False)
    return round(found.rpm) if found else None


def minutes_of(
    one: Operation, cuts: Sequence[Cut], run: Run | None, *, new_tool: bool, handling: Handling = USUAL_HANDLING
) -> float:
    """About how long an operation takes, minutes: an estimate from the travel of its cuts (mm), feed, speed and passes,
    and usual handling.

    Source: common practice, no source (feeds, handling); t = L/(f·n) per pass.

    >>> turn = Cut("turn", ("A",), Decimal(0), Decimal(40), Decimal(22), Decimal(20))
    >>> round(minutes_of(Operation("turn", ("A",), Decimal(20), Decimal(40)), [turn], Run(500, 31), new_tool=False), 2)
    3.0
    """
    beside = handling.approach_min + (handling.tool_min if new_tool and one.tool != BY_HAND else 0)
    beside += handling.measuring_min if one.row.is_measured else 0
    feed = one.feed_mm
    if run is None or feed is None or run.rpm <= 0:
        return beside
    back = 2 if one.threading else 1
    return beside + sum(_travel_mm(cut) * cut.passes * back for cut in cuts) / (float(feed) * run.rpm)


def _travel_mm(cut: Cut) -> float:
    if cut.kind in ("face", "part_off", "saw", "groove", "v_groove", "undercut"):
        return float((cut.before_mm or Decimal(0)) - (cut.after_mm or Decimal(0))) / 2
    if cut.is_hole and cut.point_mm is not None:
        return float(abs(cut.point_mm - cut.from_mm))
    return float(cut.high_mm - cut.low_mm)
