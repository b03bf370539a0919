"""A length along the axis: of the step before it, or of the whole part."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="length",
    title="length",
    words=("length", "long", "len"),
    material_side="external",
    is_along=True,
    may_be_whole=True,
    measured_with="caliper or depth micrometer",
    instruments=("shaft", "both", "length"),
    usual=("caliper", "micrometer", "depth_micrometer"),
    ways=("pile",),
    coached_by="carriage",
    cut_as="with_another",
    places=("0°", "120°", "240°"),
)
