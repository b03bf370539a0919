"""What is required of a feature: its nominal, its limits, and where they come from."""

import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal, Protocol

from nomisma.core.errors import AmbiguousLength, UnreadableLength
from nomisma.core.part.general_tolerance import BY_FRACTION, GeneralTolerance, Toleranced, general_tolerance
from nomisma.core.quantity.callout import Chamfer, FitCode, InchFitCode, Limits, check_gauges, parse_callout
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import NUMBER, parse_length
from nomisma.core.working import COMMON_PRACTICE

MaterialSide = Literal["external", "internal", "two_sided", "upper_only"]
Member = Literal["shaft", "bore"]
LimitsFrom = Literal["line", "code", "general", "sample", "reference"]
LIMITS_FROM_WORDS: dict[LimitsFrom, str] = {
    "line": "the line itself",
    "code": "its tolerance class",
    "general": "the general tolerance",
    "sample": "the sample, with what is added",
    "reference": "for reference: not judged",
}
_ONE_SIDED = re.compile(r"(?P<size>.+?)\s+(?P<side>max|min)\.?", re.IGNORECASE)
_SIDE_FIRST = re.compile(r"(?P<side>max|min)\.?\s+(?P<size>.+)", re.IGNORECASE)
_FROM_TO = re.compile(
    rf"(?P<one>{NUMBER})\s*(?P<unit_1>in|mm|\")?(?:\s+to\s+|\s+[-–]\s+|\s*\.\.\.?\s*|\s*…\s*)"
    rf"(?P<other>{NUMBER})\s*(?P<unit_2>in|mm|\")?",
    re.IGNORECASE,
)
_WITH_FIGURES = re.compile(r"(?P<code>.+?[A-Za-z]{1,2}[0-9]{1,2})\s*\((?P<figures>[+±0-9-][^()]*)\)")
_APART = Decimal("1.2")
"""Two sizes farther apart than so many times are not the limits of one. Source: this tool's own choice."""
_AS_IT_IS = re.compile(
    r"(?:\((?P<in>[^()]+)\)|(?P<size>.+?)\s+(?:as\s+it\s+is|as\s+is|ref\.?|reference))", re.IGNORECASE
)
_NOW = re.compile(r"(?P<size>.+?),?\s+(?:now|worn(?:\s+to)?)\s+(?P<now>.+)", re.IGNORECASE)
_NO_SIZE = re.compile(r"(?:as\s+(?:it\s+)?is|ref\.?|reference)", re.IGNORECASE)
_LEFT = re.compile(r".*\s+as\s+(?:it\s+)?is", re.IGNORECASE)
_SAMPLE = re.compile(
    r"(?:(?:like|off|as)\s+)?(?:the\s+|a\s+)?sample\s+(?P<size>.+?)(?:\s+(?P<way>plus|add|less|minus)\s+(?P<change>\S+(?:\s*(?:mm|in|thou))?))?"
    r"(?:\s+(?P<tolerance>[±+-].+|[A-Za-z]{1,2}[0-9]{1,2}))?",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True)
class Requirement:
    """Nominal and limits of a feature (none where it has none), where they come from with the source, and what else its
    line says.

    `class_on`: the size a class was taken on, where it may be another than was meant.
    """

    nominal: Length | None
    lower: Length | None
    upper: Length | None
    limits_from: LimitsFrom
    source: str
    angle_deg: Decimal | None = None
    roughness_ra_um: Decimal | None = None
    said: str = ""
    class_on: Length | None = None


class SizedKind(Protocol):
    """What is asked of a kind to know what its size requires (core/part/kind.py)."""

    @property
    def a_title(self) -> str:
        """Its title with its article."""

    @property
    def material_side(self) -> MaterialSide:
        """On which side of its limits there is metal."""

    @property
    def class_of(self) -> Member | None:
        """Whose classes of fits its size is written with."""

    @property
    def toleranced(self) -> Toleranced:
        """By which table of general tolerances."""

    def required(self, text: str, unit: Unit, held: "HeldTo") -> Requirement:
        """What the text of its size requires."""


