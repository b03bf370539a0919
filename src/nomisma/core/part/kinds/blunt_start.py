"""A blunt start: the first turn of a thread taken off until it is full, so that nothing crosses it; looked at."""

from dataclasses import dataclass

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit
from nomisma.core.working import COMMON_PRACTICE


@dataclass(frozen=True, kw_only=True)
class _BluntStart(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """How it is to be, in words."""
        return [WrittenFeature(self.name, line.rest)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """No size: what it is to look like."""
        return Requirement(None, None, None, "line", COMMON_PRACTICE, said=text)


KIND = _BluntStart(
    name="blunt_start",
    title="blunt start",
    words=("blunt-start",),
    material_side="two_sided",
    family="seen",
    measured_with="the eye",
    cut_as="with_another",
    example="to the first full turn",
    places=("start",),
)
