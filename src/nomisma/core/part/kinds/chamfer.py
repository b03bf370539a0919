"""A chamfer: its leg along the axis, and its angle; 45° where only the leg is said."""

import re
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import TYPE_CHECKING

from nomisma.core.errors import AmbiguousLength, UnreadableLength
from nomisma.core.part.edge_kind import EdgeKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

if TYPE_CHECKING:
    from nomisma.core.part.section import Sheet

_CHAMFER = re.compile(r"(?P<leg>.+?)\s+x\s+(?P<angle>[0-9]+(?:\.[0-9]+)?)\s*(?:°|deg)?", re.IGNORECASE)
_TWO_NUMBERS = re.compile(r"(?P<leg>[0-9]*[.]?[0-9]+)\s+x\s+(?P<angle>15|20|30|45|60)", re.IGNORECASE)
_BARE_ANGLE = re.compile(r"(?P<angle>15|20|30|45|60)\s*(?P<degrees>°|deg(?:rees)?)?", re.IGNORECASE)


@dataclass(frozen=True, kw_only=True)
class _Chamfer(EdgeKind):
    def claims(self, text: str) -> bool:
        """Two bare numbers, the second a usual angle: asked about, for they may be a diameter and a length."""
        return _TWO_NUMBERS.fullmatch(text) is not None

    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Its leg and its angle are one size."""
        if not line.word:
            raise AmbiguousLength(
                f"“{line.text[:40]}” could be a chamfer at that angle, or a diameter and a length.",
                f"Write cham {line.text[:40]}, or od {line.text[:40]}.",
                value=line.text,
            )
        return [WrittenFeature(self.name, line.rest)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """Its leg's limits, and its angle."""
        if bare := _BARE_ANGLE.fullmatch(text):
            raise _angle_or_leg(text, bare["angle"], bool(bare["degrees"]), unit)
        match = _CHAMFER.fullmatch(text)
        angle = Decimal(match["angle"]) if match else Decimal(45)
        if not 0 < angle < 90:
            raise UnreadableLength(f"A chamfer of {angle}° is not one.", "Give an angle between 0 and 90°.", value=text)
        return replace(self.leg(match["leg"] if match else text, unit, held), angle_deg=angle)

    def lay(self, sheet: "Sheet") -> None:
        """The first that is said of no step is drawn at both ends."""
        sheet.chamfer = next((one for _, one in sheet.of(self.name) if not one.along.is_said), None)
        sheet.draw(sheet.chamfer)


def _angle_or_leg(text: str, angle: str, degrees: bool, unit: Unit) -> AmbiguousLength:
    either = f"“{text}” could be an angle of {angle}° or a leg of {angle} {unit}."
    leg = "1/32" if unit == "in" else "0.5"
    return AmbiguousLength(
        f"“{text}” is an angle, and no leg is said." if degrees else either,
        f"Write the leg and the angle, {leg} x {angle}; or a leg with its unit, {angle} {unit}.",
        value=text,
    )


KIND = _Chamfer(
    name="chamfer",
    title="chamfer",
    words=("cham", "chamfer", "bevel", "break"),
    material_side="internal",
    measured_with="caliper",
    instruments=("shaft", "both", "length"),
    usual=("caliper",),
    both_ends="one",
    cut_as="edge",
    toleranced="edge",
    lays=5,
    example="0.5 x 45",
    places=("0°", "180°"),
)
