"""Which drills open a hole that a plan drills: a pilot, one between where it is large, and the last, which leaves what is bored or reamed."""

from decimal import Decimal
from functools import lru_cache

from nomisma.core.cutting.hole import Drill, HoleInput, hole
from nomisma.core.errors import NomismaError
from nomisma.core.lengths.tapping import TappingInput, tapping
from nomisma.core.planning.operations import SMALLEST_BORED_MM
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.threads.called_out import thread_called_out


@lru_cache(maxsize=512)  # the same holes are shown again and again
def drills_before(finished_mm: Decimal, unit: Unit, thread: str = "") -> tuple[Drill, ...]:
    """The drills for a hole of a finished diameter (mm), the last one the largest; none where no twist drill goes before it.

    `thread`: the callout of the thread that is tapped in it: then the last one is the tap's.

    Source: core/cutting/hole.py (common practice, no source); holes too small for a bar are reamed.

    >>> [one.name for one in drills_before(Decimal("17.009"), "mm")]
    ['4 mm', '16.2 mm']
    """
    if thread:
        return _for_a_tap(thread, unit)
    method = "bore" if finished_mm >= SMALLEST_BORED_MM else "ream"
    try:
        found = hole(HoleInput(finished=Length(finished_mm, unit), method=method, unit=unit))
    except NomismaError:
        return ()
    return (*found.stepped, found.drill)


def _for_a_tap(thread: str, unit: Unit) -> tuple[Drill, ...]:
    """The tapping sheet's drill, and a pilot where it is large."""
    try:
        found = tapping(TappingInput(thread=thread_called_out(thread).thread.name, unit=unit))
        larger = hole(HoleInput(finished=found.drill_size, method="bore", unit=unit))
    except NomismaError:
        return ()
    return (*larger.stepped, Drill(name=found.drill, size=found.drill_size))
