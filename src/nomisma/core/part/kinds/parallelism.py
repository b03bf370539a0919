"""Parallelism of a face or an axis to another: highest less lowest."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="parallelism",
    title="parallelism",
    words=("parallel", "parallelism"),
    material_side="upper_only",
    is_geometric=True,
    may_be_to_a_face=True,
    measured_with="indicator",
    instruments=("length",),
    usual=("indicator",),
    taken_as="difference",
    places=("near end", "middle", "far end"),
)
