"""Spindle speed and feed: from a surface speed to a speed the machine has, never above what the chuck or the work
stands.
"""

import re
from decimal import Decimal
from math import pi, sqrt
from typing import Annotated, Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, NotDefined, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show, show_roughness, show_surface_speed
from nomisma.core.quantity.fields import Number, Roughness, Size, text_by
from nomisma.core.quantity.length import M_PER_FOOT, Length, Unit
from nomisma.core.table import Row, loaded, rows_of
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

Tool = Literal["hss", "carbide"]
SpeedOperation = Literal[
    "turning", "finishing", "boring", "parting", "drilling", "reaming", "spotting", "interrupted", "large", "threading"
]
SHARES: dict[SpeedOperation, float] = {
    "turning": 1.0, "finishing": 1.25, "boring": 0.8, "parting": 0.5, "drilling": 0.8, "reaming": 0.33, "spotting": 0.8,
    "interrupted": 0.6, "large": 0.7, "threading": 0.3,
}  # fmt: skip
"""What part of the turning speed an operation is run at; reaming a third to a half of drilling. Source: common
practice, no source.
"""
OUTSIDE = ("turning", "finishing", "parting", "interrupted", "large")
"""Operations on an outside: its diameter is the largest that turns."""
POINTS = ("turning", "finishing", "boring", "interrupted", "large")
"""Operations with a single point, whose feed and nose leave a roughness that geometry knows."""
SOURCE = "handbook range, recalled; the tool maker's sheet comes first"


class CuttingSpeed(Row):
    """Surface speeds of one work material, m/min, and its specific cutting force, N/mm²."""

    name: str
    title: str
    hss_m_min: float
    carbide_m_min: float
    kc_n_mm2: float


@loaded
def cutting_speeds() -> dict[str, CuttingSpeed]:
    """Every work material by name. Source: cutting_speeds.csv, where its source stands.

    >>> cutting_speeds()["mild_steel"].hss_m_min
    30.0
    """
    return {row.name: row for row in rows_of("cutting", "cutting_speeds.csv", CuttingSpeed)}


def cutting_speed_of(name: str) -> CuttingSpeed:
    """The speeds of a work material. Raises NotDefined. Source: cutting_speeds.csv, where its source stands.

    >>> cutting_speed_of("mild_steel").title
    'Mild steel'
    """
    if name not in cutting_speeds():
        raise NotDefined(
            f"There is no work material “{name}”.",
            f"Choose {', '.join(cutting_speeds())}.",
            field="material",
            value=name,
        )
    return cutting_speeds()[name]


def surface_speed_m_min(text: str) -> Decimal:
    """A surface speed as written: 30, 30 m/min, 100 ft/min. Raises InputError, OutOfRange.

    Source: common practice, no source.

    >>> surface_speed_m_min("100 ft/min"), surface_speed_m_min("30")
    (Decimal('30.4800'), Decimal('30'))
    """
    found = re.fullmatch(r"\s*([0-9]+(?:[.,][0-9]+)?)\s*(m/min|m|ft/min|ft|sfm)?\s*", text)
    if not found:
        raise InputError(f"“{text[:40]}” is no surface speed.", "Write it like 30 m/min or 100 ft/min.")
    number = Decimal(found[1].replace(",", "."))
    value = number * M_PER_FOOT if (found[2] or "m").startswith(("f", "s")) else number
    if not 1 <= value <= 2000:
        raise OutOfRange(f"“{text[:40]}” is no speed a lathe runs at.", "Give 1 to 2000 m/min.")
    return value


SurfaceSpeed = Annotated[Number, text_by(surface_speed_m_min)]
"""A surface speed in m/min; as text it may be in ft/min: 30, "30 m/min", "100 ft/min"."""


class SpeedsInput(Model):
    """A diameter (the work's, or the drill's) in a material; `speeds`: what the machine has, as a list (60 90 140) or a
    range (50-2000).

    `surface_m_min` is run as it is; `own_m_min`, the shop's own turning speed, takes the table's place. `feed` a turn,
    with `nose_radius`, gives the roughness; `ra_um` with `nose_radius` the feed. For a bore or a drilled hole,
    `largest_outside` is the largest diameter that turns with the work (jaws left out), across its corners; it holds the
    speed down, more where the work is not `balanced`.
    """

    diameter: Size
    material: str = "carbon_steel"
    tool: Tool = "hss"
    operation: SpeedOperation = "turning"
    surface_m_min: SurfaceSpeed | None = Field(default=None, gt=0, le=2000)
    own_m_min: SurfaceSpeed | None = Field(default=None, gt=0, le=2000)
    speeds: str = Field(default="", max_length=300)
    most_rpm: Number | None = Field(default=None, gt=0, le=50_000)
    largest_outside: Size | None = None
    balanced: bool = True
    feed: Size | None = None
    nose_radius: Size | None = None
    ra_um: Roughness | None = Field(default=None, gt=0, le=100)
    unit: Unit = "in"


