"""A thread inside: a nut, a tapped hole; tried with a go and a no-go gauge, or with the mate."""

from dataclasses import dataclass

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.thread_feature import INSIDE, ThreadKind, nominal_pitch_diameter, thread_in_line
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit
from nomisma.core.threads.of_class import limits_of
from nomisma.core.working import COMMON_PRACTICE


@dataclass(frozen=True, kw_only=True)
class _InsideThread(ThreadKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """A hole and the thread in it."""
        return thread_in_line(line, self.side)

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """No size that is read: a gauge tries it; the limits of its pitch diameter are what the gauge is made to."""
        said = self.of_text(text, unit)
        limits = limits_of(said, self.side)
        return Requirement(
            nominal_pitch_diameter(said),
            None,
            None,
            "code" if limits else "line",
            limits.source if limits else COMMON_PRACTICE,
            said=said.words,
        )


KIND: FeatureKind = _InsideThread(
    name=INSIDE,
    title="inside thread",
    side="inside",
    words=("tap", "tapped"),
    material_side="two_sided",
    family="gauge",
    is_diameter=True,
    measured_with="a go and a no-go plug gauge",
    cut_as="thread",
    cut_on="bore",
    lays=6,
    example="M20x1.5 6H",
    places=("mouth", "far end"),
)
