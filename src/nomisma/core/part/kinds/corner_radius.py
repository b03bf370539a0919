"""A radius at a corner."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="corner_radius",
    title="corner radius",
    words=("rad", "radius", "fillet"),
    material_side="two_sided",
    toleranced="edge",
    measured_with="radius gauge",
    instruments=("shaft", "both", "length"),
    usual=("caliper",),
    both_ends="one",
    cut_as="edge",
    places=("0°", "180°"),
)
