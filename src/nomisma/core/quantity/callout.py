"""Callouts: a size with limits, a fit code, a chamfer, as they stand on a sketch."""

import re
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import AmbiguousLength, InputError, UnreadableLength
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import NUMBER, parse_length, tidy

LONGEST_CALLOUT = 120
COARSEST_GRADE = 18
"""The last tolerance grade. Source: ISO 286-1:2010, Table 1."""


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

_CODE = r"[A-Z]{1,2}[0-9]{1,2}|[a-z]{1,2}[0-9]{1,2}"
_FIT = re.compile(rf"(?P<nominal>.*?[0-9].*?)\s*(?:\s|(?<=[0-9]))(?P<first>{_CODE})(?:\s*[/-]\s*(?P<second>{_CODE}))?")
_INCH_FIT = re.compile(
    r"(?P<nominal>.*?[0-9].*?)\s*(?:\s|(?<=[0-9]))(?P<fit_class>(?:rc|lc|lt|ln|fn)[0-9]{1,2})", re.IGNORECASE
)
_SIGNED_UNIT = r"in|inch|inches|mm|um|microns?|thou|tenths?|\""
_EQUAL = re.compile(r"(?P<nominal>.+?)\s*(?:±|\+/-|\+-)\s*(?P<amount>.+)")
_ZERO = r"0+(?:[.,]0*)?|[.,]0+"
_AMOUNT = rf"[0-9]+/[0-9]+|{NUMBER}"
_UNEQUAL = re.compile(
    rf"""(?P<nominal>.+?) (?:\s+|(?=[+-])) (?P<first>[+-]\s*(?:{_AMOUNT})|{_ZERO}) \s* (?P<unit_1>{_SIGNED_UNIT})?
         (?:\s*[/\s]\s*|(?=[+-])) (?P<second>[+-]\s*(?:{_AMOUNT})|(?:{NUMBER})) \s* (?P<unit_2>{_SIGNED_UNIT})?""",
    re.VERBOSE,
)
_ONE_DEVIATION = re.compile(
    rf"(?P<nominal>\S.*?)(?:\s+|(?<=[0-9])(?=[+-][0-9]*[.,]))(?P<sign>[+-])(?P<amount>{NUMBER})\s*(?P<unit>{_SIGNED_UNIT})?",
    re.IGNORECASE,
)
MOST_DEVIATION = Decimal("0.2")
"""A lone deviation is at most this share of its size: more is two sizes, or a slip. Source: this tool's own choice."""
_ONE_FRACTION = re.compile(
    rf"(?P<nominal>(?:(?!\s[+-]).)+)\s+(?P<sign>[+-])(?P<amount>[0-9]+/[0-9]+)\s*(?P<unit>{_SIGNED_UNIT})?",
    re.IGNORECASE,
)
_PAIR = re.compile(rf"(?P<first>{NUMBER})\s*(?P<unit_1>in|mm|\")?\s*/\s*(?P<second>{NUMBER})\s*(?P<unit_2>in|mm|\")?")
_PINS = re.compile(
    r"(?:go|enters)\s+(?P<go>\S.*?)(?:\s*[,/]\s*|\s+)(?:no[- ]?go|refuses)\s+(?P<no_go>\S.*)", re.IGNORECASE
)
_TWO_SIZES = re.compile(r"\S.*\s*x\s*[0-9].*")
_CHAMFER = re.compile(r"(?P<leg>.+?)\s*x\s*(?P<angle>[0-9]+(?:\.[0-9]+)?)\s*(?:°|deg(?:rees)?)")


