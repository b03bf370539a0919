"""How deep the next cut may go: towards the aim, by approach, and never past the set risk of going too far. All in mm
on diameter.
"""

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from math import ceil, floor
from typing import Literal

from nomisma.core.cutting.dialled import MOST_PASSES
from nomisma.core.cutting.learned import CutModel, Predicted

Chance = Callable[[float], float]
Approach = Literal["equal_cuts", "creep", "polish"]
SURE = 0.90
"""The chance of ending in limits from which one cut is enough. Source: this tool's own choice."""
LIKELY = 0.68
"""The chance from which the second of two equal cuts is taken as the last. Source: this tool's own choice."""
LEFT_SCALES = 6.0
"""Scales of a roughing cut that are left besides for the cuts that finish. Source: this tool's own choice."""
HALVES_FROM = 4.0
"""Least cuts still to go from which a cut unlikely to land is halved once more. Source: this tool's own choice."""
SPRING_WORTH_MM = 0.005
"""What the same dial again must be expected to take to be worth its pass. Source: this tool's own choice."""
CLOTH_MOST_MM = 0.0127
"""The most that stone or cloth is asked to take off an outside. Source: common practice, no source: 0.0002 to 0.0005
in.
"""
TOUCH_ON_FROM = 2.5
"""Least cuts still to go from which no stone is offered (0.05 mm, 2 thou, as shipped). Source: this tool's own choice.
"""
SAME_FROM, SAME_TO = 0.8, 1.25
"""What a cut dials, in parts of the one before, to be called the same again. Source: this tool's own choice."""
ROUGHING_FROM = 2.4
"""Finishing cuts still to go from which one roughs. Source: this tool's own choice."""


LANDING = ("sure", "same_again", "one_cut")
"""Words for a cut that say it lands: said only where it does."""


class Next(StrEnum):
    """What the coach says."""

    CUT = "cut"
    DONE = "done"
    MEASURE = "measure"
    POLISH = "polish"
    TOO_THIN = "too_thin"
    TOUCH_ON = "touch_on"
    GONE = "gone"

    @property
    def is_of_the_tool(self) -> bool:
        """Whether the tool goes to the work next."""
        return self in (Next.CUT, Next.TOUCH_ON)

    @property
    def is_by_hand(self) -> bool:
        """Whether what is left is for cloth or a stone, not for the tool."""
        return self in (Next.POLISH, Next.TOO_THIN)

    @property
    def takes_off(self) -> bool:
        """Whether metal is to come off, however."""
        return self.is_of_the_tool or self.is_by_hand


@dataclass(frozen=True, slots=True)
class ToGo:
    """What stands from the size as measured: to the aim, to the limit past which metal is gone, to the limit where it
    is in.
    """

    aim: float
    gone: float
    near: float


@dataclass(frozen=True, slots=True)
class CutRules:
    """How cuts are taken here: the dial's step on diameter, least and most depth, finishing cuts, risk, what is left to
    polish.

    `guard`: how far inside a limit a reading must lie to be in limits, by the verdict's own rule; `cloth`: whether
    stone or cloth can take the last of it, as on an outside.
    """

    step: float
    least: float = 0.02
    most: float = 2.5
    finish: float = 0.2
    risk: float = 0.002
    polish: float = 0.0
    guard: float = 0.0
    cloth: bool = True


@dataclass(frozen=True, slots=True)
class Advice:
    """The next cut: what is dialled, what it will take, the chance that it goes too far; `why` names what held it back.

    `passes`: where it is taken in several, nothing measured between them; they sum up to what is dialled.
    """

    next: Next
    dialled: float = 0.0
    steps: int = 0
    passes: tuple[float, ...] = ()
    predicted: Predicted | None = None
    chance_gone: float = 0.0
    chance_in: float = 0.0
    why: str = ""


