"""Holes off the axis: how many of what size, and the circle they lie on; drilled elsewhere."""

import re
from dataclasses import dataclass

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

CIRCLE = "hole_circle"
_HOLES = re.compile(
    r"(?P<count>[1-9][0-9]?)\s+holes?\s+(?P<size>.+?)(?:\s+thru)?\s+on\s+(?:a\s+)?(?P<circle>.*[0-9].*?)", re.IGNORECASE
)
_COUNTED = re.compile(r"(?P<count>[1-9][0-9]?)\s+x\s+(?P<size>.+)")


@dataclass(frozen=True, kw_only=True)
class _HoleOffAxis(FeatureKind):
    def claims(self, text: str) -> bool:
        """6 holes 9 on 115."""
        return _HOLES.fullmatch(text) is not None

    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """How many of what size, and the diameter of their circle: two features."""
        if line.word and _COUNTED.fullmatch(line.rest):
            return [WrittenFeature(self.name, line.rest)]
        match = _HOLES.fullmatch(line.rest)
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
        return super().required(match["size"] if match else text, unit, held)

    def sized(self, text: str, said: str) -> str:
        """How many, and each one's size."""
        match = _COUNTED.fullmatch(text)
        return f"{match['count']} of them, {said}" if match else said

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with their circle, where it stands right behind."""
        match = _COUNTED.fullmatch(one.text)
        if match is None or not waiting or waiting[0].kind != CIRCLE:
            return super().said(one, waiting)
        return f"{match['count']} holes {match['size']} on {waiting.pop(0).text}{duty_words(one)}"


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
