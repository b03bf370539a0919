"""A material of the tables, or of ones own."""

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.materials.material import material_named
from tests.core.test_joints import press

OWN = "own E=205 nu=0.29 alpha=11.7 yield=310"


def test_a_material_of_ones_own_answers_as_the_tables_does() -> None:
    """Medium carbon steel's own figures in and out of the table give the same pressure."""
    table = material_named("carbon_steel")
    own = (
        f"own E={table.e_mpa / 1000:g} nu={table.poisson:g} alpha={table.alpha_per_k * 1e6:g} yield={table.yield_mpa:g}"
    )
    mine, tables = (
        press(hub_material=own, shaft_material=own),
        press(hub_material="carbon_steel", shaft_material="carbon_steel"),
    )
    assert [case.pressure_mpa for case in mine.cases] == pytest.approx([case.pressure_mpa for case in tables.cases])


@pytest.mark.parametrize(
    ("text", "sentence"),
    [("own", "does not say all"), (OWN.replace("E=205", ""), "does not say all"),
        (f"{OWN} colour=3", "does not say all"),
     (OWN.replace("205", "205000"), "E in GPa: 205000 is outside"), (OWN.replace("0.29", "0.6"), "Poisson's ratio"),
     (OWN.replace("310", "3.1.0"), "is not a number"), ("unobtainium", "or give your own")],
)  # fmt: skip
def test_what_is_no_material_of_ones_own_has_its_sentence(text: str, sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        press(hub_material=text)
