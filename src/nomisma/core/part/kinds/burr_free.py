"""Edges free of burrs, where no size is asked of them: looked at, not measured."""

from dataclasses import dataclass

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit
from nomisma.core.working import COMMON_PRACTICE


@dataclass(frozen=True, kw_only=True)
class _BurrFree(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Which edges, in words."""
        return [WrittenFeature(self.name, line.rest)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """No size: what it is to look like."""
        return Requirement(None, None, None, "line", COMMON_PRACTICE, said=text)


KIND = _BurrFree(
    name="burr_free",
    title="edges free of burrs",
    words=("burr-free",),
    material_side="two_sided",
    family="seen",
    measured_with="the eye and a fingernail",
    example="all over",
    places=("all edges",),
)
