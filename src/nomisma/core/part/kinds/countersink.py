"""A countersink in the mouth of a hole: the diameter it opens to, and its included angle, 90° where none is said."""

import re
from dataclasses import dataclass, replace
from decimal import Decimal

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

_SAID = re.compile(r"(?P<size>.+?)\s+x\s+(?P<angle>[0-9]+(?:\.[0-9]+)?)\s*(?:°|deg)?", re.IGNORECASE)
_USUAL_DEG = Decimal(90)
"""The angle of one of which none is said. Source: common practice, no source (82° for inch screws is said)."""


@dataclass(frozen=True, kw_only=True)
class _Countersink(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Its diameter and its angle are one size."""
        return [WrittenFeature(self.name, line.rest)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """The limits of its diameter, and its included angle."""
        match = _SAID.fullmatch(text)
        angle = Decimal(match["angle"]) if match else _USUAL_DEG
        if not 0 < angle < 180:
            raise UnreadableLength(
                f"A countersink of {angle}° is not one.", "Give its included angle, like csk 12 x 90.", value=text
            )
        return replace(super().required(match["size"] if match else text, unit, held), angle_deg=angle)


KIND = _Countersink(
    name="countersink",
    title="countersink",
    sign="⌵⌀",
    words=("csk", "countersink"),
    material_side="internal",
    measured_with="caliper",
    instruments=("bore", "both"),
    usual=("caliper",),
    cut_as="edge",
    example="12 x 90",
    places=("0°", "90°"),
)
