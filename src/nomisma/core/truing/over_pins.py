"""A spur gear held on its pitch line: the diameter over pins outside, or between pins inside, and soft jaws bored to
it.
"""

from decimal import Decimal
from math import acos, cos, pi, radians, sqrt, tan

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import MM_PER_INCH, Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step

USUAL_PIN = {False: Decimal("1.728"), True: Decimal("1.68")}
"""Pin as a multiple of the module (inch over diametral pitch): outside, inside. Source: handbook practice, recalled."""
SOURCE = "involute geometry, as in handbooks (measurement over wires of spur gears)"


class OverPinsInput(Model):
    """A spur gear by teeth and either its diametral pitch (teeth an inch of pitch diameter) or its module.

    `internal`: teeth inside a ring. `thinning`: what each tooth is thinner than half the pitch, for backlash. `pin`:
    left out, the usual one.
    """

    teeth: int = Field(ge=6, le=500)
    diametral_pitch: Number | None = Field(default=None, gt=0)
    module: Size | None = None
    pressure_angle_deg: Number = Field(default=Decimal(20), ge=10, le=35)
    pin: Size | None = None
    internal: bool = False
    thinning: Difference = Length(Decimal(0))
    unit: Unit = "in"


class FlankPoint(Model):
    """A point of the tooth space's flank, mm, the space's middle upright."""

    x_mm: float
    y_mm: float


class OverPinsResult(Model):
    """Diameter over (or between) two pins, what soft jaws are bored to, where the pins touch, and how to do it.

    `over_pins` is what a micrometer measures over two pins; `jaw_bore` the circle round (or inside) three or more pins,
    which soft jaws hold. With an even number of teeth they are the same.
    """

    over_pins: Size
    jaw_bore: Size
    pin: Size
    pitch_diameter: Size
    touches_at: Size
    tip_diameter: Size
    pin_centre_radius_mm: float
    flank: list[FlankPoint]
    internal: bool
    sentence: str
    notes: list[str]
    steps: list[str]
    cautions: list[str]
    working: list[Step]


def involute(angle: float) -> float:
    """inv φ = tan φ − φ, φ the `angle` in radians.

    Source: the definition of the involute function.

    >>> round(involute(radians(20)), 6)
    0.014904
    """
    return tan(angle) - angle


def angle_of(value: float) -> float:
    """The angle (radians, 0 to 1.5) whose involute it is, by halving. Raises OutOfRange.

    Source: bisection of the involute function.

    >>> round(angle_of(0.0149044), 5) == round(radians(20), 5)
    True
    """
    low, high = 0.0, 1.5
    if not 0 <= value < involute(high):
        raise OutOfRange(
            "A pin of that size does not rest in these teeth.",
            "Choose the usual one, or one a little larger.",
            field="pin",
        )
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if involute(middle) < value else (low, middle)
    return low


@calculation(
    name="over_pins",
    title="A gear over its pins",
    validity=(
        "Spur gears of full depth with involute teeth, 6 to 500 of them, pressure angle 10° to 35°; two pins in"
        " (nearly) opposite spaces, or jaws on three."
    ),
    source=SOURCE,
    example={"teeth": 28, "diametral_pitch": 10, "pressure_angle_deg": 20},
)
def over_pins(given: OverPinsInput) -> OverPinsResult:
    """Diameter over pins (outside) or between them (inside), and the bore of soft jaws that hold it. Raises InputError,
    OutOfRange.

    Source: involute geometry: inv φ = inv α ± (w/db − e/d); M = db/cos φ ± w, times cos(90°/N) for an odd number of
    teeth.
    """
    m = _module_mm(given)
    unit = given.unit
    n, alpha = given.teeth, radians(float(given.pressure_angle_deg))
    d = m * n
    db = d * cos(alpha)
    pin = float(given.pin.mm) if given.pin else float(USUAL_PIN[given.internal]) * m
    space = pi * m / 2 + float(given.thinning.mm)  # a thinner tooth widens the space, outside and inside alike
    side = -1 if given.internal else 1
    phi = angle_of(involute(alpha) + side * (pin / db - space / d))
    across = db / cos(phi) * (1 if n % 2 == 0 else cos(pi / 2 / n))
    over = across + side * pin
    on_pin_circle = db / cos(phi) + side * pin
    touch = db * sqrt(1 + (tan(phi) - side * pin / db) ** 2)
    tip = d + side * 2 * m
    notes = _notes(given, over, touch, tip, m)
    return OverPinsResult(
        over_pins=_length(over, unit),
        jaw_bore=_length(on_pin_circle, unit),
        pin=_length(pin, unit),
        pitch_diameter=_length(d, unit),
        touches_at=_length(touch, unit),
        tip_diameter=_length(tip, unit),
        pin_centre_radius_mm=db / cos(phi) / 2,
        flank=_flank(db / 2, d / 2, tip / 2, m, space, alpha, side),
        internal=given.internal,
        sentence=_sentence(given, over, on_pin_circle, unit),
        notes=notes,
        steps=_STEPS_IN if given.internal else _STEPS,
        cautions=[
            "Jaws at their limit, a bore in three pieces and pins that can fly: tighten hard before boring, stand"
            " clear, stay below the chuck’s marked speed, and take the pins’ load from the jaws’ keeper, not by hand."
            " The chuck’s manual comes first."
        ],
        working=_working(given, m, pin, space, phi, (over, on_pin_circle), unit),
    )


