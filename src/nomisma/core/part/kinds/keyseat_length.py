"""The length of a keyseat; milled elsewhere."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="keyseat_length",
    title="keyseat length",
    words=("keyseat-length",),
    material_side="internal",
    measured_with="caliper",
    instruments=("both", "length"),
    usual=("caliper",),
    cut_as="elsewhere",
    places=("along it",),
)
