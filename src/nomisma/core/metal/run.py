"""A plan run on the metal: stock in, each cut taken away, and every rule that is broken, where it is broken."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from nomisma.core.metal.cut import Cut, Support, Way, Workholding
from nomisma.core.metal.drawing import Drawing, line_left
from nomisma.core.metal.profile import Stretch
from nomisma.core.metal.rules import (
    AT_A_SHOULDER_MM,
    AT_CENTRE_OUT,
    CENTRE_SHARE,
    FACED_RECESS,
    FREE_OUT,
    MANDREL_WIDE,
    PARTED_LONG,
    SMALLEST_EXPANDING_MM,
    Complaint,
    RunRule,
    clearance_mm,
    least_grip_mm,
    reach_of_a_bar_mm,
    widest_held_mm,
)
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.quantity.display import show_exact

ON_A_STEP: tuple[Way, ...] = ("soft_jaws", "faceplate")
ON_A_MANDREL: tuple[Way, ...] = ("mandrel", "expanding_mandrel", "bonded_mandrel")
Broken = tuple[RunRule, str]


@dataclass(frozen=True, slots=True)
class RunResult:
    """What came of a plan: the workpiece at last, and where it breaks."""

    finished: Workpiece
    complaints: tuple[Complaint, ...]


def run(begun: Workpiece, set_ups: Sequence[Workholding], drawing: Drawing) -> RunResult:
    """Each cut taken away from the workpiece a plan begins with, with every rule that is broken where it is broken.
    Sizes in mm. Source: common practice, no source (rules); geometry.

    >>> from nomisma.core.metal.profile import cylinder, profile_of
    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> pin = Drawing(Decimal(30), profile_of([cylinder(Decimal(0), Decimal(30), Decimal(20))]), ())
    >>> run(workpiece_of(Stock(Decimal(0), Decimal(30), Decimal(22))), [], pin).complaints[0].rule
    'metal_left'
    """
    now, long_mm = begun, drawing.length_mm
    found: list[Complaint] = []
    for number, set_up in enumerate(set_ups):
        turned = set_up.worked == "left"
        held = set_up.mirrored(long_mm) if turned else set_up
        seen = drawing.mirrored() if turned else drawing
        done = run_set_up(held, now.mirrored(long_mm) if turned else now, seen, number)
        found += done.complaints
        now = done.finished.mirrored(long_mm) if turned else done.finished
    return RunResult(now, (*found, *at_last(now, drawing)))


def run_set_up(held: Workholding, work: Workpiece, drawing: Drawing, number: int = 0) -> RunResult:
    """One set-up run alone, seen from its worked end as the right one. Sizes in mm. Source: as `run`.

    >>> from nomisma.core.metal.profile import cylinder, profile_of
    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> pin = Drawing(Decimal(30), profile_of([cylinder(Decimal(0), Decimal(30), Decimal(20))]), ())
    >>> bar = workpiece_of(Stock(Decimal(0), Decimal(30), Decimal(22)))
    >>> run_set_up(Workholding("right", "three_jaw", Decimal(30), None), bar, pin).complaints[0].rule
    'nothing_gripped'
    """
    found = [Complaint(rule, about, number) for rule, about in _holding(held, work)]
    if held.grip is not None and held.grip.surface in dict(drawing.throws):
        found.append(Complaint("off_axis", f"held on {held.grip.surface}", number))
    finishing = False
    for place, cut in enumerate(held.cuts):
        if cut.supports is not None:
            held = replace(held, supports=cut.supports)
            found += [Complaint(rule, about, number, place, cut.letters) for rule, about in _stood_by(held, work)]
        found += [
            Complaint(rule, about, number, place, cut.letters) for rule, about in cutting(cut, held, work, drawing)
        ]
        if cut.traits.roughs and finishing:
            found.append(Complaint("rough_late", said(cut), number, place, cut.letters))
        finishing = finishing or cut.traits.finishes
        work = work.after(cut)
    return RunResult(work, tuple(found))


def said(one: Cut) -> str:
    """A cut in a complaint: its letters, or its kind. Source: none, wording.

    >>> said(Cut("turn", ("A", "B"))), said(Cut("part_off"))
    ('turn A, B', 'part off')
    """
    return f"{one.kind.replace('_', ' ')} {', '.join(one.letters)}".strip()


def _holding(held: Workholding, work: Workpiece) -> Iterator[Broken]:
    """What is wrong with how the work is held, seen from the worked end as the right one."""
    grip = held.grip
    if held.throw_mm and held.way not in ("four_jaw", "faceplate"):
        yield "off_centre_held", held.way.replace("_", " ")
    if held.trued_on and held.way in ("three_jaw", "collet"):
        yield "not_trued", held.trued_on
    plugged = {one.end for one in held.supports if one.kind == "plug"}
    if held.way == "centres" and not all(work.centre_mm(end) or end in plugged for end in ("right", "left")):
        yield "between_both", ""
    yield from _stood_by(held, work)
    if grip is None:
        if held.way not in ("centres",):
            yield "nothing_gripped", ""
        elif held.stands_out_mm != work.right_mm - work.left_mm:
            yield "stands_out", ""
        return
    own_end = held.way in ("mandrel", "faceplate") or grip.inside
    out_mm = work.right_mm - (work.left_mm if own_end else grip.to_mm)
    if out_mm != held.stands_out_mm:
        yield "stands_out", ""
    profile = work.hole if grip.inside else work.outside
    there = list(profile.within(grip.from_mm, grip.to_mm))
    whole = grip.from_mm >= work.left_mm and grip.to_mm <= work.right_mm and grip.length_mm > 0
    flats = grip.surface == "stock" and grip.diameter_mm == work.round_mm
    even = all(one.is_cylinder and one.at_from_mm == grip.diameter_mm for one in there)
    if not whole or not (even or (flats and all(one.at_from_mm >= grip.diameter_mm for one in there))):
        yield "nothing_gripped", grip.surface
    elif not grip.inside and work.outside.largest_mm(work.left_mm, grip.from_mm) > work.outside.largest_mm(
        grip.from_mm, grip.to_mm
    ):
        yield "jaws_reach", grip.surface
    on_a_step = held.way in ON_A_STEP and (grip.against == "step" or held.way == "faceplate")
    least_mm = least_grip_mm(grip.diameter_mm, on_a_step=on_a_step, on_a_mandrel=held.way in ON_A_MANDREL)
    if grip.length_mm < least_mm:
        yield "grip_short", grip.surface
    across_mm = work.outside.largest_mm(work.left_mm, work.right_mm)
    is_thin = held.way == "expanding_mandrel" and grip.diameter_mm < SMALLEST_EXPANDING_MM
    if held.way in ON_A_MANDREL and (grip.diameter_mm < MANDREL_WIDE * across_mm or is_thin):
        yield "grip_small", grip.surface
    is_short = not grip.inside and grip.length_mm < least_grip_mm(grip.diameter_mm)
    if (
        is_short
        and held.way != "faceplate"
        and widest_held_mm(grip.diameter_mm, is_only_faced=held.is_only_faced)
        < work.outside.largest_mm(grip.to_mm, work.right_mm)
    ):
        yield "grip_small", grip.surface
    if grip.surface in work.done and not grip.protected and not grip.inside:
        yield "grip_marks", grip.surface


def _stood_by(held: Workholding, work: Workpiece) -> Iterator[Broken]:
    """What is wrong with what holds the work beside the jaws, and with how far it stands out so."""
    for one in held.supports:
        yield from _supported(one, held, work)
    yield from _overhang(held, work)


def _supported(one: Support, held: Workholding, work: Workpiece) -> Iterator[Broken]:
    match one.kind:
        case "centre":
            if not one.end or not work.centre_mm(one.end):
                yield "no_centre_hole", one.end
        case "steady":
            if one.from_mm is None or one.to_mm is None:
                yield "no_track", one.surface
                return
            there = list(work.outside.within(one.from_mm, one.to_mm))
            inside = one.from_mm >= work.left_mm and one.to_mm <= work.right_mm
            even = len(there) == 1 and there[0].is_cylinder and there[0].at_from_mm <= work.round_mm
            if not inside or not even:
                yield "no_track", one.surface
            if held.grip and one.from_mm < held.grip.to_mm:
                yield "held_is_cut", one.surface
        case "plug":
            if not one.end or not work.is_open(one.end):
                yield "no_centre_hole", one.end
        case "follow_rest":
            pass


def _overhang(held: Workholding, work: Workpiece) -> Iterator[Broken]:
    if held.way in ON_A_MANDREL or held.way == "faceplate":
        return
    front_mm = held.grip.to_mm if held.grip else work.left_mm
    steadied = [one.to_mm for one in held.supports if one.kind == "steady" and one.to_mm is not None]
    if steadied:
        front_mm = max(steadied)
    out_mm = work.right_mm - front_mm
    across_mm = work.outside.largest_mm(front_mm, work.right_mm)
    kinds = {one.kind for one in held.supports}
    if "follow_rest" in kinds:
        return
    most = AT_CENTRE_OUT if {"centre", "plug"} & kinds else FREE_OUT
    if out_mm > most * across_mm:
        yield "overhang", f"{out_mm / across_mm:.1f} diameters" if across_mm else ""


def cutting(one: Cut, held: Workholding, work: Workpiece, drawing: Drawing) -> Iterator[Broken]:
    """What is wrong with one cut at its moment, seen from the worked end as the right one. Source: as `run`.

    >>> from nomisma.core.metal.profile import cylinder, profile_of
    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> pin = Drawing(Decimal(30), profile_of([cylinder(Decimal(0), Decimal(30), Decimal(20))]), ())
    >>> bar = workpiece_of(Stock(Decimal(-40), Decimal(31), Decimal(22)))
    >>> held = Workholding("right", "three_jaw", Decimal(40), None)
    >>> [rule for rule, _ in cutting(Cut("face", (), Decimal(31), Decimal(29), end="right"), held, bar, pin)]
    ['metal_gone']
    """
    name = said(one)
    if one.traits.in_an_end and any(each.kind in ("centre", "plug") and each.end == one.end for each in held.supports):
        yield "end_occupied", name
    if _too_near(one, held):
        yield "held_is_cut", name
    yield from _on_its_axis(one, held, work, drawing)
    match one.kind:
        case "face":
            yield from _facing(one, work, drawing)
        case "part_off" | "saw":
            yield from _parting(one, held, work)
        case "centre_hole":
            at_mm = drawing.length_mm if one.end == "right" else Decimal(0)
            if (work.right_mm if one.end == "right" else work.left_mm) != at_mm:
                yield "not_faced", name
            if one.high_mm - one.low_mm > CENTRE_SHARE * drawing.length_mm:
                yield "metal_gone", name
            if work.hole.largest_mm(one.low_mm, one.high_mm) >= (one.after_mm or 0):
                yield "no_centre_hole", name
        case "spot" | "drill" | "ream" | "rough_bore" | "bore":
            yield from _in_a_hole(one, work, drawing)
        case "rough_turn" | "turn" | "groove" | "v_groove" | "undercut" | "taper" | "chamfer" | "radius":
            yield from _in_a_mouth(one, work, drawing) if one.inside else _outside(one, held, work, drawing)
        case "thread" | "knurl":
            crest_mm = work.outside.largest_mm(one.low_mm, one.high_mm)
            if not one.inside and one.before_mm is not None and crest_mm > one.before_mm:
                yield "edge_early", name
        case "face_groove" | "deburr":
            pass


def _on_its_axis(one: Cut, held: Workholding, work: Workpiece, drawing: Drawing) -> Iterator[Broken]:
    """Whether what lies off centre is cut off centre, in metal that is there, and all else on the part's axis."""
    throws = dict(drawing.throws)
    on_an_axis = one.traits.takes in ("outside", "hole", "crest") and one.traits.makes
    wanted = {throws.get(letter, Decimal(0)) for letter in one.letters} if on_an_axis else set()
    if one.throw_mm != held.throw_mm or wanted - {held.throw_mm}:
        yield "off_axis", said(one)
    if not one.throw_mm or not one.is_outside or one.traits.takes != "outside":
        return
    first = next((each for each in held.cuts if each.is_outside and set(each.letters) & set(one.letters)), one)
    there_mm = min(work.outside.smallest_mm(one.from_mm, one.to_mm), work.round_mm)
    after_mm = one.after_mm or Decimal(0)
    true_holes = [each for each in drawing.holes if each.letter in work.done and each.letter not in throws]
    beside = [each.diameter_mm for each in true_holes if each.from_mm < one.to_mm and one.from_mm < each.to_mm]
    hole_mm = max([drawing.tube_bore_mm, *beside])
    if first is one and (
        there_mm < after_mm + 2 * one.throw_mm or hole_mm + 2 * one.throw_mm >= after_mm > 0 < hole_mm
    ):
        yield "off_centre_air", said(one)


