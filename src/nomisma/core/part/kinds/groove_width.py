"""A groove by its width; the diameter of its floor and where it lies stand right behind it."""

import re
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import TYPE_CHECKING

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.section_shapes import Groove
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length

if TYPE_CHECKING:
    from nomisma.core.part.lettered import LetteredFeature
    from nomisma.core.part.section import Sheet

FLOOR, DEPTH, POSITION = "groove_floor_diameter", "groove_depth", "position"
_GROOVE = re.compile(
    r"(?P<width>.+?)(?P<wide>\s+wide)?(?:\s+(?:x\s+)?(?P<depth>\S+(?:\s[±+-]\S+)*)\s+deep|\s+(?:to|x)\s+(?P<floor>.+?))?(?:\s+at\s+(?P<at>.+?)(?:\s+(?P<face>from\s+.+))?)?",
    re.IGNORECASE,
)
_DEEP = Decimal("0.9")
"""The floor of a groove whose depth nobody said, in parts of the diameter around it. Source: this tool's own choice."""


@dataclass(frozen=True, kw_only=True)
class _GrooveWidth(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Its width and, where they are said, its floor and its place: up to three features."""
        match = _GROOVE.fullmatch(_between_as_at(line))
        if match is None or not (match["wide"] or match["floor"] or match["depth"]):
            raise UnreadableLength(
                f"“{line.text[:40]}” is not understood as a groove.",
                "Write it like groove 3 wide to 23.9 at 20, groove 3 wide x 2 deep at 20 from the right, or groove 3"
                " H13 between 20 and 23.",
                value=line.text,
            )
        found = [WrittenFeature(self.name, match["width"])]
        if match["depth"]:
            found.append(WrittenFeature(DEPTH, match["depth"]))
        if match["floor"]:
            found.append(WrittenFeature(FLOOR, match["floor"]))
        if match["at"]:
            found.append(WrittenFeature(POSITION, match["at"], along=match["face"] or ""))
        return found

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with its floor and its place, where they stand right behind it."""
        floor = waiting.pop(0) if waiting and waiting[0].kind in (FLOOR, DEPTH) else None
        position = waiting.pop(0) if waiting and waiting[0].kind == POSITION else None
        to = "" if floor is None else f" x {floor.text} deep" if floor.kind == DEPTH else f" to {floor.text}"
        at = f" at {position.text} {position.along.words}".rstrip() if position else ""
        return f"groove {one.text} wide{to}{at}{duty_words(one)}"

    def lay(self, sheet: "Sheet") -> None:
        """Each in the step that holds its place; in the middle of the largest where nobody said where it is."""
        for index, one in sheet.of(self.name):
            sheet.grooves.append(self._laid(sheet, index, one))

    def _laid(self, sheet: "Sheet", index: int, one: "LetteredFeature") -> Groove:
        outside, body = sheet.outside, max(sheet.outside, key=lambda step: step.diameter_mm)
        floor = sheet.behind(index, FLOOR, DEPTH)
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
        floor_mm = around.diameter_mm * _DEEP
        if floor:
            is_deep = floor.feature.kind == DEPTH
            floor_mm = around.diameter_mm - 2 * sheet.size_mm(floor) if is_deep else sheet.size_mm(floor)
        letters = tuple(part.letter for part in sheet.draw(one, floor, position))
        sheet.lies |= dict.fromkeys(letters, (at_mm, at_mm + wide_mm))
        return Groove(letters, at_mm, wide_mm, floor_mm)


def _between_as_at(line: WrittenLine) -> str:
    """A groove said by both its walls, as one by its width and where it begins. Raises UnreadableLength where the width
    is another than the walls leave.
    """
    match = _BY_WALLS.fullmatch(line.rest)
    if match is None:
        return line.rest
    near, far = (parse_length(match[part], line.unit) for part in ("near", "far"))
    wide = Length(abs(far.mm - near.mm), near.unit)
    written = f"{wide.value().normalize():f}"
    said = (match["width"] or "").removesuffix(" wide").strip()
    first = re.match(r"[0-9.,/]+", said)
    if first and parse_length(first[0], line.unit).mm != wide.mm:
        raise UnreadableLength(
            f"Between {near} and {far} a groove is {wide} wide, and {first[0]} is said.",
            "Write its width or its walls as they are meant.",
            value=line.text,
        )
    floor = f" to {match['floor']}" if match["floor"] else ""
    near_said = match["near"] if near.mm <= far.mm else match["far"]
    return f"{said or written} wide{floor} at {near_said}{match['face'] or ''}"


_BY_WALLS = re.compile(
    r"(?:(?P<width>[0-9.]\S*(?:\s+[A-Z]{1,2}[0-9]{1,2})?(?:\s+wide)?)\s+)?(?:to\s+(?P<floor>\S+)\s+)?"
    r"(?:between|from)\s+(?P<near>[0-9.]+)\s+(?:and|to)\s+(?P<far>[0-9.]+)(?P<face>\s+from\s+.+)?",
    re.IGNORECASE,
)
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
    lays=4,
    places=("0°", "90°", "180°"),
)
