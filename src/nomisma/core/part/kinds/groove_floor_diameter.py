"""The diameter of a groove's floor."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="groove_floor_diameter",
    title="groove floor diameter",
    words=("floor",),
    material_side="external",
    is_diameter=True,
    measured_with="micrometer with blades",
    instruments=("shaft", "both"),
    usual=("micrometer", "caliper"),
    coached_by="cross_slide",
    cut_as="with_another",
    places=("0°", "90°"),
)
