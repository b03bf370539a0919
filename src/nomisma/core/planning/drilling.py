"""Which drills open a hole that a plan drills: a pilot, one between where it is large, and the last, which leaves what is bored or reamed."""

from decimal import Decimal
from functools import lru_cache

from nomisma.core.cutting.hole import Drill, HoleInput, hole
from nomisma.core.errors import NomismaError
from nomisma.core.planning.operations import SMALLEST_BORED_MM
from nomisma.core.quantity.length import Length, Unit


@lru_cache(maxsize=512)  # the same holes are shown again and again
def drills_before(finished_mm: Decimal, unit: Unit) -> tuple[Drill, ...]:
    """The drills for a hole of a finished diameter (mm), the last one the largest; none where no twist drill goes before it.

    Source: core/cutting/hole.py (common practice, no source); holes too small for a bar are reamed.

    >>> [one.name for one in drills_before(Decimal("17.009"), "mm")]
    ['4 mm', '16.2 mm']
    """
    method = "bore" if finished_mm >= SMALLEST_BORED_MM else "ream"
    try:
        found = hole(HoleInput(finished=Length(finished_mm, unit), method=method, unit=unit))
    except NomismaError:
        return ()
    return (*found.stepped, found.drill)
