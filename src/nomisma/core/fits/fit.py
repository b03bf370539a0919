"""The `fit` calculation: a callout such as 25 H7/g6 or 1 RC4 to limits, clearances and the kind of fit."""

from decimal import Decimal
from typing import Literal

from pydantic import Field, SerializerFunctionWrapHandler, model_serializer

from nomisma.core.calculation import calculation
from nomisma.core.errors import NotDefined
from nomisma.core.fits.b41 import FAMILIES, THOU_MM, InchFit, inch_fit
from nomisma.core.fits.b41 import SOURCE as B41_SOURCE
from nomisma.core.fits.iso286 import SOURCE, Zone, zone
from nomisma.core.model import Model
from nomisma.core.quantity.callout import FitCode, InchFitCode, parse_callout
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, plain
from nomisma.core.working import ARITHMETIC, Step

FitKind = Literal["clearance", "transition", "interference"]
MICROMETRE = Decimal("0.001")


NOT_SURE = "; not sure of this value: check it against the standard"


class FitInput(Model):
    """A nominal with ISO codes (mm unless written otherwise: 7/8 in H7/g6) or with an inch class (1 RC4)."""

    callout: str = Field(examples=["25 H7/g6", "1 RC4"])


class _Sparse(Model):
    """Leaves out what is absent, so that an ISO answer has its µm and an inch answer its thou, never both."""

    @model_serializer(mode="wrap")
    def _without_the_absent(self, handler: SerializerFunctionWrapHandler) -> dict[str, object]:
        return {key: value for key, value in handler(self).items() if value is not None}


class MemberLimits(_Sparse):
    """One member: deviations from the nominal in µm (ISO) or thou (inch classes), and the limits of size."""

    code: str
    lower_um: Number | None = None
    upper_um: Number | None = None
    lower_thou: Number | None = None
    upper_thou: Number | None = None
    lower_limit: Size
    upper_limit: Size


class ClearanceRange(Model):
    """Least and greatest clearance, in the unit its field names; below zero is interference."""

    min: Number
    max: Number


class FitResult(_Sparse):
    """Limits of the member or members, the clearance range (negative = interference) and the kind of fit.

    ISO codes fill `clearance_um`, inch classes `clearance_thou`. `unsure`: a table value behind it is not certain.
    """

    nominal: Size
    hole: MemberLimits | None = None
    shaft: MemberLimits | None = None
    clearance_um: ClearanceRange | None = None
    clearance_thou: ClearanceRange | None = None
    kind: FitKind | None = None
    unsure: bool = False
    working: list[Step]

    @property
    def clearance_mm(self) -> tuple[Decimal, Decimal] | None:
        """Least and greatest clearance in mm, whichever fit system gave them."""
        if self.clearance_um:
            return self.clearance_um.min * MICROMETRE, self.clearance_um.max * MICROMETRE
        if self.clearance_thou:
            return self.clearance_thou.min * THOU_MM, self.clearance_thou.max * THOU_MM
        return None


@calculation(
    name="fit",
    title="Limits and clearances of an ISO 286 or ANSI B4.1 callout",
    validity=(
        "ISO: above 0 up to 3150 mm, holes A to ZC, shafts a to zc, IT01 to IT18 (over 500 mm: D to U, d to u, IT1 to "
        "IT18). Inch classes RC1–9, LC1–11, LT1–6, LN1–3, FN1–5: above 0 up to 19.69 in."
    ),
    source=f"{SOURCE}; {B41_SOURCE}",
    example={"callout": "25 H7/g6"},
)
def fit(given: FitInput) -> FitResult:
    """Limits and clearance range (µm or thou) from a callout. Source: ISO 286-1:2010; ANSI B4.1-1967.

    Raises NotDefined, OutOfRange or UnreadableLength (field `callout`).

    >>> fit(FitInput(callout="25 H7/g6")).clearance_um
    ClearanceRange(min=Decimal('7'), max=Decimal('41'))
    >>> fit(FitInput(callout="1 RC4")).clearance_thou
    ClearanceRange(min=Decimal('0.8'), max=Decimal('2.8'))
    """
    callout = parse_callout(given.callout, "mm")
    if isinstance(callout, InchFitCode):
        return _inch(callout)
    if not isinstance(callout, FitCode):
        raise NotDefined(
            f"“{given.callout[:40]}” has a size but no fit code.",
            "Write a nominal and a code, like 25 H7, 25 H7/g6 or 1 RC4.",
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
        unsure=any(z.unsure for z in (hole, shaft) if z),
        working=working,
    )


def _inch(code: InchFitCode) -> FitResult:
    """An inch class, in thou."""
    found, nominal = inch_fit(code.fit_class, code.nominal.mm), code.nominal
    kind = kind_of(found.clearance_min_thou, found.clearance_max_thou)
    return FitResult(
        nominal=nominal,
        hole=_inch_member(f"{code.fit_class} hole", Decimal(0), found.hole_upper_thou, nominal),
        shaft=_inch_member(f"{code.fit_class} shaft", found.shaft_lower_thou, found.shaft_upper_thou, nominal),
        clearance_thou=ClearanceRange(min=found.clearance_min_thou, max=found.clearance_max_thou),
        kind=kind,
        unsure=found.unsure,
        working=inch_working(found, nominal),
    )


