"""Operations of one chucking: what is done to each surface, with which tool, and which must come before which."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import pairwise
from typing import Annotated, Literal, assert_never

from pydantic import Field

from nomisma.core.cutting.speeds import SpeedOperation
from nomisma.core.metal.rules import SMALLEST_BORED_MM
from nomisma.core.operations.drilling import LARGEST_DRILL_MM
from nomisma.core.operations.surfaces import Surface, SurfaceKind
from nomisma.core.operations.threading import ThreadingCut, threading_cut
from nomisma.core.part.hole_making import HoleMaking
from nomisma.core.table import MAYBE, Row, loaded, rows_of

OperationKind = Literal[
    "face", "centre", "centre_drill", "drill", "rough_turn", "rough_bore", "turn", "bore", "ream", "taper", "groove",
    "v_groove", "face_groove",
    "thread", "thread_inside",
    "tap", "knurl", "undercut", "chamfer", "deburr",
    "part_off", "saw",
]  # fmt: skip
BY_HAND = "by hand"
WIDEST_GROOVER_MM = Decimal(6)
"""No grooving tool is wider: a wider groove is plunged side by side, and drawn along to size. Source: common practice,
no source (a quarter of an inch).
"""
PARTING: tuple[OperationKind, ...] = ("part_off", "saw")
ROUGHING: tuple[OperationKind, ...] = ("rough_turn", "rough_bore", "drill")
THREADING: tuple[OperationKind, ...] = ("thread", "thread_inside", "tap")
GROOVING: tuple[OperationKind, ...] = ("groove", "v_groove")
FINISHING: tuple[OperationKind, ...] = ("bore", "ream", "turn", "knurl", "taper", *GROOVING, "face_groove", *THREADING)
"""What finishes a surface, in the order of the work. Source: common practice, no source."""
Coached = Literal["at_once", "once_read", "never"]
RuleName = Literal[
    "face_first", "spot_before_drill", "drill_before_bore", "rough_before_finish", "bore_before_outside",
    "diameter_first", "centre_first",
    "knurl_early", "undercut_first", "thread_last", "edges_after_finish", "deburr_before_measuring", "part_off_last",
]  # fmt: skip
RULES: dict[RuleName, str] = {
    "face_first": "The face first: it is the zero of all lengths.",
    "spot_before_drill": "A drill that is not spotted wanders.",
    "drill_before_bore": "A bar needs a hole to go into, and a drill follows a bore that is there.",
    "rough_before_finish": "Rough everything before anything is finished: heat and let-go stress move it.",
    "bore_before_outside": "The bore first, then what must be true to it: boring strains a finished outside.",
    "diameter_first": "A groove, a taper or a thread after the diameter it lies in: it is counted from there.",
    "centre_first": "The centre before what is turned against it: free, it would spring away from the tool.",
    "knurl_early": (
        "A knurl as early as its diameter is there: it pushes hard, and would bend or mark what is finished."
    ),
    "undercut_first": (
        "An undercut before its diameter is finished: the finishing pass runs out into it and leaves no step."
    ),
    "thread_last": (
        "A thread after its relief and its broken edge: the tool starts and runs out free, and leaves no burr."
    ),
    "edges_after_finish": "Edges after the surfaces they belong to: a later cut makes a new burr.",
    "deburr_before_measuring": "Deburr last, before a length is measured.",
    "part_off_last": "Part off last: after it nothing is held.",
}
"""Why one operation comes before another. Source: common practice, no source."""


class OperationRow(Row):
    """One kind of operation: its words, its tool, the speed it is run at (none by hand), its feed (mm a turn), whether
    it is measured after.

    `coached`: when the coach of the cross-slide says how far to wind in. `rule`: what gives it its place, where a rule
    does.
    """

    kind: OperationKind
    title: str
    tool: str
    run_as: Annotated[SpeedOperation | None, MAYBE]
    feed_mm: Annotated[Decimal | None, MAYBE]
    is_measured: bool = Field(alias="measured")
    coached: Coached
    rule: Annotated[RuleName | None, MAYBE]
    caution: str


@loaded
def operation_rows() -> dict[OperationKind, OperationRow]:
    """Every kind of operation, feeds in mm a turn. Source: operations.csv (common practice, no source).

    >>> operation_rows()["drill"].tool
    'drill'
    """
    return {row.kind: row for row in rows_of("operations", "operations.csv", OperationRow)}


@dataclass(frozen=True, slots=True)
class Cutting:
    """How a kind of surface is cut: what roughs it (nothing does), what finishes it, and whether it is a hole, a
    diameter of its own, or a ring in a face.
    """

    finish: OperationKind
    rough: OperationKind | None = None
    is_hole: bool = False
    is_diameter: bool = False
    is_in_a_face: bool = False

    @property
    def is_placed_alone(self) -> bool:
        """Whether it is shared out to a set-up by itself: it goes with no outside that is cut there."""
        return self.is_diameter or self.is_in_a_face


def cutting_of(kind: SurfaceKind) -> Cutting:
    """How a kind of surface is cut. Source: common practice, no source.

    >>> cutting_of("bore").is_hole, cutting_of("groove").rough
    (True, None)
    """
    match kind:
        case "outside":
            return Cutting("turn", rough="rough_turn", is_diameter=True)
        case "bore":
            return Cutting("bore", rough="rough_bore", is_hole=True, is_diameter=True)
        case "taper":
            return Cutting("taper")
        case "groove":
            return Cutting("groove")
        case "v_groove":
            return Cutting("v_groove")
        case "face_groove":
            return Cutting("face_groove", is_in_a_face=True)
        case "edge":
            return Cutting("chamfer")
        case "thread":
            return Cutting("thread")
        case "knurl":
            return Cutting("knurl")
        case "undercut":
            return Cutting("undercut")
        case "inside_thread":
            return Cutting("thread_inside")
        case "tapped":
            return Cutting("tap")
        case _:
            assert_never(kind)


@dataclass(frozen=True, slots=True)
class Operation:
    """One operation on some surfaces; `key` is its name in a kept order: the same operation of the same part keeps it.

    `thread`: the callout of the thread it cuts, or drills for; `hole`: how the hole is made that it drills.
    """

    kind: OperationKind
    letters: tuple[str, ...] = ()
    diameter_mm: Decimal | None = None
    length_mm: Decimal | None = None
    thread: str = ""
    hole: HoleMaking = "bored"

    @property
    def key(self) -> str:
        """By what it is found again."""
        return f"{self.kind}:{','.join(self.letters)}"

    @property
    def row(self) -> OperationRow:
        """What its kind is."""
        return operation_rows()[self.kind]

    @property
    def tool(self) -> str:
        """The tool it takes."""
        return self.row.tool

    @property
    def is_grooving(self) -> bool:
        """Whether it goes in from the outside to a floor: the size it is cut to is that floor's."""
        return self.kind in GROOVING

    @property
    def size_said(self) -> Literal["to", "under", "from", ""]:
        """What its diameter is of it: what it is cut to, what a drill stays under, where a taper begins, or nothing
        that is cut to.
        """
        if self.kind == "taper":
            return "from"
        if self.kind in THREADING:
            return ""
        if self.kind == "drill":
            return "to" if self.hole == "drilled" else "under"
        return "to" if self.kind in FINISHING and self.kind != "knurl" else ""

    @property
    def title(self) -> str:
        """As it is said: Finish turn A; Cut the thread C, M20x1.5 6g; of a wide groove: Plunge and turn A."""
        said = "Plunge and turn" if self.is_wide_groove else self.row.title
        return f"{said} {', '.join(self.letters)}{f', {self.thread}' if self.kind in THREADING else ''}".strip()

    @property
    def is_wide_groove(self) -> bool:
        """Whether it is a groove, or a land between shoulders, that no grooving tool is as wide as."""
        return self.kind == "groove" and self.length_mm is not None and self.length_mm > WIDEST_GROOVER_MM

    @property
    def threading(self) -> ThreadingCut | None:
        """How its thread is cut; None of what cuts none."""
        return (
            threading_cut(self.thread, "outside" if self.kind == "thread" else "inside")
            if self.kind in THREADING
            else None
        )

    @property
    def feed_mm(self) -> Decimal | None:
        """How far it is driven a turn, mm: a thread by its lead; None by hand."""
        return self.threading.lead_mm if self.threading else self.row.feed_mm


