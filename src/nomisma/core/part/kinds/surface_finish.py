"""A surface finish, Ra, compared with a piece by eye and nail."""

from dataclasses import dataclass

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.quantity.fields import roughness_um
from nomisma.core.quantity.length import Unit
from nomisma.core.working import COMMON_PRACTICE


@dataclass(frozen=True, kw_only=True)
class _SurfaceFinish(FeatureKind):
    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """Its roughness at most."""
        ra_um = roughness_um(text.removesuffix("max").strip(), unit)
        return Requirement(None, None, None, "line", COMMON_PRACTICE, roughness_ra_um=ra_um)


KIND = _SurfaceFinish(
    name="surface_finish",
    title="surface finish",
    sign="Ra ",
    words=("ra", "finish"),
    material_side="upper_only",
    family="roughness",
    measured_with="comparison piece",
    example="1.6",
    places=("near end", "middle", "far end"),
)
