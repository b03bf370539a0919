"""A taper measured without a gauge: a plug over two rollers, a ring with two balls."""

from decimal import Decimal
from math import asin, atan, cos, degrees, tan
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.lengths.taper import ISO_3040
from nomisma.core.model import Model
from nomisma.core.quantity.angle import show_angle
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

GEOMETRY = "geometry of a circle against two lines"


class TaperCheckInput(Model):
    """A plug on its small end: over two rollers low down, and over them on slips of some height. Or a ring on its back,
    large end up:

    a small ball and a large one let in, each with the depth of its top below the face (below zero where it stands out
    of the face).
    """

    what: Literal["plug", "ring"] = "plug"
    roller: Size | None = None
    over_low: Size | None = None
    over_high: Size | None = None
    slips: Size | None = None
    small_ball: Size | None = None
    small_depth: Difference | None = None
    large_ball: Size | None = None
    large_depth: Difference | None = None
    unit: Unit = "mm"


class TaperCheckResult(WorksheetAnswer):
    """The taper as measured: its rate, its half angle in degrees, and the end that stands on the plate or is open."""

    rate: float
    half_deg: float
    end: Size


@calculation(
    name="taper_check",
    title="A taper over rollers or balls",
    validity="Straight tapers; round rollers and balls of known size; plug or ring upright on a plate.",
    source=GEOMETRY,
    example={"what": "plug", "roller": "10 mm", "over_low": "44.500 mm", "over_high": "47.000 mm", "slips": "50 mm"},
)
def taper_check(given: TaperCheckInput) -> TaperCheckResult:
    """Rate, half angle and end of a taper. Raises InputError for what is missing, OutOfRange for what cannot be.

    Source: geometry: on a plug tan(half) = (over high − over low)/(2·slips), small end = over low − d·(1 + tan(45° +
    half/2)); in a ring sin(half) = (R − r)/(distance of the balls' centres along the axis).

    >>> found = taper_check(TaperCheckInput(roller="10 mm", over_low="44.5 mm", over_high="47 mm", slips="50 mm"))
    >>> round(found.rate, 6), round(float(found.end.mm), 4)
    (0.05, 24.2469)
    """
    half, end, steps = _plug(given) if given.what == "plug" else _ring(given)
    rate, unit = 2 * tan(half), given.unit
    name = "Small end, on the plate" if given.what == "plug" else "Large end, at the face"
    return TaperCheckResult(
        rate=rate,
        half_deg=degrees(half),
        end=Length(end, unit),
        headline=f"1:{1 / rate:.5g}",
        sentence=f"It includes {show_angle(degrees(2 * half))}.",
        facts=[
            Fact(name="Taper", words=f"{rate * 12:.5f} in per foot, {rate * 100:.4f} %"),
            Fact(name="Half angle", words=show_angle(degrees(half))),
            Fact(name=name, length=Length(end, unit)),
        ],
        steps=[
            (
                "The same pressure each time; rollers against the same two sides, half a turn apart."
                if given.what == "plug"
                else "The ball at rest, the depth to its top; the ring must not rock."
            ),
        ],
        working=[
            *steps,
            Step(
                name="Taper",
                formula="2·tan(half angle)",
                values=f"2 × tan {degrees(half):.5f}°",
                result=f"{rate:.7f}",
                source=ISO_3040,
            ),
        ],
    )


def _needed(given: TaperCheckInput, *names: str) -> list[Decimal]:
    found = []
    for name in names:
        size: Length | None = getattr(given, name)
        if size is None:
            raise InputError("This is needed.", "Give it a value.", field=name)
        found.append(size.mm)
    return found


def _plug(given: TaperCheckInput) -> tuple[float, Decimal, list[Step]]:
    roller, low, high, slips = _needed(given, "roller", "over_low", "over_high", "slips")
    if high <= low:
        raise OutOfRange(
            "Higher up it is not larger: the small end stands on the plate.",
            "Turn it over, or exchange the two.",
            field="over_high",
        )
    half = atan(float((high - low) / (2 * slips)))
    corner = Decimal(f"{1 + tan(half) + 1 / cos(half):.9f}")
    end = low - roller * corner
    if end <= 0:
        raise OutOfRange("The rollers alone are larger than that.", "Check the size over them.", field="over_low")
    unit = given.unit
    return (
        half,
        end,
        [
            Step(
                name="Half angle",
                formula="atan((over high − over low)/(2·slips))",
                values=f"atan(({both(high, unit)} − {both(low, unit)})/(2 × {both(slips, unit)}))",
                result=show_angle(degrees(half)),
                source=GEOMETRY,
            ),
            Step(
                name="Small end",
                formula="over low − d·(1 + tan(half) + 1/cos(half))",
                values=f"{both(low, unit)} − {both(roller, unit)} × {corner:.6f}",
                result=both(end, unit, decimals=5),
                source=GEOMETRY,
            ),
        ],
    )


def _ring(given: TaperCheckInput) -> tuple[float, Decimal, list[Step]]:
    small, low, large, top = _needed(given, "small_ball", "small_depth", "large_ball", "large_depth")
    apart = (low + small / 2) - (top + large / 2)
    if large <= small or apart <= (large - small) / 2:
        raise OutOfRange(
            "The balls do not lie like that in a taper.",
            "The small one lies deeper; check depths and sizes.",
            field="small_depth",
        )
    half = asin(float((large - small) / 2 / apart))
    centre = float(top + large / 2)
    end = as_mm(2 * (float(large) / 2 / cos(half) + centre * tan(half)))
    unit = given.unit
    return (
        half,
        end,
        [
            Step(
                name="Distance of the centres",
                formula="(small depth + r) − (large depth + R)",
                result=both(apart, unit, decimals=5),
                source=GEOMETRY,
            ),
            Step(
                name="Half angle",
                formula="asin((R − r)/distance)",
                values=f"asin({both((large - small) / 2, unit)}/{both(apart, unit)})",
                result=show_angle(degrees(half)),
                source=GEOMETRY,
            ),
            Step(
                name="Large end",
                formula="2·(R/cos(half) + depth of its centre·tan(half))",
                values=f"R {both(large / 2, unit)}, depth {centre:.4f} mm",
                result=both(end, unit, decimals=5),
                source=GEOMETRY,
            ),
        ],
    )
