"""What one reading is worth."""

from decimal import Decimal
from math import sqrt

import pytest

from nomisma.core.errors import OutOfRange
from nomisma.core.measuring.uncertainty import UncertaintyInput, measuring_uncertainty


def worth(resolution: str, permitted_error: str, repeatability: str = "0 mm") -> Decimal:
    given = UncertaintyInput.model_validate(
        {"resolution": resolution, "permitted_error": permitted_error, "repeatability": repeatability}
    )
    return measuring_uncertainty(given).expanded_uncertainty.mm


def test_it_is_twice_the_root_of_the_summed_squares() -> None:
    by_hand = 2 * sqrt((0.002 / sqrt(3)) ** 2 + (0.001 / sqrt(12)) ** 2 + 0.0005**2)
    assert float(worth("0.001 mm", "0.002 mm", "0.0005 mm")) == pytest.approx(by_hand, rel=1e-12)


def test_a_coarser_instrument_is_worth_less() -> None:
    assert worth("0.01 mm", "0.02 mm") > worth("0.001 mm", "0.002 mm")


def test_inch_and_metric_agree() -> None:
    assert float(worth("0.0001 in", "0.0001 in")) == pytest.approx(float(worth("0.00254 mm", "0.00254 mm")))


def test_a_negative_spread_is_refused() -> None:
    with pytest.raises(OutOfRange, match="never below zero"):
        worth("0.001 mm", "0.002 mm", "-0.001 mm")


@pytest.mark.parametrize("temperature_c", [20, 21])
@pytest.mark.parametrize("repeats", [1, 2, 5])
def test_a_reading_at_20_degrees_is_worth_what_one_at_21_is(temperature_c: int, repeats: int) -> None:
    given = UncertaintyInput.model_validate(
        {
            "resolution": "0.001 mm",
            "permitted_error": "0.003 mm",
            "repeats": repeats,
            "temperature_c": temperature_c,
            "size": "25 mm",
            "material": "carbon_steel",
        }
    )
    assert 0.0034 < float(measuring_uncertainty(given).expanded_uncertainty.mm) < 0.0040
