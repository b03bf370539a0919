"""A depth from a face: of the bore before it, or of a recess."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="depth",
    title="depth",
    words=("depth", "deep"),
    material_side="internal",
    is_along=True,
    measured_with="depth micrometer",
    instruments=("both", "length"),
    usual=("depth_micrometer", "caliper"),
    ways=("pile",),
    coached_by="carriage",
    cut_as="with_another",
    places=("0°", "120°", "240°"),
)
