"""What comes off against what was dialled: a linear model with spring, learned from this set-up's own cuts.

removed = a + b·dialled + c·removed before + error. A tool that springs away by k times what it removes leaves b = 1/(1+k) and
c = k/(1+k): what one cut left standing comes off with the next, which is why equal cuts land. `a` is a dial that is off, or pull-in.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import sqrt

import numpy as np
from numpy.typing import NDArray

Matrix = NDArray[np.float64]

SPREAD_MM = 0.0075
"""One standard deviation of what a cut takes, before any was seen, mm on diameter. Source: common practice, no source."""
SPREAD_OF_DEPTH = 0.010
"""The same as a share of the depth: heavy cuts scatter more. Source: common practice, no source."""
TOUCH_MM = 0.025
"""How far the first cut of a piece may be off because the tool was touched on by eye, mm on diameter. Source: common practice, no source."""
PRIOR_MEAN = (0.0, 0.94, 0.06)
OFF_MM, SPRING, GAIN = 0.02, 0.04, 0.05
"""How far a (mm), c and the dial's own gain b + c may be off before the first cut: what springs away now (less b) comes off with the
next (more c). Source: common practice, no source: a dial off by a thou, spring of a few per cent."""
TAIL_FREEDOM = 4.0
"""How ready the model is to call a cut an exception (backlash, a skin, a chip): Student's t with so many degrees of freedom. Source:
this tool's own choice."""
ROBUST_ROUNDS = 4
SETTLED = 0.01
"""Weights that move by less than this have settled."""
PRIOR_FREEDOM = 6.0
EARLIER_PIECE = 0.7
"""What a cut of the piece before counts for, and again for each piece before that."""


@dataclass(frozen=True, slots=True)
class CutSeen:
    """A cut that was taken, mm on diameter: dialled, removed, removed by the cut before it (0 for a first), pieces ago."""

    dialled: float
    removed: float
    removed_before: float = 0.0
    first: bool = False
    pieces_ago: int = 0


@dataclass(frozen=True, slots=True)
class Predicted:
    """What a cut will take: Student's t with this middle, scale (mm) and degrees of freedom."""

    middle: float
    scale: float
    freedom: float

    def reach(self, share: float) -> float:
        """How many scales above the middle this chance lies."""
        from scipy.special import stdtrit

        return float(stdtrit(self.freedom, share))

    def quantile(self, share: float) -> float:
        """What it will take no more than with this chance, mm."""
        return self.middle + self.reach(share) * self.scale

    def chance_above(self, removed: float) -> float:
        """The chance that it takes more than this, mm."""
        from scipy.special import stdtr

        return float(stdtr(self.freedom, (self.middle - removed) / self.scale))


@dataclass(frozen=True, slots=True)
class CutModel:
    """The normal-inverse-gamma posterior of a, b, c and the spread."""

    middle: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]
    shape: float
    rate: float
    spread_mm: float

    def predict(self, dialled: float, removed_before: float, *, first: bool = False) -> Predicted:
        """What the next cut will take. Source: conjugate Bayesian linear regression (posterior predictive)."""
        wider = 1 / _weight(dialled, self.spread_mm, first=first)
        (aa, ab, ac), (_, bb, bc), (_, _, cc) = self.covariance
        d, r = dialled, removed_before
        unsure = aa + bb * d * d + cc * r * r + 2 * (ab * d + ac * r + bc * d * r)
        a, b, c = self.middle
        middle = a + b * d + c * r
        return Predicted(middle, sqrt(self.rate / self.shape * (wider + unsure)), 2 * self.shape)

    @property
    def spring_spread(self) -> float:
        """One standard deviation of c: how well it is known what comes off with the next cut."""
        return sqrt(self.rate / self.shape * self.covariance[2][2])

    @property
    def take_spread(self) -> float:
        """One standard deviation of b: how well it is known what a cut takes of what is dialled."""
        return sqrt(self.rate / self.shape * self.covariance[1][1])

    @property
    def usual_spread(self) -> float:
        """One standard deviation of a light cut, mm, as learned."""
        return sqrt(self.rate / self.shape)