def next_depth(
    to_go: ToGo,
    model: CutModel,
    rules: CutRules,
    approach: Approach,
    *,
    last_dialled: float | None = None,
    judged: Next | None = None,
    agree: bool = False,
) -> Advice:
    """The next cut of a piece, by what is known of its set-up. `last_dialled`: of the piece's cut before, none where it
    has none.

    `judged`: what the feature's verdict says, where it was asked: done, measure, gone, or cut where metal is to go.
    `agree`: whether the last cuts took alike of what was dialled, so that the same again may be trusted.

    Source: approaches: common practice, no source; the chance of passing a limit by the model (core.cutting.learned).
    """
    judged = judged or _judged(to_go, rules.guard)
    if judged is not Next.CUT:
        return Advice(judged)
    choice = _Choice(to_go, model, rules)
    if approach == "equal_cuts" and agree and last_dialled is not None and (again := choice.same_again(last_dialled)):
        return again
    return choice.by(approach, last_dialled)


def _judged(to_go: ToGo, guard: float) -> Next:
    """The verdict on a size alone: past the limit, inside both, within the guard of one, or metal to go."""
    if to_go.gone < -guard:
        return Next.GONE
    if to_go.near <= -guard and to_go.gone >= guard:
        return Next.DONE
    return Next.MEASURE if to_go.gone < guard or to_go.near <= guard else Next.CUT


