"""What comes off against what was dialled, learned from a set-up's own cuts and from earlier set-ups of the same
machine.

The tool's place is counted from where it was touched on: after n cuts with D dialled in all, R has come off, where

    R = t + g·D − k·r + a·n + error

t: how far the touch was off; g: what the dial takes of what it says; k: the spring, by which the tool gives way to the
cut r just taken, and which comes off with the next; a: pull-in or wear with each cut. An error of one cut is made good
by the next, because the dial counts from one place: that is why the sum is modelled and not each cut by itself. All
lengths in mm on diameter.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache
from math import exp, inf, lgamma, log, log1p, pi, sqrt
from typing import NamedTuple, cast

Vector = tuple[float, float, float, float]
Matrix = tuple[Vector, Vector, Vector, Vector]
"""Four numbers and their covariances: t, g, k, a. Plain tuples: for so few they are quicker than arrays."""

TOUCH_MM = 0.03
"""How far a tool touched on by eye may be off, one standard deviation. Source: common practice, no source: a thou."""
PULL_IN_MM = 0.0015
"""Pull-in or wear a cut, one standard deviation about none. Source: this tool's own choice."""
SPREAD_OF_DEPTH = 0.008
"""What a heavy cut scatters more, as a share of its depth. Source: common practice, no source."""
FAR = 4.0
"""Scales beyond which a cut is an exception: it moves the place of the tool, and teaches nothing else. Source: this
tool's own choice.
"""
MOVED_MM = 0.15
"""How far an exception may have moved the tool, one standard deviation. Source: this tool's own choice."""
EXCEPTION_SHARE, EXCEPTION_RANGE_MM = 0.02, 1.0
"""How often a cut is an exception, and how wide it may miss: what an explanation must beat. Source: this tool's own
choice.
"""
BETWEEN_PIECES = (0.002, 0.004)
"""What gain and spring may change by from one piece to the next on a set-up, one standard deviation. Source: this
tool's own choice.
"""
BETWEEN_SET_UPS = (0.005, 0.006)
"""What gain and spring differ by, one standard deviation, between set-ups of one machine, tool and material. Source:
this tool's own choice.
"""
RULED_OUT = 1e-5
"""An explanation of the dial less likely than this is given up."""
INTERVAL = (0.037, 0.963)
"""The shares of the model between which nine cuts in ten land, when a few in a hundred are exceptions the model knows
nothing of: a part read warm, a screw whose backlash was not taken up. Source: this tool's own choice, held against
docs/CUTTING.md.
"""
MOST_FREEDOM = 40.0
SAME_MM = 2e-6
_TOUCH, _GAIN, _SPRING, _PULL = range(4)


@dataclass(frozen=True, slots=True)
class CutSeen:
    """A cut that was taken, mm on diameter: dialled, removed; the first of a piece; pieces ago.

    `last_pass`: what the last of several passes was dialled, where nothing was measured between them; `stoned`: by
    stone or cloth, not the tool.
    """

    dialled: float
    removed: float
    first: bool = False
    pieces_ago: int = 0
    last_pass: float | None = None
    stoned: bool = False


@dataclass(frozen=True, slots=True)
class Prior:
    """What is known of a machine before the first cut of a set-up; as it stands, what is usual of any lathe.

    `gain` and `spring` with one standard deviation each; `scatter_mm` of a light cut, worth `freedom` degrees of
    freedom; how likely the dial is of the kind that was said, takes twice as much (reads radius), or half. Source:
    common practice, no source: a dial off by a few per cent, spring of a few per cent, a dial of the other kind at one
    set-up in twenty.
    """

    gain: float = 1.0
    gain_spread: float = 0.04
    spring: float = 0.06
    spring_spread: float = 0.04
    scatter_mm: float = 0.0036
    freedom: float = 8.0
    kinds: tuple[tuple[float, float], ...] = ((1.0, 0.93), (2.0, 0.05), (0.5, 0.02))
    set_ups: int = 0


USUAL = Prior()


class _Part(NamedTuple):
    """One explanation's Student's t of what a cut will take."""

    weight: float
    middle: float
    scale: float
    freedom: float


