"""How deep the next cut may go: towards the aim, by school, and never past the set risk of going too far. All in mm on diameter."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from enum import StrEnum
from typing import Literal

from nomisma.core.cutting.learned import CutModel, CutSeen, Predicted, learned

Takes = Callable[[float], Predicted]
Chance = Callable[[float], float]
School = Literal["equal_cuts", "creep", "polish"]
FIRST_SHARE = 0.33
"""Of what stands before the limit, at most, while nobody has seen what this dial takes: twice as much must not spoil the part."""
SURE = 0.95
"""The chance of ending in limits from which one cut is enough. Source: this tool's own choice."""
SPRING_WORTH_MM = 0.005
"""What the same dial again must be expected to take to be worth its pass, mm on diameter. Source: this tool's own choice."""
TOUCH_ON_FROM = 2.5
"""Least cuts still to go from which no stone is offered (0.05 mm, 2 thou, as shipped). Source: this tool's own choice."""
EQUAL_FROM, EQUAL_TO = 0.6, 1.6
"""What is left, in parts of the cut before, that the same cut again takes. Source: this tool's own choice."""


class Next(StrEnum):
    """What the coach says."""

    CUT = "cut"
    DONE = "done"
    POLISH = "polish"
    TOO_THIN = "too_thin"
    TOUCH_ON = "touch_on"
    GONE = "gone"


@dataclass(frozen=True, slots=True)
class ToGo:
    """What stands from the size as measured: to the aim, to the limit past which metal is gone, to the limit where it is in."""

    aim: float
    gone: float
    near: float


@dataclass(frozen=True, slots=True)
class CutRules:
    """How cuts are taken here: the dial's step on diameter, least and most depth, finishing cuts, risk, what is left to polish."""

    step: float
    least: float = 0.02
    most: float = 2.5
    finish: float = 0.2
    risk: float = 0.002
    polish: float = 0.0
    reading: float = 0.001
    factor: float = 1.0


@dataclass(frozen=True, slots=True)
class Advice:
    """The next cut: what is dialled, what it will take, the chance that it goes too far; `why` names what held it back."""

    next: Next
    dialled: float = 0.0
    steps: int = 0
    predicted: Predicted | None = None
    chance_gone: float = 0.0
    chance_in: float = 0.0
    why: str = ""


