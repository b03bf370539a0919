"""The levels of practice at the lathe, from a plain pin to a worn screw."""

from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from typing import Literal, cast

from nomisma.core.cutting.amount import DialReads
from nomisma.core.errors import NotDefined
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.table import table


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


@cache
def lathe_levels() -> dict[str, LatheLevel]:
    """Every level by name, easiest first. Source: lathe_levels.csv.

    >>> list(lathe_levels())[0]
    'plain_pin'
    """
    return {row["name"]: _level(row) for row in table("practice", "lathe_levels.csv")}


def lathe_level_named(name: str) -> LatheLevel:
    """A level. Raises NotDefined. Source: simulation, this tool's own.

    >>> lathe_level_named(next(iter(lathe_levels()))).name
    'plain_pin'
    """
    if name not in lathe_levels():
        raise NotDefined(f"There is no level “{name}”.", f"Choose {', '.join(lathe_levels())}.", field="level", value=name)
    return lathe_levels()[name]


def _level(row: dict[str, str]) -> LatheLevel:
    unit = cast(Unit, row["unit"])

    def mm(column: str) -> float:
        return float(row[column]) / 1000

    def length(column: str) -> Length:
        return Length(Decimal(row[column]) / 1000, unit)

    return LatheLevel(
        row["name"], row["title"], row["words"], cast(Literal["shaft", "bore"], row["kind"]), unit, length("line"), int(row["turn"]),
        2 if row["parts"] == "2" else 1,
       
        cast(DialReads, row["said"]), cast(DialReads, row["reads"]), length("lower"), length("upper"), (mm("over_least"), mm("over_most")),
        float(row["spring"]), mm("scatter"), mm("wear"), float(row["slip_percent"]) / 100, float(row["hot_percent"]) / 100,
    )  # fmt: skip
