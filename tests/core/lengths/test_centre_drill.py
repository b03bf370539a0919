"""Centre drills: sizes in order, and the depth for a mouth."""

from itertools import pairwise
from math import radians, tan

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.centre_drill import CentreDrillResult, centre_drills
from nomisma.core.registry import calculation_named


def test_pilot_and_body_grow_together_and_a_body_is_two_to_three_and_a_half_pilots() -> None:
    for unit in ("in", "mm"):
        own = [one for one in centre_drills() if one.unit == unit]
        assert all(
            first.pilot_mm < second.pilot_mm and first.body_mm < second.body_mm for first, second in pairwise(own)
        )
        assert all(2.2 < one.body_mm / one.pilot_mm < 3.3 for one in own)


@pytest.mark.parametrize("mouth", ["0.1 in", "0.25 in", "0.4 in", "0.6 in"])
def test_the_mouth_is_that_of_a_60_degree_cone_so_deep(mouth: str) -> None:
    found = calculation_named("centre_drill").run({"mouth": mouth, "unit": "in"})
    assert isinstance(found, CentreDrillResult)
    drill = next(one for one in centre_drills() if one.name == found.drill)
    cone = float(found.depth.mm - drill.pilot_mm)
    assert float(drill.pilot_mm) + 2 * cone * tan(radians(30)) == pytest.approx(float(found.mouth.mm), abs=1e-6)
    assert drill.pilot_mm < found.mouth.mm < drill.body_mm


@pytest.mark.parametrize("given", [{}, {"mouth": "3 in"}, {"mouth": "1 in", "work": "0.5 in"}])
def test_a_mouth_no_drill_makes_is_told(given: dict[str, str]) -> None:
    with pytest.raises(BadInput) as refused:
        calculation_named("centre_drill").run({"unit": "in", **given})
    assert refused.value.errors[0].field == "mouth"
