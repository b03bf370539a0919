"""The depth of a keyseat; milled elsewhere."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="keyseat_depth",
    title="keyseat depth",
    words=("keyseat-depth",),
    material_side="internal",
    measured_with="the diameter, less a caliper from the far side",
    instruments=("shaft", "both", "length"),
    usual=("caliper", "depth_micrometer"),
    ways=("less",),
    cut_as="elsewhere",
    places=("near end", "far end"),
)
