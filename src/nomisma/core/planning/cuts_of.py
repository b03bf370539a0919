"""From an operation to its cuts on the metal that is there: from where to where, from which size to which, in how many
passes."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import ROUND_CEILING, Decimal
from math import ceil
from typing import assert_never

from nomisma.core.lengths.centre_drill import CONE, CentreDrill, centre_drills
from nomisma.core.metal.cut import Cut, CutKind, Tool
from nomisma.core.metal.drawing import DRILLED_DEEPER_MM, POINT
from nomisma.core.metal.rules import AT_A_SHOULDER_MM, CENTRE_SHARE, SMALLEST_BORED_MM
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.part.section import middle_mm
from nomisma.core.planning.blank import FACING
from nomisma.core.planning.drilling import drills_before
from nomisma.core.planning.operations import Operation
from nomisma.core.planning.piece import ZERO, Piece
from nomisma.core.planning.surfaces import Surface
from nomisma.core.quantity.length import Length, Unit

LEFT_ROUGH: dict[Unit, Length] = {"in": Length.of("0.030", "in"), "mm": Length.of("0.75", "mm")}
"""What roughing leaves on every surface, on diameter. Source: common practice, no source."""
ROUGH_PASS_MM = Decimal(3)
"""A roughing pass takes so much on diameter. Source: common practice, no source."""
SHOULDER: dict[Unit, Length] = {"in": Length.of("0.010", "in"), "mm": Length.of("0.3", "mm")}
"""Roughing stops so much short of a shoulder or a floor; the last pass takes it out. Source: common practice, no
source.
"""
BLADES: dict[Unit, tuple[tuple[Decimal, Length], ...]] = {
    "mm": ((Decimal(20), Length.of("2", "mm")), (Decimal(50), Length.of("3", "mm")),
           (Decimal(10000), Length.of("4", "mm"))),
    "in": ((Decimal(20), Length.of("0.062", "in")), (Decimal(50), Length.of("0.093", "in")),
           (Decimal(10000), Length.of("0.125", "in"))),
}  # fmt: skip
"""A parting blade's width up to a diameter (mm). Source: common practice, no source."""
SPOT_MM = Decimal(6)
FACED_RECESS = Decimal("0.5")
"""A recess shallower than so much of its diameter is faced out from the solid. Source: this tool's own choice."""
USUAL_NOSE: dict[Unit, Length] = {"in": Length.of(Decimal(1) / 64, "in"), "mm": Length.of("0.4", "mm")}
"""A turning tool's nose where no fillet asks for another. Source: common practice, no source."""
FACING_TOOL = Tool("facing")


@dataclass(frozen=True, slots=True)
class Task:
    """One set-up's work seen from its worked end as the right one: the piece, its own surfaces, and how wide the blade
    is and what is left for the far face where it is parted off (none: it is not).
    """

    piece: Piece
    surfaces: tuple[Surface, ...]
    edges: tuple[Cut, ...]
    blade_mm: Decimal | None = None
    far_mm: Decimal = ZERO
    free: bool = False

    @property
    def unit(self) -> Unit:
        """The unit it is drawn in."""
        return self.piece.unit

    @property
    def beyond_mm(self) -> Decimal:
        """How far cuts at the far face go: behind the blade where it is parted off, else to the face."""
        return -(self.far_mm + self.blade_mm) if self.blade_mm is not None else ZERO

    def surface(self, one: Operation) -> Surface:
        """The surface an operation is done on."""
        return next(each for each in self.surfaces if one.letters[0] in each.letters)


def blade_mm(diameter_mm: Decimal, unit: Unit) -> Decimal:
    """How wide a blade is that parts a diameter (mm) off, mm. Source: common practice, no source.

    >>> blade_mm(Decimal(30), "mm")
    Decimal('3')
    """
    return next(width.mm for most, width in BLADES[unit] if diameter_mm <= most)


