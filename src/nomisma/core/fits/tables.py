"""Reads the ISO 286 data tables, checks their shape once, and finds the row for a size."""

from bisect import bisect_left
from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated

from pydantic import ConfigDict

from nomisma.core.errors import OutOfRange
from nomisma.core.table import MAYBE, Row, loaded, rows_of


@dataclass(frozen=True)
class RangeTable:
    """A table by ranges of nominal size: over one limit, up to and including the next (mm); cells in µm."""

    up_to_mm: tuple[Decimal, ...]
    cells: dict[str, tuple[Decimal | None, ...]]
    over_mm: Decimal = Decimal(0)
    unsure: frozenset[tuple[str, int]] = frozenset()

    def cell(self, column: str, nominal_mm: Decimal) -> Decimal | None:
        """The cell (µm) for a size in mm; None where the standard defines nothing. Raises OutOfRange."""
        return self.cells[column][self.row(nominal_mm)]

    def is_unsure(self, column: str, nominal_mm: Decimal) -> bool:
        """Whether a cell is marked as not known for certain."""
        return (column, self.row(nominal_mm)) in self.unsure

    def row(self, nominal_mm: Decimal) -> int:
        """The row of a size in mm: exactly 18 belongs to "over 10 up to 18". Raises OutOfRange."""
        if not self.over_mm < nominal_mm <= self.up_to_mm[-1]:
            raise OutOfRange(
                f"{nominal_mm:f} mm is outside the ISO 286 ranges.",
                f"They go from above {self.over_mm:f} up to {self.up_to_mm[-1]:f} mm.",
                field="callout",
                value=f"{nominal_mm:f} mm",
            )
        return bisect_left(self.up_to_mm, nominal_mm)


class RangeRow(Row):
    """A range (mm) and, by whatever columns its table has, µm; none where the standard defines nothing."""

    model_config = ConfigDict(extra="allow")
    __pydantic_extra__: dict[str, Annotated[Decimal | None, MAYBE]]

    over_mm: Decimal
    up_to_mm: Decimal


def _load(name: str) -> RangeTable:
    """Read one table and check that its ranges join without a gap."""
    rows = rows_of("fits", name, RangeRow)
    over, up_to = [row.over_mm for row in rows], [row.up_to_mm for row in rows]
    if over[1:] != up_to[:-1] or sorted(up_to) != up_to:
        raise ValueError(f"{name}: the ranges do not join")
    columns = list(rows[0].__pydantic_extra__)
    return RangeTable(
        tuple(up_to),
        {c: tuple(row.__pydantic_extra__[c] for row in rows) for c in columns},
        over[0],
        frozenset((c, index) for c in columns for index, row in enumerate(rows) if c in row.unsure),
    )


@loaded
def grades() -> RangeTable:
    """IT01 to IT18 in µm (IT1 to IT18 over 500 mm), to 3150 mm. Source: ISO 286-1:2010, Table 1.

    >>> grades().cell("IT7", Decimal(25))
    Decimal('21')
    """
    return _load("iso286_grades.csv")


@loaded
def uneven() -> RangeTable:
    """The classes j5 to j8 (ei) and J6 to J8 (ES) to 500 mm, in µm. Source: ISO 286-1:2010, Tables 3 and 5.

    >>> uneven().cell("j6", Decimal(25))
    Decimal('-4')
    """
    return _load("iso286_j.csv")


@loaded
def shafts() -> RangeTable:
    """Fundamental deviations of shafts to 500 mm, in µm. Source: ISO 286-1:2010, Tables 4 and 5.

    >>> shafts().cell("g", Decimal(25))
    Decimal('-7')
    """
    return _load("iso286_shafts.csv")


@loaded
def large_shafts() -> RangeTable:
    """Fundamental deviations of shafts over 500 up to 3150 mm, in µm. Source: ISO 286-1:2010, Tables 4 and 5.

    >>> large_shafts().cell("d", Decimal(600))
    Decimal('-260')
    """
    return _load("iso286_shafts_large.csv")
