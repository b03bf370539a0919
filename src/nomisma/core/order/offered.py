"""What is offered of a part and its stock: the set-ups that run, what must be left out, or why there are none."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import lru_cache

from nomisma.core.metal.rules import CLEARANCE_MM, STEP_GRIP_MM, Complaint
from nomisma.core.operations.hole_finish import hole_finished
from nomisma.core.operations.hole_tools import USUAL_TOOLS, HoleTools
from nomisma.core.operations.piece import Piece
from nomisma.core.operations.surfaces import Surface, surfaces_of, whole_letter
from nomisma.core.order.laid_out import StockSaid
from nomisma.core.order.mended import no_metal
from nomisma.core.order.set_ups import SetUps, set_ups_of
from nomisma.core.order.stages import roughed_first
from nomisma.core.part.kinds.eccentric_diameter import OFF_CENTRE
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import section_of
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A feature that a lathe cuts and no operation here makes, and why."""

    letter: str
    why: str


def piece_of(
    features: Sequence[LetteredFeature],
    stock: StockSaid,
    unit: Unit,
    tools: HoleTools = USUAL_TOOLS,
    *,
    all_bored: bool = False,
) -> Piece | None:
    """The part as it is to be cut from a stock with the tools at hand; None without an outside of a known size.
    `all_bored`: holes that would be drilled or reamed are bored, so that a mandrel may hold the part. Source: geometry.

    >>> piece_of([], StockSaid(), "mm") is None
    True
    """
    section = section_of(features)
    if section is None:
        return None
    bought = stock.across_mm if stock.section == "round" and stock.kind != "cast" and not stock.skin_mm else None
    all_bored = all_bored or stock.bore_mm > 0 or stock.kind == "repair"  # no drill follows a bore that is there
    known = {one.letter: one for one in features}
    datums = {one.true_to for one in features if one.true_to}
    as_drawn = surfaces_of(features, section)
    surfaces = [
        hole_finished(one, known[one.letter], datums, unit, tools=tools, steps=_has_a_step(one, as_drawn))
        if one.kind == "bore" and not all_bored
        else one
        for one in as_drawn
    ]
    return Piece(section, tuple(features), tuple(surfaces), unit, bought, stock.bore_mm, tools=tools)


def offered(piece: Piece, stock: StockSaid, face_as_parted: bool) -> tuple[SetUps, Piece, tuple[LeftOut, ...]]:
    """The set-ups that run, the piece they are of, and what they could not make and why.

    Where none runs, holes are bored that would be drilled, so that a mandrel may hold it; then what stands in the way
    is left out, where the part can be turned without it. Source: as `order_of_work`.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> washer = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 30 x 3", unit="mm")).features]
    >>> found = offered(piece_of(washer, StockSaid("blank"), "mm"), StockSaid("blank"), False)
    >>> [one.rule for one in found[0].complaints]
    ['too_thin']
    """
    thin = is_too_thin(piece)
    found = found_set_ups(piece, stock, face_as_parted)
    if thin and not found.set_ups and stock.may_be_parted and not face_as_parted:
        return offered(piece, stock, face_as_parted=True)
    if not found.set_ups and any(one.kind == "bore" and one.hole in ("drilled", "reamed") for one in piece.surfaces):
        bored = piece_of(piece.features, stock, piece.unit, piece.tools, all_bored=True)
        if bored is not None and (other := found_set_ups(bored, stock, face_as_parted)).set_ups:
            return other, bored, ()
    left: list[LeftOut] = []
    without, trial = piece, found
    off_centre = [one for one in piece.surfaces if one.throw_mm]
    if off_centre and not found.set_ups:
        left = [LeftOut(letter, OFF_CENTRE) for one in off_centre for letter in one.letters]
        without = replace(piece, surfaces=tuple(one for one in piece.surfaces if not one.throw_mm))
        trial = found_set_ups(without, stock, face_as_parted)
    while not trial.set_ups and len(left) < MOST_LEFT_OUT:
        wrong = next((one for one in trial.complaints if _may_be_left(one.letters, without)), None)
        if wrong is None:
            break
        gone = {letter for one in without.surfaces if set(wrong.letters) & set(one.letters) for letter in one.letters}
        kept = [one for one in without.surfaces if not gone & {*one.letters, one.lies_in}]
        lost = {letter for one in without.surfaces if one not in kept for letter in one.letters}
        left += [LeftOut(letter, f"{wrong.sentence} {wrong.remedy}".removesuffix(".")) for letter in sorted(lost)]
        without = replace(without, surfaces=tuple(kept))
        trial = found_set_ups(without, stock, face_as_parted)
    if thin and not trial.set_ups:
        return replace(found, complaints=(Complaint("too_thin"),)), piece, ()
    return (trial, without, tuple(left)) if trial.set_ups else (found, piece, ())


