"""A width or a thickness across."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="width",
    title="width",
    words=("width", "thickness", "thick"),
    classed_as="shaft",
    material_side="external",
    measured_with="micrometer",
    instruments=("shaft", "both"),
    usual=("micrometer", "caliper"),
    places=("0°", "180°"),
)
