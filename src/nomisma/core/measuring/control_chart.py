"""Limits of a control chart: individuals and moving range, or means and ranges of subgroups."""

from dataclasses import dataclass
from itertools import pairwise
from statistics import fmean

from pydantic import Field

from nomisma.core.table import Row, loaded, rows_of

SOURCE = "ISO 7870-2:2013; constants as in textbooks of statistical quality control, recalled"
LARGEST_SUBGROUP = 10


class Factors(Row):
    """Constants for subgroups of `n`, dimensionless."""

    n: int
    d2: float
    d3: float
    a2: float = Field(alias="A2")
    d3_low: float = Field(alias="D3")
    d4_high: float = Field(alias="D4")


@loaded
def factors() -> dict[int, Factors]:
    """Constants by size of subgroup, 2 to 10. Source: control_chart.csv.

    >>> factors()[5].d2
    2.326
    """
    return {row.n: row for row in rows_of("measuring", "control_chart.csv", Factors)}


@dataclass(frozen=True, slots=True)
class Chart:
    """Points and limits of a chart, in the unit of the values; `sigma` is the spread within subgroups."""

    points: list[float]
    ranges: list[float]
    centre: float
    lower: float
    upper: float
    range_centre: float
    range_upper: float
    range_lower: float
    sigma: float

    @property
    def outside(self) -> list[int]:
        """Which points (from 0) lie outside the limits, or follow seven others on one side of the centre."""
        found = {index for index, value in enumerate(self.points) if not self.lower <= value <= self.upper}
        run, side = 0, 0
        for index, value in enumerate(self.points):
            now = (value > self.centre) - (value < self.centre)
            run = run + 1 if now == side and now else 1
            side = now
            if run >= 8:
                found.add(index)
        return sorted(found)


def individuals(values: list[float]) -> Chart:
    """Chart of single values by their moving range of two; at least two values. Source: ISO 7870-2:2013, 7.

    >>> round(individuals([10.0, 11.0, 10.0, 12.0]).sigma, 4)
    1.182
    """
    two = factors()[2]
    ranges = [abs(b - a) for a, b in pairwise(values)]
    centre, mean_range = fmean(values), fmean(ranges)
    sigma = mean_range / two.d2
    return Chart(
        values, ranges, centre, centre - 3 * sigma, centre + 3 * sigma, mean_range, two.d4_high * mean_range, 0.0, sigma
    )


def means_and_ranges(groups: list[list[float]]) -> Chart:
    """Chart of subgroups of equal size, 2 to 10. Source: ISO 7870-2:2013, 6.

    >>> found = means_and_ranges([[1.0, 3.0], [2.0, 2.0]]); found.centre, found.range_centre
    (2.0, 1.0)
    """
    constant = factors()[len(groups[0])]
    means = [fmean(group) for group in groups]
    ranges = [max(group) - min(group) for group in groups]
    centre, mean_range = fmean(means), fmean(ranges)
    reach = constant.a2 * mean_range
    return Chart(
        means,
        ranges,
        centre,
        centre - reach,
        centre + reach,
        mean_range,
        constant.d4_high * mean_range,
        constant.d3_low * mean_range,
        mean_range / constant.d2,
    )
