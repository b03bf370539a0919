"""One set-up's work seen from its worked end, and what is usually left and taken."""

from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.metal.cut import Cut, Tool
from nomisma.core.metal.stock import FACING
from nomisma.core.operations.operations import Operation
from nomisma.core.operations.piece import ZERO, Piece
from nomisma.core.operations.surfaces import Surface
from nomisma.core.part.section import middle_mm
from nomisma.core.quantity.length import Length, Unit

LEFT_ROUGH: dict[Unit, Length] = {"in": Length.of("0.030", "in"), "mm": Length.of("0.75", "mm")}
"""What roughing leaves on every surface, on diameter. Source: common practice, no source."""
ROUGH_PASS_MM = Decimal(3)
"""A roughing pass takes so much on diameter. Source: common practice, no source."""
SHOULDER: dict[Unit, Length] = {"in": Length.of("0.010", "in"), "mm": Length.of("0.3", "mm")}
"""Roughing stops so much short of a shoulder or a floor; the last pass takes it out. Source: common practice, no
source.
"""
USUAL_NOSE: dict[Unit, Length] = {"in": Length.of(Decimal(1) / 64, "in"), "mm": Length.of("0.4", "mm")}
"""A turning tool's nose where no fillet asks for another. Source: common practice, no source."""
FACING_TOOL = Tool("facing")


BLADES: dict[Unit, tuple[tuple[Decimal, Length], ...]] = {
    "mm": ((Decimal(20), Length.of("2", "mm")), (Decimal(50), Length.of("3", "mm")),
           (Decimal(10000), Length.of("4", "mm"))),
    "in": ((Decimal(20), Length.of("0.062", "in")), (Decimal(50), Length.of("0.093", "in")),
           (Decimal(10000), Length.of("0.125", "in"))),
}  # fmt: skip
"""A parting blade's width up to a diameter (mm). Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class Task:
    """One set-up's work seen from its worked end as the right one: the piece, its own surfaces, and how wide the blade
    is and what is left for the far face where it is parted off (none: it is not). `free`: the whole outside is free,
    between centres or on a mandrel; `at_centre`: a centre comes up in its end once its hole is drilled.
    """

    piece: Piece
    surfaces: tuple[Surface, ...]
    edges: tuple[Cut, ...]
    blade_mm: Decimal | None = None
    far_mm: Decimal = ZERO
    free: bool = False
    at_centre: bool = False

    @property
    def unit(self) -> Unit:
        """The unit it is drawn in."""
        return self.piece.unit

    @property
    def leave_mm(self) -> Decimal:
        """What roughing leaves on diameter: nothing where the rough shape is all that is cut, mm."""
        return ZERO if self.piece.is_roughed else LEFT_ROUGH[self.unit].mm

    @property
    def shoulder_mm(self) -> Decimal:
        """How far roughing stops short of a shoulder or a floor, mm."""
        return ZERO if self.piece.is_roughed else SHOULDER[self.unit].mm

    @property
    def beyond_mm(self) -> Decimal:
        """How far cuts at the far face go: behind the blade where it is parted off, else to the face."""
        return -(self.far_mm + self.blade_mm) if self.blade_mm is not None else ZERO

    @property
    def throw_mm(self) -> Decimal:
        """How far off centre it is held, for what lies off the part's axis."""
        return max((one.throw_mm for one in self.surfaces), default=ZERO)

    def surface(self, one: Operation) -> Surface:
        """The surface an operation is done on."""
        return next(each for each in self.surfaces if one.letters[0] in each.letters)


def turning_tool(one: Operation, task: Task) -> Tool:
    """The turning tool, with the nose (mm) that a fillet among its letters allows. Source: common practice, no source.

    >>> from nomisma.core.part.section import Section
    >>> piece = Piece(Section(Decimal(30), (), (), (), Decimal(0), "", (), ()), (), ())
    >>> str(turning_tool(Operation("turn", ("A",)), Task(piece, (), ())).nose_mm)
    '0.4'
    """
    radii = [
        middle_mm(feature) or feature.feature.upper_mm
        for letter in one.letters
        if (feature := task.piece.by_letter.get(letter)) is not None and feature.feature.of_kind.cut_as == "fillet"
    ]
    usual = USUAL_NOSE[task.unit].mm
    return Tool("turning", nose_mm=min([usual, *(mm for mm in radii if mm is not None)]))


def blade_mm(diameter_mm: Decimal, unit: Unit) -> Decimal:
    """How wide a blade is that parts a diameter (mm) off, mm. Source: common practice, no source.

    >>> blade_mm(Decimal(30), "mm")
    Decimal('3')
    """
    return next(width.mm for most, width in BLADES[unit] if diameter_mm <= most)


def facing_mm(unit: Unit) -> Decimal:
    """What is left for facing an end, mm. Source: common practice, no source.

    >>> facing_mm("mm")
    Decimal('0.8')
    """
    return FACING[unit].mm
