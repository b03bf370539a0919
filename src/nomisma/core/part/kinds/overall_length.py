"""The overall length, from face to face, whatever stands before it."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="overall_length",
    title="overall length",
    words=("overall", "oal", "o.a.l."),
    material_side="external",
    is_along=True,
    is_whole=True,
    may_be_whole=True,
    measured_with="caliper or depth micrometer",
    instruments=("shaft", "both", "length"),
    usual=("caliper", "micrometer", "depth_micrometer"),
    ways=("pile",),
    coached_by="carriage",
    cut_as="with_another",
    places=("0°", "120°", "240°"),
)
