"""Concentricity to an axis, taken as what the needle swings over a whole turn."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="concentricity",
    title="concentricity",
    words=("concentric", "concentricity", "coaxial"),
    material_side="upper_only",
    is_geometric=True,
    measured_with="indicator",
    instruments=("length",),
    usual=("indicator",),
    taken_as="difference",
    places=("near end", "middle", "far end"),
)
