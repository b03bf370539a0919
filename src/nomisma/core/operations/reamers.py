"""The reamers at hand: a list as a shop writes it, and which of them makes a hole to its limits."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from nomisma.core.errors import InputError
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.size_list import groups_of, sizes_listed

COMMON_REAMERS = "3 4 5 6 7 8 9 10 11 12 mm; 1/8 3/16 1/4 5/16 3/8 7/16 1/2 in"
"""What a shop that said nothing is taken to have. Source: common practice, no source (sets by the millimetre and the
sixteenth).
"""
CUTS_OVER_MM = Decimal("0.010")
"""A sharp reamer's hole is over its size by up to so much. Source: common practice, no source (0.0004 in)."""
MOST_REAMERS = 200


@dataclass(frozen=True, slots=True)
class Reamer:
    """One reamer by its size, as it is written."""

    size: Length

    @property
    def name(self) -> str:
        """As it is called: 12 mm; 1/2 in."""
        written = self.size.text.removesuffix("mm").removesuffix("in").strip()
        return f"{written} {self.size.unit}"


@lru_cache(maxsize=64)  # the shop's list is read for every plan
def reamers_of(text: str) -> tuple[Reamer, ...]:
    """A list of reamers, smallest first: sizes with a blank or a comma between them, their unit behind them, another
    unit behind a semicolon or on a line of its own. Raises InputError for what is no size, no unit, or too many, of
    the field `reamers`.

    Source: none, reading.

    >>> [one.name for one in reamers_of("6, 12 mm; 1/4 1/2 in")]
    ['6 mm', '1/4 in', '12 mm', '1/2 in']
    """
    found: dict[Decimal, Reamer] = {}
    for group in groups_of(text):
        for size in sizes_listed(group, "reamers", most=MOST_REAMERS):
            found.setdefault(size.mm, Reamer(size))
    if len(found) > MOST_REAMERS:
        raise InputError(
            f"That is {len(found)} reamers; a list has at most {MOST_REAMERS}.", "Leave some out.", field="reamers"
        )
    return tuple(found[mm] for mm in sorted(found))


def reamer_for(least_mm: Decimal, most_mm: Decimal, reamers: Sequence[Reamer]) -> Reamer | None:
    """The reamer whose hole is within limits (mm) whatever it cuts over; None where none at hand is. Source: common
    practice, no source.

    >>> found = reamer_for(Decimal(12), Decimal("12.018"), reamers_of(COMMON_REAMERS)); found.name
    '12 mm'
    >>> reamer_for(Decimal("12.7127"), Decimal("12.7254"), reamers_of(COMMON_REAMERS)) is None  # .5005/.5010
    True
    """
    middle = (least_mm + most_mm - CUTS_OVER_MM) / 2
    fitting = [one for one in reamers if least_mm <= one.size.mm and one.size.mm + CUTS_OVER_MM <= most_mm]
    return min(fitting, key=lambda one: abs(one.size.mm - middle), default=None)


def no_reamer(letter: str, size_mm: Decimal, unit: Unit) -> str:
    """What is said of a hole that wants a reamer which is not at hand; its size in mm, said in `unit`. Source: none,
    wording.

    >>> no_reamer("C", Decimal("3.2"), "mm")
    'C wants a reamer for ⌀3.200 mm, and none at hand holds its limits: get one, or ask what may give.'
    """
    size = show_exact(size_mm, unit)
    return f"{letter} wants a reamer for ⌀{size}, and none at hand holds its limits: get one, or ask what may give."
