"""A wall between an outside and a bore."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="wall",
    title="wall",
    words=("wall",),
    material_side="external",
    measured_with="tube micrometer",
    instruments=("shaft", "both"),
    usual=("micrometer", "caliper"),
    places=("0°", "90°", "180°", "270°"),
)
