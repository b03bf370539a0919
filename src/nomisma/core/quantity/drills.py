"""Twist drills by name and size: numbers, letters, fractions of an inch, millimetres."""

from decimal import Decimal
from functools import cache
from typing import Literal

from nomisma.core.quantity.display import fraction_text
from nomisma.core.quantity.length import MM_PER_INCH
from nomisma.core.table import Row, loaded, rows_of

DrillSystem = Literal["inch", "metric", "both"]
LARGEST_FRACTION_64THS = 128
SAME_DRILL_MM = Decimal("0.0013")
"""Nearer than half a tenth of a thou is the same drill."""


class NamedDrill(Row):
    """A drill by its number or letter, inch."""

    name: str
    diameter_in: Decimal


@loaded
def drill_sizes_in() -> dict[str, Decimal]:
    """Diameter in inches by name: "1" to "80" and "A" to "Z".

    Source: ASME B94.11M table of number and letter sizes, recalled; checked for order and for the
    steps between neighbours in tests/standards.

    >>> drill_sizes_in()["7"]
    Decimal('0.2010')
    """
    return {row.name: row.diameter_in for row in rows_of("quantity", "drill_sizes.csv", NamedDrill)}


@cache
def drill_table(system: DrillSystem = "both") -> tuple[tuple[str, Decimal], ...]:
    """Every drill of a system with its diameter (mm), smallest first; of two alike the fraction stands before the
    letter.

    Inch: numbers, letters, 64ths to 2 in. Metric: tenths to 25 mm, halves to 50 mm. Source: ASME B94.11M (numbers and
    letters, recalled); fractions by definition; steps of the metric row: common practice, no source.

    >>> [name for name, size in drill_table("inch") if 25.7 < size < 25.9]
    ['1-1/64 in']
    """
    fractions = [
        (f"{fraction_text(n, 64)} in", Decimal(n) * MM_PER_INCH / 64) for n in range(1, LARGEST_FRACTION_64THS + 1)
    ]
    named = [
        (f"#{name}" if name.isdigit() else f"letter {name}", inch * MM_PER_INCH)
        for name, inch in drill_sizes_in().items()
    ]
    halves_mm = [
        *(Decimal(tenths) / 10 for tenths in range(5, 251)),
        *(Decimal(halves) / 2 for halves in range(51, 101)),
    ]
    metric = [(f"{size:f} mm", size) for size in halves_mm]
    rows = {"inch": [*fractions, *named], "metric": metric, "both": [*fractions, *named, *metric]}[system]
    return tuple(sorted(rows, key=lambda row: row[1]))


def drills_of_size(mm: Decimal) -> list[str]:
    """The names of the drills of just this size (mm), none where no drill is so near.

    Source: drills.csv, where its source stands.

    >>> drills_of_size(Decimal("2.9464")), drills_of_size(Decimal("6.35"))
    (['#32'], ['1/4 in', 'letter E'])
    """
    return [name for name, size in drill_table() if abs(size - mm) <= SAME_DRILL_MM]
