"""A round of indicator readings as constant, offset and shape: the harmonics that the number of readings can show."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache
from itertools import pairwise
from math import atan2, cos, degrees, exp, hypot, log, pi, radians, sin, sqrt
from statistics import NormalDist

LEVEL = 0.95
"""How sure a shape or a scatter is stated. Source: JCGM 100:2008, 6.2 (about two standard uncertainties)."""
HIGHEST = 5
"""Harmonics looked for at most; more is roughness."""


@dataclass(frozen=True, slots=True)
class Harmonic:
    """One harmonic: `number` waves a turn, amplitude in the readings' unit, and the angle (degrees) of its
    first crest.
    """

    number: int
    amplitude: float
    crest_deg: float


@dataclass(frozen=True, slots=True)
class Round:
    """A round taken apart. `cosine` and `sine` are the first harmonic's; `left` what the readings keep without it."""

    mean: float
    cosine: float
    sine: float
    shapes: tuple[Harmonic, ...]
    left: tuple[float, ...]

    @property
    def offset(self) -> Harmonic:
        """The first harmonic: the offset."""
        return Harmonic(1, hypot(self.cosine, self.sine), in_turn(degrees(atan2(self.sine, self.cosine))))

    @property
    def shape_total_indicator_reading(self) -> float:
        """Total swing that is left when the offset is taken away."""
        return max(self.left) - min(self.left)


def in_turn(angle_deg: float, turn_deg: float = 360.0) -> float:
    """An angle within one turn, from 0 up to and never the turn itself, to a millionth of a degree. Source: arithmetic.

    >>> in_turn(-1e-17), in_turn(-90.0), in_turn(360.0)
    (0.0, 270.0, 0.0)
    """
    found = round(angle_deg % turn_deg, 6)
    return 0.0 if found >= round(turn_deg, 6) else found


