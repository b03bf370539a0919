"""A part that is mended: what there is of it, and whether there is metal where it is to be cut."""

from collections.abc import Iterator
from decimal import Decimal

from nomisma.core.metal.cut import End
from nomisma.core.metal.profile import cylinder, profile_of
from nomisma.core.metal.rules import Complaint
from nomisma.core.metal.stock import Stock
from nomisma.core.operations.piece import ZERO, Piece
from nomisma.core.quantity.display import show_exact

OWN_CENTRE = Decimal("0.2")
"""How wide the centre holes of a finished shaft are taken to be, in parts of its end. Source: this tool's own choice.
"""


def part_itself(piece: Piece, skin_mm: Decimal, *, centred: bool) -> Stock:
    """A part as it comes to be mended, mm: what stays as it is, what is cut as it measures now, else with a skin on it;
    of its bores those that measure something now. `centred`: both ends have centre holes. Source: geometry.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.laid_out import StockSaid
    >>> from nomisma.core.order.offered import piece_of
    >>> lines = FeatureLinesInput(text="od 30 as it is x 40\\nod 20 now 24 x 15", unit="mm")
    >>> worn = piece_of([lettered(one) for one in feature_lines(lines).features], StockSaid("repair"), "mm")
    >>> [str(one.at_to_mm) for one in part_itself(worn, Decimal(1), centred=True).outside.stretches]
    ['30', '24']
    """
    outside = profile_of(
        cylinder(step.from_mm, step.to_mm, _there_mm(step.letter, step.diameter_mm, piece, skin_mm))
        for step in piece.section.outside
    )
    inside = profile_of([cylinder(ZERO, piece.length_mm, ZERO)])
    for bore in piece.section.bores:
        if now := piece.now_mm(bore.letter):
            inside = inside.opened(cylinder(bore.from_mm, bore.to_mm, now))
    ends: tuple[tuple[End, Decimal], ...] = (
        ("left", outside.stretches[0].at_from_mm * OWN_CENTRE),
        ("right", outside.stretches[-1].at_to_mm * OWN_CENTRE),
    )
    return Stock(
        ZERO,
        piece.length_mm,
        outside.largest_mm(ZERO, piece.length_mm),
        shape=outside,
        inside=inside,
        centred=ends if centred else (),
    )


def _there_mm(letter: str, diameter_mm: Decimal, piece: Piece, skin_mm: Decimal) -> Decimal:
    known = piece.by_letter.get(letter)
    if known is None or known.feature.of_kind.cut_as != "outside":
        return diameter_mm
    now = piece.now_mm(letter)
    return now if now is not None else diameter_mm + 2 * skin_mm


def no_metal(piece: Piece) -> Iterator[Complaint]:
    """Where a part that is mended measures less outside, or more in a bore, than it is to be cut to. Source: geometry.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.laid_out import StockSaid
    >>> from nomisma.core.order.offered import piece_of
    >>> lines = FeatureLinesInput(text="od 20 now 19.8 x 15", unit="mm")
    >>> worn = piece_of([lettered(one) for one in feature_lines(lines).features], StockSaid("repair"), "mm")
    >>> [one.about for one in no_metal(worn)]
    ['A is to be 20.000 mm, and measures 19.800 mm now']
    """
    for one in piece.surfaces:
        now = piece.now_mm(one.letter)
        if now is None or one.kind not in ("outside", "bore", "groove"):
            continue
        if now > one.diameter_mm if one.kind == "bore" else now < one.diameter_mm:
            wanted, there = show_exact(one.diameter_mm, piece.unit), show_exact(now, piece.unit)
            yield Complaint("no_metal", f"{one.letter} is to be {wanted}, and measures {there} now")