MOST_LEFT_OUT = 6
"""So many features are left out of a plan at most before there is none. Source: this tool's own choice."""


def _may_be_left(letters: Collection[str], piece: Piece) -> bool:
    """Whether a part can be turned without what a cut makes: a hole, a groove, an edge, no step of its outside."""
    steps = {step.letter for step in piece.section.outside}
    own = [one for one in piece.surfaces if set(letters) & set(one.letters)]
    return bool(own) and all(one.letter not in steps for one in own)


def is_too_thin(piece: Piece) -> bool:
    """Whether a part is so thin that jaws which hold it leave a tool no room. Source: common practice, no source.

    >>> from nomisma.core.part.section import Section
    >>> whole = Section(Decimal(4), (), (), (), Decimal(0), "", (), ())
    >>> is_too_thin(Piece(whole, (), ())), is_too_thin(Piece(replace(whole, length_mm=Decimal(8)), (), ()))
    (True, False)
    """
    return piece.length_mm < STEP_GRIP_MM + CLEARANCE_MM


@lru_cache(maxsize=256)  # an order that a hand moves about is of the same set-ups
def found_set_ups(piece: Piece, stock: StockSaid, face_as_parted: bool) -> SetUps:
    """The set-ups of a piece from its stock. Source: as `order_of_work`.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> washer = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 30 x 3", unit="mm")).features]
    >>> found_set_ups(piece_of(washer, StockSaid("blank"), "mm"), StockSaid("blank"), False).set_ups
    ()
    """
    whole = whole_letter(piece.features, piece.section) if stock.kind != "repair" else ""  # its faces stay
    return set_ups_of(piece, stock, face_as_parted=face_as_parted, whole=whole)


@lru_cache(maxsize=256)  # as above
def roughed_set_ups(piece: Piece, stock: StockSaid) -> SetUps | None:
    """The set-ups of a piece that is roughed all over first; None where it cannot be. Source: as `order_of_work`.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> washer = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 30 x 3", unit="mm")).features]
    >>> roughed_set_ups(piece_of(washer, StockSaid("repair"), "mm"), StockSaid("repair")) is None
    True
    """
    return roughed_first(piece, stock, whole=whole_letter(piece.features, piece.section))


def _has_a_step(own: Surface, surfaces: Sequence[Surface]) -> bool:
    """Whether a narrower hole goes on behind the floor of a hole: what is left of the floor is a step."""
    floor_mm = own.from_mm if "right" in own.ends else own.to_mm
    return not own.from_both_ends and any(
        one.kind == "bore" and one.diameter_mm < own.diameter_mm and one.from_mm <= floor_mm <= one.to_mm
        for one in surfaces
    )


def stock_too_small(piece: Piece, stock: StockSaid) -> Complaint | None:
    """What stock cannot give; None where it is large and long enough. Source: geometry.

    >>> from decimal import Decimal
    >>> from nomisma.core.part.section import Section
    >>> from nomisma.core.part.section_shapes import Cylinder
    >>> whole = (Cylinder("A", Decimal(20), Decimal(0), Decimal(10)),)
    >>> pin = Piece(Section(Decimal(10), whole, (), (), Decimal(0), "", (), ()), (), ())
    >>> stock_too_small(pin, StockSaid(across_mm=Decimal(19))).about
    'A is 20.000 mm, the stock is sound to 19.000 mm'
    """

    def shown(mm: Decimal) -> str:
        return show_exact(mm, piece.unit)

    if stock.kind == "repair":
        return next(no_metal(piece), None)
    largest = max(piece.section.outside, key=lambda step: step.diameter_mm)
    if stock.across_mm is not None and largest.letter not in piece.as_bought and not piece.stays(largest.letter):
        sound_mm = stock.across_mm - (2 * stock.skin_mm if stock.kind != "cast" or stock.long_mm is not None else 0)
        if sound_mm < largest.diameter_mm:
            about = f"{largest.letter} is {shown(largest.diameter_mm)}, the stock is sound to {shown(sound_mm)}"
            return Complaint("stock_small", about)
    if stock.long_mm is not None and stock.long_mm < piece.length_mm:
        about = f"the part is {shown(piece.length_mm)} long, the stock {shown(stock.long_mm)}"
        return Complaint("stock_small", about)
    narrow = [one for one in piece.surfaces if one.kind == "bore" and one.diameter_mm < piece.tube_bore_mm]
    if narrow:
        about = f"{narrow[0].letter} is {shown(narrow[0].diameter_mm)}, the tube's bore {shown(piece.tube_bore_mm)}"
        return Complaint("stock_small", about)
    return None
