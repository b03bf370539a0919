"""What a shop has for its holes: reamers, drills, and down to which size a boring bar goes in."""

from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.metal.rules import SMALLEST_BORED_MM
from nomisma.core.operations.reamers import COMMON_REAMERS, Reamer, reamers_of
from nomisma.core.quantity.drill_list import drills_at_hand


@dataclass(frozen=True, slots=True)
class HoleTools:
    """The reamers at hand, the drills as a list (empty: every one of the unit's tables), and the smallest hole that a
    boring bar goes into, mm.
    """

    reamers: tuple[Reamer, ...] = ()
    drills: str = ""
    least_bored_mm: Decimal = SMALLEST_BORED_MM


def hole_tools(
    reamers: str = COMMON_REAMERS, drills: str = "", least_bored_mm: Decimal = SMALLEST_BORED_MM
) -> HoleTools:
    """The tools by the shop's lists; the smallest hole for a bar in mm. Raises InputError for a list that cannot be
    read, of the field `reamers` or `drills`. Source: none, reading.

    >>> [one.name for one in hole_tools("6 8 mm").reamers]
    ['6 mm', '8 mm']
    """
    drills_at_hand(drills, "mm")
    return HoleTools(reamers_of(reamers), drills, least_bored_mm)


USUAL_TOOLS = hole_tools()
"""What a shop that said nothing is taken to have. Source: common practice, no source (core/operations/reamers.py)."""
