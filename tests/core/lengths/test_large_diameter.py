"""A large diameter by chord or rollers, against a circle it is taken from."""

from math import sqrt
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.large_diameter import LargeDiameterResult
from nomisma.core.registry import calculation_named


def large(**given: Any) -> LargeDiameterResult:
    found = calculation_named("large_diameter").run(given)
    assert isinstance(found, LargeDiameterResult)
    return found


@given(st.floats(100, 2000), st.floats(0.05, 0.49))
def test_a_chord_of_a_circle_gives_it_back(diameter: float, share: float) -> None:
    height = diameter * share
    chord = 2 * sqrt(height * (diameter - height))
    assert float(large(chord=f"{chord:.9f} mm", height=f"{height:.9f} mm").diameter.mm) == pytest.approx(
        diameter, rel=1e-6
    )


@given(st.floats(100, 2000), st.floats(0.02, 0.2))
def test_two_rollers_beside_it_give_it_back(diameter: float, share: float) -> None:
    """Centres of a roller and of the round, both on a plate: their distance is the sum of the radii, by Pythagoras."""
    roller = diameter * share
    along = sqrt(((diameter + roller) / 2) ** 2 - ((diameter - roller) / 2) ** 2)
    found = large(by="rollers", over=f"{2 * along + roller:.9f} mm", roller=f"{roller:.9f} mm")
    assert float(found.diameter.mm) == pytest.approx(diameter, rel=1e-6)


def test_what_the_reading_is_worth_is_blown_up_by_the_slope() -> None:
    """Numerically: the same with a height 1 µm larger."""
    first, second = (large(chord="300 mm", height=f"{height} mm").diameter.mm for height in ("40", "40.001"))
    found = large(chord="300 mm", height="40 mm", reading_uncertainty="0.001 mm")
    assert found.uncertainty
    assert float(found.uncertainty.mm) == pytest.approx(abs(float(second - first)), rel=1e-3)


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"chord": "80 mm"}, "height"),
        ({"chord": "80 mm", "height": "41 mm"}, "height"),
        ({"by": "rollers", "over": "40 mm", "roller": "20 mm"}, "over"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(given: dict[str, str], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        large(**given)
    assert refused.value.errors[0].field == field
