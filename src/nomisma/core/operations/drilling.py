"""Which drills open a hole that a plan drills: a pilot, one between where it is large, and the last, which leaves what
is bored or reamed, or is the hole."""

from decimal import Decimal
from functools import lru_cache
from typing import assert_never

from nomisma.core.cutting.hole import BORE_LEAVE, Drill, HoleInput, Method, hole
from nomisma.core.errors import NomismaError
from nomisma.core.lengths.tapping import TappingInput, tapping
from nomisma.core.part.hole_making import HoleMaking
from nomisma.core.quantity.drill_list import drills_at_hand
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.threads.called_out import thread_called_out

LARGEST_DRILL_MM = Decimal("25.4")
"""The largest twist drill of a shop that said nothing else; a larger hole is bored on from it. Source: common practice,
no source (an inch).
"""


@lru_cache(maxsize=512)  # the same holes are shown again and again
def drills_before(
    finished_mm: Decimal, unit: Unit, making: HoleMaking = "bored", thread: str = "", drills: str = ""
) -> tuple[Drill, ...]:
    """The drills for a hole of a finished diameter (mm), the last one the largest; none where no twist drill goes
    before it.

    `making`: one that is drilled ends with the drill of its size, one that is tapped with its tap's (`thread`: the
    callout), and before a reamer or a bar something is left. `drills`: those at hand, as a list.
    Source: core/cutting/hole.py (common practice, no source).

    >>> [one.name for one in drills_before(Decimal("17.009"), "mm")], drills_before(Decimal("8.5"), "mm",
    ...     "drilled")[-1].name
    (['4 mm', '16.2 mm'], '8.5 mm')
    """
    try:
        match making:
            case "tapped":
                found = tapping(TappingInput(thread=thread_called_out(thread).thread.name, unit=unit))
                return _ending_with(Drill(name=found.drill, size=found.drill_size), unit, drills)
            case "drilled":
                return _ending_with(_nearest(finished_mm, unit, drills), unit, drills)
            case "bored" | "reamed":
                if finished_mm > LARGEST_DRILL_MM + BORE_LEAVE.mm:
                    sizes = drills_at_hand(drills, unit)
                    name, size = max((one for one in sizes if one[1] <= LARGEST_DRILL_MM), key=lambda one: one[1])
                    return _ending_with(Drill(name=name, size=Length(size, unit)), unit, drills)
                method: Method = "ream" if making == "reamed" else "bore"
                before = hole(HoleInput(finished=Length(finished_mm, unit), method=method, at_hand=drills, unit=unit))
                return (*before.stepped, before.drill)
            case _:
                assert_never(making)
    except NomismaError:
        return ()


def _nearest(size_mm: Decimal, unit: Unit, drills: str) -> Drill:
    """The drill nearest to a size, of those at hand."""
    name, found = min(drills_at_hand(drills, unit), key=lambda one: abs(one[1] - size_mm))
    return Drill(name=name, size=Length(found, unit))


def _ending_with(last: Drill, unit: Unit, drills: str) -> tuple[Drill, ...]:
    """A drill with what goes before it where it is large."""
    return (*hole(HoleInput(finished=last.size, method="bore", at_hand=drills, unit=unit)).stepped, last)