def _too_near(one: Cut, held: Workholding) -> bool:
    blade = one.tool.width_mm if one.traits.takes == "piece" else None
    room_mm = clearance_mm(blade)
    if one.is_outside and any(_is_at(each, one, room_mm) for each in held.supports):
        return True
    if held.grip is None or held.way == "mandrel":
        return False
    touches = one.low_mm < held.grip.to_mm + room_mm
    if held.grip.inside:
        return touches and (one.inside or (one.is_hole and one.traits.makes))
    return touches and one.is_outside


def _is_at(each: Support, one: Cut, room_mm: Decimal) -> bool:
    """Whether a cut comes too near to a steady's rollers."""
    if each.kind != "steady" or each.from_mm is None or each.to_mm is None:
        return False
    return one.low_mm < each.to_mm + room_mm and one.high_mm > each.from_mm - room_mm


def _facing(one: Cut, work: Workpiece, drawing: Drawing) -> Iterator[Broken]:
    at_right = one.end == "right"
    now_mm, last_mm = (work.right_mm, drawing.length_mm) if at_right else (work.left_mm, Decimal(0))
    if one.from_mm != now_mm:
        yield "not_as_said", said(one)
    if (one.to_mm < last_mm) if at_right else (one.to_mm > last_mm):
        yield "metal_gone", said(one)
    if (one.to_mm >= now_mm) if at_right else (one.to_mm <= now_mm):
        yield "nothing_there", said(one)


