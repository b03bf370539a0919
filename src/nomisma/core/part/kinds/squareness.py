"""Squareness of a face to an axis, over a whole turn or across the face."""

from nomisma.core.part.kind import FeatureKind

KIND = FeatureKind(
    name="squareness",
    title="squareness",
    words=("square", "squareness", "perpendicular"),
    material_side="upper_only",
    is_geometric=True,
    may_be_to_a_face=True,
    measured_with="indicator",
    instruments=("length",),
    usual=("indicator",),
    taken_as="difference",
    places=("near end", "middle", "far end"),
)
