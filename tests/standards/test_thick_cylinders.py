"""Lamé's thick cylinders: textbook examples, the limits of a thin wall and of a rigid housing, and a second solution.

Sources are named at each check. Book examples are recalled: their numbers were put through the book's formulae again
here.
"""

from math import pi, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_bvp
from scipy.optimize import brentq

from nomisma.core.joints.close_in import close_in
from nomisma.core.joints.cylinders import Cylinders
from nomisma.core.materials.material import Material, material_named


def made_of(e_mpa: float, poisson: float, *, density: float = 7850.0, strength: float = 1e9) -> Material:
    return Material("test", "Test", e_mpa, poisson, 12e-6, 11e-6, 9e-6, density, 480.0, strength, False, 300.0, ())


STEEL = made_of(207_000, 0.292)
diameters = st.tuples(st.floats(5, 200), st.floats(0.05, 0.9), st.floats(1.1, 5))


def joint(bore: float, interface: float, outer: float, inner: Material = STEEL, hub: Material = STEEL) -> Cylinders:
    return Cylinders(bore, interface, outer, inner, hub)


def test_one_material_and_a_solid_shaft_give_the_short_formula() -> None:
    """p = E·δ/(2·d³)·(D² − d²)(d² − b²)/(D² − b²). Source: Shigley, Mechanical Engineering Design, 10th ed.,
    eq. 3-57.
    """
    d, b, big, interference = 50.0, 20.0, 90.0, 0.04
    book = 207_000 * interference / (2 * d**3) * (big**2 - d**2) * (d**2 - b**2) / (big**2 - b**2)
    assert joint(b, d, big).pressure_mpa(interference) == pytest.approx(book, rel=1e-12)


def test_a_textbook_collar_on_a_shaft() -> None:
    """A steel collar 3 in outside on a 1.5 in solid steel shaft, 0.0015 in interference, E = 30 Mpsi.

    Source: the worked press-fit problem type of Juvinall and Marshek, Fundamentals of Machine Component Design, and
    Shigley 3-16: p = E·δ·(1 − (d/D)²)/(2·d) for one material and a solid shaft = 11.25 kpsi; hoop at the bore 5/3·p =
    18.75 kpsi.
    """
    psi = 0.00689475729
    steel = made_of(30e6 * psi, 0.29)
    found = joint(0, 1.5 * 25.4, 3 * 25.4, steel, steel)
    pressure = found.pressure_mpa(0.0015 * 25.4)
    assert pressure / psi == pytest.approx(11_250, rel=1e-6)
    assert found.hub_hoop_mpa(pressure) / psi == pytest.approx(18_750, rel=1e-6)


def test_a_textbook_torque() -> None:
    """T = µ·p·π·d²·L/2: that collar 2 in long with µ = 0.12 carries 9543 lbf·in. Source: Shigley 3-16; by hand."""
    newton_metre_per_lbf_in = 0.1129848
    torque = joint(0, 38.1, 76.2).torque_nm(11_250 * 0.00689475729, 50.8, 0.12)
    by_hand = 0.12 * 11_250 * pi * 1.5**2 * 2 / 2
    assert torque / newton_metre_per_lbf_in == pytest.approx(by_hand, rel=1e-6)
    assert by_hand == pytest.approx(9543, abs=1)


@given(diameters, st.floats(1, 100))
def test_stresses_solve_the_thick_wall_equation(sizes: tuple[float, float, float], pressure: float) -> None:
    """Lamé: σr = A − B/r², σθ = A + B/r² with σr(d/2) = −p and σr(D/2) = 0. Source: any strength of materials text."""
    d, _, ratio = sizes
    r1, r2 = d / 2, d * ratio / 2
    constants = np.linalg.solve(np.array([[1, -1 / r1**2], [1, -1 / r2**2]]), np.array([-pressure, 0.0]))
    assert joint(0, d, d * ratio).hub_hoop_mpa(pressure) == pytest.approx(constants[0] + constants[1] / r1**2, rel=1e-9)


def test_the_pressure_is_that_of_the_differential_equation() -> None:
    """u'' + u'/r − u/r² = 0 solved numerically in both rings until the gap at the interface is the interference.

    Source: equilibrium and Hooke's law in plane stress; scipy.integrate.solve_bvp as the general library.
    """
    bronze = made_of(100_000, 0.34)
    d, b, big, interference = 20.0, 12.0, 45.0, 0.03

    def growth(material: Material, inside: float, outside: float, p_in: float, p_out: float, at: float) -> float:
        e, nu = material.e_mpa, material.poisson

        def stress(r: float, u: float, slope: float) -> float:
            return e / (1 - nu**2) * (slope + nu * u / r)

        radii = np.linspace(inside, outside, 60)
        solved = solve_bvp(
            lambda r, y: np.vstack((y[1], y[0] / r**2 - y[1] / r)),
            lambda ya, yb: np.array([stress(inside, ya[0], ya[1]) + p_in, stress(outside, yb[0], yb[1]) + p_out]),
            radii,
            np.zeros((2, radii.size)),
            tol=1e-9,
        )
        return float(solved.sol(at)[0])

    def misfit(pressure: float) -> float:
        hub = growth(STEEL, d / 2, big / 2, pressure, 0.0, d / 2)
        bush = growth(bronze, b / 2, d / 2, 0.0, pressure, d / 2)
        return 2 * (hub - bush) - interference

    found = joint(b, d, big, bronze, STEEL)
    pressure = float(brentq(misfit, 1.0, 400.0, xtol=1e-6))
    assert found.pressure_mpa(interference) == pytest.approx(pressure, rel=1e-4)
    closed = -2 * growth(bronze, b / 2, d / 2, 0.0, pressure, b / 2)
    assert found.close_in_mm(pressure) == pytest.approx(closed, rel=1e-4)