def _parting(one: Cut, held: Workholding, work: Workpiece) -> Iterator[Broken]:
    if any(each.kind in ("centre", "plug", "steady") for each in held.supports):
        yield "parted_supported", ""
    across_mm = work.outside.largest_mm(one.to_mm, work.right_mm)
    if one.kind == "part_off" and work.right_mm - one.to_mm > PARTED_LONG * across_mm:
        yield "parted_long", f"{(work.right_mm - one.to_mm) / across_mm:.1f} diameters" if across_mm else ""
    if one.to_mm > 0:
        yield "metal_gone", said(one)
    if one.kind == "part_off" and one.throw_mm:
        yield "parted_off_centre", ""
    wall_mm = (work.outside.largest_mm(one.from_mm, one.to_mm) - work.hole.smallest_mm(one.from_mm, one.to_mm)) / 2
    if one.tool.reach_mm is not None and one.tool.reach_mm < wall_mm:
        yield "blade_short", ""


def _in_a_hole(one: Cut, work: Workpiece, drawing: Drawing) -> Iterator[Broken]:
    name, after_mm = said(one), one.after_mm or Decimal(0)
    tip_mm = one.point_mm if one.point_mm is not None else one.to_mm
    at_face = one.from_mm == work.right_mm
    if not at_face and (one.from_mm > work.right_mm or work.hole.smallest_mm(one.from_mm, work.right_mm) < after_mm):
        yield "tool_reach", name
    if one.kind == "spot":
        return
    room_mm = min(AT_A_SHOULDER_MM, (one.high_mm - one.low_mm) / 4)
    there_mm = work.hole.smallest_mm(one.low_mm + room_mm, one.high_mm - _MOUTH_MM)
    is_spotted = bool(work.hole.largest_mm(one.from_mm - _MOUTH_MM, one.from_mm) or work.centre_mm("right"))
    if one.kind == "drill" and not is_spotted:
        yield "not_spotted", name
    is_faced = one.tool.kind == "facing" and one.high_mm - one.low_mm <= FACED_RECESS * after_mm
    if one.kind in ("ream", "rough_bore", "bore") and there_mm == 0 and not is_faced:
        yield "no_bar", name
    if one.kind in ("rough_bore", "bore") and after_mm < drawing.least_bored_mm:
        yield "no_bar", name
    if one.kind in ("rough_bore", "bore") and not is_faced:
        way_in_mm = work.hole.largest_mm(one.low_mm, one.high_mm - _MOUTH_MM)
        if not at_face:
            way_in_mm = min(way_in_mm, work.hole.smallest_mm(one.from_mm, work.right_mm - _MOUTH_MM))
        if work.right_mm - one.low_mm > reach_of_a_bar_mm(way_in_mm) > 0:
            yield "bar_long", name
    if one.kind != "drill" and one.before_mm != there_mm:
        yield "not_as_said", name
    if there_mm >= after_mm:
        yield "nothing_there", name
    if _is_too_wide(one, min(one.low_mm, tip_mm), one.high_mm, work, drawing):
        yield "metal_gone", name


