"""From an operation to its cuts in an end: centre holes, spots, drills, reamers, bars; depths and points."""

from dataclasses import replace
from decimal import ROUND_CEILING, Decimal
from math import ceil

from nomisma.core.lengths.centre_drill import CONE, CentreDrill, centre_drills
from nomisma.core.metal.cut import Cut, CutKind, Tool
from nomisma.core.metal.drawing import DRILLED_DEEPER_MM, POINT
from nomisma.core.metal.rules import AT_A_SHOULDER_MM, CENTRE_SHARE, FACED_RECESS
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.drilling import drills_before
from nomisma.core.operations.operations import Operation
from nomisma.core.operations.piece import ZERO
from nomisma.core.operations.surfaces import Surface
from nomisma.core.operations.task import FACING_TOOL, LEFT_ROUGH, ROUGH_PASS_MM, Task, turning_tool
from nomisma.core.quantity.length import Unit

SPOT_MM = Decimal(6)
"""How wide a hole is spotted at most. Source: common practice, no source."""


def hole_cuts(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    """The cuts of an operation in the end that is worked, mm; none where there is nothing left to open. Source: common
    practice, no source (what a drill leaves, how deep it goes); geometry (points of 118°, centres of 60°).

    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> from nomisma.core.part.section import Section
    >>> from nomisma.core.operations.piece import Piece
    >>> from nomisma.core.part.section_shapes import Cylinder
    >>> pin = (Cylinder("A", Decimal(22), Decimal(0), Decimal(30)),)
    >>> piece = Piece(Section(Decimal(30), pin, (), (), Decimal(0), "", (), ()), (), ())
    >>> bar = workpiece_of(Stock(Decimal(0), Decimal(30), Decimal(22)))
    >>> [(one.kind, str(one.after_mm)) for one in hole_cuts(Operation("centre"), Task(piece, (), ()), bar)]
    [('centre_hole', '7.0')]
    """
    match one.kind:
        case "centre":
            return _centre_cuts(task, work)
        case "centre_drill":
            return _spot_cuts(one, task, work)
        case "drill":
            return _drilled_cuts(one, task, work)
        case _:
            return _bored_cuts(one, task, work)


def _centre_cuts(task: Task, work: Workpiece) -> list[Cut]:
    at_mm = task.piece.length_mm
    if work.hole.stretches[-1].at_to_mm:
        return []  # a plug has its own centre
    across = min(work.outside.smallest_mm(at_mm - 1, at_mm), task.piece.steps.smallest_mm(at_mm - 1, at_mm))
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


def takes_a_centre(length_mm: Decimal, unit: Unit) -> bool:
    """Whether a part so long (mm) has room for the smallest centre hole. Source: this tool's own choice
    (core/metal/rules.py).

    >>> takes_a_centre(Decimal(6), "mm"), takes_a_centre(Decimal(40), "mm")
    (False, True)
    """
    least_mm = min(_centre_deep_mm(one) for one in centre_drills() if one.unit == unit)
    return least_mm <= CENTRE_SHARE * length_mm


def _centre_deep_mm(one: CentreDrill) -> Decimal:
    """How deep a centre drill goes, let in half way up its cone of 60°: its pilot, about as long as thick, and the
    cone.
    """
    return (one.pilot_mm + CONE * (one.usual_mouth_mm - one.pilot_mm)).quantize(Decimal("0.01"))


def _spot_cuts(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
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
    room = task.shoulder_mm
    found = []
    for drill in drills_before(hole.diameter_mm, task.unit, hole.hole, hole.thread, task.piece.tools.drills):
        size = drill.size.mm
        tip = hole.from_mm + room
        full = _up(tip + POINT * size)
        if full <= mouth_mm - _LEAST_DRILLED_MM:
            found.append((size, full, tip))
    is_shallow = mouth_mm - hole.from_mm <= hole.diameter_mm * FACED_RECESS
    if is_shallow and found and found[-1][0] < task.piece.tools.least_bored_mm:
        return []  # no bar goes into so small a drill's hole: it is faced out
    return found


def _up(mm: Decimal) -> Decimal:
    return mm.quantize(Decimal("0.1"), ROUND_CEILING)


def _drilled_cuts(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
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
    for drill in drills_before(own.diameter_mm, task.unit, own.hole, own.thread, task.piece.tools.drills):
        size = drill.size.mm
        if "left" in own.ends:
            full = task.beyond_mm if task.blade_mm is not None else work.left_mm
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


def _bored_cuts(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    own = task.surface(one)
    mouth, floor = _mouth_mm(own, work), own.from_mm
    through = "left" in own.ends
    if through and own.from_mm == 0:
        floor = task.beyond_mm if task.blade_mm is not None else work.left_mm
    rough = one.kind == "rough_bore"
    if rough and not through:
        floor += task.shoulder_mm
    if floor >= mouth:
        return []
    room = min(AT_A_SHOULDER_MM, (mouth - floor) / 4)
    before = work.hole.smallest_mm(floor + room, mouth - _SLIVER_MM)
    after = own.diameter_mm - task.leave_mm if rough else own.diameter_mm
    least_roughed = task.leave_mm / 4 if rough else ZERO
    if before + least_roughed >= after or (rough and after < task.piece.tools.least_bored_mm):
        return []
    kind: CutKind = "ream" if one.kind == "ream" else "rough_bore" if rough else "bore"
    tool = Tool("reamer", diameter_mm=after) if kind == "ream" else replace(turning_tool(one, task), kind="boring_bar")
    if before == 0 and kind != "ream":
        tool = FACING_TOOL
    passes = max(ceil((after - before) / ROUGH_PASS_MM), 1) if rough else 1
    letters = own.letters[:1] if rough else own.letters
    return [Cut(kind, letters, mouth, floor, before, after, inside=True, passes=passes, tool=tool, end="right")]


_SLIVER_MM = Decimal("0.001")


def behind_what_is_wider_mm(own: Surface, work: Workpiece) -> Decimal:
    """Where a thread inside begins: at the face, or at the floor of a wider hole before it, mm. Source: geometry.

    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> nut = workpiece_of(Stock(Decimal(0), Decimal(16), Decimal(40), bore_mm=Decimal(22)))
    >>> own = Surface("inside_thread", ("A",), Decimal(0), Decimal(16), Decimal(22), frozenset({"right", "left"}))
    >>> str(behind_what_is_wider_mm(own, nut))
    '16'
    """
    begins = own.to_mm
    for each in reversed(list(work.hole.within(own.from_mm, own.to_mm))):
        if min(each.at_from_mm, each.at_to_mm) <= own.diameter_mm + LEFT_ROUGH["mm"].mm:
            break
        begins = each.from_mm
    return begins