@dataclass(frozen=True, slots=True)
class HeldTo:
    """What holds sizes without limits of their own; `of_class`: what a member's class of fits gives it, with the unit
    in force.
    """

    of_class: Callable[[Member, str, Unit], Requirement]
    rule: GeneralTolerance | None = None
    by_fraction: Length = BY_FRACTION


def decimals_needed(length: Length) -> int:
    """How many decimals a length needs in its own unit. Source: arithmetic.

    >>> decimals_needed(Length.of("0.125", "in"))
    3
    """
    return max(-int(length.value().as_tuple().exponent), 0)


def required_size(kind: SizedKind, text: str, unit: Unit, held: HeldTo) -> Requirement:
    """What a size of a kind requires, with limits, with a class, like a sample, or bare; bare numbers in `unit`.

    Raises UnreadableLength, AmbiguousLength, InputError. Source: common practice (shorthand); ISO 286-1 (classes); ISO
    2768-1 (general tolerances).

    >>> from nomisma.core.part.feature_kinds import feature_kind
    >>> from nomisma.core.planning.class_of_fits import class_of_fits
    >>> str(required_size(feature_kind("length"), "40 ±0.1", "mm", HeldTo(class_of_fits)).upper)
    '40.1 mm'
    """
    if match := _NOW.fullmatch(text):
        plain_length(match["now"], unit)
        return kind.required(match["size"], unit, held)
    if match := _SAMPLE.fullmatch(text):
        return _like_the_sample(kind, text, match, unit, held)
    if _NO_SIZE.fullmatch(text):
        raise UnreadableLength(
            f"“{text}” says no size, and the part is drawn and held by it.",
            "Say the size it has too: od 2.375 as it is.",
            value=text,
        )
    if match := _AS_IT_IS.fullmatch(text):
        return Requirement(plain_length(match["in"] or match["size"], unit), None, None, "reference", COMMON_PRACTICE)
    if match := _WITH_FIGURES.fullmatch(text):
        return _class_with_figures(kind, match, unit, held)
    if limits := limits_in_words(text):
        return kind.required(limits, unit, held)
    if match := _ONE_SIDED.fullmatch(text) or _SIDE_FIRST.fullmatch(text):
        return _one_sided(kind, text, match, unit)
    callout = parse_callout(text, unit)
    if isinstance(callout, FitCode | InchFitCode):
        if kind.class_of is None:
            raise UnreadableLength(
                f"{kind.a_title.capitalize()} has no class of fits.", "Write its limits: 28 ±0.1.", value=text
            )
        return held.of_class(kind.class_of, text, unit)
    if isinstance(callout, Limits):
        check_gauges(text, unit, inside=kind.material_side == "internal")
        return Requirement(callout.nominal, callout.lower, callout.upper, "line", "the drawing")
    if isinstance(callout, Chamfer):
        raise UnreadableLength(f"“{text}” is a chamfer.", "Begin it with cham: cham 1/16 x 45.")
    if kind.material_side == "upper_only":
        return Requirement(None, None, callout, "line", "the drawing")
    return held_to(callout, held, kind.toleranced)


def limits_in_words(text: str) -> str:
    """Two limits said in words, as they are written with a stroke; empty where it is something else. Source: common
    practice, no source.

    >>> limits_in_words(".125 to .127"), limits_in_words("0.8755 - 0.8760 in"), limits_in_words("3 to 40")
    ('.125/.127', '0.8755/0.8760 in', '')
    """
    match = _FROM_TO.fullmatch(text)
    if match is None or not re.search("[.,]", text):
        return ""
    ends = sorted(Decimal(match[part].replace(",", ".")) for part in ("one", "other"))
    if ends[0] * _APART < ends[1]:
        return ""
    first, second = (
        f"{match[part]} {match[unit] or ''}".strip() for part, unit in (("one", "unit_1"), ("other", "unit_2"))
    )
    return f"{first}/{second}"


