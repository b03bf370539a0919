"""Where something lies: how far from a face."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="position",
    title="position",
    words=("position",),
    material_side="two_sided",
    is_along=True,
    measured_with="depth micrometer",
    instruments=("shaft", "both", "length"),
    usual=("depth_micrometer", "caliper", "height_gauge"),
    ways=("pile",),
    coached_by="carriage",
    cut_as="with_another",
    places=("0°", "120°", "240°"),
)