@dataclass(frozen=True, slots=True)
class Before:
    """One operation that must come before another, by their places in a list, and the rule that says so."""

    first: int
    then: int
    rule: RuleName


def operations_of(
    surfaces: Sequence[Surface],
    *,
    from_solid: bool,
    part_off: bool,
    centred: bool = False,
    whole: str = "",
    roughing: bool = False,
    least_bored_mm: Decimal = SMALLEST_BORED_MM,
) -> list[Operation]:
    """What is done in one chucking: the face, holes opened, all roughed, all finished, grooves, edges, deburred, parted
    off.

    The hole a drill was chosen for is not roughed by the bar as well: the drill leaves what is finished. `whole`: the
    letter of the length from face to face, where this chucking makes it; `roughing`: nothing is finished in it yet;
    `least_bored_mm`: the smallest hole that a bar goes into.
    Diameters and lengths in mm. Source: common practice, no source.

    >>> [one.kind for one in operations_of([], from_solid=True, part_off=True)]
    ['face', 'deburr', 'part_off']
    """
    holes = [one for one in surfaces if cutting_of(one.kind).is_hole]
    smallest = min(holes, key=lambda one: one.diameter_mm, default=None)
    opening = smallest if from_solid else None
    of_whole = (whole,) if whole else ()
    found = [Operation("face", () if part_off else of_whole), *([Operation("centre")] if centred else [])]
    if opening is not None:
        deepest = max(one.length_mm for one in holes)
        letters = tuple(one.letter for one in holes)
        found += [
            Operation("centre_drill", letters),
            Operation("drill", letters, opening.diameter_mm, deepest, opening.thread, opening.hole),
        ]
    found += [_on("drill", one) for one in holes if one.hole != "bored" and one is not opening]
    cut = [one for one in surfaces if one not in holes or (one.diameter_mm >= least_bored_mm and one.hole == "bored")]
    drilled_mm = min((one.diameter_mm for one in holes), default=Decimal(0)) if from_solid else Decimal(0)
    roughed = [
        one for one in cut if roughing or one not in holes or one.diameter_mm > min(drilled_mm, LARGEST_DRILL_MM)
    ]
    found += [_on(rough, one) for one in roughed if (rough := cutting_of(one.kind).rough)]
    if roughing:
        return [*found, Operation("deburr"), *([Operation("part_off")] if part_off else [])]
    found += [_on("ream", one) for one in holes if one.hole == "reamed"]
    found += [_on(finish, one) for finish in FINISHING for one in cut if cutting_of(one.kind).finish == finish]
    found += [_on("undercut", one) for one in cut if cutting_of(one.kind).finish == "undercut"]
    edges = tuple(letter for one in cut if cutting_of(one.kind).finish == "chamfer" for letter in one.letters)
    if edges:
        found.append(Operation("chamfer", edges))
    found.append(Operation("deburr"))
    off_centre = any(one.throw_mm for one in surfaces)  # a blade would meet the work once a turn
    return [*found, *([Operation("saw" if off_centre else "part_off", of_whole)] if part_off else [])]


