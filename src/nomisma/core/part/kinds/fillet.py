"""A fillet in a corner: its radius. It belongs to its shoulder, and the tool's nose must not be larger."""

from nomisma.core.part.edge_kind import EdgeKind

KIND = EdgeKind(
    name="fillet",
    title="fillet",
    sign="R",
    words=("fillet",),
    material_side="two_sided",
    toleranced="edge",
    measured_with="radius gauge",
    instruments=("shaft", "both", "length"),
    usual=("caliper",),
    both_ends="one",
    cut_as="fillet",
    example="0.5 ±0.1",
    places=("0°", "180°"),
)
