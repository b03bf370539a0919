"""One round as understood: where the work stands, where tightening will take it, its own shape, and how well that is
known.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from math import atan2, cos, degrees, hypot, radians, sin, sqrt

from nomisma.core.truing.harmonics import Round, about, in_turn, least_swing, range_quantile, taken_apart

_NORMAL_95 = 1.96
_FITTED = 0.3
_SAME_EITHER_WAY = 4
"""Up to four readings, square to one another, both centres are the same: the jaws' own four leave ±a in turn."""
SAME_MM = 1e-9
"""Nearer than this two lengths are the same: what is exactly on target must not hang on the last bit."""


class Stop(StrEnum):
    """What to do after a round."""

    MOVE = "move"
    TRUE = "true"
    WORK_NOT_CHUCK = "work_not_chuck"
    TOO_COARSE = "too_coarse"


@dataclass(frozen=True, slots=True)
class RoundAnalysis:
    """A round, mm: `x` towards jaw 1 and `y` towards jaw 2 as read; `drift_x`, `drift_y` what tightening still adds.

    `by_least_swing`: the offset is that of the minimum zone, for the least-squares centre leaves more swing than is
    wanted. `noise`: one standard deviation of a reading. `shape` is the swing without the offset; none where it was not
    seen apart.
    """

    x: float
    y: float
    drift_x: float
    drift_y: float
    noise: float
    sense: int
    angles_deg: tuple[float, ...]
    round: Round | None
    raw_total_indicator_reading: float
    by_least_swing: bool = False

    @property
    def offset(self) -> float:
        """Half of what the offset swings, as it stands now."""
        return hypot(self.x, self.y)

    @property
    def then_x(self) -> float:
        """Towards jaw 1, after tightening."""
        return self.x + self.drift_x

    @property
    def then_y(self) -> float:
        """Towards jaw 2, after tightening."""
        return self.y + self.drift_y

    @property
    def offset_then(self) -> float:
        """The offset after tightening: what has to be good enough."""
        return hypot(self.then_x, self.then_y)

    @property
    def total_indicator_reading(self) -> float:
        """The whole swing now."""
        return self._whole(self.raw_total_indicator_reading, self.offset)

    def _whole(self, between_places: float, offset: float) -> float:
        """Between the places the needle goes farther than at them: twice the offset, where that stands clear of its
        doubt.
        """
        clear = 2 * offset - between_places > self.offset_uncertainty
        return 2 * offset if clear else between_places

    @property
    def total_indicator_reading_then(self) -> float:
        """The whole swing after tightening."""
        return self.total_indicator_reading_at(self.then_x, self.then_y)

    def total_indicator_reading_at(self, x: float, y: float) -> float:
        """The whole swing (mm) with the work standing at x, y."""
        if self.round is None:
            return 2 * hypot(x, y)
        values = [self.at(index, x, y) for index in range(len(self.angles_deg))]
        return self._whole(max(values) - min(values), hypot(x, y))

    @property
    def mean(self) -> float | None:
        """What the needle says on the average, mm; none where only highest and lowest were read."""
        return self.round.mean if self.round else None

    @property
    def shape(self) -> float | None:
        """Swing that no jaw can remove."""
        return self.round.shape_total_indicator_reading if self.round and len(self.angles_deg) > 3 else None

    @property
    def count(self) -> int:
        """How many readings speak for it."""
        return len(self.angles_deg) or 2

    @property
    def offset_uncertainty(self) -> float:
        """Of the offset's swing, k = 2. Source: JCGM 100:2008, 5.1.2, for the first harmonic of n readings."""
        return 4 * self.noise * sqrt(2 / self.count)

    @property
    def shape_uncertainty(self) -> float:
        """Of the shape's swing, 95 %: what the readings' own scatter can swing by when the offset is taken away.

        The range of n independent normal values, brought down for the three numbers that were fitted: ((n − 3)/n)^0.3
        is within 1 % of a simulation of 200,000 rounds (JCGM 101:2008; tests). Four readings keep one number, which
        swings twice itself.
        """
        if self.count <= 4:
            return _NORMAL_95 * self.noise
        return range_quantile(self.count) * self.noise * float(((self.count - 3) / self.count) ** _FITTED)

    def at(self, index: int, x: float, y: float) -> float:
        """What the needle says at a place with the work standing at x, y: its shape and mean kept."""
        assert self.round is not None
        at = radians(self.angles_deg[index])
        return self.round.left[index] + self.sense * (x * cos(at) + y * sin(at))

    @property
    def direction_deg(self) -> float:
        """Where it stands off to: jaw 1 at 0°, jaw 2 at 90°."""
        return in_turn(degrees(atan2(self.y, self.x))) if self.offset else 0.0


