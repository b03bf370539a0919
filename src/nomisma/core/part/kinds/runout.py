"""Runout over a whole turn: highest less lowest."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="runout",
    title="runout",
    words=("runout", "tir"),
    material_side="upper_only",
    is_geometric=True,
    measured_with="indicator",
    instruments=("length",),
    usual=("indicator",),
    taken_as="difference",
    places=("near end", "middle", "far end"),
)