def _class_with_figures(kind: SizedKind, match: re.Match[str], unit: Unit, held: HeldTo) -> Requirement:
    """A class with its deviations in brackets: both are read, and must be the same."""
    by_class = kind.required(match["code"], unit, held)
    if by_class.nominal is None or by_class.lower is None or by_class.upper is None:
        raise UnreadableLength(f"“{match['code']}” has no limits to hold the figures against.", "Leave them out.")
    by_figures = kind.required(f"{by_class.nominal} {match['figures']}", by_class.nominal.unit, held)
    rounded = Decimal("0.001") if by_class.nominal.unit == "mm" else Decimal("0.00254")
    pairs = ((by_class.lower, by_figures.lower), (by_class.upper, by_figures.upper))
    if any(figure is None or abs(of_class.mm - figure.mm) > rounded for of_class, figure in pairs):
        raise AmbiguousLength(
            f"{match['code']} is from {by_class.lower} to {by_class.upper}, and the figures in brackets"
            f" {by_figures.lower} to {by_figures.upper}.",
            "Write only the one that is meant.",
            value=match[0],
        )
    return by_class


def _one_sided(kind: SizedKind, text: str, match: re.Match[str], unit: Unit) -> Requirement:
    """What a size with max or min behind it requires."""
    size = plain_length(match["size"], unit)
    upper = match["side"].lower() == "max"
    if not upper and kind.material_side == "upper_only":
        raise UnreadableLength(
            f"{kind.a_title.capitalize()} has no least: the smaller the better.",
            f"Write it as {match['size']} max.",
            value=text,
        )
    return Requirement(size, None if upper else size, size if upper else None, "line", COMMON_PRACTICE)


def is_left_as_it_is(text: str) -> bool:
    """Whether the text of a size says that nothing is cut of it: 2.375 as it is. Source: common practice, no source.

    >>> is_left_as_it_is("2.375 as it is"), is_left_as_it_is("(2.375)")
    (True, False)
    """
    return _LEFT.fullmatch(text) is not None


def size_now(text: str, unit: Unit) -> Length | None:
    """The size that a worn or rough surface has now, by the text of its size; None where it says none. Source: common
    practice, no source.

    >>> str(size_now("1.000 ±.0005 now 1.238", "in")), size_now("1.000", "in")
    ('1.238 in', None)
    """
    match = _NOW.fullmatch(text)
    return plain_length(match["now"], unit) if match else None


def plain_length(text: str, unit: Unit) -> Length:
    """A size without limits. Raises AmbiguousLength where it has some, UnreadableLength. Source: common practice
    (shorthand).

    >>> str(plain_length("1/2", "in"))
    '0.5 in'
    """
    found = parse_callout(text, unit)
    if not isinstance(found, Length):
        raise AmbiguousLength(
            f"“{text}” has limits and a max or min besides.", "Write the one or the other.", value=text
        )
    return found


def held_to(size: Length, held: HeldTo, what: Toleranced) -> Requirement:
    """What holds a bare size: the general tolerance in force, or nothing. Raises NotDefined. Source: ISO 2768-1:1989;
    common practice.

    >>> from nomisma.core.planning.class_of_fits import class_of_fits
    >>> held_to(Length.of("40", "mm"), HeldTo(class_of_fits, "none"), "linear").limits_from
    'reference'
    """
    rule = held.rule or ("inch_decimals" if size.unit == "in" else "iso_2768_m")
    if rule == "none":
        return Requirement(size, None, None, "reference", COMMON_PRACTICE)
    amount, source = general_tolerance(size, rule, what, held.by_fraction)
    return Requirement(size, size.with_mm(size.mm - amount), size.with_mm(size.mm + amount), "general", source)


def _like_the_sample(kind: SizedKind, text: str, match: re.Match[str], unit: Unit, held: HeldTo) -> Requirement:
    """A size taken off a sample, worn or good, with what is added to it or taken off; the tolerance is
    written as ever.
    """
    size = plain_length(match["size"], unit)
    change = parse_length(match["change"], size.unit).mm if match["change"] else Decimal(0)
    nominal = size.mm + (change if (match["way"] or "").lower() in ("plus", "add") else -change)
    if nominal <= 0:
        raise UnreadableLength(f"“{text}” leaves nothing of the sample.", "Check what is taken off.", value=text)
    written = str(
        Length(nominal, size.unit, decimals=max(size.decimals or 0, decimals_needed(Length(nominal, size.unit))))
    )
    found = kind.required(f"{written} {match['tolerance'] or ''}".strip(), unit, held)
    return replace(
        found, limits_from="sample" if found.lower or found.upper else "reference", source="the sample", class_on=None
    )
