"""A part roughed all over before anything is finished: its rough shape as a piece of its own, and that as the stock of
the rest.
"""

from collections.abc import Iterator
from dataclasses import replace
from decimal import Decimal

from nomisma.core.metal.cut import Workholding
from nomisma.core.metal.profile import Profile
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.piece import ZERO, Piece
from nomisma.core.operations.surfaces import ENDS, Surface, bore_ends, outside_ends
from nomisma.core.part.section_shapes import Cylinder

LEAST_ROUGH_BORED_MM = Decimal(20)
"""A smaller hole is left solid while the rest is roughed. Source: this tool's own choice."""


def rough_piece(piece: Piece, leave_mm: Decimal) -> Piece | None:
    """The part with so much (mm) left on every surface, its left face at 0; None where it cannot be roughed all over:
    something stays as it is, or lies off the axis. Source: geometry; common practice, no source.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.laid_out import StockSaid
    >>> from nomisma.core.order.offered import piece_of
    >>> lines = FeatureLinesInput(text="od 40 x 20\\nod 30 x 15", unit="mm")
    >>> pin = piece_of([lettered(one) for one in feature_lines(lines).features], StockSaid(), "mm")
    >>> [(str(one.diameter_mm), str(one.to_mm)) for one in rough_piece(pin, Decimal(1)).section.outside]
    [('42.0', '22.0'), ('32.0', '37.0')]
    """
    if any(one.throw_mm for one in piece.surfaces) or any(one.is_left_as_it_is for one in piece.features):
        return None
    outside = tuple(_grown(piece, leave_mm))
    bores = tuple(_shrunk(piece, leave_mm))
    known = {one.letter for one in (*outside, *bores)}
    long_mm = piece.length_mm + 2 * leave_mm
    section = replace(
        piece.section,
        length_mm=long_mm,
        outside=outside,
        bores=bores,
        grooves=(),
        threads=(),
        face_grooves=(),
        lies=(),
    )
    surfaces = [
        Surface("outside", (one.letter,), one.from_mm, one.to_mm, one.diameter_mm, outside_ends(one, section))
        for one in outside
    ] + [
        Surface("bore", (one.letter,), one.from_mm, one.to_mm, one.diameter_mm, bore_ends(one, section))
        for one in bores
    ]
    return replace(
        piece,
        section=section,
        features=tuple(replace(one, true_to="") for one in piece.features if one.letter in known),
        surfaces=tuple(one for one in surfaces if one.ends),
        bought_mm=None,
        is_roughed=True,
    )


def _grown(piece: Piece, leave: Decimal) -> Iterator[Cylinder]:
    """The steps with metal on every side: a shoulder moves out into what is smaller."""
    steps = piece.section.outside
    for place, step in enumerate(steps):
        left = steps[place - 1].diameter_mm if place else ZERO
        right = steps[place + 1].diameter_mm if place + 1 < len(steps) else ZERO
        begins = step.from_mm + _moved(left, step.diameter_mm, leave)
        ends = step.to_mm + 2 * leave - _moved(right, step.diameter_mm, leave)
        if begins < ends:
            yield Cylinder(step.letter, step.diameter_mm + 2 * leave, begins, ends)


def _moved(beside: Decimal, own: Decimal, leave: Decimal) -> Decimal:
    """By how much the end of a step moves in, seen from where it is with the whole part grown."""
    return 2 * leave if beside > own else leave if beside == own else ZERO


def _shrunk(piece: Piece, leave: Decimal) -> Iterator[Cylinder]:
    """The bores that are roughed, with metal on their walls and on their floors."""
    for bore in (one for one in piece.surfaces if one.kind == "bore" and one.hole == "bored"):
        across = bore.diameter_mm - 2 * leave
        if across < LEAST_ROUGH_BORED_MM:
            continue
        open_at = {end: _is_open(bore, end, piece) for end in ENDS}
        begins = bore.from_mm + (ZERO if open_at["left"] else 2 * leave)
        ends = bore.to_mm + (2 * leave if open_at["right"] else ZERO)
        if begins < ends:
            yield Cylinder(bore.letter, across, begins, ends)


def _is_open(bore: Surface, end: str, piece: Piece) -> bool:
    return bore.to_mm == piece.length_mm if end == "right" else bore.from_mm == 0


def shifted(held: Workholding, by_mm: Decimal) -> Workholding:
    """A set-up as it is seen from a face so far (mm) to the left. Source: geometry.

    >>> shifted(Workholding("right", "centres", Decimal(30), None), Decimal(-1)).worked
    'right'
    """
    return held.mirrored(ZERO).mirrored(by_mm)


def work_shifted(work: Workpiece, by_mm: Decimal) -> Workpiece:
    """A workpiece as it is seen from a face so far (mm) to the left. Source: geometry.

    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> bar = workpiece_of(Stock(Decimal(0), Decimal(30), Decimal(20)))
    >>> str(work_shifted(bar, Decimal(-1)).left_mm)
    '-1'
    """
    return work.mirrored(ZERO).mirrored(by_mm)


def stock_shifted(stock: Stock, by_mm: Decimal) -> Stock:
    """A piece of stock as it is seen from a face so far (mm) to the left. Source: geometry.

    >>> str(stock_shifted(Stock(Decimal(0), Decimal(30), Decimal(20)), Decimal(-1)).to_mm)
    '29'
    """

    def moved(profile: Profile | None) -> Profile | None:
        return profile.mirrored(ZERO).mirrored(by_mm) if profile is not None else None

    return replace(
        stock,
        from_mm=stock.from_mm + by_mm,
        to_mm=stock.to_mm + by_mm,
        shape=moved(stock.shape),
        inside=moved(stock.inside),
    )


def stock_of(work: Workpiece, leave_mm: Decimal) -> Stock:
    """What was roughed as the stock of the rest, with so much (mm) to come off all round. Source: geometry.

    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> bar = workpiece_of(Stock(Decimal(0), Decimal(30), Decimal(20)))
    >>> stock_of(bar, Decimal(1)).shape == bar.outside
    True
    """
    across = work.outside.largest_mm(work.left_mm, work.right_mm)
    return Stock(
        work.left_mm,
        work.right_mm,
        across,
        skin_mm=leave_mm,
        shape=work.outside,
        inside=work.hole,
        centred=work.centres,
    )
