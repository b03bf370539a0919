"""Two cylinders pressed together: Lamé's solution for the pressure at the interface and what it does to both.

Source of every formula: Lamé's thick cylinders as in Shigley, Mechanical Engineering Design, 3-14 to 3-16 (10th ed.),
and DIN 7190-1:2017; rotating discs: Timoshenko, Strength of Materials, part II. Plane stress, elastic.
"""

from dataclasses import dataclass
from math import log, pi
from typing import Literal

from nomisma.core.errors import OutOfRange
from nomisma.core.materials.material import Material

SOURCE = "Lamé thick cylinders (Shigley, 3-14 to 3-16; DIN 7190-1:2017)"
Criterion = Literal["maximum_shear", "distortion_energy"]
CRITERION_WORDS: dict[str, str] = {
    "maximum_shear": "maximum shear stress (Tresca)",
    "distortion_energy": "distortion energy (von Mises)",
    "maximum_normal": "maximum normal stress (brittle)",
}


@dataclass(frozen=True, slots=True)
class Cylinders:
    """Inner cylinder (shaft or bush; bore 0 where solid) in an outer one (hub or housing); diameters in mm."""

    bore_mm: float
    interface_mm: float
    outer_mm: float
    inner: Material
    hub: Material

    @property
    def hub_ratio(self) -> float:
        """(D² + d²)/(D² − d²) of the hub."""
        big, small = self.outer_mm**2, self.interface_mm**2
        return (big + small) / (big - small)

    @property
    def inner_ratio(self) -> float:
        """(d² + b²)/(d² − b²) of the inner cylinder; 1 where solid."""
        big, small = self.interface_mm**2, self.bore_mm**2
        return (big + small) / (big - small)

    def pressure_mpa(self, interference_mm: float) -> float:
        """Pressure at the interface from an effective diametral interference (mm, ≥ 0). Source: Lamé.

        p = δ / (d·[(Kₕ + νₕ)/Eₕ + (Kᵢ − νᵢ)/Eᵢ]).
        """
        give = (self.hub_ratio + self.hub.poisson) / self.hub.e_mpa + (
            self.inner_ratio - self.inner.poisson
        ) / self.inner.e_mpa
        return interference_mm / (self.interface_mm * give)

    def interference_mm(self, pressure_mpa: float) -> float:
        """The diametral interference that gives a pressure. Source: Lamé, solved for δ."""
        return pressure_mpa / self.pressure_mpa(1.0)

    def hub_hoop_mpa(self, pressure_mpa: float) -> float:
        """Hoop tension at the hub's bore: p·Kₕ."""
        return pressure_mpa * self.hub_ratio

    def inner_hoop_mpa(self, pressure_mpa: float) -> float:
        """Hoop stress (compression, below zero) where it is greatest: at the bore, or throughout a solid shaft."""
        if self.bore_mm == 0:
            return -pressure_mpa
        return -2 * pressure_mpa * self.interface_mm**2 / (self.interface_mm**2 - self.bore_mm**2)

    def close_in_mm(self, pressure_mpa: float) -> float:
        """How much the inner cylinder's bore closes, on diameter: 2·p·d²·b/(E·(d² − b²)); 0 where solid."""
        return -self.inner_hoop_mpa(pressure_mpa) / self.inner.e_mpa * self.bore_mm

    def inner_squeeze_mm(self, pressure_mpa: float) -> float:
        """How much the inner cylinder's outside shrinks, on diameter: p·d·(Kᵢ − νᵢ)/E."""
        return pressure_mpa * self.interface_mm * (self.inner_ratio - self.inner.poisson) / self.inner.e_mpa

    def hub_growth_mm(self, pressure_mpa: float) -> float:
        """How much the hub's outside grows, on diameter: 2·p·d²·D/(E·(D² − d²))."""
        big, small = self.outer_mm**2, self.interface_mm**2
        return 2 * pressure_mpa * small * self.outer_mm / (self.hub.e_mpa * (big - small))

    def hub_stress_mpa(self, pressure_mpa: float, criterion: Criterion, *, spin_hoop_mpa: float = 0.0) -> float:
        """Equivalent stress at the hub's bore by the criterion; the hoop tension itself where the hub is brittle.

        `spin_hoop_mpa`: hoop tension from rotation, which is added to the hoop before the criterion judges it.
        """
        hoop = self.hub_hoop_mpa(pressure_mpa) + spin_hoop_mpa
        if self.hub.brittle:
            return hoop
        if criterion == "maximum_shear":
            return hoop + pressure_mpa
        return float((hoop**2 + hoop * pressure_mpa + pressure_mpa**2) ** 0.5)

    def inner_stress_mpa(self, pressure_mpa: float) -> float:
        """Equivalent stress where the inner cylinder is stressed most; the criteria agree there (one stress, or two
        alike).
        """
        return abs(self.inner_hoop_mpa(pressure_mpa))

    def hub_criterion(self, criterion: Criterion) -> str:
        """The criterion that judges the hub, in words."""
        return CRITERION_WORDS["maximum_normal" if self.hub.brittle else criterion]

    def greatest_pressure_mpa(self, criterion: Criterion) -> float:
        """The pressure at which the first of the two yields (or a brittle hub breaks)."""
        return min(self.hub_yield_pressure_mpa(criterion), self.inner.yield_mpa / self.inner_stress_mpa(1.0))

    def hub_yield_pressure_mpa(self, criterion: Criterion) -> float:
        """The pressure at which the hub's bore yields (or breaks, where it is brittle)."""
        return self.hub.yield_mpa / self.hub_stress_mpa(1.0, criterion)

    def inner_collapse_pressure_mpa(self) -> float:
        """The pressure at which a ring yields right through: σᵧ·ln(d/b). Source: plastic thick cylinder, Tresca."""
        return self.inner.yield_mpa * log(self.interface_mm / self.bore_mm)

    def axial_force_n(self, pressure_mpa: float, length_mm: float, friction: float) -> float:
        """F = µ·p·π·d·L. Source: DIN 7190-1."""
        return friction * pressure_mpa * pi * self.interface_mm * length_mm

    def torque_nm(self, pressure_mpa: float, length_mm: float, friction: float) -> float:
        """T = F·d/2, in newton metres. Source: DIN 7190-1."""
        return self.axial_force_n(pressure_mpa, length_mm, friction) * self.interface_mm / 2000

    def warmed_by_mm(self, temperature_c: float) -> float:
        """Change of the interference at a temperature: d·(αᵢ − αₕ)·(t − 20 °C)."""
        return self.interface_mm * (self.inner.alpha_per_k - self.hub.alpha_per_k) * (temperature_c - 20)

    def spun_off_mm(self, speed_rpm: float) -> float:
        """Interference lost to rotation, on diameter: the hub's bore grows more than the shaft. Source:
        rotating discs.
        """
        return 2 * (
            _disc_growth_mm(self.outer_mm, self.interface_mm, self.hub, speed_rpm) - _core_growth_mm(self, speed_rpm)
        )

    def spin_hoop_mpa(self, speed_rpm: float) -> float:
        """Hoop tension at the hub's bore from rotation alone: ρω²/4·[(3+ν)c² + (1−ν)b²]. Source: rotating discs."""
        grown = _disc_growth_mm(self.outer_mm, self.interface_mm, self.hub, speed_rpm)
        return grown / (self.interface_mm / 2) * self.hub.e_mpa


