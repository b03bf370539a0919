"""The levels of practice in a four-jaw, from round bar to a cast rim."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated

from pydantic import BeforeValidator

from nomisma.core.errors import NotDefined
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.table import Row, loaded, rows_of
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


Waves = Annotated[
    tuple[tuple[int, float], ...], BeforeValidator(lambda cell: tuple(tuple(one.split(":")) for one in cell.split()))
]
"""Numbers of waves round the turn with their swing (µm): 2:40 3:12."""


class LevelRow(Row):
    """A level as its table has it: lengths in µm."""

    name: str
    title: str
    words: str
    surface: Surface
    grip: Grip
    places: int
    unit: Unit
    offset: float
    waves: Waves
    rough: float
    lean: float
    backlash: float
    drift: float
    hysteresis: float
    noise: float
    graduation: Decimal
    range: Decimal
    lead: Decimal
    target: Decimal


@loaded
def levels() -> dict[str, Level]:
    """Every level by name, easiest first. Source: levels.csv.

    >>> list(levels())[0]
    'round_bar'
    """
    return {row.name: _level(row) for row in rows_of("practice", "levels.csv", LevelRow)}


def level_named(name: str) -> Level:
    """A level. Raises NotDefined. Source: simulation, this tool's own.

    >>> level_named(next(iter(levels()))).name
    'round_bar'
    """
    if name not in levels():
        raise NotDefined(f"There is no level “{name}”.", f"Choose {', '.join(levels())}.", field="level", value=name)
    return levels()[name]


def _level(row: LevelRow) -> Level:
    graduation, reach, lead, target = (
        Length(um / 1000, row.unit) for um in (row.graduation, row.range, row.lead, row.target)
    )
    return Level(
        row.name, row.title, row.words, row.surface, row.grip, row.places, row.unit, row.offset / 1000,
        tuple((number, swing / 1000) for number, swing in row.waves), row.rough / 1000, row.lean / 1000, row.backlash / 1000,
        row.drift / 1000, row.hysteresis / 1000, row.noise / 1000, graduation, reach, lead, target,
    )  # fmt: skip