def dial_factor(cuts: Sequence[CutSeen]) -> float:
    """2 where the dial takes twice what it was said to (it reads radius), ½ where half; 1 otherwise. Source: arithmetic."""
    ratios = sorted(cut.removed / cut.dialled for cut in cuts if cut.dialled > 0.1)
    if not ratios:
        return 1.0
    middle = ratios[len(ratios) // 2]
    return 2.0 if 1.75 <= middle <= 2.3 else 0.5 if 0.42 <= middle <= 0.58 else 1.0


def scaled(cuts: Sequence[CutSeen], factor: float) -> list[CutSeen]:
    """The cuts as the dial really takes them."""
    return [CutSeen(cut.dialled * factor, cut.removed, cut.removed_before, cut.first, cut.pieces_ago) for cut in cuts]


def next_depth(
    to_go: ToGo, cuts: Sequence[CutSeen], rules: CutRules, school: School, *, model: CutModel | None = None
) -> Advice:
    """The next cut of a piece, from its cuts and those of the pieces before on this set-up (oldest first).

    `model`: what is known of the set-up, where some of the cuts are only expected and teach nothing.
    """
    if to_go.gone < 0:
        return Advice(Next.GONE)
    if to_go.near <= -_guard(to_go, rules):
        return Advice(Next.DONE)
    own = [cut for cut in cuts if cut.pieces_ago == 0]
    model = model or learned(scaled(cuts, rules.factor), reading_mm=rules.reading)
    before, first = (own[-1].removed, False) if own else (0.0, True)
    wanted = to_go.aim - (rules.polish if school == "polish" else 0.0)

    def takes(dialled: float) -> Predicted:
        return model.predict(dialled, before, first=first)

    def inside(dialled: float) -> float:
        found = takes(dialled)
        return max(found.chance_above(max(to_go.near, 0.0)) - found.chance_above(to_go.gone), 0.0)

    safe = _deepest(takes, to_go.gone, rules)
    chosen, why = _by_school(model, before, own, wanted, rules, school, inside)
    if not cuts:
        chosen, why = min((chosen, why), (FIRST_SHARE * to_go.gone, "first"))
    if chosen > safe:
        chosen, why = safe, "risk"
    if chosen > rules.most:
        chosen, why = rules.most, "most"
    return _on_the_dial(chosen, why, safe, takes, inside, to_go, rules)


def _guard(to_go: ToGo, rules: CutRules) -> float:
    """How far inside a reading must lie to be no close call, mm; never more than a tenth of the limits' width."""
    return min(2 * rules.reading, (to_go.gone - to_go.near) / 10)


def _deepest(takes: Takes, gone: float, rules: CutRules) -> float:
    """The deepest cut whose chance of taking more than `gone` stays below the risk."""
    low, high = 0.0, max(gone, 0.0) * 1.5
    reach = takes(0.0).reach(1 - rules.risk)
    for _ in range(20):
        middle = (low + high) / 2
        found = takes(middle)
        low, high = (middle, high) if found.middle + reach * found.scale <= gone else (low, middle)
    return low


def _for(model: CutModel, removed: float, before: float) -> float:
    """What is dialled to take so much."""
    a, b, c = model.middle
    return (removed - a - c * before) / max(b, 0.2)


def _leaving_room(model: CutModel, wanted: float, rules: CutRules) -> float:
    """The most a roughing cut may remove so that what it left standing, coming off with the next, cannot pass the limit."""
    from_spring = model.middle[2] + model.predict(0.0, 0.0).reach(1 - rules.risk) * model.spring_spread
    return (wanted - rules.least) / (1 + max(from_spring, 0.0) + model.take_spread)


def _by_school(
    model: CutModel, before: float, own: Sequence[CutSeen], wanted: float, rules: CutRules, school: School, inside: Chance
) -> tuple[float, str]:
    whole = _for(model, wanted, before)
    if wanted > 2.4 * rules.finish:
        heaviest = _leaving_room(model, wanted, rules)
        return _for(model, min(wanted - 2 * rules.finish, heaviest), before), "rough"
    if school == "equal_cuts":
        if own and EQUAL_FROM <= wanted / max(own[-1].removed, 1e-9) <= EQUAL_TO:
            return whole, "same_again"
        return (whole, "one_cut") if wanted < 2 * rules.least else (_for(model, wanted / 2, before), "half")
    if inside(whole) >= SURE or wanted < 2 * rules.least:
        return whole, "sure"
    return _for(model, wanted / 2, before), "half"


def _instead(near: float, rules: CutRules) -> Next:
    """What is done where no cut is safe. Much left means that the last cut's spring stands in the way: touched on anew, it does not."""
    if near > TOUCH_ON_FROM * rules.least:
        return Next.TOUCH_ON
    return Next.POLISH if near < rules.least else Next.TOO_THIN


def _on_the_dial(chosen: float, why: str, safe: float, takes: Takes, inside: Chance, to_go: ToGo, rules: CutRules) -> Advice:
    """Down to a whole step of the dial; up to the least depth only where that is safe too."""
    step = Decimal(repr(rules.step * rules.factor))
    steps = int((Decimal(repr(max(chosen, 0.0))) / step + Decimal("1e-9")).to_integral_value(ROUND_FLOOR))
    depth = float(step) * steps
    if depth < rules.least:
        steps = int((Decimal(repr(rules.least)) / step).to_integral_value(ROUND_CEILING))
        depth, why = float(step) * steps, "least"
        if depth > safe:
            again = takes(0.0)
            if again.middle >= SPRING_WORTH_MM and again.chance_above(to_go.gone) <= rules.risk:
                return Advice(Next.CUT, 0.0, 0, again, again.chance_above(to_go.gone), inside(0.0), "spring")
            return Advice(_instead(to_go.near, rules), why="risk")
    found = takes(depth)
    return Advice(Next.CUT, depth / rules.factor, steps, found, found.chance_above(to_go.gone), inside(depth), why)
