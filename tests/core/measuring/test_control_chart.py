"""The factors of control charts: by simulation of a normal process, and their own relations."""

import numpy as np
import pytest

from nomisma.core.measuring.control_chart import factors


@pytest.mark.parametrize("count", [2, 3, 5, 10])
def test_the_mean_range_of_normal_readings_is_d2_of_their_spread(count: int) -> None:
    drawn = np.random.default_rng(5).standard_normal((200_000, count))
    ranges = drawn.max(axis=1) - drawn.min(axis=1)
    assert float(ranges.mean()) == pytest.approx(float(factors()[count].d2), abs=0.006)
    assert float(ranges.std()) == pytest.approx(float(factors()[count].d3), abs=0.006)


def test_the_limits_of_the_mean_are_three_of_its_spreads() -> None:
    for count, one in factors().items():
        assert float(one.a2) == pytest.approx(3 / (float(one.d2) * count**0.5), abs=0.001)


def test_the_limits_of_the_range_lie_three_of_its_spreads_from_its_mean() -> None:
    for one in factors().values():
        reach = 3 * float(one.d3) / float(one.d2)
        assert float(one.d4_high) == pytest.approx(1 + reach, abs=0.003)
        assert float(one.d3_low) == pytest.approx(max(1 - reach, 0), abs=0.003)
