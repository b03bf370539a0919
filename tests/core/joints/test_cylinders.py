"""Lamé's cylinders, against the closed form of equal materials and against the stresses found numerically."""

from math import pi

import pytest

from nomisma.core.errors import OutOfRange
from nomisma.core.joints.cylinders import Cylinders, checked
from nomisma.core.materials.material import material_named

STEEL = material_named("carbon_steel")
SOLID = Cylinders(bore_mm=0, interface_mm=20, outer_mm=40, inner=STEEL, hub=STEEL)
BUSH = Cylinders(bore_mm=12, interface_mm=20, outer_mm=40, inner=STEEL, hub=STEEL)


def test_a_solid_shaft_in_a_hub_of_its_own_steel_presses_by_the_closed_form() -> None:
    """Shigley, Mechanical Engineering Design, press fits of one material (recalled): p = E·δ·(D² − d²)/(2·d·D²)."""
    delta = 0.02
    wanted = STEEL.e_mpa * delta * (40**2 - 20**2) / (2 * 20 * 40**2)
    assert SOLID.pressure_mpa(delta) == pytest.approx(wanted, rel=1e-12)


@pytest.mark.parametrize("joint", [SOLID, BUSH])
def test_an_interference_gives_the_pressure_that_gives_it_back(joint: Cylinders) -> None:
    assert joint.interference_mm(joint.pressure_mpa(0.031)) == pytest.approx(0.031)


@pytest.mark.parametrize("joint", [SOLID, BUSH])
def test_what_the_inner_gives_and_the_hub_opens_is_the_interference(joint: Cylinders) -> None:
    """The bore opens by p·d·(Kₕ + ν)/E: with the inner's squeeze that is the whole of δ."""
    pressure = joint.pressure_mpa(0.03)
    opens = pressure * joint.interface_mm * (joint.hub_ratio + joint.hub.poisson) / joint.hub.e_mpa
    assert opens + joint.inner_squeeze_mm(pressure) == pytest.approx(0.03)


def test_the_hoop_of_the_hub_balances_the_pressure_on_half_of_it() -> None:
    """The hoop over the wall, σ(r) = A + B/r² found from its value at the bore, adds up to p·d/2 a millimetre
    (statics).
    """
    pressure, inner, outer = 50.0, 10.0, 20.0
    b = pressure * inner**2 * outer**2 / (outer**2 - inner**2)
    a = SOLID.hub_hoop_mpa(pressure) - b / inner**2
    steps = 20_000
    width = (outer - inner) / steps
    total = sum((a + b / (inner + (n + 0.5) * width) ** 2) * width for n in range(steps))
    assert total == pytest.approx(pressure * inner, rel=1e-6)


def test_a_thin_bush_closes_by_hoop_strain_of_its_mean_ring() -> None:
    """A ring of 1 mm wall on 100: hoop p·r/t over E times the diameter, to the thickness over the radius."""
    thin = Cylinders(bore_mm=98, interface_mm=100, outer_mm=200, inner=STEEL, hub=STEEL)
    assert thin.close_in_mm(5.0) == pytest.approx(5.0 * 50 / 1 / STEEL.e_mpa * 98, rel=0.03)


def test_the_torque_is_the_force_at_half_the_diameter() -> None:
    force = SOLID.axial_force_n(60, 30, 0.12)
    assert force == pytest.approx(0.12 * 60 * pi * 20 * 30)
    assert SOLID.torque_nm(60, 30, 0.12) == pytest.approx(force * 10 / 1000)


def test_maximum_shear_is_never_kinder_than_distortion_energy() -> None:
    assert (
        SOLID.hub_stress_mpa(40, "maximum_shear")
        > SOLID.hub_stress_mpa(40, "distortion_energy")
        > SOLID.hub_hoop_mpa(40)
    )


def test_where_the_pressure_is_greatest_the_first_of_the_two_just_yields() -> None:
    pressure = BUSH.greatest_pressure_mpa("maximum_shear")
    uses = (BUSH.hub_stress_mpa(pressure, "maximum_shear"), BUSH.inner_stress_mpa(pressure))
    assert max(uses) == pytest.approx(STEEL.yield_mpa)


def test_rotation_loosens_with_the_square_of_the_speed() -> None:
    assert SOLID.spun_off_mm(6000) == pytest.approx(4 * SOLID.spun_off_mm(3000))


@pytest.mark.parametrize(("bore", "outer", "sentence"), [(0, 20, "hub has no wall"), (20, 40, "shaft has no wall")])
def test_a_wall_that_is_none_is_named(bore: float, outer: float, sentence: str) -> None:
    with pytest.raises(OutOfRange, match=sentence):
        checked(Cylinders(bore_mm=bore, interface_mm=20, outer_mm=outer, inner=STEEL, hub=STEEL))
