"""What a line of a sketch requires of a feature: its nominal, its limits, and where they come from."""

import re
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from nomisma.core.errors import AmbiguousLength, UnreadableLength
from nomisma.core.fits.called_out import called_out
from nomisma.core.fits.iso286 import SOURCE as ISO_286
from nomisma.core.measuring.trial import wanted_by_trial
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.general_tolerance import BY_FRACTION, GeneralTolerance, general_tolerance
from nomisma.core.part.member import member_of
from nomisma.core.part.taper import taper_over, taper_rate
from nomisma.core.planning.sketch_line import SketchedFeature
from nomisma.core.quantity.callout import Chamfer, FitCode, InchFitCode, Limits, check_gauges, parse_callout
from nomisma.core.quantity.fields import roughness_um
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.working import COMMON_PRACTICE

LimitsFrom = Literal["line", "code", "general", "sample", "reference"]
LIMITS_FROM_WORDS: dict[LimitsFrom, str] = {
    "line": "the line itself", "code": "its tolerance class", "general": "the general tolerance",
    "sample": "the sample, with what is added", "reference": "for reference: not judged",
}  # fmt: skip
_ONE_SIDED = re.compile(r"(?P<size>.+?)\s+(?P<side>max|min)\.?", re.IGNORECASE)
_SAMPLE = re.compile(
    r"(?:(?:like|off|as)\s+)?(?:the\s+|a\s+)?sample\s+(?P<size>.+?)(?:\s+(?P<way>plus|add|less|minus)\s+(?P<change>\S+(?:\s*(?:mm|in|thou))?))?"
    r"(?:\s+(?P<tolerance>[±+-].+|[A-Za-z]{1,2}[0-9]{1,2}))?",
    re.IGNORECASE,
)
_OVER = re.compile(r"(?P<rate>.+?)\s+over\s+(?P<length>.+?)(?:\s+(?P<tolerance>[±+-].+))?", re.IGNORECASE)
ISO_3040 = "ISO 3040:2016 (rate of taper; recalled)"
_CHAMFER = re.compile(r"(?P<leg>.+?)\s+x\s+(?P<angle>[0-9]+(?:\.[0-9]+)?)\s*(?:°|deg)?", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Requirement:
    """Nominal and limits of a feature (none where it has none), where they come from with the source, and what else its line says."""

    nominal: Length | None
    lower: Length | None
    upper: Length | None
    limits_from: LimitsFrom
    source: str
    angle_deg: Decimal | None = None
    roughness_ra_um: Decimal | None = None
    said: str = ""


@dataclass(frozen=True, slots=True)
class HeldTo:
    """What holds sizes without limits of their own."""

    rule: GeneralTolerance | None = None
    by_fraction: Length = BY_FRACTION


def decimals_of(length: Length) -> int:
    """How many decimals a length needs in its own unit. Source: arithmetic.

    >>> decimals_of(Length.of("0.125", "in"))
    3
    """
    return max(-int(length.value().as_tuple().exponent), 0)


def required_of(one: SketchedFeature, unit: Unit, held: HeldTo) -> Requirement:
    """What is required of a feature as it was sketched; bare numbers in `unit`. Raises UnreadableLength, AmbiguousLength, InputError.

    Source: common practice (shorthand); ISO 286-1 (classes); ISO 2768-1 (general tolerances).

    >>> found = required_of(SketchedFeature("outside_diameter", "25 h7"), "mm", HeldTo())
    >>> str(found.lower), str(found.upper), found.limits_from
    ('24.979 mm', '25 mm', 'code')
    """
    kind = feature_kind(one.kind)
    if kind.family == "roughness":
        ra_um = roughness_um(one.size.removesuffix("max").strip(), unit)
        return Requirement(None, None, None, "line", COMMON_PRACTICE, roughness_ra_um=ra_um)
    if kind.family == "feel":
        wanted_by_trial(one.size)
        return Requirement(None, None, None, "line", COMMON_PRACTICE, said=one.size)
    if kind.name == "chamfer":
        return _chamfer(one.size, unit, held)
    if kind.name == "taper":
        return _tapered(one.size, unit)
    if match := _SAMPLE.fullmatch(one.size):
        return _like_the_sample(one, match, unit, held)
    if match := _ONE_SIDED.fullmatch(one.size):
        size = _length(match["size"], unit)
        upper = match["side"].lower() == "max"
        if not upper and kind.material_side == "upper_only":
            raise UnreadableLength(
                f"{kind.a_title.capitalize()} has no least: the smaller the better.",
                f"Write it as {match['size']} max.",
                value=one.size,
            )
        return Requirement(size, None if upper else size, size if upper else None, "line", COMMON_PRACTICE)
    callout = parse_callout(one.size, unit)
    if isinstance(callout, FitCode | InchFitCode):
        return _coded(one, unit)
    if isinstance(callout, Limits):
        check_gauges(one.size, unit, inside=kind.material_side == "internal")
        return Requirement(callout.nominal, callout.lower, callout.upper, "line", "the drawing")
    if isinstance(callout, Chamfer):
        raise UnreadableLength(f"“{one.size}” is a chamfer.", "Begin it with cham: cham 1/16 x 45.")
    if kind.material_side == "upper_only":
        return Requirement(None, None, callout, "line", "the drawing")
    return _held(callout, held, "edge" if kind.name == "corner_radius" else "linear")


def _length(text: str, unit: Unit) -> Length:
    found = parse_callout(text, unit)
    if not isinstance(found, Length):
        raise AmbiguousLength(f"“{text}” has limits and a max or min besides.", "Write the one or the other.", value=text)
    return found


def _tapered(text: str, unit: Unit) -> Requirement:
    """A taper by how much the diameter changes over the length that is said. Raises UnreadableLength."""
    match = _OVER.fullmatch(text)
    if match is None:
        raise UnreadableLength(
            f"“{text[:60]}” does not say over what length.", "Write it like 1:20 over 50 ±0.02.", value=text
        )
    change = taper_over(taper_rate(match["rate"]), _length(match["length"], unit))
    if not match["tolerance"]:
        return Requirement(change, None, None, "reference", ISO_3040)
    found = parse_callout(f"{change} {match['tolerance']}", unit)
    if not isinstance(found, Limits):
        raise UnreadableLength(f"“{match['tolerance']}” gives a taper no limits.", "Write them like ±0.02.", value=text)
    return Requirement(change, found.lower, found.upper, "line", ISO_3040)


def _like_the_sample(one: SketchedFeature, match: re.Match[str], unit: Unit, held: HeldTo) -> Requirement:
    """A size taken off a sample, worn or good, with what is added to it or taken off; the tolerance is written as ever."""
    size = _length(match["size"], unit)
    change = parse_length(match["change"], size.unit).mm if match["change"] else Decimal(0)
    nominal = size.mm + (change if (match["way"] or "").lower() in ("plus", "add") else -change)
    if nominal <= 0:
        raise UnreadableLength(f"“{one.size}” leaves nothing of the sample.", "Check what is taken off.", value=one.size)
    written = str(Length(nominal, size.unit, decimals=max(size.decimals or 0, decimals_of(Length(nominal, size.unit)))))
    tolerance = match["tolerance"]
    found = required_of(replace(one, size=f"{written} {tolerance}" if tolerance else written), unit, held)
    return replace(found, limits_from="sample" if found.lower or found.upper else "reference", source="the sample")


def _coded(one: SketchedFeature, unit: Unit) -> Requirement:
    member = member_of(one.kind)
    if member is None:
        raise UnreadableLength(
            f"{feature_kind(one.kind).a_title.capitalize()} has no class of fits.",
            "Write its limits: 28 ±0.1.",
            value=one.size,
        )
    found = called_out(member, one.size, unit=unit, field="text")
    lower, upper = (Length(mm, found.unit) for mm in (found.lower_mm, found.upper_mm))
    return Requirement(found.nominal, lower, upper, "code", ISO_286)


def _angle_or_leg(text: str, angle: str, degrees: bool, unit: Unit) -> AmbiguousLength:
    either = f"“{text}” could be an angle of {angle}° or a leg of {angle} {unit}."
    leg = "1/32" if unit == "in" else "0.5"
    return AmbiguousLength(
        f"“{text}” is an angle, and no leg is said." if degrees else either,
        f"Write the leg and the angle, {leg} x {angle}; or a leg with its unit, {angle} {unit}.",
        value=text,
    )


_BARE_ANGLE = re.compile(r"(?P<angle>15|20|30|45|60)\s*(?P<degrees>°|deg(?:rees)?)?", re.IGNORECASE)


def _chamfer(text: str, unit: Unit, held: HeldTo) -> Requirement:
    """A chamfer's leg along the axis and its angle; 45° where only the leg is said."""
    if bare := _BARE_ANGLE.fullmatch(text):
        raise _angle_or_leg(text, bare["angle"], bool(bare["degrees"]), unit)
    match = _CHAMFER.fullmatch(text)
    leg = _length(match["leg"] if match else text, unit)
    angle = Decimal(match["angle"]) if match else Decimal(45)
    if not 0 < angle < 90:
        raise UnreadableLength(f"A chamfer of {angle}° is not one.", "Give an angle between 0 and 90°.", value=text)
    found = _held(leg, held, "edge")
    return Requirement(leg, found.lower, found.upper, found.limits_from, found.source, angle_deg=angle)


def _held(size: Length, held: HeldTo, what: Literal["linear", "edge"]) -> Requirement:
    rule = held.rule or ("inch_decimals" if size.unit == "in" else "iso_2768_m")
    if rule == "none":
        return Requirement(size, None, None, "reference", COMMON_PRACTICE)
    amount, source = general_tolerance(size, rule, what, held.by_fraction)
    return Requirement(size, size.with_mm(size.mm - amount), size.with_mm(size.mm + amount), "general", source)
