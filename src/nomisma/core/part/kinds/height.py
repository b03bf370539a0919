"""A height over a face, of the boss before it: short of it there is metal to go, for the face is cut deeper."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="height",
    title="height",
    words=("height", "high"),
    material_side="internal",
    is_along=True,
    measured_with="depth micrometer",
    instruments=("shaft", "both", "length"),
    usual=("depth_micrometer", "caliper"),
    ways=("pile",),
    coached_by="carriage",
    cut_as="with_another",
    places=("0°", "120°", "240°"),
)
