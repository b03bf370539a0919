"""Work that runs out in a three-jaw: where it stands, and what is packed under which jaw, for no jaw moves by
itself.
"""

from decimal import Decimal
from itertools import product
from math import cos, radians, sin
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.truing.four_jaw import LARGEST_SWING_MM, NOISE_SHARE
from nomisma.core.truing.seen import SAME_MM, RoundAnalysis, Stop, seen_round, stop_for
from nomisma.core.truing.surface import Grip, sense_of
from nomisma.core.truing.turn_words import shape_words, towards
from nomisma.core.working import COMMON_PRACTICE, Step

JAWS = 3
ReadOn = Literal["outside", "bore"]
THINNEST_MM = Decimal("0.02")
"""Packing thinner than this is no shim that can be bought or cut. Source: common practice, no source."""


class ThreeJawInput(Model):
    """One round beside the three jaws, from jaw 1 on (`readings`: three), or at the jaws and between them (six); up
    when pushed.

    `target`: the swing wanted; `graduation`: one line of the indicator.
    """

    readings: list[Difference] = Field(min_length=1, max_length=12)
    surface: ReadOn = "outside"
    grip: Grip = "outside"
    target: Size
    graduation: Size
    unit: Unit = "in"


class Packing(Model):
    """A strip under one jaw, and how thick."""

    jaw: int
    thick: Size


class ThreeJawResult(Model):
    """Where the work stands, what is packed under which jaw, and the swing that is left then; `shape` needs six
    readings.
    """

    stop: Stop
    total_indicator_reading: Difference
    offset: Difference
    offset_at_deg: float
    offset_towards: str
    offset_uncertainty: Difference
    shape: Difference | None = None
    shape_words: str = ""
    packings: list[Packing]
    left: Difference | None = None
    target: Size
    headline: str
    steps: list[str]
    unseen: list[str]
    cautions: list[str]
    working: list[Step]


@calculation(
    name="three_jaw",
    title="Work that runs out in a three-jaw",
    validity=(
        "A round in a self-centring chuck with narrow jaws; a swing small against the diameter; bring it nearer by"
        " re-seating it first."
    ),
    source="geometry (three tips at 120°); packing under a jaw: common practice, no source",
    example={"readings": ["0.004 in", "0 in", "0.001 in"], "target": "0.001 in", "graduation": "0.0005 in"},
)
def three_jaw(given: ThreeJawInput) -> ThreeJawResult:
    """Offset and the packing that takes it out, from one round. Raises InputError, OutOfRange.

    Source: geometry: a strip of thickness t under one jaw moves the work t·2/3 away from it, so each jaw wants as much
    as the work stands nearer to it than to the jaw it stands farthest from. Gripped from inside the strips go on the
    other side.

    >>> found = three_jaw(ThreeJawInput(readings=["0.004 in", "0 in", "0.001 in"], target="0.001 in",
    ...     graduation="0.0005 in"))
    >>> [(one.jaw, str(one.thick)) for one in found.packings]
    [(1, '0.004 in'), (3, '0.001 in')]
    """
    values = _checked(given)
    noise = float(given.graduation.mm * NOISE_SHARE)
    angles = [360 * index / len(values) for index in range(len(values))]
    seen = seen_round(
        angles, values, sense=sense_of(given.surface), drift=(0.0, 0.0), noise=noise, target=float(given.target.mm)
    )
    stop = stop_for(seen, float(given.target.mm))
    packings, left = _packings(given, seen) if stop is Stop.MOVE else ([], 0.0)
    if stop is Stop.MOVE and not packings:
        stop = Stop.TOO_COARSE
    unit = given.unit
    return ThreeJawResult(
        stop=stop,
        total_indicator_reading=Length.from_mm(seen.total_indicator_reading, unit),
        offset=Length.from_mm(seen.offset, unit),
        offset_at_deg=seen.direction_deg,
        offset_towards=towards(seen.direction_deg, jaws=JAWS),
        offset_uncertainty=Length.from_mm(seen.offset_uncertainty, unit),
        shape=Length.from_mm(seen.shape, unit) if seen.shape is not None else None,
        shape_words=shape_words(seen.round, noise) if seen.round and len(values) > JAWS else "",
        packings=packings,
        left=Length.from_mm(left, unit) if packings else None,
        target=given.target,
        headline=_headline(stop, packings, seen, unit),
        steps=_steps(stop, packings, left, given),
        unseen=_unseen(len(values)),
        cautions=[
            "A strip under a jaw takes grip away: it must lie flat under the whole jaw and stay when the jaws are"
            " eased. Light cuts, key out, spin it by hand. The chuck’s manual comes first."
        ],
        working=_working(given, seen),
    )


def _checked(given: ThreeJawInput) -> list[float]:
    """The readings, mm. Raises InputError, OutOfRange."""
    if len(given.readings) not in (JAWS, 2 * JAWS):
        raise InputError(
            f"{len(given.readings)} readings do not meet all three jaws.",
            "One was missed, or one too many: give 3 beside the jaws, or 6 at the jaws and between them, from jaw"
            " 1 on.",
            field="readings",
        )
    sizes = [one.mm for one in given.readings]
    if max(sizes) - min(sizes) > LARGEST_SWING_MM:
        raise OutOfRange(
            f"A swing of {both(max(sizes) - min(sizes), given.unit)} is no indicator's.",
            "Check the unit of the readings.",
            field="readings",
        )
    return [float(one) for one in sizes]


