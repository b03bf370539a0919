"""A callout to the limits of one member: 25 H7, 1 RC4, 0.3755/0.3760, 28±0.1."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal, assert_never

from nomisma.core.errors import InputError, NotDefined, UnreadableLength
from nomisma.core.fits.b41 import THOU_MM, inch_fit
from nomisma.core.fits.iso286 import zone
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.callout import FitCode, InchFitCode, Limits, parse_callout
from nomisma.core.quantity.length import Length, Unit

MemberKind = Literal["shaft", "bore"]
MEMBER_FEATURE: dict[MemberKind, KindName] = {"shaft": "outside_diameter", "bore": "bore"}
"""Which kind of feature each member of a fit is. Source: ISO 286-1:2010, 3.2 (shaft: external, hole: internal feature of size)."""
_MICROMETRE = Decimal("0.001")


def member_named(text: str, *, field: str = "kind") -> MemberKind:
    """The member of a fit by its name. Raises NotDefined. Source: ISO 286-1:2010, 3.2; without unit.

    >>> member_named("bore")
    'bore'
    """
    for kind in MEMBER_FEATURE:
        if text == kind:
            return kind
    raise NotDefined(f"“{text[:40]}” is no member of a fit.", "Choose shaft or bore.", field=field, value=text)


def member_of(kind: KindName) -> MemberKind | None:
    """Which member of a fit a kind of feature is; None of one that is no feature of size. Source: ISO 286-1:2010, 3.2; without unit.

    >>> member_of("outside_diameter"), member_of("bore"), member_of("depth")
    ('shaft', 'bore', None)
    """
    name = feature_kind(kind).name
    return next((member for member, feature in MEMBER_FEATURE.items() if feature == name), None)


def other_member(kind: MemberKind) -> MemberKind:
    """What goes with a member: a bore with a shaft, a shaft with a bore. Source: ISO 286-1:2010, 3.2; without unit.

    >>> other_member("shaft")
    'bore'
    """
    match kind:
        case "shaft":
            return "bore"
        case "bore":
            return "shaft"
        case _:
            assert_never(kind)


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
    code = callout.hole if kind == "bore" else callout.shaft
    if code is None:
        wanted = "capitals, like H7" if kind == "bore" else "small letters, like g6"
        raise UnreadableLength(f"“{text[:40]}” names no {kind}.", f"A {kind} is written in {wanted}.", value=text)
    found, nominal = zone(code, callout.nominal.mm), callout.nominal
    low, high = (nominal.mm + um * _MICROMETRE for um in (found.lower_um, found.upper_um))
    return CalledOut(kind, low, high, nominal.unit, nominal, code)


def _inch(kind: MemberKind, callout: InchFitCode) -> CalledOut:
    found, nominal = inch_fit(callout.fit_class, callout.nominal.mm), callout.nominal
    thou = (Decimal(0), found.hole_upper_thou) if kind == "bore" else (found.shaft_lower_thou, found.shaft_upper_thou)
    low, high = (nominal.mm + end * THOU_MM for end in thou)
    return CalledOut(kind, low, high, nominal.unit, nominal, callout.fit_class)