class SpeedsResult(Model):
    """The speed worked out and the one the machine has below it; theoretical roughness where feed and nose
    are known.
    """

    wanted_rpm: float
    rpm: float
    surface_m_min: float
    surface_ft_min: float
    rt_um: float | None = None
    ra_um: float | None = None
    feed_for_ra: Size | None = None
    speed_up_below: Size | None = None
    sentence: str
    cautions: list[str]
    working: list[Step]


def speed_list(text: str) -> tuple[list[float], tuple[float, float] | None]:
    """A machine's speeds: a list, or the two ends of a range. Raises InputError.

    Source: common practice, no source.

    >>> speed_list("60 90, 140"), speed_list("50-2000")
    (([60.0, 90.0, 140.0], None), ([], (50.0, 2000.0)))
    """
    ends = re.fullmatch(r"\s*([0-9]+(?:\.[0-9]+)?)\s*(?:-|–|to)\s*([0-9]+(?:\.[0-9]+)?)\s*", text)
    if ends:
        low, high = float(ends[1]), float(ends[2])
        if not 0 < low < high:
            raise InputError(f"“{text}” is no range of speeds.", "Write it like 50-2000.", field="speeds", value=text)
        return [], (low, high)
    parts = re.split(r"[\s,;]+", text.strip()) if text.strip() else []
    if any(not re.fullmatch(r"[0-9]+(?:\.[0-9]+)?", part) or float(part) <= 0 for part in parts):
        raise InputError(
            f"“{text[:60]}” is no list of speeds.",
            "Write it like 60 90 140 220, or 50-2000.",
            field="speeds",
            value=text[:60],
        )
    return sorted(float(part) for part in parts), None


RIM_M_MIN = {True: 120.0, False: 30.0}
"""The fastest the outside may run while its inside is cut: balanced round work, and work that is not.

Source: the speeds at which an outside of steel is itself turned by carbide and by high-speed steel; this tool's own
choice.
"""
NEAR = 1.02
"""How far above what is wanted a machine's speed may lie and still be it. Source: this tool's own choice."""


def machine_speed(wanted: float, text: str, *, near: float = NEAR) -> float:
    """The fastest speed the machine has that is not above what is wanted; its slowest where all are. Raises InputError.

    Source: common practice, no source.

    >>> machine_speed(300, "70 115 190 310 500 840"), machine_speed(40, "70 115 190")
    (190.0, 70.0)
    """
    listed, ends = speed_list(text)
    if ends:
        return min(max(wanted, ends[0]), ends[1])
    below = [speed for speed in listed if speed <= wanted * near]
    return below[-1] if below else listed[0] if listed else wanted


