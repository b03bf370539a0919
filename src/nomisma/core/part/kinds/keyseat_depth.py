"""The depth of a keyseat; milled elsewhere."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="keyseat_depth",
    title="keyseat depth",
    words=("keyseat-depth",),
    material_side="internal",
    measured_with="caliper from the far side, the diameter taken off",
    instruments=("shaft", "both", "length"),
    usual=("caliper", "depth_micrometer"),
    cut_as="elsewhere",
    places=("near end", "far end"),
)
