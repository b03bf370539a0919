"""A part turned on the simulated lathe: by the coach, or by a hand that follows its approach without one."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from random import Random
from statistics import median

from nomisma.core.cutting.depth import Approach, CutRules, Next, ToGo, next_depth
from nomisma.core.cutting.learned import USUAL, CutSeen, Prior, known_machine, learned
from nomisma.core.practice.lathe import LatheHabits, SimulatedLathe

APPROACHES: tuple[Approach, ...] = ("equal_cuts", "creep", "polish")
MOST_CUTS = 16
ASK_SCALES = 4.0
"""A reading that misses its prediction by more scales than this is read again. Source: this tool's own choice."""
CAREFUL_FROM = 0.5
"""The chance of landing from which the reading after a cut is taken cool and with care at once. Source: this tool's own
choice.
"""
POLISH_SPREAD = 0.002
BY_HAND_LEAST = 0.03
"""What a hand without a coach leaves to the cloth, mm on diameter."""
BY_HAND_FINISH = 0.5
"""Its finishing cuts, mm on diameter: it roughs less close, knowing less. Source: common practice, no source: ten to
twenty thou.
"""
CAREFUL_SURPRISE_MM = 0.03
"""What a careful hand lets a cut be off by before it measures again, mm on diameter. Source: this tool's own choice."""
SEEN_SET_UPS = 6
"""Earlier set-ups of a known machine that the coach has seen."""


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
    """How one part came out: its true size against the limits, how often it was measured, intervals kept of
    how many.
    """

    scrap: bool
    in_limits: bool
    measured: int
    polished: bool
    kept: int
    predicted: int
    cuts: tuple[CutSeen, ...]


def older(cuts: Sequence[CutSeen]) -> list[CutSeen]:
    """The cuts as they stand when the next piece goes in. Source: simulation, this tool's own.

    >>> older([])
    []
    """
    return [replace(one, pieces_ago=one.pieces_ago + 1) for one in cuts]


def coached(
    lathe: SimulatedLathe,
    limits: Limits,
    cuts: Sequence[CutSeen],
    approach: Approach,
    rules: CutRules,
    prior: Prior = USUAL,
) -> Turned:
    """Measure, dial what the coach says, measure, until it says stop; a reading far from its prediction is read again.

    Source: simulation, this tool's own.
    """
    history, first = list(cuts), True
    size, measured, kept, predicted = lathe.measure(carefully=True), 1, 0, 0
    last: float | None = None
    for _ in range(MOST_CUTS):
        to_go = ToGo(size - limits.aim, size - limits.lower, size - limits.upper)
        model = learned(history, reading_mm=lathe.habits.reading_mm, prior=prior)
        advice = next_depth(to_go, model.touched() if first and history else model, rules, approach, last_dialled=last)
        if advice.next is Next.TOUCH_ON:
            lathe.touch()
            first, last = True, None
            continue
        if advice.next is Next.MEASURE:
            size, measured = (size + lathe.measure(carefully=True)) / 2, measured + 1
            break
        if advice.next is not Next.CUT or advice.predicted is None:
            break
        for one_pass in advice.passes or (advice.dialled,):
            lathe.cut(one_pass)
        carefully = advice.chance_in > CAREFUL_FROM
        read, measured = lathe.measure(carefully=carefully), measured + 1
        surprise = abs(size - read - advice.predicted.middle) / advice.predicted.scale
        if not carefully and (surprise > ASK_SCALES or read <= limits.upper):
            read, measured = lathe.measure(carefully=True), measured + 1
        removed = size - read
        low, high = advice.predicted.interval
        kept += low <= removed <= high
        predicted += 1
        last = advice.passes[-1] if advice.passes else advice.dialled
        history.append(CutSeen(advice.dialled, removed, first, last_pass=last if advice.passes else None))
        size, first = read, False
    polished = _polished(lathe, limits, size)
    return _turned(lathe, limits, measured, polished=polished, kept=kept, predicted=predicted, cuts=history)


def by_hand(lathe: SimulatedLathe, limits: Limits, approach: Approach, rules: CutRules) -> Turned:
    """The approach without a model: what is left is dialled as it stands, halved as the approach has it.

    Source: simulation, this tool's own.
    """
    size, measured, last = lathe.measure(carefully=True), 1, 0.0  # both begin with the stock measured with care
    for _ in range(MOST_CUTS):
        left = size - limits.aim - (rules.polish if approach == "polish" else 0.0)
        if size <= limits.upper or left < BY_HAND_LEAST:
            break
        if left > 2 * BY_HAND_FINISH:
            dialled = min(left - 2 * BY_HAND_FINISH, rules.most)
        elif approach == "equal_cuts":
            dialled = left if last and left < 1.6 * last else left / 2
        else:
            dialled = left if left < 4 * BY_HAND_LEAST else left / 2
        steps = max(int(dialled / rules.step + 1e-9), 1)
        lathe.cut(steps * rules.step)
        read, measured = lathe.measure(), measured + 1
        last, size = size - read, read
    polished = _polished(lathe, limits, size)
    return _turned(lathe, limits, measured, polished=polished, kept=0, predicted=0, cuts=())


