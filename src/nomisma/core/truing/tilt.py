"""Tilt: a circle near the chuck and one far, or the face: how far the axis leans, which way, and whether it matters."""

from math import atan2, degrees, hypot
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.truing.four_jaw import NOISE_SHARE
from nomisma.core.truing.harmonics import in_turn, taken_apart
from nomisma.core.truing.surface import TruedSurface, sense_of
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step


class TiltInput(Model):
    """Two rounds of readings from jaw 1 on: near the chuck and far from it, `distance` apart; or one round on the face
    at a radius.

    `length`: of the bore or the bearing that has to run true. `target`: the swing allowed over it.
    """

    surface: TruedSurface = "outside"
    near: list[Difference] = Field(default=[], max_length=72)
    far: list[Difference] = Field(default=[], max_length=72)
    distance: Size | None = None
    face: list[Difference] = Field(default=[], max_length=72)
    face_radius: Size | None = None
    length: Size
    target: Size
    graduation: Size
    unit: Unit = "in"


class TiltResult(Model):
    """Lean of the axis (mm per mm), the direction it leans to going outwards, and what that is over the length.

    `tap_jaw`: where to tap. By circles, the outer end on the side it leans to, across the axis; by the face, its high
    place, back towards the chuck. `tap`: how far it goes there; the needle falls by as much.
    """

    lean: float
    lean_deg: float
    leans_towards_deg: float
    by_face: bool
    tap_jaw: int
    total_indicator_reading_over_length: Difference
    uncertainty_over_length: Difference
    matters: Literal["yes", "no", "cannot_tell"]
    tap: Difference
    sentence: str
    cautions: list[str]
    working: list[Step]