def _packings(given: ThreeJawInput, seen: RoundAnalysis) -> tuple[list[Packing], float]:
    """Under each jaw as much as the work stands nearer to it (from inside: farther) than to the one it stands farthest
    from.

    What is thinner than a strip is left out, or the thinnest strip is taken instead: whichever leaves less swing (mm,
    given beside it).
    """
    way = 1 if given.grip == "outside" else -1
    around = [(cos(radians(120 * k)), sin(radians(120 * k))) for k in range(JAWS)]
    near = [way * (seen.x * c + seen.y * s) for c, s in around]
    doubt, thinnest = seen.offset_uncertainty / 4, float(THINNEST_MM)

    def may_be(thick: float) -> tuple[float, ...]:
        return (0.0,) if thick <= doubt else (0.0, thinnest) if thick < thinnest else (thick,)

    def left_by(strips: tuple[float, ...]) -> float:
        x, y = (seen.x, seen.y)
        for thick, (c, s) in zip(strips, around, strict=True):
            x, y = x - way * 2 / 3 * thick * c, y - way * 2 / 3 * thick * s
        return seen.total_indicator_reading_at(x, y)

    ways = product(*(may_be(one - min(near)) for one in near))
    best = min(ways, key=lambda strips: (round(left_by(strips), 9), sum(one > 0 for one in strips)))
    packed = [
        Packing(jaw=k, thick=Length(as_mm(mm).quantize(Decimal("0.00001")), given.unit))
        for k, mm in enumerate(best, 1)
        if mm
    ]
    return packed, left_by(best)


def _headline(stop: Stop, packings: list[Packing], seen: RoundAnalysis, unit: Unit) -> str:
    match stop:
        case Stop.MOVE:
            return "Pack " + ", ".join(f"jaw {one.jaw} with {show_small(one.thick.mm, unit)}" for one in packings)
        case Stop.WORK_NOT_CHUCK:
            return "Stop: this is the work, not the chuck"
        case Stop.TOO_COARSE:
            return "Nothing to pack: what is left is thinner than a strip, or within the needle’s doubt"
        case Stop.TRUE:
            return f"True enough: it swings {show_small(as_mm(seen.total_indicator_reading), unit)}"


def _steps(stop: Stop, packings: list[Packing], left: float, given: ThreeJawInput) -> list[str]:
    if stop is not Stop.MOVE:
        return ["Leave it. Key out, indicator away."]
    unit = given.unit
    remains = (
        f"About {show_small(as_mm(left), unit)} is left then, for no strip is thinner than"
        f" {show_small(THINNEST_MM, unit)}"
    )
    return [
        (
            "First take it out: a chip under a jaw or a burr looks just like this. Wipe jaws and work, seat it anew,"
            " and read again."
        ),
        *(f"If it is still so: a strip of {show_small(one.thick.mm, unit)} under jaw {one.jaw}." for one in packings),
        *(
            [f"{remains}: more than is wanted. Take the four-jaw, or turn it in one chucking."]
            if left > float(given.target.mm) + SAME_MM
            else []
        ),
        "Tighten as before, and read the round again. Where a strip will not do, take the four-jaw.",
    ]


def _unseen(count: int) -> list[str]:
    """What so many readings cannot show. Source: discrete Fourier series (aliasing)."""
    if count == JAWS:
        return [
            "Three readings see no shape at all: an oval bar reads as if it stood off. Read six if it is not bright"
            " bar."
        ]
    return ["Six readings tell an oval bar from one that stands off; finer waves hide."]


def _working(given: ThreeJawInput, seen: RoundAnalysis) -> list[Step]:
    unit = given.unit

    def shown(mm: float) -> str:
        return both(as_mm(mm), unit, decimals=5 if unit == "in" else 4)

    stands = (
        "the work stands towards the high side" if seen.sense > 0 else "in a bore the work stands towards the low side"
    )
    return [
        Step(
            name="Offset",
            formula=f"first harmonic of the round; {stands}",
            values=f"n = {seen.count}",
            result=f"{shown(seen.offset)} at {seen.direction_deg:.0f}° from jaw 1",
            source="discrete Fourier series",
        ),
        Step(
            name="Doubt of its swing",
            formula="4·s·√(2/n), s a fifth of a graduation; k = 2",
            values=f"n = {seen.count}",
            result=shown(seen.offset_uncertainty),
            source=f"JCGM 100:2008, 5.1.2; a fifth of a graduation: {COMMON_PRACTICE}",
        ),
        Step(
            name="Packing",
            formula="nearness to a jaw, less the least of the three: o·cos(120°·k − direction) − least",
            values="t under one jaw moves the work 2·t/3"
            + ("; jaws push outwards: the other way round" if given.grip == "inside" else ""),
            result=shown(1.5 * seen.offset) + " where it stands off right at one jaw",
            source="geometry",
        ),
    ]
