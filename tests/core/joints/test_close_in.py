"""How much a bush closes in: elastic by Lamé, and bounded by a ring of constant area where it yields."""

from dataclasses import replace
from decimal import Decimal
from math import sqrt

import pytest

from nomisma.core.errors import OutOfRange
from nomisma.core.joints.close_in import check_housing, close_in
from nomisma.core.joints.cylinders import Cylinders
from nomisma.core.materials.material import material_named

JOINT = Cylinders(
    bore_mm=16, interface_mm=20, outer_mm=60, inner=material_named("bearing_bronze"), hub=material_named("carbon_steel")
)


def test_a_light_press_closes_in_by_its_pressure_and_both_ends_agree() -> None:
    found = close_in(JOINT, 0.01, 1.0)
    assert not found.bush_yields
    assert found.least_mm == found.greatest_mm == pytest.approx(JOINT.close_in_mm(JOINT.pressure_mpa(0.01)))


def test_what_the_shop_saw_scales_it() -> None:
    assert close_in(JOINT, 0.01, 0.8).greatest_mm == pytest.approx(0.8 * close_in(JOINT, 0.01, 1.0).greatest_mm)


def test_a_bush_that_yields_has_a_least_and_a_greatest() -> None:
    found = close_in(JOINT, 0.2, 1.0)
    assert found.bush_yields
    assert found.least_mm < found.greatest_mm


def test_a_ring_of_constant_area_is_the_bound_where_the_housing_is_stiff() -> None:
    """In a housing that does not give, the outside shrinks by δ: the bore by what keeps d² − b² as it was."""
    stiff = replace(JOINT, outer_mm=2000, hub=replace(JOINT.hub, e_mpa=1e9))
    delta = 0.1
    bore_after = sqrt(16**2 + (20 - delta) ** 2 - 20**2)
    assert close_in(stiff, delta, 1.0).greatest_mm == pytest.approx(16 - bore_after, rel=0.01)


def test_more_interference_never_closes_in_less() -> None:
    closes = [close_in(JOINT, um / 1000, 1.0).greatest_mm for um in range(0, 200, 5)]
    assert closes == sorted(closes)


def test_a_housing_that_cannot_stand_it_says_what_it_stands() -> None:
    weak = Cylinders(16, 20, 22, JOINT.inner, material_named("carbon_steel"))
    found = [close_in(weak, one, 1.0) for one in (0.05, 0.4)]
    with pytest.raises(OutOfRange, match="The housing would yield"):
        check_housing(weak, found, [0.05, 0.4], Decimal(0), "mm")
