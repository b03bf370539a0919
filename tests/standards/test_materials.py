"""The table of materials against handbook ranges and physics.

Source: ranges of Young's modulus, Poisson's ratio and linear expansion as machinists' and engineers' handbooks give
them (Machinery's Handbook tables of expansion and of elastic constants; CRC Handbook for total contraction to 77 K),
recalled.
"""

import pytest

from nomisma.core.errors import NotDefined
from nomisma.core.materials.material import Material, material_named, materials

# name: Young's modulus in GPa and expansion in µm/(m·K), least and greatest found in handbooks
HANDBOOK = {
    "mild_steel": (195, 210, 11.0, 12.5), "carbon_steel": (200, 210, 11.0, 12.2), "alloy_steel": (200, 210, 11.0, 13.0),
    "hardened_steel": (200, 215, 10.5, 12.5), "stainless_304": (190, 200, 16.0, 17.5),
    "stainless_416": (195, 205, 9.5, 11.0),
    "grey_iron": (80, 115, 10.0, 12.0), "ductile_iron": (160, 175, 10.5, 12.6), "bearing_bronze": (90, 110, 17.0, 19.0),
    "aluminium_bronze": (103, 125, 15.5, 17.5), "phosphor_bronze": (100, 112, 16.5, 18.5),
    "brass": (95, 105, 19.0, 21.0),
    "aluminium_6061": (68, 70, 23.0, 24.3), "cast_aluminium": (70, 75, 20.5, 22.5), "acetal": (2.5, 3.2, 80, 125),
}  # fmt: skip
every_material = pytest.mark.parametrize("material", materials().values(), ids=lambda material: material.name)


@every_material
def test_stiffness_and_expansion_lie_where_handbooks_put_them(material: Material) -> None:
    e_low, e_high, a_low, a_high = HANDBOOK[material.name]
    assert e_low <= material.e_mpa / 1000 <= e_high
    assert a_low <= material.alpha_per_k * 1e6 <= a_high


@every_material
def test_poissons_ratio_is_possible_and_usual(material: Material) -> None:
    assert 0.2 < material.poisson < 0.4


@every_material
def test_cold_metal_shrinks_less_for_each_degree(material: Material) -> None:
    """Expansion falls with temperature. Source: physics (Grüneisen)."""
    assert material.alpha_per_k > material.alpha_dry_ice_per_k > material.alpha_nitrogen_per_k


# Total contraction from 293 K to 77 K in percent. Source: CRC Handbook of Chemistry and Physics and cryogenic data,
# recalled.
CONTRACTION = {"stainless_304": 0.281, "aluminium_6061": 0.391, "brass": 0.353, "mild_steel": 0.197}


@pytest.mark.parametrize(("name", "percent"), CONTRACTION.items())
def test_contraction_in_liquid_nitrogen_is_near_the_published_one(name: str, percent: float) -> None:
    found = material_named(name).alpha_nitrogen_per_k * 216 * 100
    assert found == pytest.approx(percent, rel=0.06)


@every_material
def test_heat_and_density_follow_dulong_and_petit(material: Material) -> None:
    """About 25 J/(mol·K): density × specific heat of metals lies between 2.2 and 4.2 MJ/(m³·K). Source: Dulong and
    Petit.
    """
    if material.name != "acetal":
        assert 2.2e6 < material.density_kg_m3 * material.heat_j_kg_k < 4.2e6


def test_only_grey_iron_breaks_before_it_yields() -> None:
    assert [material.name for material in materials().values() if material.brittle] == ["grey_iron"]


def test_a_material_that_is_not_there_is_refused_with_the_list() -> None:
    with pytest.raises(NotDefined, match="“unobtainium” is not in the table of materials. Choose one of mild_steel"):
        material_named("unobtainium")
