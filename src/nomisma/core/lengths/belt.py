"""Pulleys for a speed, the belt between them, and the rim speed of a wheel in service."""

from decimal import Decimal
from math import acos, pi, sqrt
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

GEOMETRY = "geometry of an open belt: 2·C·cos(a) + arcs of both pulleys"
RimMaterial = Literal["cast_iron", "steel", "aluminium", "plastic"]
RIM_M_S: dict[RimMaterial, tuple[str, Decimal]] = {
    "cast_iron": ("cast iron", Decimal(30)), "steel": ("steel", Decimal(50)), "aluminium": ("aluminium", Decimal(35)),
    "plastic": ("plastic", Decimal(20)),
}  # fmt: skip
"""A rim speed that is not passed without a reckoning, m/s. Source: rules of thumb, common practice, no source."""


class BeltInput(Model):
    """A driving pulley and its speed, the speed wanted or the driven pulley, and the distance of the shafts. Pitch
    diameters, on the belt.

    `belt`: a belt that is there; the distance of the shafts follows from it.
    """

    driver: Size
    driver_rpm: Number = Field(gt=0, le=100_000)
    driven: Size | None = None
    driven_rpm: Number | None = Field(default=None, gt=0, le=100_000)
    centres: Size | None = None
    belt: Size | None = None
    rim: RimMaterial = "cast_iron"
    unit: Unit = "mm"


class BeltResult(WorksheetAnswer):
    """The driven pulley and its speed, the belt's length or the distance for a belt there is, rim speed in m/s."""

    driven: Size
    driven_rpm: Number
    belt_length: Size | None = None
    centres: Size | None = None
    rim_m_s: Number


@calculation(
    name="belt",
    title="Pulleys and their belt",
    validity="Open belts without slip, pitch diameters; a slipping belt runs a few per cent slower.",
    source=f"{GEOMETRY}; rim speeds: rules of thumb, common practice, no source",
    example={"driver": "3 in", "driver_rpm": 1440, "driven_rpm": 720, "centres": "16 in", "unit": "in"},
)
def belt(given: BeltInput) -> BeltResult:
    """The other pulley, the belt, the distance. Raises OutOfRange for too little or what cannot be.

    Source: geometry (exact for an open belt); speeds go inversely as pitch diameters.

    >>> found = belt(BeltInput(driver="100 mm", driver_rpm=1000, driven="100 mm", centres="500 mm"))
    >>> str(found.belt_length), found.driven_rpm
    ('1314.1592654 mm', Decimal('1000'))
    """
    unit = given.unit
    driven, rpm = _driven(given)
    first, second = float(given.driver.mm), float(driven)
    centres = float(given.centres.mm) if given.centres else None
    if centres is not None and centres <= (first + second) / 2:
        raise OutOfRange("The pulleys would run into one another.", "A larger distance of the shafts.", field="centres")
    length = _length(first, second, centres) if centres is not None else None
    fitted = _centres(first, second, float(given.belt.mm)) if given.belt else None
    rim = Decimal(f"{pi * max(first * float(given.driver_rpm), second * float(rpm)) / 60_000:.2f}")
    words, most = RIM_M_S[given.rim]
    facts = [
        Fact(name="Driven pulley, on the belt", length=Length(driven, unit)),
        Fact(name="Turns at", words=f"{rpm:.5g} rpm"),
    ]
    for name, mm in (("Length of the belt", length), ("Distance of the shafts for the belt there is", fitted)):
        if mm is not None:
            facts.append(Fact(name=name, length=Length.from_mm(mm, unit)))
    facts.append(Fact(name="Rim speed", words=f"{rim} m/s ({float(rim) * 196.85:.0f} ft/min)"))
    return BeltResult(
        driven=Length(driven, unit),
        driven_rpm=rpm,
        rim_m_s=rim,
        belt_length=Length.from_mm(length, unit) if length is not None else None,
        centres=Length.from_mm(fitted, unit) if fitted is not None else None,
        headline=show_exact(driven, unit),
        headline_length=Length(driven, unit),
        sentence=f"On the belt; it turns at {rpm:.5g} rpm.",
        facts=facts,
        notes=(
            [f"For a rim of {words}, {most} m/s is a rule of thumb, no rating: above it ask who answers for the wheel."]
            if rim > most
            else []
        ),
        cautions=["A belt is guarded and never put on by hand while it runs."],
        working=[
            Step(
                name="Driven pulley",
                formula="driver × rpm/rpm",
                values=f"{both(given.driver.mm, unit)} × {given.driver_rpm}/{rpm:.6g}",
                result=both(driven, unit),
                source="without slip",
            ),
            *(
                [
                    Step(
                        name="Belt",
                        formula="2·√(C² − (R−r)²) + arcs",
                        values=f"C {centres:.3f} mm",
                        result=f"{length:.3f} mm",
                        source=GEOMETRY,
                    )
                ]
                if length is not None
                else []
            ),
            Step(
                name="Rim speed",
                formula="π·D·n",
                result=f"{rim} m/s against {most} m/s for {words}",
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _driven(given: BeltInput) -> tuple[Decimal, Decimal]:
    if given.driven_rpm is not None:
        return given.driver.mm * given.driver_rpm / given.driven_rpm, given.driven_rpm
    if given.driven is not None:
        return given.driven.mm, given.driver.mm * given.driver_rpm / given.driven.mm
    raise OutOfRange(
        "Neither the speed nor the pulley that is driven is given.", "Give one of the two.", field="driven_rpm"
    )


def _length(first: float, second: float, centres: float) -> float:
    half = abs(second - first) / 2
    small, large = sorted((first, second))
    wrap = 2 * acos(half / centres)
    return 2 * sqrt(centres**2 - half**2) + small / 2 * wrap + large / 2 * (2 * pi - wrap)


def _centres(first: float, second: float, belt_mm: float) -> float:
    """The distance at which a belt just lies on both pulleys, by halving."""
    low, high = (first + second) / 2, belt_mm
    if belt_mm <= _length(first, second, low * 1.000001):
        raise OutOfRange("That belt is too short for these pulleys.", "A longer one.", field="belt")
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if _length(first, second, middle) < belt_mm else (low, middle)
    return low
