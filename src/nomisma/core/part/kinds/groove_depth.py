"""The depth of a groove, from the diameter it is cut in."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="groove_depth",
    title="groove depth",
    words=("groove-depth",),
    material_side="internal",
    measured_with="depth micrometer or caliper",
    instruments=("shaft", "both", "length"),
    usual=("depth_micrometer", "caliper"),
    ways=("less",),
    cut_as="with_another",
    places=("0°", "90°", "180°"),
)
