"""Control charts, capability and drift against definitions, a textbook's data, scipy and simulation."""

from csv import DictReader
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from scipy import integrate, special, stats

from nomisma.core.measuring.batch import BatchInput, BatchResult, batch, within_freedom
from nomisma.core.measuring.control_chart import factors, means_and_ranges

RINGS = Path(__file__).with_name("piston_rings.csv")


def rings() -> list[tuple[list[float], float, float]]:
    lines = [line for line in RINGS.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
    return [
        ([float(row[f"x{n}"]) for n in range(1, 6)], float(row["mean"]), float(row["range"]))
        for row in DictReader(lines)
    ]


def run(values: list[float], low: float, high: float, **more: Any) -> BatchResult:
    pieces = [{"serial": str(n), "sizes": [f"{value:.9f} mm"]} for n, value in enumerate(values)]
    given = BatchInput.model_validate(
        {"kind": "shaft", "pieces": pieces, "lower": f"{low} mm", "upper": f"{high} mm", **more}
    )
    return batch(given)


# Source: the definition of d2 and d3, mean and deviation of the range of n standard normal values (Tippett's
# integrals).
@pytest.mark.parametrize("n", range(2, 11))
def test_d2_and_d3_are_what_their_definition_gives(n: int) -> None:
    cdf = special.ndtr
    mean, _ = integrate.quad(lambda x: 1 - cdf(x) ** n - (1 - cdf(x)) ** n, -9, 9)

    def both_ends(y: float, x: float) -> float:
        return float(1 - cdf(y) ** n - (1 - cdf(x)) ** n + (cdf(y) - cdf(x)) ** n)

    square, _ = integrate.dblquad(both_ends, -7, 7, lambda x: x, lambda _: 7, epsabs=1e-4)
    assert factors()[n].d2 == pytest.approx(mean, abs=6e-4)
    assert factors()[n].d3 == pytest.approx(np.sqrt(2 * square - mean**2), abs=2e-3)


@pytest.mark.parametrize("n", range(2, 11))
def test_a2_d3_and_d4_follow_from_d2_and_d3(n: int) -> None:
    one = factors()[n]
    assert one.a2 == pytest.approx(3 / (one.d2 * np.sqrt(n)), abs=1e-3)
    assert one.d3_low == pytest.approx(max(0, 1 - 3 * one.d3 / one.d2), abs=1.1e-3)
    assert one.d4_high == pytest.approx(1 + 3 * one.d3 / one.d2, abs=2e-3)


def test_the_recalled_piston_rings_agree_with_their_printed_means_and_ranges() -> None:
    rows = rings()
    assert len(rows) == 25
    for values, mean, spread in rows:
        assert np.mean(values) == pytest.approx(mean, abs=6e-4)
        assert max(values) - min(values) == pytest.approx(spread, abs=1e-9)
    assert sum(row[2] for row in rows) == pytest.approx(0.581, abs=1e-9)


# Source: Montgomery, as printed for these data: centre 74.001, limits 74.014 and 73.988, mean range 0.023, its limit
# 0.049.
def test_the_piston_rings_have_the_textbooks_limits() -> None:
    chart = means_and_ranges([values for values, _, _ in rings()])
    assert chart.centre == pytest.approx(74.001, abs=6e-4)
    assert chart.upper == pytest.approx(74.014, abs=1e-3)
    assert chart.lower == pytest.approx(73.988, abs=1e-3)
    assert chart.range_centre == pytest.approx(0.023, abs=3e-4)
    assert chart.range_upper == pytest.approx(0.049, abs=3e-4)
    assert chart.outside == []


def test_a_batch_in_groups_of_five_has_the_same_chart() -> None:
    values = [value for row, _, _ in rings() for value in row]
    found = run(values, 73.95, 74.05, subgroup=5)
    assert found.chart is not None
    assert found.chart.upper_mm == pytest.approx(74.01458, abs=1e-5)
    assert len(found.chart.points_mm) == 25


def scaled(mean: float, deviation: float, n: int, seed: int = 3) -> list[float]:
    raw = np.random.default_rng(seed).normal(size=n)
    return list(mean + deviation * (raw - raw.mean()) / raw.std(ddof=1))


# Source: Montgomery, example of a confidence interval on Cp: limits 62 and 38, n = 20, s = 1.75: 2.29, from 1.57 to
# 3.01.
def test_cp_has_the_textbooks_interval() -> None:
    found = run(scaled(50, 1.75, 20), 38, 62).capability
    assert found is not None
    assert found.pp == pytest.approx(2.29, abs=0.005)
    assert found.pp_from == pytest.approx(1.57, abs=0.006)
    assert found.pp_to == pytest.approx(3.01, abs=0.006)


@pytest.mark.parametrize("n", [5, 12, 50])
def test_cp_interval_is_scipys_chi_squared(n: int) -> None:
    found = run(scaled(10, 0.01, n), 9.97, 10.03).capability
    assert found is not None
    low, high = (np.sqrt(stats.chi2.ppf(tail, n - 1) / (n - 1)) for tail in (0.025, 0.975))
    assert found.pp_from / found.pp == pytest.approx(low, rel=1e-9)
    assert found.pp_to / found.pp == pytest.approx(high, rel=1e-9)


def test_the_intervals_of_both_indices_hold_the_truth_about_19_times_in_20() -> None:
    chance = np.random.default_rng(20)
    overall = within = 0
    for _ in range(600):
        found = run(list(chance.normal(10.005, 0.01, 30)), 9.96, 10.04).capability
        assert found is not None
        overall += found.ppk_from <= (10.04 - 10.005) / 0.03 <= found.ppk_to
        within += found.cpk_from <= (10.04 - 10.005) / 0.03 <= found.cpk_to
    assert 0.925 <= overall / 600 <= 0.98
    assert 0.925 <= within / 600 <= 0.98


# ISO 22514-2: capability by the spread within, performance by the spread of all; they part where the level moves
# between groups.
def test_a_level_that_moves_spoils_performance_and_not_capability() -> None:
    chance = np.random.default_rng(8)
    steady, moving = (
        run(list(chance.normal(10, 0.004, 25) + np.repeat(levels, 5)), 9.96, 10.04, subgroup=5).capability
        for levels in (np.zeros(5), [-0.02, 0.01, 0.02, -0.01, 0.015])
    )
    assert steady is not None
    assert moving is not None
    assert moving.ppk < 0.6 * moving.cpk
    assert steady.ppk == pytest.approx(steady.cpk, rel=0.35)


@pytest.mark.parametrize(("count", "subgroup"), [(25, 1), (25, 5), (12, 2), (12, 1)])
def test_the_freedom_of_a_spread_from_ranges_is_the_simulated_one(count: int, subgroup: int) -> None:
    """Relative variance of the spread found from ranges is 1/(2ν). Source: simulation with numpy."""
    values = np.random.default_rng(2).standard_normal((20_000, count))
    if subgroup == 1:
        spreads = np.abs(np.diff(values, axis=1)).mean(axis=1)
    else:
        groups = values[:, : count // subgroup * subgroup].reshape(len(values), -1, subgroup)
        spreads = np.ptp(groups, axis=2).mean(axis=1)
    assert within_freedom(count, subgroup) == pytest.approx(1 / (2 * (spreads.std() / spreads.mean()) ** 2), rel=0.05)


@pytest.mark.parametrize("seed", range(4))
def test_drift_is_scipys_regression(seed: int) -> None:
    chance = np.random.default_rng(seed)
    values = [round(float(v), 9) for v in 12 + 0.0007 * np.arange(15) + chance.normal(0, 0.001, 15)]
    found = run(values, 11.9, 12.1).drift
    assert found is not None
    line = stats.linregress(np.arange(15), values)
    half = stats.t.ppf(0.975, 13) * line.stderr
    assert found.per_piece_mm == pytest.approx(line.slope, rel=1e-6)
    assert found.from_mm == pytest.approx(line.slope - half, rel=1e-5)
    assert found.is_real == (line.pvalue < 0.05)