def taken_apart(angles_deg: Sequence[float], readings: Sequence[float]) -> Round:
    """Least squares over constant, offset, and as many shapes as the readings can tell apart; at least three readings.

    With n readings evenly spaced, harmonics below n/2 are told apart; at n/2 only the part in step with the readings.
    Uneven rounds show the offset alone. Source: discrete Fourier series.

    >>> found = taken_apart([0, 90, 180, 270], [4.0, 1.0, 0.0, 3.0])
    >>> found.mean, round(found.cosine, 9), round(found.sine, 9)
    (2.0, 2.0, -1.0)
    """
    n = len(readings)
    if not evenly_spaced(angles_deg):
        mean, cosine, sine = _least_squares(angles_deg, readings)
        return Round(mean, cosine, sine, (), _left(angles_deg, readings, cosine, sine))
    mean = sum(readings) / n
    found = {number: _harmonic(angles_deg, readings, number) for number in range(1, min(HIGHEST, n // 2) + 1)}
    cosine, sine = found[1]
    shapes = tuple(
        Harmonic(number, hypot(c, s), in_turn(degrees(atan2(s, c)) / number, 360 / number))
        for number, (c, s) in found.items()
        if number > 1
    )
    return Round(mean, cosine, sine, shapes, _left(angles_deg, readings, cosine, sine))


def least_swing(angles_deg: Sequence[float], readings: Sequence[float]) -> tuple[float, float]:
    """Cosine and sine of the offset that leaves the least swing (the minimum zone), in the readings' unit; at least
    three readings.

    Least squares leaves the least scatter, not the least swing: another centre may have a narrower band. A linear
    programme: the band high − low that holds what every reading keeps. Source: minimum-zone centre, ISO 12181-1:2011
    (from memory).

    >>> cosine, sine = least_swing([0, 90, 180, 270], [2.0, 1.0, 0.0, 1.0]); round(cosine, 9), abs(round(sine, 9))
    (1.0, 0.0)
    """
    from scipy.optimize import linprog  # slow to load, and seldom asked

    rows, bounds = [], []
    for angle, reading in zip(angles_deg, readings, strict=True):
        c, s = cos(radians(angle)), sin(radians(angle))
        rows += [[-c, -s, -1.0, 0.0], [c, s, 0.0, 1.0]]
        bounds += [-reading, reading]
    found = linprog([0.0, 0.0, 1.0, -1.0], A_ub=rows, b_ub=bounds, bounds=[(None, None)] * 4)
    return float(found.x[0]), float(found.x[1])


def about(found: Round, angles_deg: Sequence[float], readings: Sequence[float], offset: tuple[float, float]) -> Round:
    """The same round about another centre, its `offset` by cosine and sine. Source: arithmetic; in the readings' unit.

    >>> about(taken_apart([0, 90, 180], [2.0, 1.0, 0.0]), [0, 90, 180], [2.0, 1.0, 0.0], (0.0, 0.0)).left
    (2.0, 1.0, 0.0)
    """
    cosine, sine = offset
    return replace(found, cosine=cosine, sine=sine, left=_left(angles_deg, readings, cosine, sine))


def _left(angles_deg: Sequence[float], readings: Sequence[float], cosine: float, sine: float) -> tuple[float, ...]:
    pairs = zip(angles_deg, readings, strict=True)
    return tuple(reading - cosine * cos(radians(angle)) - sine * sin(radians(angle)) for angle, reading in pairs)


def _harmonic(angles_deg: Sequence[float], readings: Sequence[float], number: int) -> tuple[float, float]:
    """Cosine and sine part of one harmonic of an even round."""
    n = len(readings)
    scale = 1 / n if 2 * number == n else 2 / n
    pairs = list(zip(angles_deg, readings, strict=True))
    return (
        scale * sum(reading * cos(number * radians(angle)) for angle, reading in pairs),
        scale * sum(reading * sin(number * radians(angle)) for angle, reading in pairs),
    )


def evenly_spaced(angles_deg: Sequence[float]) -> bool:
    """Whether angles divide the turn evenly, in whatever order.

    Source: arithmetic.

    >>> evenly_spaced([0, 180, 90, 270]), evenly_spaced([0, 100, 180, 270])
    (True, False)
    """
    ordered = sorted(angle % 360 for angle in angles_deg)
    step = 360 / len(ordered)
    gaps = [b - a for a, b in pairwise([*ordered, ordered[0] + 360])]
    return all(abs(gap - step) < 1e-6 * step for gap in gaps)


def _least_squares(angles_deg: Sequence[float], readings: Sequence[float]) -> tuple[float, float, float]:
    """Constant and first harmonic of an uneven round, by the normal equations."""
    rows = [(1.0, cos(angle * pi / 180), sin(angle * pi / 180)) for angle in angles_deg]
    matrix = [
        [sum(row[i] * row[j] for row in rows) for j in range(3)]
        + [sum(row[i] * y for row, y in zip(rows, readings, strict=True))]
        for i in range(3)
    ]
    for i in range(3):
        pivot = max(range(i, 3), key=lambda r: abs(matrix[r][i]))
        matrix[i], matrix[pivot] = matrix[pivot], matrix[i]
        for r in range(3):
            if r != i:
                share = matrix[r][i] / matrix[i][i]
                matrix[r] = [a - share * b for a, b in zip(matrix[r], matrix[i], strict=True)]
    mean, cosine, sine = (matrix[i][3] / matrix[i][i] for i in range(3))
    return mean, cosine, sine


def amplitude_by_chance(harmonic: int, *, of: int, readings: int, noise: float) -> float:
    """The amplitude a harmonic of pure noise stays below, all `of` harmonics together at 95 %, in the unit of `noise`.

    `readings` evenly spaced (4 or more), `noise` one standard deviation of a reading. Both parts of a harmonic have the
    variance 2·noise²/n, so that its square is exponential; the highest of an even round (n/2 waves) has one part with
    noise²/n. The level is shared out evenly (Bonferroni). Source: periodogram of white noise (any text on time series).

    >>> round(amplitude_by_chance(2, of=4, readings=12, noise=1.0), 3)
    1.209
    """
    tail = (1 - LEVEL) / of
    if 2 * harmonic == readings:
        return NormalDist().inv_cdf(1 - tail / 2) * noise / sqrt(readings)
    return noise * sqrt(2 / readings) * sqrt(-2 * log(tail))


@cache
def range_quantile(count: int) -> float:
    """The range of so many standard normal values (2 to 100) that 95 % stay below. Source: its integral (Tippett),
    Simpson's rule.

    >>> round(range_quantile(8), 2), round(range_quantile(12), 2)
    (4.29, 4.62)
    """
    low, high = 0.0, 10.0
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (middle, high) if _chance_of_range(count, middle) < LEVEL else (low, middle)
    return low


def _chance_of_range(count: int, width: float) -> float:
    """That the range of `count` standard normal values stays below `width`: n·∫φ(x)·(Φ(x + w) − Φ(x))ⁿ⁻¹ dx."""
    normal, steps, end = NormalDist(), 160, 8.0
    step = 2 * end / steps
    total = 0.0
    for index in range(steps + 1):
        x = -end + index * step
        weight = 1 if index in (0, steps) else 4 if index % 2 else 2
        total += weight * exp(-x * x / 2) / sqrt(2 * pi) * (normal.cdf(x + width) - normal.cdf(x)) ** (count - 1)
    return count * total * step / 3