def parse_callout(text: str, unit: Unit | None = None) -> Callout:
    """What a callout says; `unit` is the unit in force for numbers that name none.

    An inch class's nominal is inches, a fit code's millimetres but where the inch is in force and it is written as
    inches are (.250 H7, 1/4 H7). Raises InputError with the way to write it.

    Source: shop writing: common practice, no source.

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
    if pins := _PINS.fullmatch(original):
        lower, upper = sorted(go_and_no_go(pins["go"], pins["no_go"], unit), key=lambda length: length.mm)
        return _ordered(lower, upper, None)
    if inch := _INCH_FIT.fullmatch(original):
        return InchFitCode(parse_length(inch["nominal"], "in"), inch["fit_class"].upper())
    if fit := _fit_code(original, unit):
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
    if (alone := _ONE_FRACTION.fullmatch(line)) and (found := _alone(alone, unit)):
        return found
    if unequal := _UNEQUAL.fullmatch(line):
        return _unequal(unequal, unit)
    if (alone := _ONE_DEVIATION.fullmatch(line)) and (found := _alone(alone, unit)):
        return found
    # 7/8 is a fraction and 2/3 a slip: two limits have a decimal mark in at least one of them.
    if (pair := _PAIR.fullmatch(line)) and re.search("[.,]", line):
        return _pair(pair, unit)
    if _TWO_SIZES.fullmatch(line):
        raise UnreadableLength(
            f"“{original[:40]}” is two sizes, and one is wanted.", "A chamfer is written 1/16 x 45°, a class 25 x6."
        )
    return parse_length(original, unit)


def _nominal_of_class(text: str, code: str, unit: Unit | None) -> Length:
    """The size a class is on: what is written as inches are is in inches where the inch is in force, a whole number
    millimetres.

    A fraction or a size that begins with its point, and three or four decimals below ten, are inches (25.4 mm each: ISO
    286 has its ranges in mm). What could be either is asked about.
    """
    found = parse_length(text, "mm")
    number = text.strip()
    whole, point, tail = number.partition(".")
    if unit != "in" or found.unit == "in" or not point or not f"{whole}{tail}".isdigit():
        return found
    if not whole or (len(tail) in _INCH_DECIMALS and len(whole) == 1):
        return parse_length(text, "in")
    raise AmbiguousLength(
        f"“{number} {code}” could be {number} in or {number} mm.", f"Write {number} in {code}, or {number} mm {code}."
    )


_INCH_DECIMALS = (3, 4)
"""So many decimals below ten are an inch size. Source: common practice, no source."""


def _fit_code(original: str, unit: Unit | None = None) -> FitCode | None:
    """A fit code is the one place where capitals matter: capitals are holes, small letters are shafts."""
    match = _FIT.fullmatch(original)
    if not match or (re.fullmatch(r"[xX][0-9]+", match["first"]) and not _is_class_x(match, original)):
        return None
    if re.fullmatch(r"[0-9]+e[0-9]+", original):
        raise AmbiguousLength(
            f"“{original}” could be a number with an exponent, or a shaft code.",
            f"Write the number out, or put a space before the code: {original.replace('e', ' e')}.",
        )
    nominal = _nominal_of_class(match["nominal"], match["first"], unit)
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


def _is_class_x(match: re.Match[str], original: str) -> bool:
    """Whether an x with a number is a class of ISO 286: `25 x6` is, `25 x 6` are two sizes, `25x6` must be
    asked about.
    """
    if int(match["first"][1:]) > COARSEST_GRADE:
        return False
    if match["second"] is None and original[match.start("first") - 1].isdigit():
        size, code = match["nominal"].strip(), match["first"]
        raise AmbiguousLength(
            f"“{original}” could be a size and a class, or two sizes.",
            f"Write {size} {code} for the class, {size} x {code[1:]} for two sizes.",
        )
    return True


def _equal(nominal_text: str, amount_text: str, unit: Unit | None) -> Limits:
    nominal = parse_length(nominal_text, _unit_after(amount_text) or unit)
    amount = parse_length(amount_text, nominal.unit)
    return _ordered(nominal.with_mm(nominal.mm - amount.mm), nominal.with_mm(nominal.mm + amount.mm), nominal)


def _unequal(match: re.Match[str], unit: Unit | None) -> Limits:
    """A size with two deviations: `0.800 +.004/-.000`, `25 0/-0.013 mm`, `3/8 +1 thou -2 thou`."""
    first, second, unit_1, unit_2 = match["first"], match["second"], match["unit_1"], match["unit_2"]
    if second[0] not in "+-" and _is_above_zero(second):
        raise AmbiguousLength(
            f"“{second}” has no sign.", f"Write +{second} or -{second}: each deviation with its own sign."
        )
    if unit_1 and not unit_2 and _is_above_zero(second):
        raise AmbiguousLength(
            f"“{second}” has no unit, and “{first}” has.", f"Write {second} {unit_1}, or its own unit."
        )
    nominal = parse_length(match["nominal"], _unit_after(unit_2 or unit_1 or "") or unit)
    ends = [
        nominal.mm + parse_length(f"{text.replace(' ', '')} {named}", positive=False).mm
        for text, named in ((first, unit_1 or unit_2 or nominal.unit), (second, unit_2 or nominal.unit))
    ]
    return _ordered(nominal.with_mm(min(ends)), nominal.with_mm(max(ends)), nominal)


def _alone(match: re.Match[str], unit: Unit | None) -> Limits | None:
    """A size with one deviation, `.9995 -.0005`: the other is nothing. None where so much could not be one."""
    nominal = parse_length(match["nominal"], _unit_after(match["unit"] or "") or unit)
    amount = parse_length(f"{match['amount']} {match['unit'] or nominal.unit}", positive=False)
    if amount.mm > nominal.mm * MOST_DEVIATION:
        return None
    end = nominal.with_mm(nominal.mm + (amount.mm if match["sign"] == "+" else -amount.mm))
    lower, upper = sorted((nominal, end), key=lambda one: one.mm)
    return _ordered(lower, upper, nominal)


def _is_above_zero(deviation: str) -> bool:
    return any(digit in "123456789" for digit in deviation)


def _pair(match: re.Match[str], unit: Unit | None) -> Limits:
    """Two limits, `0.3755/0.3760`: a unit written behind one of them stands for both."""
    units = {_unit_after(named) for named in (match["unit_1"], match["unit_2"]) if named}
    if len(units) > 1:
        raise AmbiguousLength(
            f"“{match[0]}” has one limit in inches and the other in millimetres.", "Write both in the same unit."
        )
    named = units.pop() if units else None
    first, second = (
        parse_length(f"{match[part]} {named}") if named else parse_length(match[part], unit)
        for part in ("first", "second")
    )
    lower, upper = sorted((first, second), key=lambda length: length.mm)
    return _ordered(lower, upper, None)


def go_and_no_go(go: str, no_go: str, unit: Unit | None) -> tuple[Length, Length]:
    """The pin or ring that goes and the one that does not; a unit behind the second stands for both. Raises InputError.

    Source: shop writing: common practice, no source.

    >>> [str(one) for one in go_and_no_go("0.125", "0.127 in", None)]
    ['0.125 in', '0.127 in']
    """
    second = parse_length(no_go, unit)
    return parse_length(go, _unit_after(no_go.strip().lower()) or unit), second


def check_gauges(text: str, unit: Unit | None, *, inside: bool) -> None:
    """Raises UnreadableLength where a line has its gauges the wrong way round: of a bore the pin that goes is the
    smaller, of a shaft the

    ring that goes the larger. A line that speaks of none is right.

    Source: ISO 1938-1:2015 (the go side is the maximum material limit; recalled).

    >>> check_gauges("go .125 no-go .127", "in", inside=True)
    """
    match = _PINS.fullmatch(" ".join(text.split()))
    if match is None:
        return
    go, no_go = go_and_no_go(match["go"], match["no_go"], unit)
    if (go.mm > no_go.mm) if inside else (go.mm < no_go.mm):
        gauge, is_so = ("pin", "larger") if inside else ("ring", "smaller")
        raise UnreadableLength(
            f"The {gauge} that goes, {go}, is {is_so} than the one that does not, {no_go}.",
            "Exchange them, or read them again.",
            value=text,
        )


def says_pins(text: str) -> bool:
    """Whether a line speaks of a pin or ring that goes and one that does not.

    Source: shop writing: common practice, no source.

    >>> says_pins("go .125 no-go .127"), says_pins("0.125/0.127")
    (True, False)
    """
    return _PINS.fullmatch(" ".join(text.split())) is not None


_PIN_WORDS = re.compile(r"no[- ]?go|go|enters|refuses", re.IGNORECASE)


def with_unit_in_force(text: str, unit: Unit) -> str:
    """Plain limits such as 0.3755/0.3760 or go .125 no-go .127 with the unit in force; an inch class is inches, a code
    as it is read.

    Source: shop writing: common practice, no source.

    >>> with_unit_in_force("go .125 no-go .127", "in"), with_unit_in_force("25 H7", "in")
    ('go .125 no-go .127 in', '25 H7')
    >>> with_unit_in_force("0.3755/0.3760", "mm")
    '0.3755/0.3760 mm'
    >>> with_unit_in_force(".250 H7", "in"), with_unit_in_force("1/4 g6", "in")
    ('0.25 in H7', '0.25 in g6')
    """
    line = " ".join(text.split())
    if (fit := _fit_code(line, unit)) and fit.nominal.unit == "in":
        return f"{fit.nominal} {'/'.join(code for code in (fit.hole, fit.shaft) if code)}"
    signs = _PIN_WORDS.sub("", text) if says_pins(text) else text
    return text if any(sign.isalpha() or sign == '"' for sign in signs) else f"{text} {unit}"


def pins_tried(text: str, unit: Unit | None) -> tuple[Length, Length]:
    """The largest pin that enters and the smallest that does not: `0.125/0.127`, `go .125 no-go .127`. Raises
    InputError.

    Source: shop writing: common practice, no source.

    >>> pins_tried("enters .125, refuses .127", "in")[1].value()
    Decimal('0.127')
    """
    line = " ".join(text.split())
    if found := _PINS.fullmatch(line):
        check_gauges(line, unit, inside=True)
        return go_and_no_go(found["go"], found["no_go"], unit)
    parts = line.split("/")
    if len(parts) != 2:
        raise UnreadableLength(
            "Pins give a bracket: the largest that enters and the smallest that does not.",
            "Write both: 0.125/0.127, or go .125 no-go .127.",
            value=text,
        )
    return go_and_no_go(parts[0], parts[1], unit)


def _unit_after(text: str) -> Unit | None:
    if text.endswith(("mm", "um", "micron", "microns")):
        return "mm"
    return "in" if text.endswith(("in", "inch", "inches", '"', "thou", "tenth", "tenths")) else None


def _ordered(lower: Length, upper: Length, nominal: Length | None) -> Limits:
    if lower.mm <= 0:
        raise UnreadableLength("The lower limit comes out at zero or below.", "Check the tolerance against the size.")
    if lower.mm == upper.mm:
        raise AmbiguousLength(
            "Both limits are the same, which leaves nothing to work to.", "Give two different limits."
        )
    if upper.mm > lower.mm * 2:
        raise AmbiguousLength(
            f"Limits of {lower} and {upper} are far apart for one size.",
            "Check the unit and the decimal point of each.",
        )
    return Limits(lower, upper, nominal)
