"""How long flats are along the axis; milled elsewhere."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="flat_length",
    title="length of the flats",
    words=("flat-length",),
    material_side="internal",
    measured_with="caliper",
    instruments=("shaft", "both", "length"),
    usual=("caliper",),
    cut_as="elsewhere",
    places=("flat 1",),
)
