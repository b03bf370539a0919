"""The diameter of the inner wall of a groove in a face."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="face_groove_inside",
    title="face groove inner diameter",
    words=("face-groove-inside",),
    material_side="external",
    is_diameter=True,
    long_by=("depth",),
    measured_with="caliper",
    instruments=("shaft", "both"),
    usual=("caliper",),
    coached_by="cross_slide",
    cut_as="with_another",
    places=("0°", "90°"),
)
