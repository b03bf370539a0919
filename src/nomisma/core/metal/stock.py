"""The stock a plan begins with: its section, how far across, and where it lies about the finished part."""

from dataclasses import dataclass
from decimal import Decimal
from itertools import pairwise
from typing import Literal

from nomisma.core.metal.cut import End
from nomisma.core.metal.profile import Profile, cylinder, profile_of
from nomisma.core.part.section import Section
from nomisma.core.quantity.length import Length, Unit

StockSection = Literal["round", "square", "hexagon", "octagon"]
OVER_CORNERS: dict[StockSection, Decimal] = {
    "round": Decimal(1),
    "square": Decimal("1.41421356237"),
    "hexagon": Decimal("1.15470053838"),
    "octagon": Decimal("1.08239220029"),
}
"""The circle over the corners, in parts of the size across flats. Source: geometry: √2, 2/√3, √(4 − 2√2)."""

FACING: dict[Unit, Length] = {"in": Length.of("0.030", "in"), "mm": Length.of("0.8", "mm")}
"""What is left for facing an end. Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class Stock:
    """A piece of stock as it lies about the part, mm from the part's left face: from where to where, across (over
    flats), a tube's bore, the skin all round; `shape`: of a casting, its outside; `inside`: of a
    part that is mended, its hole; `centred`: the ends that have a centre hole already, and how wide that is.
    """

    from_mm: Decimal
    to_mm: Decimal
    across_mm: Decimal
    section: StockSection = "round"
    bore_mm: Decimal = Decimal(0)
    skin_mm: Decimal = Decimal(0)
    shape: Profile | None = None
    inside: Profile | None = None
    centred: tuple[tuple[End, Decimal], ...] = ()

    @property
    def over_corners_mm(self) -> Decimal:
        """The circle it swings in, mm."""
        return self.across_mm * OVER_CORNERS[self.section]

    @property
    def outside(self) -> Profile:
        """Its outside: of what is not round, over the corners."""
        return self.shape or profile_of([cylinder(self.from_mm, self.to_mm, self.over_corners_mm)])

    @property
    def hole(self) -> Profile:
        """Its hole: none of what is solid."""
        return self.inside or profile_of([cylinder(self.from_mm, self.to_mm, self.bore_mm)])

    @property
    def round_mm(self) -> Decimal:
        """Up to what diameter it is full round once it is turned, mm."""
        return self.across_mm


def casting_of(section: Section, skin_mm: Decimal) -> Stock:
    """The part's own shape with a skin all round and on its faces, mm, cast solid. Source: geometry; common practice,
    no source.

    >>> from nomisma.core.part.section_shapes import Cylinder
    >>> hub = Cylinder("A", Decimal(20), Decimal(0), Decimal(10)), Cylinder("B", Decimal(40), Decimal(10), Decimal(25))
    >>> found = casting_of(Section(Decimal(25), hub, (), (), Decimal(0), "", (), ()), Decimal(2))
    >>> [(str(one.to_mm), str(one.at_to_mm)) for one in found.outside.stretches]
    [('8', '24'), ('27', '44')]
    """
    grown = [(step.from_mm - skin_mm, step.to_mm + skin_mm, step.diameter_mm + 2 * skin_mm) for step in section.outside]
    places = sorted({at for begins, ends, _ in grown for at in (begins, ends)})
    stretches = []
    for begins, ends in pairwise(places):
        across = max(mm for at, to, mm in grown if at <= begins and to >= ends)
        stretches.append(cylinder(begins, ends, across))
    whole = profile_of(stretches)
    return Stock(places[0], places[-1], max(mm for _, _, mm in grown), skin_mm=skin_mm, shape=whole)
