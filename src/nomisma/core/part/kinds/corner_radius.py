"""An edge rounded outside: its radius."""

from nomisma.core.part.edge_kind import EdgeKind

KIND = EdgeKind(
    name="corner_radius",
    title="rounded edge",
    sign="R",
    words=("rad", "radius", "rounded"),
    material_side="two_sided",
    toleranced="edge",
    measured_with="radius gauge",
    instruments=("shaft", "both", "length"),
    usual=("caliper",),
    both_ends="one",
    cut_as="edge",
    example="0.5 ±0.1",
    places=("0°", "180°"),
)
