"""The centre that comes up in the end of work held in a chuck: which work wants it, and while what is cut it stands."""

from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal

from nomisma.core.metal.cut import Cut, End, Support
from nomisma.core.metal.rules import FREE_OUT
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.piece import Piece, is_in_an_end
from nomisma.core.operations.surfaces import Surface

SMALLEST_CENTRED_MM = Decimal(6)
"""No centre is put in a thinner end. Source: common practice, no source (a 1 mm centre drill's mouth is half of that).
"""
AT_THE_END = (Support("centre", "right"),)


def wants_a_centre(own: Sequence[Surface], worked: str, piece: Piece) -> bool:
    """Whether what a set-up turns stands out so long and thin that it would spring away from the tool, and its end is
    free for a centre: solid, and no hole is to come in it. Source: common practice, no source (three diameters free).

    >>> from nomisma.core.part.section import Section
    >>> from nomisma.core.part.section_shapes import Cylinder
    >>> stub = Cylinder("A", Decimal(12), Decimal(10), Decimal(90))
    >>> piece = Piece(Section(Decimal(90), (stub,), (), (), Decimal(0), "", (), ()), (), ())
    >>> turned = Surface("outside", ("A",), Decimal(10), Decimal(90), Decimal(12), frozenset({"right"}))
    >>> [wants_a_centre([turned], end, piece) for end in ("right", "left")]
    [True, False]
    """
    if worked not in ("right", "left"):
        return False
    end: End = "right" if worked == "right" else "left"
    if piece.tube_bore_mm or any(one.throw_mm or (is_in_an_end(one) and end in one.ends) for one in piece.surfaces):
        return False
    outermost = piece.section.outside[-1 if end == "right" else 0]
    if outermost.diameter_mm < SMALLEST_CENTRED_MM:
        return False
    return any(_from_the_end_mm(one, end, piece) > FREE_OUT * one.diameter_mm for one in own if one.kind == "outside")


def _from_the_end_mm(one: Surface, end: End, piece: Piece) -> Decimal:
    """How far from the worked end a surface goes, mm; of one that no tool reaches from there nothing."""
    if end not in one.ends:
        return Decimal(0)
    return piece.length_mm - one.from_mm if end == "right" else one.to_mm


def cut_at_centre(one: Cut, work: Workpiece, before: Sequence[Cut]) -> Cut:
    """A cut with the centre put up before it, or taken away, where it comes to that; seen from the worked end as the
    right one. Source: common practice, no source.

    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> hole = Cut("centre_hole", (), Decimal(90), Decimal(86), after_mm=Decimal(4), end="right")
    >>> bar = workpiece_of(Stock(Decimal(0), Decimal(90), Decimal(20))).after(hole)
    >>> turned = Cut("turn", ("A",), Decimal(10), Decimal(90), Decimal(20), Decimal(12))
    >>> [one.kind for one in cut_at_centre(turned, bar, [hole]).supports]
    ['centre']
    """
    stands = next((bool(each.supports) for each in reversed(before) if each.supports is not None), False)
    if stands and one.traits.in_an_end:
        return replace(one, supports=())
    if not stands and work.centre_mm("right") and one.is_outside and not one.traits.in_an_end:
        return replace(one, supports=AT_THE_END)
    return one