@dataclass(frozen=True, slots=True)
class Predicted:
    """What a cut will take, mm: Student's t, or a mixture of them while more than one kind of dial explains the cuts.
    Never below 0.
    """

    parts: tuple[_Part, ...]

    @property
    def middle(self) -> float:
        """As likely more as less."""
        return self.quantile(0.5)

    @property
    def scale(self) -> float:
        """Of the likeliest explanation."""
        return max(self.parts).scale

    @property
    def freedom(self) -> float:
        """Of the likeliest explanation."""
        return max(self.parts).freedom

    def quantile(self, share: float) -> float:
        """What it will take no more than with this chance, mm; no metal comes back, so never below 0."""
        from scipy.special import stdtrit

        ends = [part.middle + float(stdtrit(part.freedom, share)) * part.scale for part in self.parts]
        low, high = min(ends), max(ends)
        while high - low > SAME_MM:
            middle = (low + high) / 2
            low, high = (middle, high) if 1 - self.chance_above(middle) < share else (low, middle)
        return max(high, 0.0)

    @property
    def interval(self) -> tuple[float, float]:
        """Where nine cuts in ten land, mm."""
        return self.quantile(INTERVAL[0]), self.quantile(INTERVAL[1])

    def reach(self, share: float) -> float:
        """How many scales above the middle this chance lies, by the likeliest explanation."""
        from scipy.special import stdtrit

        return float(stdtrit(self.freedom, share))

    def chance_above(self, removed: float) -> float:
        """The chance that it takes more than this, mm."""
        from scipy.special import stdtr

        return sum(
            part.weight * float(stdtr(part.freedom, (part.middle - removed) / part.scale)) for part in self.parts
        )


@dataclass(frozen=True)
class _Explanation:
    """One kind of dial: how likely, what is believed of t, g, k, a, and of the scatter (inverse gamma)."""

    factor: float
    log_weight: float
    mean: Vector
    covariance: Matrix
    shape: float
    rate: float


@dataclass(frozen=True)
class CutModel:
    """What is believed after the cuts seen; `dialled`, `removed` and `count` of the piece in the machine."""

    explanations: tuple[_Explanation, ...]
    reading_mm: float
    dialled: float = 0.0
    removed: float = 0.0
    count: int = 0
    weights: tuple[float, ...] = field(default=())

    def predict(self, dialled: float) -> Predicted:
        """What the next cut of this piece will take. Source: Bayesian linear regression (posterior predictive), kinds
        of dial mixed.
        """
        return Predicted(
            tuple(self._part(one, weight, dialled) for one, weight in zip(self.explanations, self.weights, strict=True))
        )

    def predict_passes(self, passes: Sequence[float]) -> Predicted:
        """What several passes together will take, nothing measured between them."""
        so_far, model = 0.0, self
        for dialled in passes[:-1]:
            taken = model.predict(dialled).middle
            so_far, model = so_far + taken, model.after(dialled, taken)
        last = model.predict(passes[-1])
        return Predicted(tuple(part._replace(middle=part.middle + so_far) for part in last.parts))

    def _part(self, one: _Explanation, weight: float, dialled: float) -> _Part:
        touch, gain, spring, pull = one.mean
        spring = max(spring, 0.0)
        total, count = self.dialled + dialled, self.count + 1
        middle = (touch + gain * total + pull * count - self.removed) / (1 + spring)
        slope = (1.0, total, -middle, float(count))
        variance = (_dot(slope, _times(one.covariance, slope)) + _noise(one, self.reading_mm, dialled)) / (
            1 + spring
        ) ** 2
        return _Part(weight, middle, sqrt(variance), min(2 * one.shape, MOST_FREEDOM))

    def dial_for(self, removed: float) -> float:
        """What is dialled to take so much, by the likeliest explanation; below nothing where it comes off by itself."""
        touch, gain, spring, pull = self.likeliest.mean
        sum_removed = self.removed + removed * (1 + max(spring, 0.0))
        return (sum_removed - touch - pull * (self.count + 1)) / max(gain, 0.2) - self.dialled

    def after(self, dialled: float, removed: float) -> "CutModel":
        """As it will be after a cut that does what is expected of it, which teaches nothing."""
        return replace(self, dialled=self.dialled + dialled, removed=self.removed + removed, count=self.count + 1)

    def touched(self) -> "CutModel":
        """With the tool touched on anew: what the cuts taught holds, where the tool stands does not."""
        explanations = tuple(_new_piece(one, self.reading_mm, (0.0, 0.0)) for one in self.explanations)
        return replace(self, explanations=explanations, dialled=0.0, removed=0.0, count=0)

    @property
    def likeliest(self) -> _Explanation:
        """The kind of dial that explains the cuts best."""
        return self.explanations[max(range(len(self.weights)), key=self.weights.__getitem__)]

    @property
    def factor(self) -> float:
        """2 where the dial takes twice what was said, ½ where half, 1 otherwise: the likeliest."""
        return self.likeliest.factor

    @property
    def factor_chance(self) -> float:
        """How likely that is."""
        return max(self.weights)

    @property
    def gain(self) -> float:
        """What the dial takes of what it says."""
        return self.likeliest.mean[_GAIN]

    @property
    def gain_spread(self) -> float:
        """One standard deviation of it."""
        return sqrt(self.likeliest.covariance[_GAIN][_GAIN])

    @property
    def spring(self) -> float:
        """The spring, as a share of what was just taken."""
        return max(self.likeliest.mean[_SPRING], 0.0)

    @property
    def spring_spread(self) -> float:
        """One standard deviation of it."""
        return sqrt(self.likeliest.covariance[_SPRING][_SPRING])

    @property
    def scatter_mm(self) -> float:
        """One standard deviation of a light cut as measured, mm."""
        return sqrt(self.likeliest.rate / self.likeliest.shape)