@calculation(
    name="speeds",
    title="Speed and feed",
    validity="Turning, boring, drilling and reaming on a sound machine; a start, to be corrected by the chip and the "
        "sound.",
    source="surface speeds: handbook ranges, recalled; n = v/(π·d); Rt = f²/(8·r)",
    example={"diameter": "1.5 in", "material": "mild_steel", "tool": "hss", "speeds": "45 75 130 210 360 600 1000",
        "feed": "0.004 in",
             "nose_radius": "0.031 in"},
)  # fmt: skip
def speeds(given: SpeedsInput) -> SpeedsResult:
    """The spindle speed for a surface speed, as the machine has it, and the roughness a feed leaves. Raises NotDefined,
    InputError, OutOfRange.

    Source: n = v/(π·d); Rt = f²/(8·r), Ra about a quarter of it (geometry of the nose); shares by operation: common
    practice, no source.
    """
    table = cutting_speed_of(given.material)
    turning = float(given.own_m_min) if given.own_m_min else getattr(table, f"{given.tool}_m_min")
    base = float(given.surface_m_min) if given.surface_m_min else turning * SHARES[given.operation]
    feed = _feed_for_ra(given)
    diameter = float(given.diameter.mm)
    wanted = base * 1000 / (pi * diameter)
    rim = _rim_rpm(given)
    rpm = machine_speed(wanted if rim is None else min(wanted, rim), given.speeds)
    most = float(given.most_rpm) if given.most_rpm else None
    if most is not None and rpm > most:
        rpm = machine_speed(most, given.speeds, near=1.0)
        if rpm > most:
            raise OutOfRange(
                f"The slowest speed of this machine, {rpm:.0f} rpm, is above the {most:.0f} rpm marked on the chuck.",
                "Hold the work in something that stands it.",
                field="most_rpm",
            )
    _check_rim(given, rpm, rim)
    rt = _roughness_um(given)
    faster = _next_above(rpm, given.speeds) if given.operation in OUTSIDE else None
    below = (
        Length(Decimal(f"{base * 1000 / (pi * faster):.3f}"), given.unit)
        if faster and (most is None or faster <= most)
        else None
    )
    surface = pi * diameter * rpm / 1000
    return SpeedsResult(
        wanted_rpm=wanted,
        rpm=rpm,
        surface_m_min=surface,
        surface_ft_min=surface / float(M_PER_FOOT),
        rt_um=rt,
        ra_um=rt / 4 if rt is not None else None,
        feed_for_ra=feed,
        speed_up_below=below,
        sentence=_sentence(rpm, surface, given, below, _held_by(given, rpm, wanted, rim), wanted),
        cautions=_cautions(given, rpm, wanted),
        working=[
            Step(
                name="Surface speed",
                formula=(
                    "as given"
                    if given.surface_m_min
                    else (
                        f"{table.title}, {given.tool}, {turning:.0f} m/min × {SHARES[given.operation]} for"
                        f" {given.operation}"
                    )
                ),
                result=show_surface_speed(base, given.unit),
                source="as given" if given.surface_m_min else "this shop's own" if given.own_m_min else SOURCE,
            ),
            Step(
                name="Spindle speed",
                formula="v / (π·d)",
                values=f"d = {given.diameter}",
                result=f"{wanted:.0f} rpm",
                source=ARITHMETIC,
            ),
            *_rim_step(given, rim),
            Step(
                name="As the machine has it",
                formula="the fastest that is not above it, nor above what is marked",
                values=given.speeds or "any speed",
                result=f"{rpm:.0f} rpm",
                source=COMMON_PRACTICE,
            ),
            *_roughness_step(given, rt),
            *_feed_step(given, feed),
        ],
    )


def _rim_rpm(given: SpeedsInput) -> float | None:
    """The fastest (rpm) that the outside stands; none where an outside is turned or its size is not said. Raises
    OutOfRange.
    """
    if given.largest_outside is None or given.operation in OUTSIDE:
        return None
    if given.largest_outside.mm < given.diameter.mm:
        raise OutOfRange(
            f"An outside of {given.largest_outside} is smaller than the hole of {given.diameter}.",
            "Give the largest diameter that turns, across its corners.",
            field="largest_outside",
            value=str(given.largest_outside),
        )
    return RIM_M_MIN[given.balanced] * 1000 / (pi * float(given.largest_outside.mm))


def _check_rim(given: SpeedsInput, rpm: float, rim: float | None) -> None:
    if rim is not None and rpm > rim * NEAR:
        raise OutOfRange(
            f"The slowest speed of this machine, {rpm:.0f} rpm, is above the {rim:.0f} rpm advised for an outside of"
            f" {given.largest_outside}{'' if given.balanced else ' that is not balanced'}.",
            "Balance it and clamp it well, or bore it on a machine that runs slower.",
            field="largest_outside",
            value=str(given.largest_outside),
        )


def _rim_step(given: SpeedsInput, rim: float | None) -> list[Step]:
    if rim is None:
        return []
    how = "balanced round work" if given.balanced else "work not round or not balanced"
    return [
        Step(
            name="The outside stands",
            formula=f"{RIM_M_MIN[given.balanced]:.0f} m/min at the rim of {how}, / (π·D)",
            values=f"D = {given.largest_outside}",
            result=f"{rim:.0f} rpm",
            source="this tool's own choice; no source",
        )
    ]