def by_careful_hand(lathe: SimulatedLathe, limits: Limits, rules: CutRules) -> Turned:
    """A good machinist without a model: measures again what surprises, scales the next cut by what the last took,
    halves when close.

    Source: common practice, no source: at least three measurements on the way, and none believed that does not fit the
    dial.
    """
    size, measured = lathe.measure(carefully=True), 1
    share, cuts_taken = 1.0, 0
    for _ in range(MOST_CUTS):
        left = size - limits.aim
        if size <= limits.upper or left < BY_HAND_LEAST:
            break
        if left > 2 * BY_HAND_FINISH:
            wanted = min(left - 2 * BY_HAND_FINISH, rules.most)
        else:
            wanted = left if cuts_taken > 1 and left < 6 * BY_HAND_LEAST else left / 2
        if not cuts_taken:
            wanted = min(wanted, left / 2.2)  # a dial nobody knows may take twice as much
        dialled = max(int(wanted / share / rules.step + 1e-9), 1) * rules.step
        light = min(rules.finish, dialled / 2) if left > 2 * BY_HAND_FINISH else 0.0
        for one_pass in (dialled - light, light) if light else (dialled,):
            lathe.cut(one_pass)
        lands = wanted > 0.9 * left
        read, measured = lathe.measure(carefully=lands), measured + 1
        if not lands and (abs(size - read - dialled * share) > CAREFUL_SURPRISE_MM or read <= limits.upper):
            read, measured = lathe.measure(carefully=True), measured + 1
        if dialled > 0.1:
            share = max(min((size - read) / dialled, 2.2), 0.4)
        size, cuts_taken = read, cuts_taken + 1
    polished = _polished(lathe, limits, size)
    return _turned(lathe, limits, measured, polished=polished, kept=0, predicted=0, cuts=())


def _polished(lathe: SimulatedLathe, limits: Limits, size: float) -> bool:
    """Whether stone or cloth finishes it (it reads over, or too close to it to call), and if so, how it lands."""
    polished = size > limits.upper - lathe.habits.reading_mm
    if polished:
        lathe.size = limits.aim + lathe.chance.gauss(0.0, POLISH_SPREAD)
    return polished


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
    """Many parts in one line: shares in per cent, the median number of measurements a part, coverage of the 90 %
    intervals.
    """

    parts: int
    scrap_percent: float
    in_limits_percent: float
    polished_percent: float
    median_measured: float
    mean_measured: float
    coverage_percent: float


def many(
    parts: int, approach: Approach, *, who: str = "coach", batch: int = 4, width_mm: float = 0.026, known: bool = False
) -> Tally:
    """Parts of about 25 mm from stock 0.8 to 4 mm over, four to a set-up; the same seeds for every approach and hand.

    `who`: coach, hand (believes dial and readings) or careful_hand. `known`: the coach has seen earlier set-ups of the
    machine.

    Source: simulation, this tool's own.
    """
    limits = Limits(24.967, 24.967 + width_mm)
    rules = CutRules(step=0.01, polish=0.008, guard=min(2 * LatheHabits().reading_mm, width_mm / 10))
    found: list[Turned] = []
    for seed in range(-(-parts // batch)):
        machine = seed if known else None
        lathe = SimulatedLathe(seed, _stock(seed, 0), machine=machine)
        prior = _seen_before(seed, limits, approach, rules) if known and who == "coach" else USUAL
        cuts: Sequence[CutSeen] = ()
        for piece in range(batch):
            if piece:
                lathe.next_piece(_stock(seed, piece))
            if who == "coach":
                part = coached(lathe, limits, older(cuts), approach, rules, prior)
            elif who == "careful_hand":
                part = by_careful_hand(lathe, limits, rules)
            else:
                part = by_hand(lathe, limits, approach, rules)
            cuts = part.cuts
            found.append(part)
    return _tally(found)


def _seen_before(machine: int, limits: Limits, approach: Approach, rules: CutRules) -> Prior:
    """What earlier set-ups on a machine taught: two pieces each, with tools that spring a little differently."""
    set_ups: list[Sequence[CutSeen]] = []
    for number in range(SEEN_SET_UPS):
        seed = 1_000_000 + 100 * machine + number
        lathe = SimulatedLathe(seed, _stock(seed, 0), machine=machine)
        cuts = coached(lathe, limits, (), approach, rules).cuts
        lathe.next_piece(_stock(seed, 1))
        set_ups.append(coached(lathe, limits, older(cuts), approach, rules).cuts)
    return known_machine(set_ups, reading_mm=LatheHabits().reading_mm)


def _tally(found: Sequence[Turned]) -> Tally:
    total = len(found)
    predicted = sum(part.predicted for part in found)
    return Tally(
        total,
        100 * sum(part.scrap for part in found) / total,
        100 * sum(part.in_limits for part in found) / total,
        100 * sum(part.polished for part in found) / total,
        float(median(part.measured for part in found)),
        sum(part.measured for part in found) / total,
        100 * sum(part.kept for part in found) / predicted if predicted else 0.0,
    )


def _stock(seed: int, piece: int) -> float:
    return 25 + Random(f"stock {seed} {piece}").uniform(0.8, 4.0)