@given(st.floats(0.001, 0.02))
def test_a_thin_ring_carries_the_boiler_formula(wall_share: float) -> None:
    """σ = p·d/(2·t) as the wall thins. Source: thin-wall pressure vessel formula."""
    d = 100.0
    wall = wall_share * d
    assert joint(0, d, d + 2 * wall).hub_hoop_mpa(1.0) == pytest.approx(d / (2 * wall), rel=2 * wall_share + 0.02)


def test_a_thin_bush_in_a_rigid_housing_closes_in_by_nearly_all_of_the_interference() -> None:
    """The bush's outside must shrink by all of it; its bore by nearly as much. Source: limit of Lamé; CP 70
    to 100 %.
    """
    rigid = made_of(1e12, 0.3)
    for wall_share, least, most in ((0.01, 0.99, 1.02), (0.05, 0.97, 1.06), (0.15, 0.95, 1.10)):
        bore = 20.0 * (1 - 2 * wall_share)
        found = joint(bore, 20.0, 1e5, made_of(100_000, 0.34), rigid)
        assert least < found.close_in_mm(found.pressure_mpa(0.02)) / 0.02 < most, wall_share


def test_a_bronze_bush_in_a_steel_housing_closes_in_by_what_practice_says() -> None:
    """70 to 100 % of the interference. Source: common practice, no source."""
    found = joint(0.5 * 25.4, 0.75 * 25.4, 2 * 25.4, material_named("bearing_bronze"), material_named("carbon_steel"))
    closed = found.close_in_mm(found.pressure_mpa(0.0254))
    assert 0.7 < closed / 0.0254 < 1.0


@given(diameters, st.floats(0.0005, 0.001))
def test_doubling_the_interference_doubles_everything(sizes: tuple[float, float, float], share: float) -> None:
    d, bore_share, ratio = sizes
    found = joint(d * bore_share, d, d * ratio)
    once, twice = (found.pressure_mpa(d * share * n) for n in (1, 2))
    assert twice == pytest.approx(2 * once)
    assert found.close_in_mm(twice) == pytest.approx(2 * found.close_in_mm(once))
    assert found.interference_mm(once) == pytest.approx(d * share)


@given(diameters)
def test_what_the_hub_and_the_bush_give_adds_up_to_the_interference(sizes: tuple[float, float, float]) -> None:
    """δ = growth of the hub's bore + shrinkage of the bush's outside. Source: compatibility."""
    d, bore_share, ratio = sizes
    found = joint(d * bore_share, d, d * ratio)
    pressure = found.pressure_mpa(0.001 * d)
    hub_bore_grows = pressure * d * (found.hub_ratio + found.hub.poisson) / found.hub.e_mpa
    assert hub_bore_grows + found.inner_squeeze_mm(pressure) == pytest.approx(0.001 * d)


@given(diameters)
def test_distortion_energy_never_asks_for_more_than_maximum_shear(sizes: tuple[float, float, float]) -> None:
    """Tresca is the cautious one, by at most 2/√3. Source: any strength of materials text."""
    d, _, ratio = sizes
    found = joint(0, d, d * ratio)
    tresca, mises = (found.hub_stress_mpa(50.0, criterion) for criterion in ("maximum_shear", "distortion_energy"))
    assert mises <= tresca <= mises * 2 / sqrt(3) * (1 + 1e-12)


def test_a_spinning_disc_carries_the_textbook_stress() -> None:
    """σ = ρω²/4·[(3+ν)c² + (1−ν)b²]; a hole however small doubles the (3+ν)/8·ρω²c² of a solid disc.

    Source: Timoshenko, Strength of Materials, part II, rotating discs.
    """
    omega = 2 * pi * 6000 / 60
    found = joint(0, 0.02, 400.0)
    solid = (3 + 0.292) / 8 * 7850 * omega**2 * 0.2**2 / 1e6
    assert found.spin_hoop_mpa(6000) == pytest.approx(2 * solid, rel=1e-4)


@given(diameters, st.floats(1000, 20000))
def test_rotation_never_tightens_a_joint_of_one_material(sizes: tuple[float, float, float], speed: float) -> None:
    d, _, ratio = sizes
    assert joint(0, d, d * ratio).spun_off_mm(speed) >= 0


def test_a_yielding_bush_is_bounded_not_guessed() -> None:
    """Between the elastic sum and a ring that keeps its area. Source: plastic flow at constant volume."""
    found = joint(9.525, 12.7, 25.4, material_named("bearing_bronze"), material_named("carbon_steel"))
    one = close_in(found, 0.0254, 1.0)
    assert one.bush_yields
    assert 0.7 * 0.0254 < one.least_mm < one.greatest_mm < 0.0254 * 12.7 / 9.525
    assert not close_in(found, 0.005, 1.0).bush_yields