def _inch_member(code: str, lower_thou: Decimal, upper_thou: Decimal, nominal: Length) -> MemberLimits:
    lower, upper = (nominal.with_mm(nominal.mm + thou * THOU_MM) for thou in (lower_thou, upper_thou))
    return MemberLimits(code=code, lower_thou=lower_thou, upper_thou=upper_thou, lower_limit=lower, upper_limit=upper)


def inch_working(found: InchFit, nominal: Length) -> list[Step]:
    """The working of an inch class: the table's cell, then the limits. Source: ANSI B4.1-1967 (R1999).

    >>> from nomisma.core.fits.b41 import inch_fit
    >>> [step.name for step in inch_working(inch_fit("RC4", Decimal("25.4")), Length.of(1, "in"))][:1]
    ['RC4, running and sliding']
    """
    source = f"{B41_SOURCE}, recalled{NOT_SURE if found.unsure else ''}"
    ends = [
        nominal.mm + thou * THOU_MM
        for thou in (Decimal(0), found.hole_upper_thou, found.shaft_lower_thou, found.shaft_upper_thou)
    ]
    hole, shaft = (
        f"{both(low, nominal.unit, decimals=_tail(nominal))} to {both(high, nominal.unit, decimals=_tail(nominal))}"
        for low, high in (ends[:2], ends[2:])
    )
    return [
        Step(
            name=f"{found.fit_class}, {FAMILIES[found.fit_class[:2]]}",
            formula="from the table, by basic size, in thou from it",
            values=f"at {nominal}",
            result=(
                f"hole 0 to {signed_thou(found.hole_upper_thou)}; "
                f"shaft {signed_thou(found.shaft_lower_thou)} to {signed_thou(found.shaft_upper_thou)}"
            ),
            source=source,
        ),
        Step(name="Limits of the hole", formula="basic size + both deviations", result=hole, source=ARITHMETIC),
        Step(name="Limits of the shaft", formula="basic size + both deviations", result=shaft, source=ARITHMETIC),
        Step(
            name="Clearance, worst case both ways",
            formula="smallest hole − largest shaft; largest hole − smallest shaft",
            result=f"{signed_thou(found.clearance_min_thou)} to {signed_thou(found.clearance_max_thou)}",
            source="as published, and equal to the difference of the limits",
        ),
    ]


def kind_of(least_clearance: Decimal, greatest_clearance: Decimal) -> FitKind:
    """The kind of fit from its `least_clearance` and `greatest_clearance` (any one unit). Source: ISO 286-1:2010, 3.3.

    >>> kind_of(Decimal(7), Decimal(41)), kind_of(Decimal(-5), Decimal(20)), kind_of(Decimal(-41), Decimal(-7))
    ('clearance', 'transition', 'interference')
    """
    if least_clearance >= 0:
        return "clearance"
    return "interference" if greatest_clearance <= 0 else "transition"


def member_limits(z: Zone, nominal: Length) -> MemberLimits:
    """A zone laid on its nominal: limits of size, exact. Source: ISO 286-1:2010, 3.2 (limits from deviations).

    >>> from nomisma.core.fits.iso286 import zone
    >>> str(member_limits(zone("H7", Decimal(25)), Length.of(25, "mm")).upper_limit)
    '25.021 mm'
    """
    lower, upper = (nominal.with_mm(nominal.mm + um * MICROMETRE) for um in (z.lower_um, z.upper_um))
    return MemberLimits(code=z.code, lower_um=z.lower_um, upper_um=z.upper_um, lower_limit=lower, upper_limit=upper)


def zone_working(z: Zone, nominal: Length) -> list[Step]:
    """The working of one member: grade, fundamental deviation, limits. Source: ISO 286-1:2010.

    >>> from nomisma.core.fits.iso286 import zone
    >>> [step.name for step in zone_working(zone("g6", Decimal(25)), Length.of(25, "mm"))][:2]
    ['Tolerance grade of shaft g6', 'Fundamental deviation of shaft g6']
    """
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
            source=("ISO 286-1:2010, Tables 2 and 3" if z.is_hole else "ISO 286-1:2010, Tables 4 and 5")
            + (NOT_SURE if z.unsure else ""),
        ),
        Step(
            name=f"Limits of the {name}",
            formula="nominal + lower deviation; nominal + upper deviation",
            values=f"{nominal} {signed_um(z.lower_um)}; {nominal} {signed_um(z.upper_um)}",
            result=(
                f"{both(low, nominal.unit, decimals=_tail(nominal))} to"
                f" {both(high, nominal.unit, decimals=_tail(nominal))}"
            ),
            source=ARITHMETIC,
        ),
    ]


def _mirrored(z: Zone) -> str:
    """How a hole's deviation comes from the shafts."""
    letters = z.code.rstrip("0123456789")
    if letters == "JS":
        return "; half of it either side (the 1988 edition let the odd half be dropped in JS7 to JS11)"
    if letters == "J":
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


def signed_thou(value: Decimal) -> str:
    """Thou with its sign, a true minus.

    Source: none, wording.

    >>> signed_thou(Decimal("-0.80"))
    '−0.8 thou'
    """
    return signed_um(value).replace("µm", "thou")


def signed_um(value: Decimal) -> str:
    """µm with its sign, a true minus.

    Source: none, wording.

    >>> signed_um(Decimal("-7"))
    '−7 µm'
    """
    value = value.normalize() + 0
    return f"{'−' if value < 0 else '+' if value > 0 else ''}{plain(abs(value))} µm"
