"""A simulated four-jaw with work in it: screws with backlash, jaws that touch or do not, tightening that moves the
work.
"""

from dataclasses import dataclass, field
from enum import StrEnum
from math import cos, hypot, pi, radians, sin
from random import Random
from typing import Literal

from nomisma.core.practice.levels import FAR_MM, Level
from nomisma.core.truing.surface import sense_of

Circle = Literal["near", "far"]
SQUEEZE_MM = 0.03
"""How far a jaw still goes when both of its pair hold the work: the screw is hard after that."""
SNUG_MM = 0.004
_DENSE = 240


class Feel(StrEnum):
    """What the key feels like."""

    SLACK = "slack"
    FREE = "free"
    PUSHES = "pushes"
    HARD = "hard"


FEEL_WORDS = {
    Feel.SLACK: "The key turns, the jaw does not: backlash.",
    Feel.FREE: "The jaw moves without touching the work.",
    Feel.PUSHES: "The jaw pushes the work.",
    Feel.HARD: "Hard: the jaw across holds against it. Ease that one first.",
}


@dataclass
class _Jaw:
    """Its gap to the work (mm), which way its screw was last turned, and the backlash still to be taken up."""

    gap: float = 0.0
    way: int = 1
    slack: float = 0.0


@dataclass
class SimulatedChuck:
    """Work of a level in a chuck, made from a seed: the same seed and the same turns give the same work again."""

    level: Level
    seed: int
    x: float = 0.0
    y: float = 0.0
    jaws: dict[int, _Jaw] = field(default_factory=lambda: {n: _Jaw() for n in (1, 2, 3, 4)})
    grip: dict[int, float] = field(default_factory=lambda: {1: SNUG_MM, 2: SNUG_MM})
    tightened: bool = False
    actions: int = 0

    def __post_init__(self) -> None:
        """Place the work: offset anywhere within the level's circle, its waves, its lean and the chuck's habit at any
        angle.
        """
        chance = Random(f"work {self.level.name} {self.seed}")
        way, far = chance.uniform(0, 2 * pi), self.level.offset_mm * chance.uniform(0.35, 1)
        self.x, self.y = far * cos(way), far * sin(way)
        self._waves = [
            (number, total_indicator_reading / 2 * chance.uniform(0.7, 1), chance.uniform(0, 2 * pi))
            for number, total_indicator_reading in self.level.waves
        ]
        lean, lean_way = self.level.lean_mm / FAR_MM * chance.uniform(0.6, 1), chance.uniform(0, 2 * pi)
        self.lean_x, self.lean_y = lean * cos(lean_way), lean * sin(lean_way)
        drift_way = chance.uniform(0, 2 * pi)
        self._drift = self.level.drift_mm * cos(drift_way), self.level.drift_mm * sin(drift_way)
        self._chance = Random(f"hand {self.level.name} {self.seed}")

    def turn(self, jaw: int, turns: float) -> Feel:
        """Turn one jaw's key: positive drives it in, negative eases it. Says what it feels like at the end of
        the turn.
        """
        self.actions += 1
        one, across, pair = self.jaws[jaw], self.jaws[(jaw + 1) % 4 + 1], 1 if jaw % 2 else 2
        travel, way = abs(turns) * float(self.level.lead.mm), 1 if turns > 0 else -1
        if way != one.way:
            one.way, one.slack = way, self.level.backlash_mm
        taken = min(travel, one.slack)
        one.slack, travel = one.slack - taken, travel - taken
        if travel <= 1e-9:
            return Feel.SLACK
        return self._drive(jaw, one, across, pair, travel) if way > 0 else self._ease(one, pair, travel)

    def _ease(self, one: _Jaw, pair: int, travel: float) -> Feel:
        """First the grip of the pair goes, then a gap opens."""
        taken = min(travel, self.grip[pair])
        self.grip[pair] -= taken
        if taken > 1e-9:
            self.tightened = False
        one.gap += travel - taken
        return Feel.FREE if one.gap > 0 else Feel.PUSHES

    def _drive(self, jaw: int, one: _Jaw, across: _Jaw, pair: int, travel: float) -> Feel:
        """First its own gap closes, then the work moves until the jaw across holds it, then both squeeze."""
        closed = min(travel, one.gap)
        one.gap, travel = one.gap - closed, travel - closed
        if travel <= 1e-9:
            return Feel.FREE
        push = min(travel, across.gap)
        across.gap, travel = across.gap - push, travel - push
        self._shift(jaw, push)
        if travel <= 1e-9:
            return Feel.PUSHES
        squeezed = min(travel, SQUEEZE_MM - self.grip[pair])
        self.grip[pair] += squeezed
        return Feel.HARD if travel > squeezed + 1e-9 or push <= 1e-9 else Feel.PUSHES

    def _shift(self, jaw: int, amount: float) -> None:
        """A driven jaw pushes the work away from itself; one inside a ring takes it along outwards."""
        way_x, way_y = {1: (-1, 0), 2: (0, -1), 3: (1, 0), 4: (0, 1)}[jaw]
        if self.level.grip == "inside":
            way_x, way_y = -way_x, -way_y
        self.x, self.y = self.x + amount * way_x, self.y + amount * way_y

    def tighten(self) -> None:
        """Tighten pair by pair: gaps close from both sides, and the chuck moves the work its own way."""
        self.actions += 1
        if self.tightened:
            return
        for first in (1, 2):
            a, b = self.jaws[first], self.jaws[first + 2]
            towards = (a.gap - b.gap) / 2
            self._shift(first + 2, towards)
            a.gap = b.gap = 0.0
            self.grip[first] = SQUEEZE_MM
        for one in self.jaws.values():
            one.way, one.slack = 1, 0.0
        self.x += self._drift[0] * self._chance.gauss(1, 0.1)
        self.y += self._drift[1] * self._chance.gauss(1, 0.1)
        self.tightened = True

    def tap(self, jaw: int, amount_mm: float) -> None:
        """Tap the outer end away from a jaw; the near circle moves a little too."""
        self.actions += 1
        done = amount_mm * self._chance.uniform(0.85, 1.15)
        way_x, way_y = {1: (-1, 0), 2: (0, -1), 3: (1, 0), 4: (0, 1)}[jaw]
        self.lean_x, self.lean_y = self.lean_x + way_x * done / FAR_MM, self.lean_y + way_y * done / FAR_MM
        self._shift(jaw, 0.05 * done)

    def needle(self, at_deg: float, circle: Circle = "near") -> float:
        """What the indicator says there, mm, with its noise and its lag; looking twice says the same."""
        place = Random(f"{self.seed} {self.actions} {at_deg:.3f} {circle}")
        rising = self.surface(at_deg, circle) - self.surface(at_deg - 5, circle)
        lag = self.level.hysteresis_mm * (-1 if rising > 0 else 1)
        return self.surface(at_deg, circle) + lag + place.gauss(0, self.level.noise_mm)

    def surface(self, at_deg: float, circle: Circle = "near") -> float:
        """Where the surface truly is under the tip, mm: offset, lean, waves and skin."""
        z = FAR_MM if circle == "far" else 0.0
        at = radians(at_deg)
        offset = (self.x + self.lean_x * z) * cos(at) + (self.y + self.lean_y * z) * sin(at)
        skin = (
            Random(f"skin {self.seed} {round(at_deg) % 360} {circle}").gauss(0, self.level.rough_mm)
            if self.level.rough_mm
            else 0.0
        )
        waves = sum(half * cos(number * (at - crest)) for number, half, crest in self._waves)
        return sense_of(self.level.surface) * offset + waves + skin

    def total_indicator_reading(self, circle: Circle = "near") -> float:
        """Its true total indicator reading, mm, all round."""
        values = [self.surface(360 * step / _DENSE, circle) for step in range(_DENSE)]
        return max(values) - min(values)

    def floor(self) -> float:
        """What it would swing with no offset at all, mm: no jaw can do better."""
        kept = self.x, self.y, self.lean_x, self.lean_y
        self.x = self.y = self.lean_x = self.lean_y = 0.0
        found = self.total_indicator_reading()
        self.x, self.y, self.lean_x, self.lean_y = kept
        return found

    def offset_along(self, jaw: int) -> float:
        """How far the work stands off towards a jaw, mm."""
        return {1: self.x, 2: self.y, 3: -self.x, 4: -self.y}[jaw]

    def offset(self) -> float:
        """How far it truly is off centre at the near circle, mm."""
        return hypot(self.x, self.y)
