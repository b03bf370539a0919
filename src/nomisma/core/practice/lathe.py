"""A simulated lathe: a tool that springs, wears and rubs, a dial that may not be what it was said to be, a reader who
may misread.

Sizes in mm on diameter, for a shaft; a bore is the same with the sign turned.
"""

from dataclasses import dataclass, field
from math import sqrt
from random import Random

THIMBLE_MM = 0.5
"""One turn of a metric micrometer's thimble: the usual misread."""


SET_UP_SPRING = 0.005
"""What the spring of like tools differs by from one set-up to the next. Source: this tool's own choice."""


@dataclass(frozen=True, slots=True)
class LatheHabits:
    """How often things go wrong, and how far cuts scatter. Source: common practice, no source: orders of a worn
    workshop lathe.
    """

    misreads: float = 0.01
    radius_dial: float = 0.05
    backlash_missed: float = 0.02
    hot: float = 0.05
    reading_mm: float = 0.0015


@dataclass
class SimulatedLathe:
    """One set-up, made from a seed. `stock_mm` is the size of the piece in the chuck.

    `machine`: a lathe that is met again: its dial is its own, and its tools spring alike but for how they are set.
    """

    seed: int
    stock_mm: float
    habits: LatheHabits = field(default_factory=LatheHabits)
    machine: int | None = None

    def __post_init__(self) -> None:
        """Spring, dial, scatter and wear of this set-up; the tool is touched on by eye."""
        self.chance = Random(f"lathe {self.seed}")
        own = self.chance if self.machine is None else Random(f"machine {self.machine}")
        self.spring = max(own.gauss(0.06, 0.04), 0.0)
        self.gain = own.gauss(1.0, 0.03) * (2.0 if own.random() < self.habits.radius_dial else 1.0)
        self.scatter = own.uniform(0.0015, 0.005)
        if self.machine is not None:
            self.spring = max(self.spring + self.chance.gauss(0.0, SET_UP_SPRING), 0.0)
        self.wear = self.chance.uniform(0.0, 0.0006)
        self.size = self.stock_mm
        self.touch()

    def touch(self) -> None:
        """Touch the tool on the work: where it stands is known to a few hundredths."""
        self.position = self.size + self.chance.gauss(0.0, 0.03)

    def next_piece(self, stock_mm: float) -> None:
        """The next piece of the batch on the same set-up."""
        self.size = self.stock_mm = stock_mm
        self.touch()

    def cut(self, dialled: float) -> None:
        """Wind in by so much and take the cut."""
        depth = dialled * self.gain
        if self.chance.random() < self.habits.backlash_missed:
            depth = max(depth - 0.08, 0.0)
        self.position += self.wear - depth
        engaged = self.size - self.position
        if engaged < 0.02:
            engaged *= 0.3  # it rubs
        error = self.chance.gauss(0.0, sqrt(self.scatter**2 + (0.008 * depth) ** 2))
        removed = max(engaged / (1 + self.spring) + error, 0.0)
        self.size -= removed

    def measure(self, *, carefully: bool = False) -> float:
        """What the micrometer says; read again carefully, there is no misread and the part has cooled."""
        found = self.size + self.chance.gauss(0.0, self.habits.reading_mm)
        if carefully:
            return found
        if self.chance.random() < self.habits.hot:
            found += self.chance.uniform(0.002, 0.008)
        if self.chance.random() < self.habits.misreads:
            found += self.chance.choice((-THIMBLE_MM, THIMBLE_MM))
        return found
