"""Sizes at the bench brought to 20 °C, there and back."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.materials.material import materials
from nomisma.core.materials.temperature import at_20_c, check_measured_at, growth


@given(st.decimals("1", "500", places=3), st.decimals("-10", "80", places=1), st.sampled_from(sorted(materials())))
def test_a_warm_part_is_smaller_at_20_degrees_by_what_it_grew(size: Decimal, warm: Decimal, material: str) -> None:
    cold = at_20_c(size, warm, material)
    assert float(cold * growth(warm, material)) == pytest.approx(float(size), rel=1e-9)
    assert (cold < size) == (warm > 20)


# Source: textbook figure for steel, 11.5 µm/m·K to the handbook's rounding: 100 mm, 10 K warmer, 11 to 12 µm.
def test_steel_grows_eleven_and_a_half_microns_in_a_tenth_of_a_metre_and_ten_degrees() -> None:
    assert Decimal("0.011") <= Decimal(100) * (growth(Decimal(30), "carbon_steel") - 1) <= Decimal("0.012")


@pytest.mark.parametrize("temperature", ["-300", "900"])
def test_nobody_measures_at_such_a_temperature(temperature: str) -> None:
    with pytest.raises(InputError):
        check_measured_at(Decimal(temperature))