def _in_a_mouth(one: Cut, work: Workpiece, drawing: Drawing) -> Iterator[Broken]:
    """What is wrong with an edge broken in a hole's mouth."""
    if not work.hole.smallest_mm(one.from_mm, one.to_mm):
        yield "edge_early", said(one)
    if _is_too_wide(one, one.from_mm, one.to_mm, work, drawing):
        yield "metal_gone", said(one)


def _is_too_wide(one: Cut, low_mm: Decimal, high_mm: Decimal, work: Workpiece, drawing: Drawing) -> bool:
    """Whether a hole is wider after a cut than the drawing lets it be."""
    most = drawing.hole_at_most
    return any(
        each.at(at) > other.at(at) + _ROUNDING_MM
        for each in work.after(one).hole.within(max(low_mm, Decimal(0)), min(high_mm, drawing.length_mm))
        for other in most.within(each.from_mm, each.to_mm)
        for at in (other.from_mm, other.to_mm)
    )


_MOUTH_MM = Decimal("0.001")


def _outside(one: Cut, held: Workholding, work: Workpiece, drawing: Drawing) -> Iterator[Broken]:
    name, line = said(one), line_left(one)
    if one.traits.takes != "edge" and any(
        each.from_mm < one.to_mm and one.from_mm < each.to_mm for each in drawing.left
    ):
        yield "as_it_is", name
    high_mm = max(line.at_from_mm, line.at_to_mm)
    behind_mm = work.outside.largest_mm(one.to_mm, work.right_mm)
    both_ways = held.grip is None or held.way == "mandrel"
    if both_ways:
        behind_mm = min(behind_mm, work.outside.largest_mm(work.left_mm, one.from_mm))
    if one.kind in ("rough_turn", "turn", "taper") and behind_mm > high_mm:
        yield "tool_reach", name
    room_mm = min(AT_A_SHOULDER_MM, (one.to_mm - one.from_mm) / 4)
    left_mm, right_mm = one.from_mm + room_mm, one.to_mm - (room_mm if both_ways else 0)
    if one.traits.takes == "edge" or one.kind in ("undercut", "taper"):
        left_mm, right_mm = one.from_mm, one.to_mm
    there_mm = work.outside.largest_mm(left_mm, right_mm)
    if one.traits.after_finish and one.before_mm is not None and there_mm > max(one.before_mm, one.after_mm or 0):
        yield "edge_early", name
    elif not one.traits.after_finish and one.kind != "undercut" and one.before_mm != there_mm:
        yield "not_as_said", name
    if there_mm <= min(line.at_from_mm, line.at_to_mm):
        yield "nothing_there", name
    if _gone(line, drawing):
        yield "metal_gone", name


