"""A part of a level on the simulated lathe, to be turned or bored by hand: what the micrometer says after each cut,
warm and cool.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import ROUND_HALF_EVEN, Decimal
from random import Random

from nomisma.core.cutting.amount import line_on_diameter
from nomisma.core.cutting.coach_model import MeasuredCut, NextCutInput
from nomisma.core.cutting.depth import Next
from nomisma.core.cutting.dialled import Dialled
from nomisma.core.cutting.next_cut import next_cut
from nomisma.core.part.feature import Feature, cut_direction
from nomisma.core.practice.lathe import LatheHabits, SimulatedLathe
from nomisma.core.practice.lathe_levels import LatheLevel
from nomisma.core.quantity.length import Length, Unit

STEP_MM: dict[Unit, Decimal] = {"mm": Decimal("0.001"), "in": Decimal("0.00254")}
"""What the practice micrometer's vernier reads to: 0.001 mm, a tenth of a thou."""
READING_MM = 0.0008
WARM_MM = (0.006, 0.02)
"""How much larger a part just off the tool measures. Source: common practice, no source: some 20 to 40 K on an inch or
so.
"""
BACKLASH_MM = 0.08
STONE_MM = (0.002, 0.005)
"""What a touch of stone or cloth takes off the diameter. Source: common practice, no source: a tenth or two."""
MOST_CUTS = 30
MOST_READINGS = 60
STONE_PAST = 0.002
"""How far past the limit the stone goes, mm: a reading just inside may be just outside."""


@dataclass
class PracticePart:
    """One part, made from a seed: the same seed and the same cuts give the same sizes again. Sizes in mm on
    diameter.
    """

    level: LatheLevel
    seed: int
    cooled: bool = field(default=True, init=False)

    def __post_init__(self) -> None:
        """Stock, spring, dial and scatter of this part. A bore is a shaft seen in the mirror of its limits."""
        level = self.level
        self._chance = Random(f"part {level.name} {self.seed}")
        self._mirror = float(level.lower.mm + level.upper.mm)
        stock = float(level.upper.mm) + self._chance.uniform(*level.over_mm)
        habits = LatheHabits(misreads=0.0, radius_dial=0.0, backlash_missed=level.slips, hot=0.0, reading_mm=READING_MM)
        self._lathe = SimulatedLathe(self.seed, stock, habits)
        said, real = (line_on_diameter(Decimal(1), reads) for reads in (level.said, level.reads))
        self._lathe.gain = self._chance.gauss(1.0, 0.015) * float(real / said)
        self._lathe.spring = level.spring * self._chance.uniform(0.8, 1.2)
        self._lathe.scatter, self._lathe.wear = level.scatter_mm, level.wear_mm
        self._warmth = 0.0
        self._read = self._measured()

    @property
    def true_mm(self) -> float:
        """Its size, which nobody sees before it is taken out."""
        return self._seen(self._lathe.size)

    def _seen(self, size: float) -> float:
        return size if cut_direction(self.level.kind) == 1 else self._mirror - size

    def _measured(self) -> float:
        return self._seen(self._lathe.measure(carefully=True))

    def to_go(self, size_mm: Decimal) -> float:
        """Metal still to go before such a size is in limits, mm; below zero it is in."""
        level = self.level
        nearest = level.upper.mm if cut_direction(level.kind) == 1 else level.lower.mm
        return float(Feature(level.kind).metal_to_take(size_mm, nearest))

    def cut(self, lines: Decimal) -> None:
        """Wind in by so many lines and take the cut; none is a spring pass."""
        self._lathe.cut(float(lines * line_on_diameter(self.level.line.mm, self.level.said)))
        warm = self._chance.random() < self.level.hot
        self._warmth = self._chance.uniform(*WARM_MM) if warm else 0.0
        self.cooled = not warm
        self._read = self._measured()

    def touch(self) -> None:
        """Touch the tool on the work anew."""
        self._lathe.touch()

    def stone(self) -> None:
        """A touch of stone or cloth: a little comes off."""
        self._lathe.size -= self._chance.uniform(*STONE_MM)
        self._read = self._measured()

    def cool(self) -> None:
        """Wait until it is as warm as the shop."""
        self.cooled, self._warmth = True, 0.0

    @property
    def reading(self) -> Length:
        """Where the micrometer stands, to its vernier."""
        step = STEP_MM[self.level.unit]
        count = (Decimal(f"{self._read + self._warmth:.9f}") / step).quantize(Decimal(1), ROUND_HALF_EVEN)
        return Length(count * step, self.level.unit)


def coach_input(level: LatheLevel, sizes: Sequence[Length], dialled: Sequence[Dialled]) -> NextCutInput:
    """What the coach is asked, after the sizes as read (the stock first) and what was dialled between them.

    Source: simulation, this tool's own.
    """
    cuts = [
        MeasuredCut(dialled=amount.total, last_pass=amount.last_pass, before=before, after=after)
        for amount, before, after in zip(dialled, sizes[:-1], sizes[1:], strict=True)
    ]
    return NextCutInput(
        kind=level.kind,
        size=sizes[-1],
        lower=level.lower,
        upper=level.upper,
        cuts=cuts,
        dial_line=level.line,
        dial_reads=level.said,
        parts_of_line=level.parts_of_line,
        repeatability=Length(Decimal(str(READING_MM)), "mm"),
        unit=level.unit,
        backlash=Length(Decimal(str(BACKLASH_MM)), "mm") if level.slips else None,
    )


def _of_lines(lines: Decimal, level: LatheLevel) -> Length:
    """So many lines of the dial, as an amount on diameter."""
    return Length(lines * line_on_diameter(level.line.mm, level.said), level.unit)


@dataclass(frozen=True, slots=True)
class Coached:
    """How the coach's own advice, followed to the line, comes out: readings taken, the true size (mm), and where it
    stopped.
    """

    measured: int
    true_mm: float
    next: Next


def coached_part(level: LatheLevel, seed: int) -> Coached:
    """The same part with every reading taken cool and every cut as advised. Source: simulation, this tool's own."""
    part = PracticePart(level, seed)
    sizes, dialled = [part.reading], list[Dialled]()
    measured = 1
    for _ in range(MOST_CUTS):
        found = next_cut(coach_input(level, sizes, dialled))
        if found.next is Next.TOUCH_ON:
            part.touch()
            sizes, dialled = sizes[-1:], []
            continue
        if found.next is not Next.CUT or found.dialled is None or found.lines is None:
            break
        for lines in found.parts or [found.lines]:
            part.cut(lines)
        part.cool()
        sizes.append(part.reading)
        dialled.append(Dialled(found.dialled, _of_lines(found.parts[-1], level) if found.parts else None))
        measured += 1
    while part.to_go(part.reading.mm) > -STONE_PAST and measured < MOST_READINGS:
        part.stone()
        measured += 1
    return Coached(measured, part.true_mm, found.next)