def _held_by(given: SpeedsInput, rpm: float, wanted: float, rim: float | None) -> str:
    """What holds the speed below what is wanted by more than a step of the machine; empty: nothing does."""
    _, ends = speed_list(given.speeds)
    held = {
        "what the outside stands": rim,
        "what is marked on the chuck": float(given.most_rpm) if given.most_rpm else None,
    }
    if ends:
        held["the fastest the machine runs"] = ends[1]
    elif listed := speed_list(given.speeds)[0]:
        held["the fastest the machine runs"] = listed[-1]
    least = min(((value, name) for name, value in held.items() if value is not None), default=None)
    return least[1] if least and least[0] * NEAR < wanted and rpm <= least[0] * NEAR else ""


def _cautions(given: SpeedsInput, rpm: float, wanted: float) -> list[str]:
    found = []
    if rpm > wanted * NEAR:
        found.append(
            f"The machine’s slowest, {rpm:.0f} rpm, is {100 * (rpm / wanted - 1):.0f} % above the {wanted:.0f} rpm"
            " wanted: use the back gear if it has one, carbide instead of high-speed steel, or less depth with plenty"
            " of oil."
        )
    if given.operation not in OUTSIDE and given.largest_outside is None:
        found.append(
            "The outside of the work is not said, and it may have to run slower: give the largest diameter that turns,"
            " above all where it is large, not round or in reversed jaws."
        )
    found.append(
        "Never above the speed marked on the chuck, nor what the work’s balance and hold stand. The machine’s manual"
        " comes first."
    )
    return found


def _next_above(rpm: float, text: str) -> float | None:
    listed, _ = speed_list(text)
    return next((speed for speed in listed if speed > rpm), None)


def _roughness_um(given: SpeedsInput) -> float | None:
    """Theoretical Rt, µm. Source: geometry of a round nose: f²/(8·r)."""
    if given.feed is None or given.nose_radius is None or given.operation not in POINTS:
        return None
    return float(given.feed.mm) ** 2 / (8 * float(given.nose_radius.mm)) * 1000


def _feed_for_ra(given: SpeedsInput) -> Length | None:
    """The feed a turn for a wanted finish. Raises InputError."""
    if given.ra_um is None or given.operation not in POINTS:
        return None
    if given.nose_radius is None:
        raise InputError("A finish asks for the tool's nose radius too.", "Give its nose radius.", field="nose_radius")
    return Length(feed_for_ra_mm(given.nose_radius.mm, given.ra_um), given.unit)


def feed_for_ra_mm(nose_radius_mm: Decimal, ra_um: Decimal) -> Decimal:
    """The feed a turn, mm, that leaves so much Ra with such a nose. Source: geometry: f = √(8·r·Rt), Rt = 4·Ra.

    >>> feed_for_ra_mm(Decimal("0.8"), Decimal("1.6"))
    Decimal('0.2024')
    """
    return Decimal(f"{sqrt(8 * float(nose_radius_mm) * 4 * float(ra_um) / 1000):.4f}")


def _feed_step(given: SpeedsInput, feed: Length | None) -> list[Step]:
    if feed is None:
        return []
    return [
        Step(
            name="Feed for that finish",
            formula="f = √(8·r·Rt), Rt = 4·Ra",
            values=f"Ra {show_roughness(float(given.ra_um or 0), given.unit)}, r = {given.nose_radius}",
            result=f"{both(feed.mm, given.unit)} a turn",
            source="geometry",
        )
    ]


def _roughness_step(given: SpeedsInput, rt: float | None) -> list[Step]:
    if rt is None:
        return []
    values = f"f = {given.feed}, r = {given.nose_radius}"
    return [
        Step(
            name="Roughness",
            formula="Rt = f²/(8·r); Ra about a quarter",
            values=values,
            result=f"Rt {show_roughness(rt, given.unit)}",
            source="geometry",
        )
    ]


def _sentence(rpm: float, surface: float, given: SpeedsInput, below: Length | None, held: str, wanted: float) -> str:
    marked = f" not the {wanted:.0f} wanted, held to {held};" if held else ""
    where = "at the rim" if given.operation in OUTSIDE else "at the cut"
    more = (
        f" As it gets smaller than {show(below.mm, given.unit)}, go up a speed."
        if below and below.mm < given.diameter.mm
        else ""
    )
    return f"{rpm:.0f} rpm:{marked} {show_surface_speed(surface, given.unit)} {where}.{more}"
