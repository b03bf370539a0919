"""A hub on a shaft, as every interference joint is given: sizes, length and materials."""

from decimal import Decimal

from nomisma.core.joints.cylinders import Cylinders, checked
from nomisma.core.materials.material import material_named
from nomisma.core.model import Model
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit


class HubOnShaft(Model):
    """Diameter of the joint, outside of the hub, bore of the shaft (0: solid), length, materials; `unit` of the
    sentences.
    """

    interface_diameter: Size
    hub_outer: Size
    shaft_inner: Difference = Length(Decimal(0))
    length: Size
    hub_material: str = "carbon_steel"
    shaft_material: str = "carbon_steel"
    unit: Unit | None = None

    @property
    def cylinders(self) -> Cylinders:
        """The two as cylinders, mm. Raises OutOfRange where a wall is missing, NotDefined for a material."""
        return checked(
            Cylinders(
                float(self.shaft_inner.mm),
                float(self.interface_diameter.mm),
                float(self.hub_outer.mm),
                material_named(self.shaft_material, field="shaft_material"),
                material_named(self.hub_material, field="hub_material"),
            )
        )

    @property
    def shown_unit(self) -> Unit:
        """The unit asked for, else the one the diameter was written in."""
        return self.unit or self.interface_diameter.unit
