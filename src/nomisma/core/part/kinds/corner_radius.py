"""An edge rounded outside: its radius."""

from dataclasses import dataclass

from nomisma.core.part.edge_kind import EdgeKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.quantity.length import Unit


@dataclass(frozen=True, kw_only=True)
class _RoundedEdge(EdgeKind):
    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """Its radius's limits."""
        return self.leg(text, unit, held)


KIND = _RoundedEdge(
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
