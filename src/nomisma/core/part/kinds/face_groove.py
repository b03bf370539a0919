"""A groove in a face: the diameter of its outer wall; that of its inner wall and its depth stand right behind it."""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import TYPE_CHECKING

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.section_shapes import FaceGroove
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length

if TYPE_CHECKING:
    from nomisma.core.part.section import Sheet

INNER, DEPTH = "face_groove_inside", "depth"
HOW = "Write it like face groove 40 to 50 x 3 deep, and from the right where it is cut from there."
_SAID = re.compile(r"(?P<one>.+?)\s+(?:to|x)\s+(?P<other>.+?)\s+x\s+(?P<depth>.+?)(?:\s+deep)?", re.IGNORECASE)
_FIRST = re.compile(r"[0-9.,/]+")


@dataclass(frozen=True, kw_only=True)
class _FaceGroove(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Both its walls, the larger first whichever was said first, and how deep it is. Raises UnreadableLength."""
        match = _SAID.fullmatch(line.rest)
        if match is None:
            raise UnreadableLength(f"“{line.text[:60]}” is not understood as a groove in a face.", HOW, value=line.text)
        outer, inner = sorted((match["one"], match["other"]), key=lambda text: _first_size(text, line).mm, reverse=True)
        return [WrittenFeature(self.name, outer), WrittenFeature(INNER, inner), WrittenFeature(DEPTH, match["depth"])]

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with its inner wall and its depth, where they stand right behind it."""
        if [other.kind for other in waiting[:2]] != [INNER, DEPTH]:
            return super().said(one, waiting)
        inner, depth = waiting.pop(0), waiting.pop(0)
        place = f" {one.along.words}" if one.along.is_said else ""
        return f"face-groove {one.text} to {inner.text} x {depth.text} deep{place}{duty_words(one)}"

    def lay(self, sheet: "Sheet") -> None:
        """Each in from the left face, but where it is said otherwise."""
        for index, one in sheet.of(self.name):
            inner, depth = sheet.behind(index, INNER), sheet.behind(index + 1, DEPTH)
            if inner is None or depth is None:
                continue
            if not one.along.is_said:
                sheet.assumed.append(f"that {one.letter} is in the left face")
            deep_mm = sheet.size_mm(depth)
            begins, ends = sheet.put(one, deep_mm, (Decimal(0), deep_mm), depth)
            sheet.draw(inner)
            letters = (one.letter, inner.letter, depth.letter)
            sheet.face_grooves.append(FaceGroove(letters, begins, ends, sheet.size_mm(inner), sheet.size_mm(one)))


def _first_size(text: str, line: WrittenLine) -> Length:
    first = _FIRST.match(text)
    if first is None:
        raise UnreadableLength(f"“{text[:40]}” is no diameter of a groove.", HOW, value=line.text)
    return parse_length(first[0], line.unit)


KIND = _FaceGroove(
    name="face_groove",
    title="face groove",
    words=("face-groove",),
    material_side="internal",
    is_diameter=True,
    has_mouth=True,
    classed_as="bore",
    measured_with="caliper or bore gauge",
    instruments=("bore", "both"),
    usual=("caliper",),
    coached_by="cross_slide",
    cut_as="face_groove",
    lays=4,
    example="50 ±0.1 to 40 ±0.1 x 3 deep",
    places=("0°", "90°"),
)