@dataclass(frozen=True, slots=True)
class _Choice:
    """What speaks for a depth: what it takes, whether it lands, whether it is safe. Depths are dialled, mm on
    diameter.
    """

    to_go: ToGo
    model: CutModel
    rules: CutRules

    def chance_gone(self, dialled: float) -> float:
        return self.model.predict(dialled).chance_above(self.to_go.gone)

    def chance_in(self, dialled: float) -> float:
        """Landing inside both limits."""
        found = self.model.predict(dialled)
        return max(found.chance_above(self.to_go.near) - found.chance_above(self.to_go.gone), 0.0)

    @property
    def least(self) -> float:
        """The thinnest cut that cuts, as it is dialled."""
        return self.rules.least / self.model.factor

    def deepest(self) -> float:
        """The deepest cut whose chance of taking more than there is stays below the risk."""
        low, high = 0.0, 2.5 * max(self.to_go.gone, 0.0)
        for _ in range(18):
            middle = (low + high) / 2
            low, high = (middle, high) if self.chance_gone(middle) <= self.rules.risk else (low, middle)
        return low

    def for_removed(self, removed: float) -> float:
        """What is dialled to take so much."""
        return self.model.dial_for(removed)

    def landing(self, wanted: float, safe: float) -> float | None:
        """The whole step that is likeliest to land, none where no safe one cuts cleanly."""
        step, whole = self.rules.step, self.for_removed(wanted)
        around = range(max(floor(whole / step) - 1, 0), ceil(whole / step) + 2)
        found = [n * step for n in around if self.least - 1e-9 <= n * step <= safe]
        return max(found, key=self.chance_in, default=None)

    def by(self, approach: Approach, last: float | None) -> Advice:
        rules, wanted = self.rules, self.to_go.aim - (self.rules.polish if approach == "polish" else 0.0)
        if wanted > ROUGHING_FROM * rules.finish and (roughing := self._roughing(wanted)):
            return roughing
        safe = min(self.deepest(), rules.most / self.model.factor)
        landing = self.landing(wanted, safe)
        if landing is not None and self.chance_in(landing) >= SURE:
            return self._advice(landing, self._landing_word(landing, last))
        depth, why = self._towards(approach, wanted, landing, last)
        if depth > safe:
            depth, why = safe, "most" if safe < self.deepest() - 1e-9 else "risk"
        steps = floor(depth / rules.step + 1e-9)
        if steps * rules.step >= self.least - 1e-9:
            return self._advice(steps * rules.step, why)
        steps = ceil(self.least / rules.step - 1e-9)
        return self._advice(steps * rules.step, "least") if steps * rules.step <= safe else self._no_whole_cut()

    def same_again(self, last: float) -> Advice | None:
        """The second of two equal cuts: as deep as the last, landing inside, its interval short of the limit; none
        where there is none.
        """
        step, whole = self.rules.step, self.for_removed(self.to_go.aim)
        around = (n * step for n in range(max(floor(whole / step) - 1, 0), ceil(whole / step) + 2))
        found = [
            depth
            for depth in around
            if self.least - 1e-9 <= depth <= self.rules.finish * ROUGHING_FROM
            and SAME_FROM <= depth / max(last, 1e-9) <= SAME_TO
            and self.lands(self.model.predict(depth).middle)
            and self.model.predict(depth).interval[1] <= self.to_go.gone
            and self.chance_in(depth) >= LIKELY
        ]
        return self._advice(max(found, key=self.chance_in), "two_equal") if found else None

    def lands(self, removed: float) -> bool:
        """Whether so much taken off leaves the size inside both limits."""
        return self.to_go.near <= removed <= self.to_go.gone

    def _towards(
        self, approach: Approach, wanted: float, landing: float | None, last: float | None
    ) -> tuple[float, str]:
        """By the approach: half of what is left, or the last cut."""
        rules = self.rules
        whole = landing if landing is not None else self.for_removed(wanted)
        if wanted < 2 * rules.least:
            return whole, "one_cut"
        likely = landing is not None and self.chance_in(landing) >= LIKELY
        if approach == "equal_cuts" and last is not None and (likely or wanted < HALVES_FROM * rules.least):
            return whole, self._landing_word(whole, last)
        return self.for_removed(wanted / 2), "half"

    def _roughing(self, wanted: float) -> Advice | None:
        """Down to the finishing cuts: heavy passes and a light one after them, so that little is left standing by the
        spring.
        """
        rules, step = self.rules, self.rules.step
        # No more at once than can be logged as one row of passes: measure there, and go on.
        most = MOST_PASSES * rules.most / self.model.factor
        uncertainty = self.model.predict_passes(
            self._passes(min(self.for_removed(wanted - 2 * rules.finish), most))
        ).scale
        left = min(2 * rules.finish, LEFT_SCALES * uncertainty + HALVES_FROM * rules.least)
        steps = floor(min(self.for_removed(wanted - left), most) / step + 1e-9)
        why = "rough"
        while (
            steps > 0
            and self.model.predict_passes(self._passes(steps * step)).chance_above(self.to_go.gone) > rules.risk
        ):
            steps, why = min(floor(steps * 0.9), steps - 1), "risk"
        passes = self._passes(steps * step)
        if passes[-1] < self.least or steps * step * self.model.factor < rules.finish:
            return None
        found = self.model.predict_passes(passes)
        gone = found.chance_above(self.to_go.gone)
        return Advice(Next.CUT, steps * step, steps, passes if len(passes) > 1 else (), found, gone, 0.0, why)

    def _passes(self, dialled: float) -> tuple[float, ...]:
        """A roughing depth in whole steps: even heavy passes the machine takes, and a light one of a finishing cut at
        the end.
        """
        rules, factor = self.rules, self.model.factor
        light = floor(rules.finish / factor / rules.step + 1e-9) * rules.step
        heavy = dialled - light
        if light <= 0 or heavy <= light:
            return (dialled,)
        count = ceil(heavy * factor / rules.most - 1e-9)
        even = ceil(heavy / count / rules.step - 1e-9) * rules.step
        passes = [even] * (count - 1)
        return (*passes, heavy - sum(passes), light)

    def _landing_word(self, dialled: float, last: float | None) -> str:
        same = last is not None and SAME_FROM <= dialled / max(last, 1e-9) <= SAME_TO
        return "same_again" if same else "sure"

    def _advice(self, dialled: float, why: str) -> Advice:
        found = self.model.predict(dialled)
        steps = round(dialled / self.rules.step)
        if why in LANDING and not self.lands(found.middle):
            why = "towards"
        return Advice(
            Next.CUT, dialled, steps, (), found, found.chance_above(self.to_go.gone), self.chance_in(dialled), why
        )

    def _no_whole_cut(self) -> Advice:
        """The same dial again where that is worth a pass; else what a machinist would do with so little."""
        again = self.model.predict(0.0)
        if (
            self.model.count
            and again.middle >= SPRING_WORTH_MM
            and again.chance_above(self.to_go.gone) <= self.rules.risk
        ):
            return self._advice(0.0, "spring")
        if self.model.count and self.to_go.near > TOUCH_ON_FROM * self.rules.least:
            return Advice(Next.TOUCH_ON, why="risk")
        cloth = self.rules.cloth and self.to_go.near <= CLOTH_MOST_MM
        return Advice(Next.POLISH if cloth else Next.TOO_THIN, why="risk")
