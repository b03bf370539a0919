"""Holes off the axis: how many of what size, and the circle they lie on; drilled elsewhere."""

import re
from dataclasses import dataclass

from nomisma.core.errors import UnreadableLength
from nomisma.core.number import number_from
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import NUMBER
from nomisma.core.threads.called_out import thread_called_out
from nomisma.core.threads.of_class import limits_of

CIRCLE = "hole_circle"
_HOLES = re.compile(
    r"(?P<count>[1-9][0-9]?)\s+holes?\s+(?P<size>.+?)(?:\s+thru)?\s+on\s+(?:a\s+)?(?P<circle>.*[0-9].*?)", re.IGNORECASE
)
_COUNTED = re.compile(rf"(?P<count>[1-9][0-9]?)\s+x\s+(?P<size>.+?)(?:\s+at\s+(?P<angle>-?{NUMBER})°)?")
_AT_RADIUS = re.compile(
    rf"(?:1\s+)?(?:holes?\s+)?(?P<size>.+?)(?:\s+thru)?\s+at\s+(?P<radius>{NUMBER})(?P<unit>\s?(?:mm|in))?\s+radius"
    rf"(?:,?\s+(?P<angle>-?{NUMBER})\s*(?:°|deg))?",
    re.IGNORECASE,
)
_THREAD = re.compile(r"(?:M\s*[0-9]|[0-9]+(?:/[0-9]+)?-[0-9]+(?![0-9]|\s*/)).*", re.IGNORECASE)


@dataclass(frozen=True, kw_only=True)
class _HoleOffAxis(FeatureKind):
    def claims(self, text: str) -> bool:
        """6 holes 9 on 115."""
        return _HOLES.fullmatch(text) is not None or _ONE_AT_RADIUS.fullmatch(text) is not None

    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """How many of what size, and the diameter of their circle: two features."""
        if line.word and _COUNTED.fullmatch(line.rest):
            return [WrittenFeature(self.name, line.rest)]
        match = _HOLES.fullmatch(line.rest)
        if at_radius := _AT_RADIUS.fullmatch(line.rest):
            angle = f" at {at_radius['angle']}°" if at_radius["angle"] else ""
            circle = f"{2 * number_from(at_radius['radius']):f}{at_radius['unit'] or ''}"
            return [WrittenFeature(self.name, f"1 x {at_radius['size']}{angle}"), WrittenFeature(CIRCLE, circle)]
        if match is None:
            raise UnreadableLength(
                f"“{line.text[:40]}” is not understood as holes.",
                "Write it like 6 holes 9 ±0.1 on 115 ±0.2.",
                value=line.text,
            )
        return [
            WrittenFeature(self.name, f"{match['count']} x {match['size']}"),
            WrittenFeature(CIRCLE, match["circle"]),
        ]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """The limits of each hole."""
        match = _COUNTED.fullmatch(text)
        size = match["size"] if match else text
        return _tapped(size, unit) if _THREAD.fullmatch(size) else super().required(size, unit, held)

    def sized(self, text: str, said: str) -> str:
        """How many, and each one's size."""
        match = _COUNTED.fullmatch(text)
        angle = f", at {match['angle']}°" if match and match["angle"] else ""
        return f"{match['count']} of them, {said}{angle}" if match else said

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with their circle, where it stands right behind."""
        match = _COUNTED.fullmatch(one.text)
        if match is None or not waiting or waiting[0].kind != CIRCLE:
            return super().said(one, waiting)
        if match["angle"]:
            return f"holes {one.text}{duty_words(one)}"
        return f"{match['count']} holes {match['size']} on {waiting.pop(0).text}{duty_words(one)}"


def _tapped(callout: str, unit: Unit) -> Requirement:
    """A tapped hole by the limits of its minor diameter: what is drilled for the tap."""
    said = thread_called_out(callout, unit).of_class_for("inside")
    limits = limits_of(said, "inside")
    if limits is None:
        raise UnreadableLength(f"{said.words} has no limits here.", "Write the size it is drilled to.", value=callout)
    lower, upper = (Length(end, said.thread.unit) for end in (limits.crest.lower_mm, limits.crest.upper_mm))
    return Requirement(None, lower, upper, "code", limits.source, said=f"tapped {said.words}, {lower} to {upper}")


_ONE_AT_RADIUS = re.compile(r"1\s+holes?\s+.+\s+at\s+[0-9.]+\s?(?:mm|in)?\s+radius.*", re.IGNORECASE)
KIND = _HoleOffAxis(
    name="hole_off_axis",
    title="hole off the axis",
    words=("holes",),
    material_side="internal",
    measured_with="caliper or pins",
    instruments=("bore", "both"),
    cut_as="elsewhere",
    reads_its_place=True,
    example="6 x 9 ±0.1",
    places=("hole 1", "last hole"),
)
