"""A fit by trial: how a mating part or gauge goes by hand."""

from dataclasses import dataclass

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.trial_wanted import wanted_by_trial
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit
from nomisma.core.working import COMMON_PRACTICE


@dataclass(frozen=True, kw_only=True)
class _ByTrial(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """What is tried and how it is to go."""
        return [WrittenFeature(self.name, line.rest)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """No size: how it is to go."""
        wanted_by_trial(text)
        return Requirement(None, None, None, "line", COMMON_PRACTICE, said=text)


KIND = _ByTrial(
    name="by_trial",
    title="fit by trial",
    words=("trial",),
    material_side="two_sided",
    family="feel",
    measured_with="a mating part or gauge",
    example="plate wrings to slides",
    places=("mouth", "far end"),
)