def _gone(line: Stretch, drawing: Drawing) -> bool:
    return any(
        line.at(at) < each.at(at)
        for each in drawing.outside.within(line.from_mm, line.to_mm)
        for at in (each.from_mm, each.to_mm)
    )


def at_last(work: Workpiece, drawing: Drawing) -> list[Complaint]:
    """What is not as the drawing has it at the end. Sizes in mm. Source: geometry.

    >>> from nomisma.core.metal.profile import cylinder, profile_of
    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> pin = Drawing(Decimal(30), profile_of([cylinder(Decimal(0), Decimal(30), Decimal(20))]), ())
    >>> at_last(workpiece_of(Stock(Decimal(0), Decimal(30), Decimal(20))), pin)
    []
    """
    return [
        Complaint(rule, about, letters=(about,) if rule == "not_made" else ())
        for rule, about in _left_over(work, drawing)
    ]


def _left_over(work: Workpiece, drawing: Drawing) -> Iterator[Broken]:
    for end, at_mm, want_mm in (("left", work.left_mm, Decimal(0)), ("right", work.right_mm, drawing.length_mm)):
        if at_mm != want_mm:
            yield "metal_left", f"the {end} face"
    for each in drawing.outside.stretches:
        may_stay = any(
            one.from_mm <= each.from_mm and each.to_mm <= one.to_mm for one in (*drawing.open, *drawing.left)
        )
        for there in work.outside.within(each.from_mm, each.to_mm):
            off = [there.at(at) - each.at(at) for at in (there.from_mm, there.to_mm)]
            if not may_stay and any(abs(mm) > _ROUNDING_MM for mm in off):
                yield "metal_left", f"outside, {_from_to(there, drawing)}"
    for each in drawing.hole.stretches:
        for one in work.hole.within(each.from_mm, each.to_mm):
            if any(one.at(at) < each.at(at) - _ROUNDING_MM for at in (one.from_mm, one.to_mm)):
                yield "metal_left", f"hole, {_from_to(one, drawing)}"
    for letter in sorted(drawing.done_by - work.done):
        yield "not_made", letter


def _from_to(one: Stretch, drawing: Drawing) -> str:
    begins, ends = (show_exact(mm, drawing.unit) for mm in (one.from_mm, one.to_mm))
    return f"{begins} to {ends} from the left face"


_ROUNDING_MM = Decimal("1e-9")
