"""The drills at hand, as a shop writes them: sizes, sizes by a step, and the sets of numbers and letters."""

from decimal import Decimal
from functools import lru_cache

from nomisma.core.errors import InputError
from nomisma.core.quantity.drills import DrillSystem, drill_sizes_in, drill_table, drills_of_size
from nomisma.core.quantity.length import MM_PER_INCH, Unit
from nomisma.core.quantity.size_list import groups_of, sizes_listed

DrillRow = tuple[str, Decimal]
"""A drill's name and its size, mm."""
MOST_DRILLS = 1000
COMMON_SETS = ("1 to 13 by 0.1 mm; 13.5 to 25 by 0.5 mm", "1/16 to 1 by 1/64 in; numbers; letters")
"""What the sets that are sold have in them. Source: common practice, no source."""


@lru_cache(maxsize=64)  # the shop's list is read for every plan
def drills_at_hand(text: str, unit: Unit) -> tuple[DrillRow, ...]:
    """The drills of a list with their sizes (mm), smallest first; of an empty one every drill of the unit's tables.
    Raises InputError for what cannot be read, of the field `drills`.

    Source: ASME B94.11M for numbers and letters, recalled (core/quantity/drills.py).

    >>> [name for name, _ in drills_at_hand("6 to 7 by 0.5 mm; 1/4 in", "mm")]
    ['6 mm', '1/4 in', '6.5 mm', '7 mm']
    >>> len(drills_at_hand("letters", "in"))
    26
    """
    if not text.strip():
        return drill_table(usual_system(unit))
    found: dict[str, DrillRow] = {}
    for group in groups_of(text):
        for row in _rows(group):
            found.setdefault(row[0], row)
    if len(found) > MOST_DRILLS:
        raise InputError(
            f"That is {len(found)} drills; a list has at most {MOST_DRILLS}.", "Leave some out.", field="drills"
        )
    return tuple(sorted(found.values(), key=lambda row: row[1]))


def usual_system(unit: Unit) -> DrillSystem:
    """The drills that go with a unit where nobody said others. Source: common practice, no source.

    >>> usual_system("in")
    'inch'
    """
    return "inch" if unit == "in" else "metric"


def _rows(group: str) -> list[DrillRow]:
    if group.lower() in ("numbers", "letters"):
        wants_digits = group.lower() == "numbers"
        return [
            (f"#{name}" if wants_digits else f"letter {name}", inch * MM_PER_INCH)
            for name, inch in drill_sizes_in().items()
            if name.isdigit() == wants_digits
        ]
    sizes = sizes_listed(group, "drills", most=MOST_DRILLS)
    return [(next(iter(drills_of_size(size.mm)), str(size)), size.mm) for size in sizes]