@calculation(
    name="tilt",
    title="Does the axis lean?",
    validity="Small angles; both circles read from jaw 1 on, in the same order, or the face read axially at one "
        "radius.",
    source="geometry; face runout at a radius and axis tilt are one number",
    example={
        "near": ["0.001 in", "0 in", "0 in", "0.001 in"],
        "far": ["0.005 in", "0.002 in", "0 in", "0.003 in"], "distance": "3 in", "length": "2 in",
        "target": "0.001 in", "graduation": "0.0005 in",
    },
)  # fmt: skip
def tilt(given: TiltInput) -> TiltResult:
    """The lean of the work's axis, where to tap, and whether it matters over the length. Raises InputError.

    Source: geometry (difference of two offsets over their distance; a face swings 2·R·lean); common practice (a
    cylinder's high side is driven across, a face's high place back towards the chuck).

    >>> tilt(TiltInput(face=["0 mm", "0.05 mm", "0.1 mm", "0.05 mm"], face_radius="40 mm", length="30 mm",
    ...     target="0.01 mm",
    ...     graduation="0.01 mm", unit="mm")).tap_jaw
    3
    """
    x, y, base, count = _lean(given)
    lean = hypot(x, y)
    towards = in_turn(degrees(atan2(y, x))) if lean else 0.0
    length = float(given.length.mm)
    total_indicator_reading = 2 * lean * length
    uncertainty = (
        2
        * float(given.graduation.mm * NOISE_SHARE)
        * (2 / count) ** 0.5
        * 2
        * length
        / base
        * (2**0.5 if given.near else 1)
    )
    target = float(given.target.mm)
    matters: Literal["yes", "no", "cannot_tell"] = (
        "no"
        if total_indicator_reading + uncertainty <= target
        else "yes"
        if total_indicator_reading - uncertainty > target
        else "cannot_tell"
    )
    unit = given.unit
    tap = lean * (
        float(given.distance.mm) if given.distance else float(given.face_radius.mm) if given.face_radius else length
    )
    # A face stands out on the side its axis leans away from: that place goes back towards the chuck.
    jaw = round((towards + (180 if given.face else 0)) / 90) % 4 + 1
    return TiltResult(
        lean=lean,
        lean_deg=degrees(lean),
        leans_towards_deg=towards,
        by_face=bool(given.face),
        tap_jaw=jaw,
        total_indicator_reading_over_length=Length.from_mm(total_indicator_reading, unit),
        uncertainty_over_length=Length.from_mm(uncertainty, unit),
        matters=matters,
        tap=Length.from_mm(tap, unit),
        sentence=_sentence(matters, jaw, total_indicator_reading, tap, bool(given.face), unit),
        cautions=[
            "Tap with a soft hammer, spindle stopped and out of gear, key out. The machine maker’s manual comes first."
        ],
        working=[
            Step(
                name="Lean",
                formula="face's first harmonic / radius" if given.face else "(offset far − offset near) / distance",
                values=f"towards jaw 1 {x * 1000:.3f}, towards jaw 2 {y * 1000:.3f} thousandths of the length",
                result=f"{lean * 1000:.3f} thousandths, {degrees(lean):.3f}°",
                source=ARITHMETIC,
            ),
            Step(
                name="Over the length",
                formula="2 × lean × length",
                values=both(given.length.mm, unit),
                result=f"{show_small(as_mm(total_indicator_reading), unit)} ± {show_small(as_mm(uncertainty), unit)}",
                source="geometry; a needle is read to a fifth of a graduation: common practice, no source",
            ),
            Step(
                name="Tap",
                formula=(
                    "lean × radius, at the face's high place, back towards the chuck: half of what the face swings"
                    " there"
                    if given.face
                    else "the outer end, from the side it leans to, until both circles read alike"
                ),
                result=show_small(as_mm(tap), unit),
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _lean(given: TiltInput) -> tuple[float, float, float, int]:
    """Lean towards jaw 1 and jaw 2 (mm per mm), the base it was taken over (mm), and how many readings a round has."""
    sense = sense_of(given.surface)
    if given.face:
        if given.near or given.far or given.face_radius is None:
            raise InputError(
                "Either two circles, or the face with its radius.", "Leave the others empty.", field="face"
            )
        found = _round(given.face, "face")
        # Read axially, towards the chuck: high where the face stands out, so the axis leans away from there.
        radius = float(given.face_radius.mm)
        return -found[0] / radius, -found[1] / radius, radius, len(given.face)
    if not given.near or not given.far or given.distance is None:
        raise InputError(
            "Two circles are needed, near the chuck and far from it, and how far apart they are.",
            "Or read the face, and give the radius it was read at.",
            field="near" if not given.near else "far" if not given.far else "distance",
        )
    near, far = _round(given.near, "near"), _round(given.far, "far")
    distance = float(given.distance.mm)
    return (
        sense * (far[0] - near[0]) / distance,
        sense * (far[1] - near[1]) / distance,
        distance,
        min(len(given.near), len(given.far)),
    )


def _round(readings: list[Length], field: str) -> tuple[float, float]:
    if len(readings) < 4 or len(readings) % 4:
        raise InputError(
            f"{len(readings)} readings do not meet all four jaws.", "Give 4, 8, 12 or 24, from jaw 1 on.", field=field
        )
    values = [float(one.mm) for one in readings]
    found = taken_apart([360 * index / len(values) for index in range(len(values))], values)
    return found.cosine, found.sine


def _sentence(matters: str, jaw: int, total_indicator_reading: float, tap: float, by_face: bool, unit: Unit) -> str:
    over = show_small(as_mm(total_indicator_reading), unit)
    if matters == "no":
        return f"It leans by {over} over the length: that does not matter here. Leave it."
    if matters == "cannot_tell":
        return (
            f"It leans by {over} over the length, within what this indicator can tell: read finer or farther apart"
            " before you chase it."
        )
    amount = show_small(as_mm(tap), unit)
    if by_face:
        return (
            f"The face stands out at jaw {jaw}: push it back towards the chuck there, until the needle has fallen by"
            f" about {amount}, half of what it swings; then read the face again. Over the length the axis swings"
            f" {over}."
        )
    return (
        f"It swings {over} over the length. Tap the outer end at jaw {jaw}, away from that jaw, by about {amount}; read"
        " both again."
    )