def _omega_squared(speed_rpm: float) -> float:
    return (speed_rpm * 2 * pi / 60) ** 2


def _disc_growth_mm(outer_mm: float, bore_mm: float, material: Material, speed_rpm: float) -> float:
    """Radial growth of a ring's bore (mm). ρ in t/mm³ keeps the result in mm and MPa."""
    density, outer, bore, nu = material.density_kg_m3 * 1e-12, outer_mm / 2, bore_mm / 2, material.poisson
    return (
        density * _omega_squared(speed_rpm) * bore / (4 * material.e_mpa) * ((3 + nu) * outer**2 + (1 - nu) * bore**2)
    )


def _core_growth_mm(joint: Cylinders, speed_rpm: float) -> float:
    """Radial growth of the inner cylinder's outside (mm)."""
    material, outer, bore = joint.inner, joint.interface_mm / 2, joint.bore_mm / 2
    density, nu = material.density_kg_m3 * 1e-12, material.poisson
    return (
        density * _omega_squared(speed_rpm) * outer / (4 * material.e_mpa) * ((3 + nu) * bore**2 + (1 - nu) * outer**2)
    )


def checked(joint: Cylinders, *, inner_word: str = "shaft", hub_word: str = "hub") -> Cylinders:
    """The cylinders, once their walls are above zero. Raises OutOfRange with the wall that is missing. Source:
    geometry.

    >>> from nomisma.core.materials.material import material_named
    >>> steel = material_named("carbon_steel")
    >>> checked(Cylinders(bore_mm=0, interface_mm=20, outer_mm=40, inner=steel, hub=steel)).outer_mm
    40
    """
    if joint.outer_mm <= joint.interface_mm:
        raise OutOfRange(
            f"The {hub_word} has no wall: its outside {joint.outer_mm:.4g} mm is not larger than its bore"
            f" {joint.interface_mm:.4g} mm.",
            f"Check the {hub_word}'s outside diameter and its unit.",
            field=f"{hub_word}_outer",
            value=f"{joint.outer_mm:.4g} mm",
        )
    if joint.bore_mm < 0 or joint.bore_mm >= joint.interface_mm:
        raise OutOfRange(
            f"The {inner_word} has no wall: its bore {joint.bore_mm:.4g} mm is not smaller than its outside"
            f" {joint.interface_mm:.4g} mm.",
            f"Check the {inner_word}'s bore; 0 means solid.",
            field=f"{inner_word}_inner",
            value=f"{joint.bore_mm:.4g} mm",
        )
    return joint