def _on(kind: OperationKind, one: Surface) -> Operation:
    return Operation(kind, one.letters, one.diameter_mm, one.length_mm, one.thread, one.hole)


def must_precede(operations: Sequence[Operation], surfaces: Sequence[Surface]) -> list[Before]:
    """Every pair of which the first must come before the other in one chucking. Source: common practice, no source.

    >>> [(one.first, one.then) for one in must_precede([Operation("face"), Operation("deburr")], [])]
    [(0, 1), (0, 1)]
    """
    true_to = {one.letter: one.true_to for one in surfaces}
    found = []
    for first, one in enumerate(operations):
        for then, other in enumerate(operations):
            if first != then:
                found += [Before(first, then, rule) for rule in _rules(one, other, true_to, surfaces)]
    return found


def _rules(one: Operation, other: Operation, true_to: dict[str, str], surfaces: Sequence[Surface]) -> list[RuleName]:
    """The rules by which `one` comes before `other`."""
    found: list[RuleName] = []
    if one.kind == "face":
        found.append("face_first")
    if one.kind == "centre" and other.kind in ("rough_turn", "turn"):
        found.append("centre_first")
    if (one.kind, other.kind) == ("centre_drill", "drill"):
        found.append("spot_before_drill")
    if one.kind == "drill" and other.kind in ("rough_bore", "bore", "ream"):
        found.append("drill_before_bore")
    if one.kind in ROUGHING and other.kind in FINISHING:
        found.append("rough_before_finish")
    if (one.kind, other.kind) == ("bore", "turn") and (_tied(one, other, true_to) or _tied(other, one, true_to)):
        found.append("bore_before_outside")
    if (
        one.kind in ("turn", "bore", "drill")
        and other.kind in ("knurl", "taper", *GROOVING, *THREADING)
        and _lies_in(other, one, surfaces)
    ):
        found.append("diameter_first")
    if one.kind in ROUGHING and other.kind == "undercut":
        found.append("rough_before_finish")
    if one.kind == "undercut" and other.kind == "turn" and _lies_in(one, other, surfaces):
        found.append("undercut_first")
    if (
        one.kind == "knurl"
        and other.kind in FINISHING
        and other.kind not in ("turn", "knurl")
        and not any(true_to.values())
    ):
        found.append("knurl_early")
    if one.kind in (*GROOVING, "chamfer") and other.kind in THREADING:
        found.append("thread_last")
    if (one.kind == "drill" or (one.kind in FINISHING and one.kind not in THREADING)) and other.kind == "chamfer":
        found.append("edges_after_finish")
    if other.kind == "deburr" and one.kind not in PARTING:
        found.append("deburr_before_measuring")
    if other.kind in PARTING:
        found.append("part_off_last")
    return found


