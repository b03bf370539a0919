"""How a set-up is held on the metal that is there: every grip that leaves room for its cuts, better ones in front."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from decimal import ROUND_CEILING, Decimal

from nomisma.core.metal.cut import Cut, End, Grip, Support, Way, Workholding, is_only_faced
from nomisma.core.metal.rules import (
    AT_CENTRE_OUT,
    FREE_OUT,
    LEAST_GRIP_MM,
    SMALLEST_EXPANDING_MM,
    clearance_mm,
    least_grip_mm,
    widest_held_mm,
)
from nomisma.core.metal.stock import StockSection
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.cuts_of import lowest_mm
from nomisma.core.operations.piece import Piece
from nomisma.core.operations.surfaces import is_threaded

SPINDLE_BORE_MM = Decimal(40)
"""Up to what diameter stock is taken to go through a spindle nobody named. Source: common practice, no source (an inch
and a half).
"""
IN_THE_CHUCK_MM = Decimal(60)
"""So much of the work finds room in the chuck behind its jaws. Source: common practice, no source."""
ROLLERS_MM = Decimal(20)
"""How wide a steady's rollers run. Source: common practice, no source."""
_NARROWEST_ROLLERS_MM = Decimal(8)
LONGEST_GRIP_MM = Decimal(40)
"""Jaws are about so long. Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class Need:
    """What a set-up wants of its holding, seen from its worked end as the right one: its cuts, its blade, the surfaces
    that are finished, those that are no good grip (threads, knurls) or lie off centre, what it must run true to, how
    wide the spindle is, how far off centre, whether a centre comes up in its end, and whether a finished
    part is mended.
    """

    piece: Piece
    cuts: tuple[Cut, ...]
    finished: Mapping[str, tuple[Decimal, Decimal]]
    no_grip: frozenset[str]
    off_centre: frozenset[str]
    section: StockSection
    true_to: str = ""
    blade_mm: Decimal | None = None
    spindle_mm: Decimal = SPINDLE_BORE_MM
    throw_mm: Decimal = Decimal(0)
    at_centre: bool = False
    mended: bool = False


def workholdings(need: Need, work: Workpiece) -> Iterator[Workholding]:
    """The ways to hold it in a chuck, mm, the better ones in front; their cuts are still to come. Source: common
    practice, no source (grip, room, overhang).

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.order import order_of_work
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> plan = order_of_work(pin)
    >>> held = plan.set_ups[1].set_up.workholding
    >>> held.way, held.grip.surface, held.grip.against
    ('soft_jaws', 'A', '')
    """
    room = clearance_mm(need.blade_mm)
    low_mm = lowest_mm(need.cuts, inside=False)
    front_most = (work.right_mm if low_mm is None else low_mm) - room
    if need.throw_mm:
        yield from _set_over(need, work, front_most)
        return
    for one in _grips(need, work, front_most):
        yield from _held(one, need, work)
    yield from _inside(need, work)
    yield from _steadied(need, work, front_most)


def _grips(need: Need, work: Workpiece, front_most: Decimal) -> Iterator[Grip]:
    """Where jaws could close on the outside: what is finished first, the larger diameters first, short grips on a step
    last.
    """
    found: list[tuple[tuple[object, ...], Grip]] = []
    for one in work.outside.stretches:
        ends = min(one.to_mm, front_most)
        if not one.is_cylinder or ends <= one.from_mm:
            continue
        if work.outside.largest_mm(work.left_mm, one.from_mm) > one.at_from_mm:
            continue
        surface = _surface_at(one.from_mm, ends, need)
        if surface in need.off_centre:
            continue
        across = one.at_from_mm
        if surface == "stock" and across > work.round_mm:
            across = work.round_mm
        there = ends - one.from_mm
        least = least_grip_mm(across)
        is_short = there < least
        if there < least_grip_mm(across, on_a_step=True):
            continue
        widest = widest_held_mm(across, is_only_faced=is_only_faced(need.cuts))
        if is_short and widest < work.outside.largest_mm(ends, work.right_mm):
            continue
        wanted = min(there, max(_round_up(least), LONGEST_GRIP_MM))
        begins = one.from_mm if is_short else ends - wanted
        finished = surface != "stock"
        grip = Grip(
            surface,
            begins,
            ends,
            across,
            protected=finished,
            against="step" if is_short else "",
        )
        better = (-there / across, -across) if is_short else (-across, -there)
        places = [grip]
        if grip.from_mm - work.left_mm > IN_THE_CHUCK_MM and not is_short:
            places.append(replace(grip, from_mm=one.from_mm, to_mm=one.from_mm + wanted))
        found += (
            ((surface in need.no_grip, is_short, not finished, surface != need.true_to, *better), each)
            for each in places
        )
    yield from (grip for _, grip in sorted(found, key=lambda each: each[0]))


def _round_up(mm: Decimal) -> Decimal:
    return mm.quantize(Decimal(1), ROUND_CEILING)


def _surface_at(from_mm: Decimal, to_mm: Decimal, need: Need) -> str:
    """The letter of what is finished there, or stays as it is; stock where nothing is."""
    for letter, (begins, ends) in need.finished.items():
        if begins < to_mm and from_mm < ends:
            known = need.piece.by_letter.get(letter)
            if known is None or known.feature.of_kind.cut_as == "outside" or letter in need.off_centre:
                return letter
    return "stock"


def _held(grip: Grip, need: Need, work: Workpiece) -> Iterator[Workholding]:
    out_mm = work.right_mm - grip.to_mm
    across = work.outside.largest_mm(grip.to_mm, work.right_mm)
    behind_mm = grip.from_mm - work.left_mm
    largest_behind = work.outside.largest_mm(work.left_mm, grip.from_mm)
    trued_on = _trued_on(grip, need)
    goes_in = behind_mm <= IN_THE_CHUCK_MM or largest_behind <= need.spindle_mm
    steady_enough = across if grip.length_mm >= LEAST_GRIP_MM else across / 2
    too_far = bool(grip.against) and not need.at_centre and out_mm - clearance_mm(need.blade_mm) > steady_enough
    if goes_in and out_mm <= FREE_OUT * across and not too_far:
        yield Workholding("right", _way(grip, need), out_mm, grip, trued_on=trued_on)


def _trued_on(grip: Grip, need: Need) -> str:
    """What the needle runs on: what it must be true to where that is not gripped; on a part that is mended, else what
    is gripped.
    """
    if need.mended:
        return need.true_to or grip.surface
    return need.true_to if need.true_to != grip.surface else ""


def _set_over(need: Need, work: Workpiece, front_most: Decimal) -> Iterator[Workholding]:
    """Off centre in the four-jaw by its throw, the needle on what runs true: what is gripped, else what is turned."""
    turned = [letter for letter in need.finished if letter not in need.off_centre and letter in need.piece.by_letter]
    for grip in _grips(need, work, front_most):
        for held in _held(grip, need, work) if not grip.against else ():
            yield replace(
                held,
                way="four_jaw",
                trued_on=grip.surface if grip.surface != "stock" else turned[0] if turned else "",
                throw_mm=need.throw_mm,
            )


def _way(grip: Grip, need: Need) -> Way:
    if need.mended and not grip.against:
        return "four_jaw"
    if grip.surface != "stock" or grip.against:
        return "soft_jaws"
    by_the_needle = need.true_to and need.true_to != grip.surface
    return "four_jaw" if by_the_needle or need.section in ("square", "octagon") else "three_jaw"


def _steadied(need: Need, work: Workpiece, front_most: Decimal) -> Iterator[Workholding]:
    """Long work that is cut at its end: gripped near the other one, rollers as near to the end that is worked as they
    can stand.
    """
    if need.blade_mm is not None:
        return
    far = [
        one
        for one in work.outside.stretches
        if one.is_cylinder
        and one.to_mm - one.from_mm >= _round_up(least_grip_mm(one.at_from_mm))
        and one.from_mm - work.left_mm <= IN_THE_CHUCK_MM
        and work.outside.largest_mm(work.left_mm, one.from_mm) <= one.at_from_mm
        and one.at_from_mm <= work.round_mm
    ]
    for gripped in far[:1]:
        least = _round_up(least_grip_mm(gripped.at_from_mm))
        surface = _surface_at(gripped.from_mm, gripped.from_mm + least, need)
        held = Grip(surface, gripped.from_mm, gripped.from_mm + least, gripped.at_from_mm, protected=surface != "stock")
        out_mm, trued_on = work.right_mm - held.to_mm, _trued_on(held, need)
        for begins, ends in _tracks(held, need, work, front_most):
            steady = Support("steady", "", _surface_at(begins, ends, need), begins, ends)
            yield Workholding("right", "steady", out_mm, held, supports=(steady,), trued_on=trued_on)


def _tracks(held: Grip, need: Need, work: Workpiece, front_most: Decimal) -> Iterator[tuple[Decimal, Decimal]]:
    """Where rollers could run: as near to the cuts as they can stand, before them, or beyond them where the end is
    not worked.
    """
    highest = max((one.high_mm for one in need.cuts if one.is_outside), default=work.right_mm)
    is_free = not any(one.traits.in_an_end for one in need.cuts)
    for whole in reversed(work.outside.stretches):
        wide = min(ROLLERS_MM, max(whole.at_from_mm, _NARROWEST_ROLLERS_MM))
        if not whole.is_cylinder or whole.at_from_mm > work.round_mm:
            continue
        begins = max(whole.from_mm, highest + clearance_mm())
        if is_free and begins + wide <= whole.to_mm:
            yield whole.to_mm - wide, whole.to_mm
        ends = min(whole.to_mm, front_most)
        if ends - wide >= max(whole.from_mm, held.to_mm) and (
            work.right_mm - ends <= FREE_OUT * work.outside.largest_mm(ends, work.right_mm)
        ):
            yield ends - wide, ends


def _inside(need: Need, work: Workpiece) -> Iterator[Workholding]:
    """On an expanding mandrel in a bore that is finished, the face at the chuck against its shoulder."""
    low_mm = lowest_mm(need.cuts, inside=True)
    front_most = (need.piece.length_mm if low_mm is None else low_mm) - clearance_mm()
    bores = {each.letter: each.diameter_mm for each in need.piece.section.bores if each.from_mm == 0}
    bores |= {
        each.letter: each.diameter_mm for each in need.piece.surfaces if each.kind == "bore" and "left" in each.ends
    }
    for one in sorted(work.hole.stretches, key=lambda each: -each.at_from_mm):
        ends = min(one.to_mm, front_most)
        letter = next(
            (
                letter
                for letter, across in bores.items()
                if letter in need.finished and across == one.at_from_mm and one.is_cylinder
            ),
            "",
        )
        bore = next((each for each in need.piece.surfaces if each.kind == "bore" and each.letter == letter), None)
        if (
            not letter
            or (bore is not None and is_threaded(bore, need.piece.surfaces))
            or one.at_from_mm < SMALLEST_EXPANDING_MM
            or work.hole.smallest_mm(work.left_mm, one.from_mm) < one.at_from_mm != 0 < one.from_mm
        ):
            continue
        begins = max(one.from_mm, work.left_mm)
        grip = Grip(letter, begins, ends, one.at_from_mm, inside=True, against="stop")
        out_mm = work.right_mm - work.left_mm
        if ends - begins >= least_grip_mm(
            one.at_from_mm, on_a_mandrel=True
        ) and out_mm <= FREE_OUT * work.outside.largest_mm(work.left_mm, work.right_mm):
            trued_on = need.true_to if need.true_to != letter else ""
            yield Workholding("right", "expanding_mandrel", out_mm, grip, trued_on=trued_on)


def on_a_mandrel(need: Need, work: Workpiece, letter: str) -> Workholding | None:
    """On a plain mandrel in a bore that goes through and is finished; None where there is none. Source: common
    practice, no source.

    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> from nomisma.core.part.section import Section
    >>> pin = Piece(Section(Decimal(30), (), (), (), Decimal(0), "", (), ()), (), ())
    >>> need = Need(pin, (), {}, frozenset(), frozenset(), "round")
    >>> on_a_mandrel(need, workpiece_of(Stock(Decimal(0), Decimal(30), Decimal(20))), "C") is None
    True
    """
    bore = next((one for one in need.piece.surfaces if one.letter == letter), None)
    if bore is None or letter not in need.finished:
        return None
    long_mm = work.right_mm - work.left_mm
    there = [one for one in work.hole.stretches if one.is_cylinder and one.at_from_mm == bore.diameter_mm]
    if not there:
        return None
    grip = Grip(letter, there[0].from_mm, there[-1].to_mm, bore.diameter_mm, inside=True)
    return Workholding("right", "mandrel", long_mm, grip, trued_on="")


def between_centres(work: Workpiece) -> Workholding:
    """Between centres, in plugs where its ends are hollow, driven so that the whole outside is free; a follow rest
    where it is long and thin, mm. Source: common practice, no source.

    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> held = between_centres(workpiece_of(Stock(Decimal(0), Decimal(182), Decimal(35))))
    >>> held.way, str(held.stands_out_mm), [one.end for one in held.supports]
    ('centres', '182', ['left', 'right'])
    """
    long_mm = work.right_mm - work.left_mm
    open_at = {"left": work.hole.stretches[0].at_from_mm, "right": work.hole.stretches[-1].at_to_mm}
    ends: tuple[End, End] = ("left", "right")
    centres = tuple(Support("plug" if open_at[end] else "centre", end) for end in ends)
    thin = long_mm > AT_CENTRE_OUT * work.outside.largest_mm(work.left_mm, work.right_mm)
    rest = (Support("follow_rest"),) if thin else ()
    return Workholding("right", "centres", long_mm, None, supports=(*centres, *rest))
