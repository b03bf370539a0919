"""A knurl on an outside: its pitch in words or as a size; looked at, not measured."""

from dataclasses import dataclass

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit
from nomisma.core.working import COMMON_PRACTICE


@dataclass(frozen=True, kw_only=True)
class _Knurl(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Medium, 1.0 straight, diamond 21 tpi: as a shop says it."""
        return [WrittenFeature(self.name, line.rest)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """No size: what it is to look like."""
        return Requirement(None, None, None, "line", COMMON_PRACTICE, said=text)


KIND = _Knurl(
    name="knurl",
    title="knurl",
    words=("knurl", "knurled"),
    material_side="two_sided",
    family="seen",
    measured_with="the eye",
    cut_as="knurl",
    cut_on="outside",
    example="medium",
    places=("all round",),
)