def cuts_of(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    """The cuts of an operation on what is there, mm; none where there is nothing left to cut. Source: common practice,
    no source (allowances, passes); geometry.

    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> from nomisma.core.part.section import Section
    >>> piece = Piece(Section(Decimal(30), (), (), (), Decimal(0), "", (), ()), (), ())
    >>> bar = workpiece_of(Stock(Decimal(-40), Decimal(31), Decimal(22)))
    >>> [(one.kind, str(one.from_mm), str(one.to_mm)) for one in cuts_of(Operation("face"), Task(piece, (), ()), bar)]
    [('face', '31', '30')]
    """
    match one.kind:
        case "face":
            return _face(one, task, work)
        case "centre":
            return _centre(task, work)
        case "centre_drill":
            return _spot(one, task, work)
        case "drill":
            return _drilled(one, task, work)
        case "rough_bore" | "bore" | "ream":
            return _bored(one, task, work)
        case "rough_turn" | "turn":
            return _turned(one, task, work)
        case "taper" | "groove" | "v_groove" | "undercut":
            return [_in_the_outside(cut, one, task, work) for cut in task.piece.cuts_in_outside(task.surface(one))]
        case "face_groove":
            return _face_groove(one, task)
        case "thread" | "thread_inside" | "tap":
            return _threaded(one, task, work)
        case "knurl":
            own = task.surface(one)
            return [
                Cut(
                    "knurl",
                    one.letters,
                    own.from_mm,
                    own.to_mm,
                    own.diameter_mm,
                    own.diameter_mm,
                    tool=Tool("knurling"),
                )
            ]
        case "chamfer":
            return list(_edges(task, work))
        case "deburr":
            return [Cut("deburr", tool=Tool("by_hand"))]
        case "part_off":
            return _parted(one, task, work)
        case _:
            assert_never(one.kind)


def _in_the_outside(cut: Cut, one: Operation, task: Task, work: Workpiece) -> Cut:
    """A groove, an undercut or a taper as the metal there has it."""
    if cut.kind == "taper":
        ends = cut.before_mm or ZERO, cut.after_mm or ZERO
        return replace(cut, passes=_passes(*ends), tool=_turning(one, task))
    before = work.outside.largest_mm(cut.from_mm, cut.to_mm)
    width = cut.to_mm - cut.from_mm if cut.kind == "groove" else None
    return replace(cut, before_mm=before, tool=Tool(cut.kind, width_mm=width))


def _face(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    at_mm = task.piece.length_mm
    if work.right_mm <= at_mm:
        return []
    across = work.outside.largest_mm(at_mm, work.right_mm)
    hole = work.hole.smallest_mm(at_mm, work.right_mm)
    passes = max(ceil((work.right_mm - at_mm) / (ROUGH_PASS_MM / 2)), 1)
    return [Cut("face", one.letters, work.right_mm, at_mm, across, hole, passes=passes, tool=FACING_TOOL, end="right")]


def _centre(task: Task, work: Workpiece) -> list[Cut]:
    at_mm = task.piece.length_mm
    if work.hole.stretches[-1].at_to_mm:
        return []  # a plug has its own centre
    across = work.outside.smallest_mm(at_mm - 1, at_mm)
    own = [one for one in centre_drills() if one.unit == task.unit]
    fitting = [
        one
        for one in own
        if one.usual_mouth_mm <= across / 3
        and one.body_mm <= _LARGEST_CENTRE_MM
        and _centre_deep_mm(one) <= CENTRE_SHARE * at_mm
    ]
    drill = max(fitting, key=lambda each: each.body_mm, default=min(own, key=lambda each: each.body_mm))
    mouth, deep = drill.usual_mouth_mm, _centre_deep_mm(drill)
    return [
        Cut(
            "centre_hole",
            (),
            at_mm,
            at_mm - deep,
            ZERO,
            mouth,
            tool=Tool("centre_drill", diameter_mm=drill.pilot_mm),
            end="right",
        )
    ]


_LARGEST_CENTRE_MM = Decimal(10)


def _centre_deep_mm(one: CentreDrill) -> Decimal:
    """How deep a centre drill goes, let in half way up its cone of 60°: its pilot, about as long as thick, and the
    cone.
    """
    return (one.pilot_mm + CONE * (one.usual_mouth_mm - one.pilot_mm)).quantize(Decimal("0.01"))


def _spot(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    holes = [each for each in task.surfaces if each.letters[0] in one.letters]
    across = min([SPOT_MM, *(each.diameter_mm for each in holes)])
    at_mm = work.right_mm
    if work.hole.stretches[-1].at_to_mm or work.centre_mm("right") or _is_faced_out(one, task, work):
        return []
    return [
        Cut(
            "spot",
            (),
            at_mm,
            at_mm - across / 2,
            ZERO,
            across,
            tool=Tool("spot_drill", diameter_mm=across),
            end="right",
        )
    ]


def _is_faced_out(one: Operation, task: Task, work: Workpiece) -> bool:
    """Whether the holes an operation opens are shallow recesses that a facing tool takes from the solid."""
    holes = [each for each in task.surfaces if each.letters[0] in one.letters]
    return bool(holes) and all(
        "left" not in each.ends
        and each.hole == "bored"
        and work.right_mm - each.from_mm <= each.diameter_mm * FACED_RECESS
        and _blind_drills(each, task, work.right_mm) == []
        for each in holes
    )


_LEAST_DRILLED_MM = Decimal(1)


def _blind_drills(hole: Surface, task: Task, mouth_mm: Decimal) -> list[tuple[Decimal, Decimal, Decimal]]:
    """The drills of a blind hole that is bored: each with the end of its full diameter and its point, none beyond the
    floor."""
    room = SHOULDER[task.unit].mm
    found = []
    for drill in drills_before(hole.diameter_mm, task.unit, hole.hole, hole.thread):
        size = drill.size.mm
        tip = hole.from_mm + room
        full = _up(tip + POINT * size)
        if full <= mouth_mm - _LEAST_DRILLED_MM:
            found.append((size, full, tip))
    is_shallow = mouth_mm - hole.from_mm <= hole.diameter_mm * FACED_RECESS
    if is_shallow and found and found[-1][0] < SMALLEST_BORED_MM:
        return []  # no bar goes into so small a drill's hole: it is faced out
    return found


def _up(mm: Decimal) -> Decimal:
    return mm.quantize(Decimal("0.1"), ROUND_CEILING)


def _drilled(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    holes = [each for each in task.surfaces if each.letters[0] in one.letters]
    own = min(holes, key=lambda each: each.diameter_mm)
    mouth_mm, made = work.right_mm, []
    letters = one.letters if own.hole in ("drilled", "tapped") else tuple(each.letter for each in holes)
    if own.hole in ("drilled", "tapped"):
        letters = own.letters
    for size, full, tip in _drills(own, task, work):
        before = work.hole.smallest_mm(full, mouth_mm)
        if before >= size or full >= mouth_mm:
            continue
        made.append(
            Cut("drill", letters, mouth_mm, full, before, size, tip, tool=Tool("drill", diameter_mm=size), end="right")
        )
        work = work.after(made[-1])
    return made


def _drills(own: Surface, task: Task, work: Workpiece) -> list[tuple[Decimal, Decimal, Decimal]]:
    if "left" not in own.ends and own.hole == "bored":
        return _blind_drills(own, task, work.right_mm)
    found = []
    for drill in drills_before(own.diameter_mm, task.unit, own.hole, own.thread):
        size = drill.size.mm
        if "left" in own.ends:
            full = task.beyond_mm if task.blade_mm is not None else work.left_mm
            if work.hole.smallest_mm(full, full + 1):
                full = work.left_mm
        else:
            full = own.from_mm - (min(DRILLED_DEEPER_MM, size / 2) if own.hole != "drilled" else 0)
        found.append((size, full, full - (POINT * size).quantize(Decimal("0.01"))))
    return found


def _mouth_mm(own: Surface, work: Workpiece) -> Decimal:
    """Where a hole's own diameter begins: behind what is as wide already."""
    mouth = work.right_mm
    for each in reversed(list(work.hole.within(own.from_mm, work.right_mm))):
        if min(each.at_from_mm, each.at_to_mm) < own.diameter_mm:
            break
        mouth = each.from_mm
    return mouth


def _bored(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    own = task.surface(one)
    mouth, floor = _mouth_mm(own, work), own.from_mm
    through = "left" in own.ends
    if through and own.from_mm == 0:
        floor = task.beyond_mm if task.blade_mm is not None else work.left_mm
    rough = one.kind == "rough_bore"
    if rough and not through:
        floor += SHOULDER[task.unit].mm
    if rough and through and own.from_mm > 0:
        floor += ZERO
    if floor >= mouth:
        return []
    room = min(AT_A_SHOULDER_MM, (mouth - floor) / 4)
    before = work.hole.smallest_mm(floor + room, mouth - _SLIVER_MM)
    after = own.diameter_mm - LEFT_ROUGH[task.unit].mm if rough else own.diameter_mm
    if before >= after or (rough and after < SMALLEST_BORED_MM):
        return []
    if before == 0 and (own.from_mm == 0 or mouth - floor > own.diameter_mm * FACED_RECESS):
        before = ZERO
    kind: CutKind = "ream" if one.kind == "ream" else "rough_bore" if rough else "bore"
    tool = Tool("reamer", diameter_mm=after) if kind == "ream" else replace(_turning(one, task), kind="boring_bar")
    if before == 0 and kind != "ream":
        tool = FACING_TOOL
    passes = max(ceil((after - before) / ROUGH_PASS_MM), 1) if rough else 1
    letters = own.letters[:1] if rough else own.letters
    return [Cut(kind, letters, mouth, floor, before, after, inside=True, passes=passes, tool=tool, end="right")]


_SLIVER_MM = Decimal("0.001")


def _turning(one: Operation, task: Task) -> Tool:
    """The turning tool, with the nose that a fillet among its letters allows."""
    radii = [
        middle_mm(feature) or feature.feature.upper_mm
        for letter in one.letters
        if (feature := task.piece.by_letter.get(letter)) is not None and feature.feature.of_kind.cut_as == "fillet"
    ]
    usual = USUAL_NOSE[task.unit].mm
    return Tool("turning", nose_mm=min([usual, *(mm for mm in radii if mm is not None)]))


def _turned(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    own = task.surface(one)
    rough = one.kind == "rough_turn"
    begins, ends = own.from_mm, own.to_mm
    if begins == 0:
        begins = task.beyond_mm
    if ends == task.piece.length_mm:
        ends = max(ends, work.right_mm)
    leave = LEFT_ROUGH[task.unit].mm
    after = own.diameter_mm + leave if rough else own.diameter_mm
    if own.letter in task.piece.as_bought:
        return []
    for neck in task.piece.surfaces:
        if neck.kind == "groove" and neck.lies_in == own.letter:
            begins, ends = min(begins, neck.from_mm), max(ends, neck.to_mm)
    room = SHOULDER[task.unit].mm
    if rough:
        if own.from_mm > 0 or task.beyond_mm == 0:
            begins += min(room, (ends - begins) / 4)
        if task.free and own.to_mm < task.piece.length_mm:
            ends -= min(room, (ends - begins) / 4)
    # what roughing left at the shoulder beside it comes off with it
    drawn = task.piece.steps
    if work.outside.largest_mm(ends, ends + room) > after >= drawn.largest_mm(ends, ends + room):
        ends += min(room, max(work.right_mm - ends, ZERO))
    if task.free and work.outside.largest_mm(begins - room, begins) > after >= drawn.largest_mm(begins - room, begins):
        begins -= min(room, max(begins - work.left_mm, ZERO))
    before = _before_mm(begins, ends, task, work)
    if before <= after or (rough and before - own.diameter_mm <= 2 * leave):
        return []
    tool = _turning(one, task)
    if not rough:
        return [Cut("turn", own.letters, begins, ends, before, after, tool=tool)]
    return list(_roughed(Cut("rough_turn", own.letters[:1], begins, ends, before, after, tool=tool), task, work))


def _roughed(whole: Cut, task: Task, work: Workpiece) -> Iterator[Cut]:
    """A roughing cut as the metal there has it: a shoulder of a casting is faced down, the rest turned along."""
    room = AT_A_SHOULDER_MM
    stretches = [one for one in work.outside.within(whole.from_mm, whole.to_mm) if one.to_mm - one.from_mm > room]
    if len(stretches) < 2 or len({one.at_from_mm for one in stretches}) < 2 or task.free:
        yield replace(whole, passes=_along(whole.before_mm or ZERO, whole))
        return
    ends = whole.to_mm
    for one in reversed(stretches):
        begins = whole.from_mm if one is stretches[0] else one.from_mm
        before, after = one.at_from_mm, whole.after_mm or ZERO
        if before > after:
            cut = replace(whole, from_mm=begins, to_mm=ends, before_mm=before)
            yield replace(cut, passes=_along(before, cut))
            ends = begins


def _along(before: Decimal, cut: Cut) -> int:
    """Passes along, or faced down where that is fewer."""
    faced = max(ceil((cut.to_mm - cut.from_mm) / (ROUGH_PASS_MM / 2)), 1)
    return min(_passes(before, cut.after_mm or ZERO), faced)


def _passes(before: Decimal, after: Decimal) -> int:
    return max(ceil(abs(before - after) / ROUGH_PASS_MM), 1)


def _before_mm(begins: Decimal, ends: Decimal, task: Task, work: Workpiece) -> Decimal:
    """The largest diameter there, but for what roughing left at a shoulder."""
    room = min(AT_A_SHOULDER_MM, (ends - begins) / 4)
    return work.outside.largest_mm(begins + room, ends - (room if task.free else 0))


def _face_groove(one: Operation, task: Task) -> list[Cut]:
    own = task.surface(one)
    ring = next(each for each in task.piece.section.face_grooves if each.letters == own.letters)
    wide = (ring.outer_mm - ring.inner_mm) / 2
    return [
        Cut(
            "face_groove",
            own.letters,
            own.to_mm,
            own.from_mm,
            ring.inner_mm,
            ring.outer_mm,
            tool=Tool("face_grooving", width_mm=wide),
            end="right",
        )
    ]


def _behind_what_is_wider_mm(own: Surface, work: Workpiece) -> Decimal:
    """Where a thread inside begins: at the face, or at the floor of a wider hole before it, mm."""
    begins = own.to_mm
    for each in reversed(list(work.hole.within(own.from_mm, own.to_mm))):
        if min(each.at_from_mm, each.at_to_mm) <= own.diameter_mm + LEFT_ROUGH["mm"].mm:
            break
        begins = each.from_mm
    return begins


def _threaded(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    own = task.surface(one)
    inside = one.kind != "thread"
    lines = next((each for each in task.piece.section.threads if each.letter == own.letter), None)
    root = lines.line_diameter_mm if lines else own.diameter_mm
    passes = one.threading.passes if one.threading else 1
    tool = Tool("tap" if one.kind == "tap" else "threading")
    begins, ends = (_behind_what_is_wider_mm(own, work), own.from_mm) if inside else (own.from_mm, own.to_mm)
    return [
        Cut(
            "thread",
            own.letters,
            begins,
            ends,
            own.diameter_mm,
            root,
            inside=inside,
            passes=passes,
            tool=tool,
            end="right",
        )
    ]


def _edges(task: Task, work: Workpiece) -> Iterator[Cut]:
    for one in task.edges:
        if one.end == "left" and task.blade_mm is not None:
            # the far edge is broken from the groove the blade has begun
            floor = one.after_mm or ZERO
            yield Cut(
                "groove",
                (),
                task.beyond_mm,
                ZERO,
                work.outside.largest_mm(task.beyond_mm, ZERO),
                floor,
                tool=Tool("parting", width_mm=task.blade_mm),
            )
        yield replace(one, tool=Tool("chamfer"))


def _parted(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    assert task.blade_mm is not None, "it is parted off with a blade"
    begins, ends = task.beyond_mm, -task.far_mm
    across = work.outside.largest_mm(begins, ends)
    hole = work.hole.smallest_mm(begins, ends)
    reach = ((across - hole) / 2 + 1).quantize(Decimal("0.1"), ROUND_CEILING)
    tool = Tool("parting", width_mm=task.blade_mm, reach_mm=reach)
    return [Cut("part_off", one.letters, begins, ends, across, hole, tool=tool, end="right")]


def facing_mm(unit: Unit) -> Decimal:
    """What is left for facing an end, mm. Source: common practice, no source.

    >>> facing_mm("mm")
    Decimal('0.8')
    """
    return FACING[unit].mm


def lowest_mm(cuts: Sequence[Cut], *, inside: bool) -> Decimal | None:
    """The left end of what cuts take outside (or inside), mm; None where they take nothing there. Source: geometry.

    >>> lowest_mm([Cut("turn", ("A",), Decimal(4), Decimal(30))], inside=False)
    Decimal('4')
    """
    own = [
        one.low_mm
        for one in cuts
        if one.kind not in ("deburr", "centre_hole", "spot") and (one.is_hole or one.inside) == inside
    ]
    return min(own, default=None)