_STEPS = [
    "Set a ring or an adjustable spider behind the jaws for the preload, in the direction they will clamp.",
    "Tighten hard once, back off, tighten to the working torque, then bore to the diameter over pins.",
    "Pins in opposite tooth spaces (three at 120° where the teeth allow), gear in, the same torque.",
    "Indicate the pitch line over the pins before cutting.",
    "Bored too big? Reset the preload smaller and bore again.",
]
_STEPS_IN = [
    "Turn the outside of soft jaws, under preload on a ring, to the diameter between pins.",
    "Pins in opposite tooth spaces, ring on, expand to the same torque as when they were turned.",
    "Indicate over the pins before cutting.",
    "Turned too small? Reset the preload larger and turn again.",
]


def _length(mm: float, unit: Unit) -> Length:
    return Length(Decimal(f"{mm:.4f}"), unit)


def _module_mm(given: OverPinsInput) -> float:
    if (given.diametral_pitch is None) == (given.module is None):
        raise InputError("A gear has a diametral pitch or a module.", "Give one of the two.", field="diametral_pitch")
    module = given.module.mm if given.module else MM_PER_INCH / (given.diametral_pitch or 1)
    if not Decimal("0.1") <= module <= 60:
        raise OutOfRange(
            f"Teeth of {module:.3g} mm module are none a lathe's chuck holds.",
            "Modules go from 0.1 to 60 mm here, diametral pitches from 0.43 to 254.",
            field="module" if given.module else "diametral_pitch",
        )
    return float(module)


def _notes(given: OverPinsInput, over: float, touch: float, tip: float, m: float) -> list[str]:
    """What makes a pin unfit. Source: common practice, no source."""
    found = []
    if given.internal:
        if over >= tip:
            found.append("The pins do not stand inside the tips: take a larger pin, or the jaws grip the teeth.")
    elif over <= tip:
        found.append("The pins do not stand above the tips: take a larger pin, or the jaws grip the teeth.")
    beyond = touch < tip if given.internal else touch > tip
    if beyond:
        found.append("The pin touches past the tip's edge: take a smaller one.")
    if given.pin and abs(touch - m * given.teeth) > 0.6 * m:
        found.append("It touches away from the pitch line: the usual pin comes nearer to it.")
    return found


def _flank(base: float, pitch: float, tip: float, m: float, space: float, alpha: float, side: int) -> list[FlankPoint]:
    """The right flank of one space from its root to the tip, mm; the left one mirrors it."""
    start = max(base, pitch - 1.25 * m) if side > 0 else max(base, tip)
    end = tip if side > 0 else pitch + 1.25 * m
    found = []
    for step in range(13):
        radius = start + (end - start) * step / 12
        half = space / (2 * pitch) - side * (involute(alpha) - involute(acos(min(base / radius, 1.0))))
        found.append(FlankPoint(x_mm=radius * half, y_mm=radius * (1 - half * half / 2)))
    return found


def _sentence(given: OverPinsInput, over: float, on_pin_circle: float, unit: Unit) -> str:
    size, jaws = (show(_length(mm, unit).mm, unit) for mm in (over, on_pin_circle))
    two = "Between two pins" if given.internal else "Over two pins"
    make = "turn the jaws" if given.internal else "bore the soft jaws"
    end = " and expand them in the ring" if given.internal else ""
    if given.teeth % 2 == 0:
        return f"{two} it measures {size}: {make} to that{end}."
    return (
        f"{two} in nearly opposite spaces it measures {size}, for the micrometer; three pins stand on a circle of"
        f" {jaws}: {make} to that{end}."
    )


def _working(
    given: OverPinsInput, m: float, pin: float, space: float, phi: float, sizes: tuple[float, float], unit: Unit
) -> list[Step]:
    decimals = 5 if unit == "in" else 4
    d = m * given.teeth

    def shown(mm: float) -> str:
        return both(_length(mm, unit).mm, unit, decimals=decimals)

    sign = "inv α + e/d − w/db" if given.internal else "inv α + w/db − e/d"
    odd = " · cos(90°/N)" if given.teeth % 2 else ""
    return [
        Step(
            name="Pitch diameter",
            formula="teeth × module",
            values=f"{given.teeth} × {shown(m)}",
            result=shown(d),
            source=SOURCE,
        ),
        Step(
            name="Pin",
            formula="as given" if given.pin else f"{USUAL_PIN[given.internal]} × module",
            result=shown(pin),
            source="handbook practice, recalled" if not given.pin else COMMON_PRACTICE,
        ),
        Step(
            name="Angle to the pin's centre",
            formula=f"inv φ = {sign}",
            values=f"α = {given.pressure_angle_deg}°, space e = {shown(space)}",
            result=f"{phi * 180 / pi:.4f}°",
            source=SOURCE,
        ),
        Step(
            name="Between two pins" if given.internal else "Over two pins",
            formula=f"db / cos φ{odd} {'−' if given.internal else '+'} w",
            result=shown(sizes[0]),
            source=SOURCE,
        ),
        Step(
            name="Jaws on three pins",
            formula=(
                f"2·(radius of the pin's centre) {'−' if given.internal else '+'} w = db / cos φ"
                f" {'−' if given.internal else '+'} w"
            ),
            result=shown(sizes[1]),
            source=SOURCE,
        ),
    ]
