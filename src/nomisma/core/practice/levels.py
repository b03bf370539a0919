"""The levels of practice in a four-jaw, from round bar to a cast rim."""

from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from typing import cast

from nomisma.core.errors import NotDefined
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.table import table
from nomisma.core.truing.surface import Grip, Surface


@dataclass(frozen=True, slots=True)
class Level:
    """One piece of work to practise on. Lengths in mm; `waves` are number and swing of the work's own shape."""

    name: str
    title: str
    words: str
    surface: Surface
    grip: Grip
    places: int
    unit: Unit
    offset_mm: float
    waves: tuple[tuple[int, float], ...]
    rough_mm: float
    lean_mm: float
    backlash_mm: float
    drift_mm: float
    hysteresis_mm: float
    noise_mm: float
    graduation: Length
    range: Length
    lead: Length
    target: Length

    @property
    def leans(self) -> bool:
        """Whether a far circle is worth reading."""
        return self.lean_mm > 0


FAR_MM = 50.0
"""How far apart the near and the far circle are in practice, mm."""
TURN_LINES = 100
"""Graduations in one turn of the practice indicator's needle."""


@cache
def levels() -> dict[str, Level]:
    """Every level by name, easiest first. Source: levels.csv.

    >>> list(levels())[0]
    'round_bar'
    """
    return {row["name"]: _level(row) for row in table("practice", "levels.csv")}


def level_named(name: str) -> Level:
    """A level. Raises NotDefined. Source: simulation, this tool's own.

    >>> level_named(next(iter(levels()))).name
    'round_bar'
    """
    if name not in levels():
        raise NotDefined(f"There is no level “{name}”.", f"Choose {', '.join(levels())}.", field="level", value=name)
    return levels()[name]


def _level(row: dict[str, str]) -> Level:
    unit = cast(Unit, row["unit"])

    def mm(column: str) -> float:
        return float(row[column]) / 1000

    def length(column: str) -> Length:
        return Length(Decimal(row[column]) / 1000, unit)

    waves = tuple(
        (int(number), float(total_indicator_reading) / 1000)
        for number, total_indicator_reading in (one.split(":") for one in row["waves"].split())
    )
    return Level(
        row["name"], row["title"], row["words"], cast(Surface, row["surface"]), cast(Grip, row["grip"]),
        int(row["places"]), unit, mm("offset"), waves,
        mm("rough"), mm("lean"), mm("backlash"), mm("drift"), mm("hysteresis"), mm("noise"), length("graduation"), length("range"),
        length("lead"), length("target"),
    )  # fmt: skip
