"""The `fit` calculation: a callout such as 25 H7/g6 to limits, clearances and the kind of fit."""

from decimal import Decimal
from typing import Literal

from pydantic import Field, SerializerFunctionWrapHandler, model_serializer

from nomisma.core.calculation import calculation
from nomisma.core.errors import NotDefined
from nomisma.core.fits.iso286 import SOURCE, Zone, zone
from nomisma.core.model import Model
from nomisma.core.quantity.callout import FitCode, parse_callout
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, plain
from nomisma.core.working import ARITHMETIC, Step

FitKind = Literal["clearance", "transition", "interference"]
MICROMETRE = Decimal("0.001")


class FitInput(Model):
    """A nominal with one code or two. The nominal is in mm unless written otherwise (7/8 in H7/g6)."""

    callout: str = Field(examples=["25 H7/g6"])


class MemberLimits(Model):
    """One member: deviations from the nominal in µm, and the limits of size."""

    code: str
    lower_um: Number
    upper_um: Number
    lower_limit: Size
    upper_limit: Size


class ClearanceRange(Model):
    """Least and greatest clearance in µm; below zero is interference."""

    min: Number
    max: Number


class FitResult(Model):
    """Limits of the member or members, the clearance range (µm, negative = interference) and the kind of fit."""

    nominal: Size
    hole: MemberLimits | None = None
    shaft: MemberLimits | None = None
    clearance_um: ClearanceRange | None = None
    kind: FitKind | None = None
    working: list[Step]

    @model_serializer(mode="wrap")
    def _without_the_absent(self, handler: SerializerFunctionWrapHandler) -> dict[str, object]:
        return {key: value for key, value in handler(self).items() if value is not None}


@calculation(
    name="fit",
    title="Limits and clearances of an ISO 286 callout",
    validity="Nominal above 0 up to 500 mm; holes A to ZC, shafts a to zc (without cd, ef and fg); IT01 to IT18.",
    source=SOURCE,
    example={"callout": "25 H7/g6"},
)
def fit(given: FitInput) -> FitResult:
    """Limits in µm and mm, clearance range in µm, from a callout. Source: ISO 286-1:2010.

    Raises NotDefined, OutOfRange or UnreadableLength (field `callout`).

    >>> fit(FitInput(callout="25 H7/g6")).clearance_um
    ClearanceRange(min=Decimal('7'), max=Decimal('41'))
    """
    callout = parse_callout(given.callout, "mm")
    if not isinstance(callout, FitCode):
        raise NotDefined(
            f"“{given.callout[:40]}” has a size but no fit code.",
            "Write a nominal and a code, like 25 H7 or 25 H7/g6.",
            field="callout",
            value=given.callout,
        )
    nominal = callout.nominal
    hole, shaft = (zone(code, nominal.mm) if code else None for code in (callout.hole, callout.shaft))
    working = [step for z in (hole, shaft) if z for step in zone_working(z, nominal)]
    clearance, kind = None, None
    if hole and shaft:
        clearance = ClearanceRange(min=hole.lower_um - shaft.upper_um, max=hole.upper_um - shaft.lower_um)
        kind = kind_of(clearance.min, clearance.max)
        working.append(_clearance_step(hole, shaft, clearance, kind))
    return FitResult(
        nominal=nominal,
        hole=member_limits(hole, nominal) if hole else None,
        shaft=member_limits(shaft, nominal) if shaft else None,
        clearance_um=clearance,
        kind=kind,
        working=working,
    )


def kind_of(least_clearance: Decimal, greatest_clearance: Decimal) -> FitKind:
    """The kind of fit from its clearances (any one unit). Source: ISO 286-1:2010, 3.3."""
    if least_clearance >= 0:
        return "clearance"
    return "interference" if greatest_clearance <= 0 else "transition"


def member_limits(z: Zone, nominal: Length) -> MemberLimits:
    """A zone laid on its nominal: limits of size, exact."""
    lower, upper = (nominal.with_mm(nominal.mm + um * MICROMETRE) for um in (z.lower_um, z.upper_um))
    return MemberLimits(code=z.code, lower_um=z.lower_um, upper_um=z.upper_um, lower_limit=lower, upper_limit=upper)


def zone_working(z: Zone, nominal: Length) -> list[Step]:
    """The working of one member: grade, fundamental deviation, limits."""
    name = "hole" if z.is_hole else "shaft"
    low, high = (nominal.mm + um * MICROMETRE for um in (z.lower_um, z.upper_um))
    return [
        Step(
            name=f"Tolerance grade of {name} {z.code}",
            formula="from the table, by nominal size",
            values=f"IT{z.code.lstrip('ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz')} at {nominal}",
            result=f"{plain(z.tolerance_um)} µm",
            source="ISO 286-1:2010, Table 1",
        ),
        Step(
            name=f"Fundamental deviation of {name} {z.code}",
            formula="from the table, by nominal size" + (_mirrored(z) if z.is_hole else ""),
            values=f"{z.code} at {nominal}",
            result=f"{signed_um(z.fundamental_deviation_um)}",
            source="ISO 286-1:2010, Tables 2 and 3" if z.is_hole else "ISO 286-1:2010, Tables 4 and 5",
        ),
        Step(
            name=f"Limits of the {name}",
            formula="nominal + lower deviation; nominal + upper deviation",
            values=f"{nominal} {signed_um(z.lower_um)}; {nominal} {signed_um(z.upper_um)}",
            result=f"{both(low, nominal.unit, decimals=_tail(nominal))} to {both(high, nominal.unit, decimals=_tail(nominal))}",
            source=ARITHMETIC,
        ),
    ]


def _mirrored(z: Zone) -> str:
    """How a hole's deviation comes from the shafts."""
    letters = z.code.rstrip("0123456789")
    if letters in ("J", "JS"):
        return ""
    return (
        "; EI = −es of the same letter"
        if letters <= "H"
        else "; ES = −ei of the same letter, + Δ = ITn − IT(n−1) in the finer grades"
    )


def _tail(nominal: Length) -> int:
    return 5 if nominal.unit == "in" else 3


def _clearance_step(hole: Zone, shaft: Zone, clearance: ClearanceRange, kind: FitKind) -> Step:
    return Step(
        name="Clearance, worst case both ways",
        formula="least = EI − es; greatest = ES − ei",
        values=(
            f"{signed_um(hole.lower_um)} − ({signed_um(shaft.upper_um)}); "
            f"{signed_um(hole.upper_um)} − ({signed_um(shaft.lower_um)})"
        ),
        result=f"{signed_um(clearance.min)} to {signed_um(clearance.max)}: {kind}",
        source="ISO 286-1:2010, 3.3",
    )


def signed_um(value: Decimal) -> str:
    """µm with its sign, a true minus.

    >>> signed_um(Decimal("-7"))
    '−7 µm'
    """
    value = value.normalize() + 0
    return f"{'−' if value < 0 else '+' if value > 0 else ''}{plain(abs(value))} µm"
