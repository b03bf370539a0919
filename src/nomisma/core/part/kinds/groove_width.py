"""A groove by its width; the diameter of its floor and where it lies stand right behind it."""

import re
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import TYPE_CHECKING

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.section_shapes import Groove
from nomisma.core.part.written import HOW, WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Length

if TYPE_CHECKING:
    from nomisma.core.part.lettered import LetteredFeature
    from nomisma.core.part.section import Sheet

FLOOR, POSITION = "groove_floor_diameter", "position"
_GROOVE = re.compile(
    r"(?P<width>.+?)(?P<wide>\s+wide)?(?:\s+to\s+(?P<floor>.+?))?(?:\s+at\s+(?P<at>.+?)(?:\s+(?P<face>from\s+.+))?)?",
    re.IGNORECASE,
)
_DEEP = Decimal("0.9")
"""The floor of a groove whose depth nobody said, in parts of the diameter around it. Source: this tool's own choice."""


@dataclass(frozen=True, kw_only=True)
class _GrooveWidth(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Its width and, where they are said, its floor and its place: up to three features."""
        match = _GROOVE.fullmatch(line.rest)
        if match is None or not (match["wide"] or match["floor"]):
            raise UnreadableLength(f"“{line.text[:40]}” is not understood as a groove.", HOW, value=line.text)
        found = [WrittenFeature(self.name, match["width"])]
        if match["floor"]:
            found.append(WrittenFeature(FLOOR, match["floor"]))
        if match["at"]:
            found.append(WrittenFeature(POSITION, match["at"], along=match["face"] or ""))
        return found

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with its floor and its place, where they stand right behind it."""
        floor = waiting.pop(0) if waiting and waiting[0].kind == FLOOR else None
        position = waiting.pop(0) if waiting and waiting[0].kind == POSITION else None
        to = f" to {floor.text}" if floor else ""
        at = f" at {position.text} {position.along.words}".rstrip() if position else ""
        return f"groove {one.text} wide{to}{at}{duty_words(one)}"

    def lay(self, sheet: "Sheet") -> None:
        """Each in the step that holds its place; in the middle of the largest where nobody said where it is."""
        for index, one in sheet.of(self.name):
            sheet.grooves.append(self._laid(sheet, index, one))

    def _laid(self, sheet: "Sheet", index: int, one: "LetteredFeature") -> Groove:
        outside, body = sheet.outside, max(sheet.outside, key=lambda step: step.diameter_mm)
        floor = sheet.behind(index, FLOOR)
        position = sheet.behind(index + 1 if floor else index, POSITION)
        wide_mm = sheet.size_mm(one)
        at_mm = (body.from_mm + body.to_mm - wide_mm) / 2
        if position:
            place = replace(position.along, starts=Length(sheet.size_mm(position), "mm"))
            begins, _ = place.extent_mm(wide_mm, sheet.whole_mm, sheet.lies) or (sheet.size_mm(position), 0)
            at_mm = min(max(begins, Decimal(0)), outside[-1].to_mm)
        else:
            sheet.assumed.append(f"where {one.letter} is")
        around = next((step for step in outside if step.holds(at_mm)), body)
        if not floor:
            sheet.assumed.append(f"how deep {one.letter} is")
        floor_mm = sheet.size_mm(floor) if floor else around.diameter_mm * _DEEP
        letters = tuple(part.letter for part in sheet.draw(one, floor, position))
        sheet.lies |= dict.fromkeys(letters, (at_mm, at_mm + wide_mm))
        return Groove(letters, at_mm, wide_mm, floor_mm)


KIND = _GrooveWidth(
    name="groove_width",
    title="groove width",
    words=("groove",),
    material_side="internal",
    is_along=True,
    classed_as="bore",
    measured_with="slips",
    instruments=("bore", "both", "length"),
    usual=("slip_gauges", "caliper"),
    ways=("pile",),
    coached_by="carriage",
    cut_as="groove",
    reads_its_place=True,
    lays=3,
    places=("0°", "90°", "180°"),
)