def learned(cuts: Sequence[CutSeen], *, reading_mm: float = 0.0, prior: Prior = USUAL) -> CutModel:
    """The model after these cuts, oldest first; `reading_mm` is one standard deviation of a reading.

    Source: Bayesian linear regression cut by cut (Kalman's update), the scatter by an inverse gamma; a cut no
    explanation foresees moves the tool's place and teaches nothing else; kinds of dial are weighed by how well they
    foresaw the cuts (marginal likelihood).

    >>> found = learned([CutSeen(2.54, 2.8956, first=True), CutSeen(2.1844, 2.4638)])
    >>> round(found.predict(2.1336).middle - 2.1336, 1)
    0.2
    """
    return _learned(tuple(cuts), reading_mm, prior)


@lru_cache(maxsize=512)  # one answer asks for the same cuts again and again
def _learned(cuts: tuple[CutSeen, ...], reading_mm: float, prior: Prior) -> CutModel:
    explanations = [_start(prior, factor, weight, reading_mm) for factor, weight in prior.kinds]
    dialled = removed = 0.0
    count, ago = 0, cuts[0].pieces_ago if cuts else 0
    for index, cut in enumerate(cuts):
        if index and (cut.first or cut.pieces_ago != ago):
            explanations = [_new_piece(one, reading_mm, BETWEEN_PIECES) for one in explanations]
            dialled, removed, count = 0.0, 0.0, 0
        ago = cut.pieces_ago
        removed += cut.removed
        if cut.stoned:
            continue  # the tool stood still: where it stands is what it was
        dialled, count = dialled + cut.dialled, count + 1
        explanations = _kept([_taught(one, cut, dialled, removed, count, reading_mm) for one in explanations])
    if cuts and ago != 0:  # the piece in the machine has no cut of its own yet
        explanations = [_new_piece(one, reading_mm, BETWEEN_PIECES) for one in explanations]
        dialled, removed, count = 0.0, 0.0, 0
    return CutModel(tuple(explanations), reading_mm, dialled, removed, count, _shares(explanations))


def _start(prior: Prior, factor: float, weight: float, reading_mm: float) -> _Explanation:
    spread = (TOUCH_MM, factor * prior.gain_spread, prior.spring_spread, PULL_IN_MM)
    covariance = _with_diagonal(
        _NOTHING, (spread[0] ** 2 + reading_mm**2, spread[1] ** 2, spread[2] ** 2, spread[3] ** 2)
    )
    shape = prior.freedom / 2
    base = prior.scatter_mm**2 + reading_mm**2
    mean = (0.0, factor * prior.gain, prior.spring, 0.0)
    return _Explanation(factor, log(weight) if weight > 0 else -inf, mean, covariance, shape, shape * base)


def _new_piece(one: _Explanation, reading_mm: float, widened: tuple[float, float]) -> _Explanation:
    """Another piece, or the tool touched on anew: gain and spring are kept, where the tool stands is not."""
    (_, gain, spring, pull), (_, gains, springs, pulls) = one.mean, one.covariance
    kept: Matrix = (_NOTHING[0], (0.0, *gains[1:]), (0.0, *springs[1:]), (0.0, *pulls[1:]))
    wider = (TOUCH_MM**2 + reading_mm**2, (one.factor * widened[0]) ** 2, widened[1] ** 2, 0.0)
    return replace(one, mean=(0.0, gain, spring, pull), covariance=_with_diagonal(kept, wider))


