"""From an operation to its cuts on the metal that is there: from where to where, from which size to which, in how many
passes."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from decimal import ROUND_CEILING, Decimal
from math import ceil
from typing import assert_never

from nomisma.core.metal.cut import Cut, Tool
from nomisma.core.metal.rules import AT_A_SHOULDER_MM
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.hole_cuts import behind_what_is_wider_mm, hole_cuts
from nomisma.core.operations.operations import WIDEST_GROOVER_MM, Operation
from nomisma.core.operations.piece import ZERO
from nomisma.core.operations.surfaces import Surface
from nomisma.core.operations.task import FACING_TOOL, ROUGH_PASS_MM, Task, blade_mm, turning_tool


def cuts_of(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    """The cuts of an operation on what is there, mm; none where there is nothing left to cut. Source: common practice,
    no source (allowances, passes); geometry.

    >>> from nomisma.core.metal.stock import Stock
    >>> from nomisma.core.metal.workpiece import workpiece_of
    >>> from nomisma.core.operations.piece import Piece
    >>> from nomisma.core.part.section import Section
    >>> piece = Piece(Section(Decimal(30), (), (), (), Decimal(0), "", (), ()), (), ())
    >>> bar = workpiece_of(Stock(Decimal(-40), Decimal(31), Decimal(22)))
    >>> [(one.kind, str(one.from_mm), str(one.to_mm)) for one in cuts_of(Operation("face"), Task(piece, (), ()), bar)]
    [('face', '31', '30')]
    """
    match one.kind:
        case "face":
            return _face(one, task, work)
        case "centre" | "centre_drill" | "drill" | "rough_bore" | "bore" | "ream":
            return hole_cuts(one, task, work)
        case "rough_turn" | "turn":
            return _turned(one, task, work)
        case "taper" | "groove" | "v_groove" | "undercut":
            cuts = [_in_the_outside(cut, one, task, work) for cut in task.piece.cuts_in_outside(task.surface(one))]
            return [each for cut in cuts for each in _plunged(cut, task)]
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
        case "part_off" | "saw":
            return _parted(one, task, work)
        case _:
            assert_never(one.kind)


def _in_the_outside(cut: Cut, one: Operation, task: Task, work: Workpiece) -> Cut:
    """A groove, an undercut or a taper as the metal there has it."""
    if cut.kind == "taper":
        ends = cut.before_mm or ZERO, cut.after_mm or ZERO
        return replace(cut, passes=_passes(*ends), tool=turning_tool(one, task))
    before = work.outside.largest_mm(cut.from_mm, cut.to_mm)
    width = cut.to_mm - cut.from_mm if cut.kind == "groove" else None
    return replace(cut, before_mm=before, tool=Tool(cut.kind, width_mm=width))


def _plunged(cut: Cut, task: Task) -> Iterator[Cut]:
    """A wide groove, or a land between shoulders: roughed by plunges side by side, then drawn along to its size."""
    if cut.kind != "groove" or cut.to_mm - cut.from_mm <= WIDEST_GROOVER_MM:
        yield cut
        return
    leave, after, before = task.leave_mm, cut.after_mm or ZERO, cut.before_mm or ZERO
    tool = Tool(cut.kind, width_mm=blade_mm(before, task.unit))
    if before - after > 2 * leave:
        plunges = ceil((cut.to_mm - cut.from_mm) / (tool.width_mm or WIDEST_GROOVER_MM))
        yield replace(cut, letters=(), after_mm=after + leave, passes=plunges, tool=tool)
        before = after + leave
    yield replace(cut, before_mm=before, tool=tool)


def _face(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    at_mm = task.piece.length_mm
    if work.right_mm <= at_mm:
        return []
    across = work.outside.largest_mm(at_mm, work.right_mm)
    hole = work.hole.smallest_mm(at_mm, work.right_mm)
    passes = max(ceil((work.right_mm - at_mm) / (ROUGH_PASS_MM / 2)), 1)
    return [Cut("face", one.letters, work.right_mm, at_mm, across, hole, passes=passes, tool=FACING_TOOL, end="right")]


def _turned(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    own = task.surface(one)
    rough = one.kind == "rough_turn"
    begins, ends = own.from_mm, own.to_mm
    if begins == 0:
        begins = task.beyond_mm
    if ends == task.piece.length_mm:
        ends = max(ends, work.right_mm)
    leave = task.leave_mm
    after = own.diameter_mm + leave if rough else own.diameter_mm
    if own.letter in task.piece.as_bought:
        return []
    for neck in task.piece.surfaces:
        if neck.kind == "groove" and neck.lies_in == own.letter:
            begins, ends = min(begins, neck.from_mm), max(ends, neck.to_mm)
    room = task.shoulder_mm
    ends = _past_the_eccentric_mm(own, after, ends, task, work)
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
    if before <= after or (rough and before + 2 * task.throw_mm - own.diameter_mm <= 2 * leave):
        return []
    tool = turning_tool(one, task)
    if not rough:
        return [Cut("turn", own.letters, begins, ends, before, after, tool=tool)]
    return list(_roughed(Cut("rough_turn", own.letters[:1], begins, ends, before, after, tool=tool), task, work))


def _past_the_eccentric_mm(own: Surface, after: Decimal, ends: Decimal, task: Task, work: Workpiece) -> Decimal:
    """Where a cut on the part's axis ends that passes what is turned off centre later on: its metal comes along, where
    it may be as small.
    """
    for one in task.piece.surfaces if not own.throw_mm else ():
        if one.kind == "outside" and one.throw_mm and one.from_mm == ends:
            swings = one.diameter_mm + 2 * one.throw_mm
            if work.outside.largest_mm(one.from_mm, one.to_mm) > after >= swings:
                return work.right_mm if one.to_mm == task.piece.length_mm else one.to_mm
    return ends


def _roughed(whole: Cut, task: Task, work: Workpiece) -> Iterator[Cut]:
    """A roughing cut as the metal there has it: a shoulder of a casting is faced down, the rest turned along."""
    room = AT_A_SHOULDER_MM
    stretches = [one for one in work.outside.within(whole.from_mm, whole.to_mm) if one.to_mm - one.from_mm > room]
    if len(stretches) < 2 or len({one.at_from_mm for one in stretches}) < 2 or task.free:
        yield replace(whole, passes=_along((whole.before_mm or ZERO) + 2 * task.throw_mm, whole))
        return
    ends = whole.to_mm
    for one in reversed(stretches):
        begins = whole.from_mm if one is stretches[0] else one.from_mm
        before, after = one.at_from_mm, whole.after_mm or ZERO
        if before > after:
            cut = replace(whole, from_mm=begins, to_mm=ends, before_mm=before)
            yield replace(cut, passes=_along(before + 2 * task.throw_mm, cut))
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


def _threaded(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    own = task.surface(one)
    inside = one.kind != "thread"
    lines = next((each for each in task.piece.section.threads if each.letter == own.letter), None)
    root = lines.line_diameter_mm if lines else own.diameter_mm
    passes = one.threading.passes if one.threading else 1
    tool = Tool("tap" if one.kind == "tap" else "threading")
    begins, ends = (behind_what_is_wider_mm(own, work), own.from_mm) if inside else (own.from_mm, own.to_mm)
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
        yield replace(one, tool=Tool(one.kind))


def _parted(one: Operation, task: Task, work: Workpiece) -> list[Cut]:
    assert task.blade_mm is not None, "it is parted off with a blade"
    begins, ends = task.beyond_mm, -task.far_mm
    across = work.outside.largest_mm(begins, ends)
    hole = work.hole.smallest_mm(begins, ends)
    reach = ((across - hole) / 2 + 1).quantize(Decimal("0.1"), ROUND_CEILING)
    sawn = one.kind == "saw"
    tool = Tool("saw" if sawn else "parting", width_mm=task.blade_mm, reach_mm=None if sawn else reach)
    return [Cut("saw" if sawn else "part_off", one.letters, begins, ends, across, hole, tool=tool, end="right")]


def lowest_mm(cuts: Sequence[Cut], *, inside: bool) -> Decimal | None:
    """The left end of what cuts take outside (or inside), mm; None where they take nothing there. Source: geometry.

    >>> lowest_mm([Cut("turn", ("A",), Decimal(4), Decimal(30))], inside=False)
    Decimal('4')
    """
    if inside:
        return min((one.low_mm for one in cuts if one.inside or (one.is_hole and one.traits.makes)), default=None)
    return min((one.low_mm for one in cuts if one.is_outside), default=None)