def _tied(one: Operation, other: Operation, true_to: dict[str, str]) -> bool:
    return any(true_to.get(letter) in other.letters for letter in one.letters if true_to.get(letter))


def _lies_in(within: Operation, outside: Operation, surfaces: Sequence[Surface]) -> bool:
    inner = next((one for one in surfaces if within.letters[0] in one.letters), None)
    return inner is not None and inner.lies_in in outside.letters


def broken(order: Sequence[Operation], surfaces: Sequence[Surface]) -> list[Before]:
    """What an order breaks: pairs of it that stand the wrong way round. Source: common practice, no source.

    >>> [one.rule for one in broken([Operation("part_off"), Operation("face")], [])]
    ['face_first', 'part_off_last']
    """
    return [one for one in must_precede(order, surfaces) if one.first > one.then]


def tool_changes(order: Sequence[Operation]) -> int:
    """How often the tool in the post is changed in an order, the first one put in not counted. Source: arithmetic.

    >>> tool_changes([Operation("face"), Operation("turn"), Operation("deburr"), Operation("groove")])
    1
    """
    return sum(one != other for one, other in pairwise(one.tool for one in order if one.tool != BY_HAND))


def fewest_changes(operations: Sequence[Operation], surfaces: Sequence[Surface]) -> list[Operation]:
    """An order that keeps every rule with the fewest changes of tool; of equals the one nearest to the order given.

    Whatever the tool in the post may do is done before it is changed: that never costs a change, so only the choice of
    the next tool is searched. Raises nothing; an order always exists, the rules have no circle. Source: search, exact.

    >>> [one.kind for one in fewest_changes([Operation("deburr"), Operation("face")], [])]
    ['face', 'deburr']
    """
    waits: list[set[int]] = [set() for _ in operations]
    for pair in must_precede(operations, surfaces):
        waits[pair.then].add(pair.first)
    tools = list(dict.fromkeys(one.tool for one in operations))
    everything = (1 << len(operations)) - 1
    frontier: dict[int, list[int]] = {0: []}
    seen = {0}
    while everything not in frontier:
        following: dict[int, list[int]] = {}
        for done, order in frontier.items():
            for tool in tools:
                now, taken = _all_with(tool, done, operations, waits)
                if taken and now not in seen:
                    seen.add(now)
                    following[now] = [*order, *taken]
        frontier = following
    return [operations[index] for index in frontier[everything]]


def _all_with(
    tool: str, done: int, operations: Sequence[Operation], waits: Sequence[set[int]]
) -> tuple[int, list[int]]:
    """Everything one tool may do from here on, in the order given."""
    taken: list[int] = []
    going = True
    while going:
        going = False
        for index, one in enumerate(operations):
            if one.tool == tool and not done >> index & 1 and all(done >> other & 1 for other in waits[index]):
                done |= 1 << index
                taken.append(index)
                going = True
    return done, taken
