"""A callout to the limits of one member: 25 H7, 1 RC4, 0.3755/0.3760, 28±0.1."""

from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.fits.b41 import THOU_MM, inch_fit
from nomisma.core.fits.iso286 import zone
from nomisma.core.part.member import MemberKind, of_member
from nomisma.core.quantity.callout import FitCode, InchFitCode, Limits, check_gauges, parse_callout
from nomisma.core.quantity.length import Length, Unit

_MICROMETRE = Decimal("0.001")


@dataclass(frozen=True, slots=True)
class CalledOut:
    """The limits (mm) a callout gives one member, the nominal and the code it was written with, and its unit."""

    kind: MemberKind
    lower_mm: Decimal
    upper_mm: Decimal
    unit: Unit
    nominal: Length | None = None
    code: str | None = None


def called_out(kind: MemberKind, text: str, *, unit: Unit | None = None, field: str = "callout") -> CalledOut:
    """The limits a callout gives a shaft or a bore; `unit` is in force for limits that name none. Raises InputError.

    Source: ISO 286-1:2010 and ANSI B4.1-1967 for the codes.

    >>> called_out("bore", "1 RC4").upper_mm
    Decimal('25.43048')
    """
    try:
        callout = parse_callout(text, unit)
        check_gauges(text, unit, inside=of_member(kind, shaft=False, bore=True))
        if isinstance(callout, FitCode):
            return _coded(kind, callout, text)
        if isinstance(callout, InchFitCode):
            return _inch(kind, callout)
    except InputError as error:
        error.field = field
        raise
    if isinstance(callout, Limits):
        return CalledOut(kind, callout.lower.mm, callout.upper.mm, callout.lower.unit, callout.nominal)
    raise UnreadableLength(
        f"“{text[:40]}” gives no limits, so the {kind} could be any size near it.",
        "Add a code or limits (25 H7, 1 RC4, 0.3755/0.3760), or enter what you measured as readings.",
        field=field,
        value=text,
    )


def _coded(kind: MemberKind, callout: FitCode, text: str) -> CalledOut:
    code = of_member(kind, shaft=callout.shaft, bore=callout.hole)
    if code is None:
        wanted = of_member(kind, shaft="small letters, like g6", bore="capitals, like H7")
        raise UnreadableLength(f"“{text[:40]}” names no {kind}.", f"A {kind} is written in {wanted}.", value=text)
    found, nominal = zone(code, callout.nominal.mm), callout.nominal
    low, high = (nominal.mm + um * _MICROMETRE for um in (found.lower_um, found.upper_um))
    return CalledOut(kind, low, high, nominal.unit, nominal, code)


def _inch(kind: MemberKind, callout: InchFitCode) -> CalledOut:
    found, nominal = inch_fit(callout.fit_class, callout.nominal.mm), callout.nominal
    thou = of_member(
        kind, shaft=(found.shaft_lower_thou, found.shaft_upper_thou), bore=(Decimal(0), found.hole_upper_thou)
    )
    low, high = (nominal.mm + end * THOU_MM for end in thou)
    return CalledOut(kind, low, high, nominal.unit, nominal, callout.fit_class)
