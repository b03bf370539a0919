"""V-grooves of a pulley: their included angle and depth, how many at which pitch; read over a rod laid in them."""

import re
from dataclasses import dataclass, replace
from decimal import Decimal
from math import radians, tan
from typing import TYPE_CHECKING

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement, plain_length
from nomisma.core.part.section_shapes import Groove
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit, as_mm

if TYPE_CHECKING:
    from nomisma.core.part.lettered import LetteredFeature
    from nomisma.core.part.section import Sheet

_SAID = re.compile(
    r"(?:(?P<count>[1-9][0-9]?)\s+x\s+)?(?P<angle>[0-9]+(?:\.[0-9]+)?)\s*(?:°|deg)\s*(?:x\s+)?(?P<depth>[0-9.].*?)\s+deep"
    r"(?:,?\s+pitch\s+(?P<pitch>[0-9./]+(?:\s?(?:mm|in))?))?(?:\s+x\s+(?P<times>[1-9][0-9]?))?"
    r"(?:,?\s+land\s+(?P<land>[0-9./]+(?:\s?(?:mm|in))?))?",
    re.IGNORECASE,
)
HOW = "Write it like v 40° 12 deep at 10, or v 38° .34 deep pitch .625 x 2 land .05."


def _said(text: str) -> re.Match[str]:
    match = _SAID.fullmatch(text)
    if match is None:
        raise UnreadableLength(f"“{text[:60]}” is not understood as a V-groove.", HOW, value=text)
    return match


@dataclass(frozen=True, kw_only=True)
class _VGroove(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Angle, depth, pitch and how many are one: all of them are cut and read alike."""
        match = _said(line.rest)
        count = match["count"] or match["times"] or "1"
        if int(count) > 1 and not match["pitch"]:
            raise UnreadableLength(f"{count} V-grooves, and no pitch between them.", HOW, value=line.text)
        words = f"{count} x {match['angle']}° {match['depth']} deep"
        words += "".join(f" {name} {plain_length(match[name], line.unit)}" for name in ("pitch", "land") if match[name])
        return [WrittenFeature(self.name, words)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """The limits of their depth, and their included angle."""
        match = _said(text)
        angle = Decimal(match["angle"])
        if not 5 <= angle <= 150:
            raise UnreadableLength(f"A V of {angle}° is not one.", "Give its included angle, from 5 to 150°.")
        return replace(super().required(match["depth"], unit, held), angle_deg=angle)

    def dimension(self, text: str) -> str:
        """A single one without its count. Source: none, wording."""
        return text.removeprefix("1 x ")

    def sized(self, text: str, said: str) -> str:
        """How many, and how deep each is."""
        count = _said(text)["count"] or "1"
        return said if count == "1" else f"{count} of them, {said} deep"

    def lay(self, sheet: "Sheet") -> None:
        """Each at its pitch from the first; together in the middle of the largest step where nobody said where."""
        for _, one in sheet.of(self.name):
            sheet.grooves += self._laid(sheet, one)

    def _laid(self, sheet: "Sheet", one: "LetteredFeature") -> list[Groove]:
        match, depth_mm = _said(one.written), sheet.size_mm(one)
        count = int(match["count"] or 1)
        pitch_mm = plain_length(match["pitch"], "mm").mm if match["pitch"] else Decimal(0)
        wide_mm = as_mm(2 * float(depth_mm) * tan(radians(float(match["angle"])) / 2))
        if match["land"] and pitch_mm:
            wide_mm = pitch_mm - plain_length(match["land"], "mm").mm
        all_mm = pitch_mm * (count - 1) + wide_mm
        body = max(sheet.outside, key=lambda step: step.diameter_mm)
        middle = (body.from_mm + body.to_mm - all_mm) / 2
        begins, _ = sheet.put(one, all_mm, (middle, middle + all_mm))
        if not one.along.is_said:
            sheet.assumed.append(f"where {one.letter} is")
        around = next((step for step in sheet.outside if step.holds(begins)), body)
        floor_mm = around.diameter_mm - 2 * depth_mm
        if floor_mm <= 0:
            sheet.drawn -= {one.letter}
            return []
        angle = Decimal(match["angle"])
        return [
            Groove((one.letter,), begins + pitch_mm * index, wide_mm, floor_mm, angle_deg=angle)
            for index in range(count)
        ]


KIND = _VGroove(
    name="v_groove",
    title="V-groove",
    words=("v",),
    material_side="internal",
    measured_with="a rod laid in it (worksheet V-grooves), or a depth micrometer on its floor",
    instruments=("shaft", "both", "length"),
    usual=("depth_micrometer", "caliper"),
    ways=("less",),
    cut_as="groove",
    lays=4,
    example="2 x 38° 8 deep pitch 16",
    places=("first groove", "last groove"),
)