_NOTHING: Matrix = ((0.0,) * 4, (0.0,) * 4, (0.0,) * 4, (0.0,) * 4)


def _with_diagonal(matrix: Matrix, more: Vector) -> Matrix:
    a, b, c, d = matrix
    return (
        (a[0] + more[0], a[1], a[2], a[3]),
        (b[0], b[1] + more[1], b[2], b[3]),
        (c[0], c[1], c[2] + more[2], c[3]),
        (d[0], d[1], d[2], d[3] + more[3]),
    )


def _dot(first: Vector, second: Vector) -> float:
    return first[0] * second[0] + first[1] * second[1] + first[2] * second[2] + first[3] * second[3]


def _times(matrix: Matrix, vector: Vector) -> Vector:
    return _dot(matrix[0], vector), _dot(matrix[1], vector), _dot(matrix[2], vector), _dot(matrix[3], vector)


def _less(matrix: Matrix, gain: Vector, variance: float) -> Matrix:
    """The covariance after a reading: less the part that the reading explains."""
    found = tuple(
        tuple(one - own * other / variance for one, other in zip(line, gain, strict=True))
        for line, own in zip(matrix, gain, strict=True)
    )
    return cast(Matrix, found)


def _moved(mean: Vector, gain: Vector, share: float) -> Vector:
    return cast(Vector, tuple(value + one * share for value, one in zip(mean, gain, strict=True)))


def _noise(one: _Explanation, reading_mm: float, dialled: float) -> float:
    """Variance of what is measured after a cut, mm²: never less than the reading's own."""
    return max(one.rate / one.shape, reading_mm**2) + (SPREAD_OF_DEPTH * dialled * one.factor) ** 2


def _last_removed(one: _Explanation, cut: CutSeen, dialled: float, removed: float, count: int) -> float:
    """What the last pass of a cut removed: all of it, or what the passes before it are believed to have left."""
    if cut.last_pass is None or cut.last_pass >= cut.dialled:
        return cut.removed
    touch, gain, spring, pull = one.mean
    before = removed - cut.removed
    first = (touch + gain * (dialled - cut.last_pass) + pull * count - before) / (1 + max(spring, 0.0))
    return min(max(cut.removed - first, 0.0), cut.removed)


def _taught(
    one: _Explanation, cut: CutSeen, dialled: float, removed: float, count: int, reading_mm: float
) -> _Explanation:
    """What one cut teaches one explanation; `dialled`, `removed` and `count` of the piece with it."""
    row = (1.0, dialled, -_last_removed(one, cut, dialled, removed, count), float(count))
    noise = _noise(one, reading_mm, cut.dialled if cut.last_pass is None else cut.last_pass)
    gain = _times(one.covariance, row)
    variance = _dot(row, gain) + noise
    miss = removed - _dot(row, one.mean)
    log_weight = one.log_weight + _log_chance(miss, sqrt(variance), 2 * one.shape)
    if miss * miss > FAR * FAR * variance:
        # The place of the tool is open again; gain, spring and scatter stay what they were.
        opened = _with_diagonal(one.covariance, (MOVED_MM**2, 0.0, 0.0, 0.0))
        gain = _times(opened, row)
        variance = _dot(row, gain) + noise
        mean = (one.mean[0] + gain[0] / variance * miss, *one.mean[1:])
        return replace(one, log_weight=log_weight, mean=mean, covariance=_less(opened, gain, variance))
    share = noise / variance  # how much of the miss speaks of the scatter, and not of what was unsure
    base = one.rate / one.shape
    return _Explanation(
        one.factor,
        log_weight,
        _moved(one.mean, gain, miss / variance),
        _less(one.covariance, gain, variance),
        one.shape + share / 2,
        one.rate + share / 2 * miss * miss * share * base / noise,
    )


def _log_chance(miss: float, scale: float, freedom: float) -> float:
    """Log density of a miss: Student's t, or an exception anywhere in its range."""
    t = (
        lgamma((freedom + 1) / 2)
        - lgamma(freedom / 2)
        - log(freedom * pi) / 2
        - log(scale)
        - (freedom + 1) / 2 * log1p((miss / scale) ** 2 / freedom)
    )
    return log((1 - EXCEPTION_SHARE) * exp(t) + EXCEPTION_SHARE / EXCEPTION_RANGE_MM)


