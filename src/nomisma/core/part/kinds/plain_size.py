"""A size of which nobody said what it is of."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="plain_size",
    title="size",
    material_side="two_sided",
    measured_with="caliper",
    instruments=("shaft", "bore", "both", "length"),
    usual=("caliper", "micrometer"),
    places=("0°", "90°"),
)
