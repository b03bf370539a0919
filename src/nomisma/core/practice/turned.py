"""A part turned on the simulated lathe: by the coach, or by a hand that follows its school without one."""

from collections.abc import Sequence
from dataclasses import dataclass

from nomisma.core.cutting.depth import CutRules, Next, School, ToGo, dial_factor, next_depth
from nomisma.core.cutting.learned import CutSeen
from nomisma.core.practice.lathe import SimulatedLathe

SCHOOLS: tuple[School, ...] = ("equal_cuts", "creep", "polish")
MOST_CUTS = 16
ASK_SCALES = 4.0
"""A reading that misses its prediction by more scales than this is read again. Source: this tool's own choice."""
POLISH_SPREAD = 0.002
BY_HAND_LEAST = 0.03
"""What a hand without a coach leaves to the cloth, mm on diameter."""
BY_HAND_FINISH = 0.5
"""Its finishing cuts, mm on diameter: it roughs less close, knowing less. Source: common practice, no source: ten to twenty thou."""


@dataclass(frozen=True, slots=True)
class Limits:
    """Limits of the shaft that is turned, mm."""

    lower: float
    upper: float

    @property
    def aim(self) -> float:
        """Their middle."""
        return (self.lower + self.upper) / 2


@dataclass(frozen=True, slots=True)
class Turned:
    """How one part came out: its true size against the limits, how often it was measured, intervals kept of how many."""

    scrap: bool
    in_limits: bool
    measured: int
    polished: bool
    kept: int
    predicted: int
    cuts: tuple[CutSeen, ...]


def older(cuts: Sequence[CutSeen]) -> list[CutSeen]:
    """The cuts as they stand when the next piece goes in."""
    return [CutSeen(one.dialled, one.removed, one.removed_before, one.first, one.pieces_ago + 1) for one in cuts]


def coached(lathe: SimulatedLathe, limits: Limits, cuts: Sequence[CutSeen], school: School, rules: CutRules) -> Turned:
    """Measure, dial what the coach says, measure, until it says stop; a reading far from its prediction is read again."""
    history = list(cuts)
    size, measured, before, kept, predicted = lathe.measure(carefully=True), 1, 0.0, 0, 0
    for _ in range(MOST_CUTS):
        to_go = ToGo(size - limits.aim, size - limits.lower, size - limits.upper)
        now = _with_factor(rules, history)
        advice = next_depth(to_go, history, now, school)
        if advice.next is Next.TOUCH_ON:
            lathe.touch()
            history, before = [], 0.0
            continue
        if advice.next is not Next.CUT or advice.predicted is None:
            break
        lathe.cut(advice.dialled)
        read, measured = lathe.measure(), measured + 1
        surprise = abs(size - read - advice.predicted.middle) / advice.predicted.scale
        if surprise > ASK_SCALES or read <= limits.upper:
            read, measured = lathe.measure(carefully=True), measured + 1
        removed = size - read
        kept += advice.predicted.quantile(0.05) <= removed <= advice.predicted.quantile(0.95)
        predicted += 1
        history.append(CutSeen(advice.dialled, removed, before, before == 0.0))
        before, size = removed, read
    polished = lathe.size > limits.upper and size > limits.upper
    if polished:
        lathe.size = limits.aim + lathe.chance.gauss(0.0, POLISH_SPREAD)
    return _turned(lathe, limits, measured, polished=polished, kept=kept, predicted=predicted, cuts=history)


def _with_factor(rules: CutRules, history: Sequence[CutSeen]) -> CutRules:
    from dataclasses import replace

    return replace(rules, factor=dial_factor(history))


def by_hand(lathe: SimulatedLathe, limits: Limits, school: School, rules: CutRules) -> Turned:
    """The school without a model: what is left is dialled as it stands, halved as the school has it."""
    size, measured, last = lathe.measure(carefully=True), 1, 0.0  # both begin with the stock measured with care
    for _ in range(MOST_CUTS):
        left = size - limits.aim - (rules.polish if school == "polish" else 0.0)
        if size <= limits.upper or left < BY_HAND_LEAST:
            break
        if left > 2 * BY_HAND_FINISH:
            dialled = min(left - 2 * BY_HAND_FINISH, rules.most)
        elif school == "equal_cuts":
            dialled = left if last and left < 1.6 * last else left / 2
        else:
            dialled = left if left < 4 * BY_HAND_LEAST else left / 2
        steps = max(int(dialled / rules.step + 1e-9), 1)
        lathe.cut(steps * rules.step)
        read, measured = lathe.measure(), measured + 1
        last, size = size - read, read
    polished = lathe.size > limits.upper and size > limits.upper
    if polished:
        lathe.size = limits.aim + lathe.chance.gauss(0.0, POLISH_SPREAD)
    return _turned(lathe, limits, measured, polished=polished, kept=0, predicted=0, cuts=())


def _turned(
    lathe: SimulatedLathe,
    limits: Limits,
    measured: int,
    *,
    polished: bool,
    kept: int,
    predicted: int,
    cuts: Sequence[CutSeen],
) -> Turned:
    inside = limits.lower <= lathe.size <= limits.upper
    return Turned(lathe.size < limits.lower, inside, measured, polished, kept, predicted, tuple(cuts))


@dataclass(frozen=True, slots=True)
class Tally:
    """Many parts in one line: shares in per cent, the median number of measurements a part, coverage of the 90 % intervals."""

    parts: int
    scrap_percent: float
    in_limits_percent: float
    polished_percent: float
    median_measured: float
    coverage_percent: float


def many(parts: int, school: School, *, coach: bool = True, batch: int = 4, width_mm: float = 0.026) -> Tally:
    """Parts of about 25 mm from stock 0.8 to 4 mm over, four to a set-up; the same seeds for every school."""
    from statistics import median

    limits = Limits(24.967, 24.967 + width_mm)
    rules = CutRules(step=0.01, reading=0.0015, polish=0.008)
    found: list[Turned] = []
    for seed in range(-(-parts // batch)):
        lathe = SimulatedLathe(seed, _stock(seed, 0))
        cuts: Sequence[CutSeen] = ()
        for piece in range(batch):
            if piece:
                lathe.next_piece(_stock(seed, piece))
            part = coached(lathe, limits, older(cuts), school, rules) if coach else by_hand(lathe, limits, school, rules)
            cuts = part.cuts
            found.append(part)
    total = len(found)
    predicted = sum(part.predicted for part in found)
    return Tally(
        total,
        100 * sum(part.scrap for part in found) / total,
        100 * sum(part.in_limits for part in found) / total,
        100 * sum(part.polished for part in found) / total,
        float(median(part.measured for part in found)),
        100 * sum(part.kept for part in found) / predicted if predicted else 0.0,
    )


def _stock(seed: int, piece: int) -> float:
    from random import Random

    return 25 + Random(f"stock {seed} {piece}").uniform(0.8, 4.0)