def _weight(dialled: float, spread: float, *, first: bool = False, pieces_ago: int = 0) -> float:
    """What a cut counts for against a light one of this piece."""
    variance = spread**2 + (SPREAD_OF_DEPTH * dialled) ** 2 + (TOUCH_MM**2 if first else 0.0)
    return spread**2 / variance * EARLIER_PIECE**pieces_ago


@lru_cache(maxsize=16)
def _prior(spread: float) -> Matrix:
    """The precision of a, b, c before the first cut, in units of the spread; b and c are tied by the spring."""
    tied = np.array([[OFF_MM**2, 0.0, 0.0], [0.0, SPRING**2 + GAIN**2, -(SPRING**2)], [0.0, -(SPRING**2), SPRING**2]])
    found: Matrix = np.linalg.inv(tied) * spread**2
    return found


def learned(cuts: Sequence[CutSeen], *, reading_mm: float = 0.0) -> CutModel:
    """The model after these cuts; `reading_mm` is one standard deviation of a reading.

    Source: conjugate Bayesian linear regression (normal-inverse-gamma); errors of Student's t as a scale mixture, by reweighting: a cut that
    none of the others explains counts for less.

    >>> found = learned([CutSeen(2.54, 2.8956), CutSeen(2.1844, 2.4638, 2.8956)])
    >>> round(found.predict(2.1336, 2.4638).middle - 2.1336, 2) > 0.2
    True
    """
    return _learned(tuple(cuts), reading_mm)


@lru_cache(maxsize=1024)  # one answer asks for the same cuts again and again
def _learned(cuts: tuple[CutSeen, ...], reading_mm: float) -> CutModel:
    spread = sqrt(SPREAD_MM**2 + 2 * reading_mm**2)
    x = np.array([(1.0, cut.dialled, cut.removed_before) for cut in cuts]).reshape(-1, 3)
    removed = np.array([cut.removed for cut in cuts])
    age = np.array([EARLIER_PIECE**cut.pieces_ago for cut in cuts])
    weights = np.array([_weight(cut.dialled, spread, first=cut.first, pieces_ago=cut.pieces_ago) for cut in cuts])
    counted = np.ones(len(cuts))
    prior = _prior(spread)
    for _ in range(ROBUST_ROUNDS if cuts else 1):
        middle, covariance, shape, rate = _posterior(prior, spread, x, removed, weights * counted, float(age @ counted))
        far = (removed - x @ middle) ** 2 * weights / age / (rate / shape)
        before, counted = counted, np.minimum((TAIL_FREEDOM + 1) / (TAIL_FREEDOM + far), 1.0)
        if np.abs(counted - before).max(initial=0.0) < SETTLED:
            break
    rows = tuple(tuple(float(one) for one in row) for row in covariance)
    return CutModel(tuple(float(one) for one in middle), rows, shape, rate, spread)


def _posterior(
    prior: Matrix, spread: float, x: Matrix, removed: Matrix, weights: Matrix, seen: float
) -> tuple[Matrix, Matrix, float, float]:
    """Middle, covariance, shape and rate for given weights. Source: conjugate Bayesian linear regression."""
    start = np.array(PRIOR_MEAN)
    weighted = x * weights[:, None]
    information = prior + weighted.T @ x
    covariance = np.asarray(np.linalg.inv(information), dtype=np.float64)
    middle: Matrix = covariance @ (prior @ start + weighted.T @ removed)
    left = float(start @ prior @ start) + float(weights @ removed**2) - float(middle @ information @ middle)
    shape = (PRIOR_FREEDOM + seen) / 2
    return middle, covariance, shape, PRIOR_FREEDOM / 2 * spread**2 + max(left, 0.0) / 2
