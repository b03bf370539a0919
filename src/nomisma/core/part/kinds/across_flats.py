"""A size across flats; milled elsewhere."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="across_flats",
    title="size across flats",
    words=("flats", "across-flats", "af"),
    material_side="external",
    classed_as="shaft",
    second=dict.fromkeys(("flats", "across-flats", "af"), "flat_length"),
    measured_with="micrometer or caliper",
    instruments=("shaft", "both"),
    cut_as="elsewhere",
    places=("pair 1",),
)