def seen_round(
    angles_deg: Sequence[float],
    readings: Sequence[float],
    *,
    sense: int,
    drift: tuple[float, float],
    noise: float,
    target: float | None = None,
) -> RoundAnalysis:
    """A round of readings (mm, `noise` their standard deviation) at its places, three or more. Source: arithmetic of
    the readings.

    The offset is that of least squares; where it leaves more than the swing wanted (`target`, mm) and another centre
    leaves no more than that, the other counts: what no jaw can remove is the least swing of all.

    >>> seen_round([0, 90, 180, 270], [0.10, 0.0, -0.10, 0.0], sense=1, drift=(0, 0),
    ...     noise=0.001).total_indicator_reading
    0.2
    """
    found, by_least_swing = taken_apart(angles_deg, readings), False
    if (
        target is not None
        and len(readings) > _SAME_EITHER_WAY
        and found.shape_total_indicator_reading > target + SAME_MM
    ):
        narrowest = about(found, angles_deg, readings, least_swing(angles_deg, readings))
        if narrowest.shape_total_indicator_reading <= target + SAME_MM:
            found, by_least_swing = narrowest, True
    total_indicator_reading = max(readings) - min(readings)
    return RoundAnalysis(
        sense * found.cosine,
        sense * found.sine,
        *drift,
        noise,
        sense,
        tuple(angles_deg),
        found,
        total_indicator_reading,
        by_least_swing,
    )


def seen_ends(
    total_indicator_reading: float, highest_at_deg: float, *, sense: int, drift: tuple[float, float], noise: float
) -> RoundAnalysis:
    """Only the highest and the lowest (`total_indicator_reading` and `noise` in mm) and where the highest is.

    Source: arithmetic of the readings.

    >>> seen_ends(0.2, 90, sense=1, drift=(0, 0), noise=0.001).total_indicator_reading
    0.2
    """
    at = radians(highest_at_deg)
    x, y = sense * total_indicator_reading / 2 * cos(at), sense * total_indicator_reading / 2 * sin(at)
    return RoundAnalysis(x, y, *drift, noise, sense, (), None, total_indicator_reading)


def stop_for(seen: RoundAnalysis, target: float) -> Stop:
    """Whether another move would do anything for the swing wanted (`target`, mm). Source: arithmetic of the readings.

    >>> stop_for(seen_round([0, 90, 180, 270], [0.1, 0.0, -0.1, 0.0], sense=1, drift=(0, 0), noise=0.001), 0.01)
    <Stop.MOVE: 'move'>
    """
    of_offset = 2 * seen.offset_then
    target += SAME_MM
    if seen.total_indicator_reading_then <= target:
        return Stop.TRUE
    too_shaped = seen.shape is not None and seen.shape > target
    if too_shaped and of_offset <= target:
        return Stop.WORK_NOT_CHUCK
    if of_offset > seen.offset_uncertainty:
        return Stop.MOVE
    # What is left of the offset is within its doubt: the shape is at fault only where it alone passes the target.
    return Stop.WORK_NOT_CHUCK if too_shaped and of_offset <= target else Stop.TOO_COARSE
