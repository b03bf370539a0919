"""The length of a step from its free end to a shoulder: short of it there is metal to go."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="step_length",
    title="step length",
    words=("step-length",),
    material_side="internal",
    is_along=True,
    measured_with="depth micrometer or caliper",
    instruments=("shaft", "both", "length"),
    usual=("depth_micrometer", "caliper"),
    ways=("pile",),
    coached_by="carriage",
    cut_as="with_another",
    places=("0°", "120°", "240°"),
)
