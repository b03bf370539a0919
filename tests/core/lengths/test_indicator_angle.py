"""An indicator out of line reads long, never short."""

from decimal import Decimal
from math import cos, radians

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.indicator_angle import IndicatorAngleInput, indicator_angle
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named


@given(st.integers(1, 5000), st.integers(0, 60))
def test_the_travel_is_what_it_reads_by_the_cosine(reading_um: int, angle: int) -> None:
    found = indicator_angle(IndicatorAngleInput(reading=parse_length(f"{reading_um} um"), angle_deg=Decimal(angle)))
    assert float(found.travel.mm) == pytest.approx(reading_um / 1000 * cos(radians(angle)), abs=1e-8)
    assert found.reads_long.mm >= 0


def test_a_few_degrees_do_not_count() -> None:
    assert (
        "less than a hundredth"
        in indicator_angle(IndicatorAngleInput(reading=parse_length("1 mm"), angle_deg=Decimal(8))).notes[0]
    )


@pytest.mark.parametrize("angle", [-1, 61, 90])
def test_an_angle_out_of_range_is_refused(angle: int) -> None:
    with pytest.raises(BadInput):
        calculation_named("indicator_angle").run({"reading": "1 mm", "angle_deg": angle})