def _shares(explanations: Sequence[_Explanation]) -> tuple[float, ...]:
    most = max(one.log_weight for one in explanations)
    sizes = [exp(one.log_weight - most) for one in explanations]
    return tuple(size / sum(sizes) for size in sizes)


def _kept(explanations: list[_Explanation]) -> list[_Explanation]:
    """Without those that are ruled out."""
    shares = _shares(explanations)
    return [one for one, share in zip(explanations, shares, strict=True) if share > RULED_OUT]


def known_machine(set_ups: Sequence[Sequence[CutSeen]], *, reading_mm: float = 0.0) -> Prior:
    """What earlier set-ups of a machine (oldest first, same kind of cut, tool and material) say of the next one.

    Each set-up's gain and spring are weighed by how well it knew them, and widened by what set-ups differ by: at least
    a floor, more where they truly differ. Source: random-effects mean (DerSimonian and Laird) with the usual lathe as
    one more witness.

    >>> prior = known_machine([[CutSeen(0.5, 0.56, first=True), CutSeen(0.4, 0.448), CutSeen(0.3, 0.336)]] * 3)
    >>> prior.set_ups, 1.09 < prior.gain < 1.15, prior.gain_spread < USUAL.gain_spread
    (3, True, True)
    """
    models = [learned(one, reading_mm=reading_mm) for one in set_ups if any(not cut.stoned for cut in one)]
    if not models:
        return USUAL
    gain, gain_spread = _between(
        [(one.gain / one.factor, one.gain_spread / one.factor) for one in models],
        USUAL.gain,
        USUAL.gain_spread,
        BETWEEN_SET_UPS[0],
    )
    spring, spring_spread = _between(
        [(one.spring, one.spring_spread) for one in models], USUAL.spring, USUAL.spring_spread, BETWEEN_SET_UPS[1]
    )
    freedom = sum(max(2 * one.likeliest.shape - USUAL.freedom, 0.0) for one in models)
    scatter = sum(max(2 * one.likeliest.shape - USUAL.freedom, 0.0) * one.scatter_mm**2 for one in models)
    base = USUAL.scatter_mm**2 + reading_mm**2
    pooled = (scatter + USUAL.freedom * base) / (freedom + USUAL.freedom)
    return Prior(
        gain=gain,
        gain_spread=gain_spread,
        spring=max(spring, 0.0),
        spring_spread=spring_spread,
        scatter_mm=sqrt(max(pooled - reading_mm**2, (USUAL.scatter_mm / 4) ** 2)),
        freedom=min(USUAL.freedom + freedom, MOST_FREEDOM),
        kinds=_kinds(models),
        set_ups=len(models),
    )


def _between(
    seen: Sequence[tuple[float, float]], usual: float, usual_spread: float, floor: float
) -> tuple[float, float]:
    """Mean and spread for the next set-up."""
    between = floor**2
    if len(seen) > 2:
        middle = sum(value for value, _ in seen) / len(seen)
        across = sum((value - middle) ** 2 for value, _ in seen) / (len(seen) - 1)
        between = max(between, across - sum(spread**2 for _, spread in seen) / len(seen))
    # A set-up's own posterior has the usual lathe in it once already; it is taken out and counted once for all.
    trusted = [(value, max(spread, 1e-4)) for value, spread in seen]
    information, weighted = 1 / usual_spread**2, usual / usual_spread**2
    for value, spread in trusted:
        own = max(1 / spread**2 - 1 / usual_spread**2, 1e-6)
        alone = (value / spread**2 - usual / usual_spread**2) / own
        weight = 1 / (1 / own + between)
        information, weighted = information + weight, weighted + weight * alone
    return weighted / information, sqrt(between + 1 / information)


def _kinds(models: Sequence[CutModel]) -> tuple[tuple[float, float], ...]:
    """How likely each kind of dial is after all of them; never wholly ruled out, for a machine is taken apart and put
    together.
    """
    found = []
    for factor, usual in USUAL.kinds:
        chance = usual
        for one in models:
            own = {kind.factor: weight for kind, weight in zip(one.explanations, one.weights, strict=True)}
            chance *= max(own.get(factor, 0.0), RULED_OUT) / usual
        found.append((factor, max(chance, 2 * RULED_OUT)))
    total = sum(chance for _, chance in found)
    return tuple((factor, chance / total) for factor, chance in found)
