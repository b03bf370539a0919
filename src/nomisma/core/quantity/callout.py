"""Callouts: a size with limits, a fit code, a chamfer, as they stand on a sketch."""

import re
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import AmbiguousLength, InputError, UnreadableLength
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length, tidy

LONGEST_CALLOUT = 120


@dataclass(frozen=True, slots=True)
class Limits:
    """Two limits of one size, and the nominal it was written with (None where only the limits were)."""

    lower: Length
    upper: Length
    nominal: Length | None = None


@dataclass(frozen=True, slots=True)
class FitCode:
    """A nominal with a hole code, a shaft code, or both: 25 H7/g6. Whether the codes exist is for core.fits to say."""

    nominal: Length
    hole: str | None
    shaft: str | None


@dataclass(frozen=True, slots=True)
class InchFitCode:
    """A nominal with an inch class: 1 RC4. The nominal is inches unless written otherwise."""

    nominal: Length
    fit_class: str


@dataclass(frozen=True, slots=True)
class Chamfer:
    """A chamfer: `leg` is measured along the axis, not across the slope; `angle_deg` from the axis."""

    leg: Length
    angle_deg: Decimal


Callout = Length | Limits | FitCode | InchFitCode | Chamfer

_CODE = r"[A-Z]{1,2}\d{1,2}|[a-z]{1,2}\d{1,2}"
_FIT = re.compile(rf"(?P<nominal>.*?\d.*?)\s*(?:\s|(?<=\d))(?P<first>{_CODE})(?:\s*[/-]\s*(?P<second>{_CODE}))?")
_INCH_FIT = re.compile(r"(?P<nominal>.*?\d.*?)\s*(?:\s|(?<=\d))(?P<fit_class>(?:rc|lc|lt|ln|fn)\d{1,2})", re.IGNORECASE)
_AMOUNT = r"[+-]?\s*(?:\d+(?:\.\d*)?|\.\d+)"
_EQUAL = re.compile(r"(?P<nominal>.+?)\s*(?:±|\+/-|\+-)\s*(?P<amount>.+)")
_UNEQUAL = re.compile(
    rf"(?P<nominal>.+?)\s*(?P<first>[+-]\s*(?:\d+\.?\d*|\.\d+))\s*(?:/|\s)\s*(?P<second>{_AMOUNT})\s*(?P<unit>in|mm|\")?"
)
_PAIR = re.compile(
    r"(?P<first>\S*[.]\S*|\d+)\s*(?P<unit_1>in|mm)?\s*/\s*(?P<second>\d*\.\d+|\d+\.?\d*)\s*(?P<unit_2>in|mm)?"
)
_CHAMFER = re.compile(r"(?P<leg>.+?)\s*x\s*(?P<angle>\d+(?:\.\d+)?)\s*(?:°|deg(?:rees)?)")


def parse_callout(text: str, unit: Unit | None = None) -> Callout:
    """What a callout says; `unit` is the unit in force for numbers that name none.

    A fit code's nominal is millimetres, an inch class's inches, unless it is written otherwise. Raises InputError with the way to write it.

    >>> parse_callout("0.800 +.004/-.000", "in").upper.value()
    Decimal('0.804')
    """
    line = tidy(text, longest=LONGEST_CALLOUT)
    try:
        return _callout(line, " ".join(text.split()), unit)
    except InputError as error:
        error.value = text
        raise


def _callout(line: str, original: str, unit: Unit | None) -> Callout:
    if inch := _INCH_FIT.fullmatch(original):
        return InchFitCode(parse_length(inch["nominal"], "in"), inch["fit_class"].upper())
    if fit := _fit_code(original):
        return fit
    if chamfer := _CHAMFER.fullmatch(line):
        angle = Decimal(chamfer["angle"])
        if not 0 < angle < 90:
            raise UnreadableLength(f"A chamfer of {angle}° is not one.", "Give an angle between 0 and 90°.")
        return Chamfer(parse_length(chamfer["leg"], unit), angle)
    try:
        return parse_length(original, unit)
    except UnreadableLength:
        return _toleranced(line, original, unit)


def _toleranced(line: str, original: str, unit: Unit | None) -> Limits | Length:
    """What is not one size may be a size with limits; if it is not that either, the size's own error stands."""
    if equal := _EQUAL.fullmatch(line):
        return _equal(equal["nominal"], equal["amount"], unit)
    if unequal := _UNEQUAL.fullmatch(line):
        return _unequal(unequal, unit)
    if pair := _PAIR.fullmatch(line):
        return _pair(pair, unit)
    return parse_length(original, unit)


def _fit_code(original: str) -> FitCode | None:
    """A fit code is the one place where capitals matter: capitals are holes, small letters are shafts."""
    match = _FIT.fullmatch(original)
    if not match or match["first"][0].lower() == "x":
        return None
    if re.fullmatch(r"\d+e\d+", original):
        raise AmbiguousLength(
            f"“{original}” could be a number with an exponent, or a shaft code.",
            f"Write the number out, or put a space before the code: {original.replace('e', ' e')}.",
        )
    nominal = parse_length(match["nominal"], "mm")
    codes = [code for code in (match["first"], match["second"]) if code]
    holes = [code for code in codes if code[0].isupper()]
    shafts = [code for code in codes if code[0].islower()]
    if len(holes) > 1 or len(shafts) > 1:
        which, case = ("holes", "capital") if len(holes) > 1 else ("shafts", "small")
        raise UnreadableLength(
            f"{codes[0]} and {codes[1]} are both {which} ({case} letters).",
            "A fit pairs a hole in capitals with a shaft in small letters, like 25 H7/g6.",
        )
    return FitCode(nominal, *(found[0] if found else None for found in (holes, shafts)))


def _equal(nominal_text: str, amount_text: str, unit: Unit | None) -> Limits:
    nominal = parse_length(nominal_text, _unit_after(amount_text) or unit)
    amount = parse_length(amount_text, nominal.unit)
    return _ordered(nominal.with_mm(nominal.mm - amount.mm), nominal.with_mm(nominal.mm + amount.mm), nominal)


def _unequal(match: re.Match[str], unit: Unit | None) -> Limits:
    named = _unit_after(match["unit"] or "")
    nominal = parse_length(match["nominal"], named or unit)
    ends = [
        parse_length(match[part].replace(" ", ""), named or nominal.unit, positive=False).mm + nominal.mm
        for part in ("first", "second")
    ]
    return _ordered(nominal.with_mm(min(ends)), nominal.with_mm(max(ends)), nominal)


def _pair(match: re.Match[str], unit: Unit | None) -> Limits:
    named = _unit_after(match["unit_1"] or match["unit_2"] or "") or unit
    first, second = (parse_length(match[part], named) for part in ("first", "second"))
    lower, upper = sorted((first, second), key=lambda length: length.mm)
    return _ordered(lower, upper, None)


def _unit_after(text: str) -> Unit | None:
    if text.endswith(("mm", "um")):
        return "mm"
    return "in" if text.endswith(("in", '"', "thou", "tenths")) else None


def _ordered(lower: Length, upper: Length, nominal: Length | None) -> Limits:
    if lower.mm <= 0:
        raise UnreadableLength("The lower limit comes out at zero or below.", "Check the tolerance against the size.")
    if lower.mm == upper.mm:
        raise AmbiguousLength("Both limits are the same, which leaves nothing to work to.", "Give two different limits.")
    if upper.mm > lower.mm * 2:
        raise AmbiguousLength(
            f"Limits of {lower} and {upper} are far apart for one size.", "Check the unit and the decimal point of each."
        )
    return Limits(lower, upper, nominal)
