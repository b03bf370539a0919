"""The levels of practice at the lathe, from a plain pin to a worn screw."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated, Literal

from pydantic import BeforeValidator

from nomisma.core.cutting.amount import DialReads
from nomisma.core.errors import NotDefined
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.table import Row, loaded, rows_of


@dataclass(frozen=True, slots=True)
class LatheLevel:
    """One part to turn or bore. Lengths on diameter; `said` is what the dial is said to read, `reads` what it does."""

    name: str
    title: str
    words: str
    kind: Literal["shaft", "bore"]
    unit: Unit
    line: Length
    turn_lines: int
    parts_of_line: Literal[1, 2]
    said: DialReads
    reads: DialReads
    lower: Length
    upper: Length
    over_mm: tuple[float, float]
    spring: float
    scatter_mm: float
    wear_mm: float
    slips: float
    hot: float


class LatheLevelRow(Row):
    """A level as its table has it: lengths in µm, on diameter."""

    name: str
    title: str
    words: str
    kind: Literal["shaft", "bore"]
    unit: Unit
    line: Decimal
    turn: int
    parts: Annotated[Literal[1, 2], BeforeValidator(int)]
    said: DialReads
    reads: DialReads
    lower: Decimal
    upper: Decimal
    over_least: float
    over_most: float
    spring: float
    scatter: float
    wear: float
    slip_percent: float
    hot_percent: float


@loaded
def lathe_levels() -> dict[str, LatheLevel]:
    """Every level by name, easiest first. Source: lathe_levels.csv.

    >>> list(lathe_levels())[0]
    'plain_pin'
    """
    return {row.name: _level(row) for row in rows_of("practice", "lathe_levels.csv", LatheLevelRow)}


def lathe_level_named(name: str) -> LatheLevel:
    """A level. Raises NotDefined. Source: simulation, this tool's own.

    >>> lathe_level_named(next(iter(lathe_levels()))).name
    'plain_pin'
    """
    if name not in lathe_levels():
        raise NotDefined(
            f"There is no level “{name}”.", f"Choose {', '.join(lathe_levels())}.", field="level", value=name
        )
    return lathe_levels()[name]


def _level(row: LatheLevelRow) -> LatheLevel:
    line, lower, upper = (Length(um / 1000, row.unit) for um in (row.line, row.lower, row.upper))
    return LatheLevel(
        row.name,
        row.title,
        row.words,
        row.kind,
        row.unit,
        line,
        row.turn,
        row.parts,
        row.said,
        row.reads,
        lower,
        upper,
        (row.over_least / 1000, row.over_most / 1000),
        row.spring,
        row.scatter / 1000,
        row.wear / 1000,
        row.slip_percent / 100,
        row.hot_percent / 100,
    )
