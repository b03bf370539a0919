"""Operations of one chucking: what is done to each surface, with which tool, and which must come before which."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import pairwise
from typing import Literal

from nomisma.core.planning.surfaces import Surface

OperationKind = Literal[
    "face", "centre", "centre_drill", "drill", "rough_turn", "rough_bore", "turn", "bore", "groove", "chamfer", "deburr",
    "part_off",
]  # fmt: skip
TITLES: dict[OperationKind, str] = {
    "face": "Face", "centre": "Centre for the tailstock", "centre_drill": "Spot for the drill", "drill": "Drill",
    "rough_turn": "Rough turn", "rough_bore": "Rough bore", "turn": "Finish turn", "bore": "Finish bore", "groove": "Groove",
    "chamfer": "Break the edges", "deburr": "Deburr and measure",
    "part_off": "Part off",
}  # fmt: skip
BY_HAND = "by hand"
TOOLS: dict[OperationKind, str] = {
    "face": "turning tool", "centre": "centre drill", "centre_drill": "spotting drill", "drill": "drill",
    "rough_turn": "turning tool", "rough_bore": "boring bar", "turn": "turning tool", "bore": "boring bar",
    "groove": "grooving tool", "chamfer": "chamfering tool", "deburr": BY_HAND,
    "part_off": "parting tool",
}  # fmt: skip
"""One tool for what one tool can do; a shop that keeps its own finishing tool changes once more. Source: common practice, no source."""
ROUGHING: tuple[OperationKind, ...] = ("rough_turn", "rough_bore", "drill")
FINISHING: tuple[OperationKind, ...] = ("turn", "bore", "groove")
SMALLEST_BORED_MM = Decimal(6)
"""Holes under this are drilled (and reamed) alone: no bar goes in. Source: common practice, no source."""
RuleName = Literal[
    "face_first", "spot_before_drill", "drill_before_bore", "rough_before_finish", "bore_before_outside", "groove_after_diameter",
    "edges_after_finish", "deburr_before_measuring", "part_off_last",
]  # fmt: skip
RULES: dict[RuleName, str] = {
    "face_first": "The face first: it is the zero of all lengths.",
    "spot_before_drill": "A drill that is not spotted wanders.",
    "drill_before_bore": "A bar needs a hole to go into, and a drill follows a bore that is there.",
    "rough_before_finish": "Rough everything before anything is finished: heat and let-go stress move it.",
    "bore_before_outside": "The bore first, then what must be true to it: boring strains a finished outside.",
    "groove_after_diameter": "A groove after the diameter it lies in: its depth is counted from there.",
    "edges_after_finish": "Edges after the surfaces they belong to: a later cut makes a new burr.",
    "deburr_before_measuring": "Deburr last, before a length is measured.",
    "part_off_last": "Part off last: after it nothing is held.",
}
"""Why one operation comes before another. Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class Operation:
    """One operation on some surfaces; `key` is its name in a kept order: the same operation of the same part keeps it."""

    kind: OperationKind
    letters: tuple[str, ...] = ()
    diameter_mm: Decimal | None = None
    length_mm: Decimal | None = None

    @property
    def key(self) -> str:
        """By what it is found again."""
        return f"{self.kind}:{','.join(self.letters)}"

    @property
    def tool(self) -> str:
        """The tool it takes."""
        return TOOLS[self.kind]

    @property
    def size_said(self) -> Literal["to", "under", ""]:
        """What its diameter is of it: what it is cut to, what a drill stays under, or nothing that is cut to."""
        return "under" if self.kind == "drill" else "to" if self.kind in FINISHING else ""

    @property
    def title(self) -> str:
        """As it is said: Finish turn A."""
        return f"{TITLES[self.kind]} {', '.join(self.letters)}".strip()


@dataclass(frozen=True, slots=True)
class Before:
    """One operation that must come before another, by their places in a list, and the rule that says so."""

    first: int
    then: int
    rule: RuleName


def operations_of(
    surfaces: Sequence[Surface], *, from_solid: bool, part_off: bool, centred: bool = False, whole: str = ""
) -> list[Operation]:
    """What is done in one chucking: the face, holes opened, all roughed, all finished, grooves, edges, deburred, parted off.

    `whole`: the letter of the length from face to face, where this chucking makes it. Diameters and lengths in mm. Source: common practice,
    no source.

    >>> [one.kind for one in operations_of([], from_solid=True, part_off=True)]
    ['face', 'deburr', 'part_off']
    """
    bores = [one for one in surfaces if one.kind == "bore"]
    bored = [one for one in bores if one.diameter_mm >= SMALLEST_BORED_MM]
    outsides = [one for one in surfaces if one.kind == "outside"]
    of_whole = (whole,) if whole else ()
    found = [Operation("face", () if part_off else of_whole), *([Operation("centre")] if centred else [])]
    if bores and from_solid:
        smallest = min(bores, key=lambda one: one.diameter_mm)
        deepest = max(one.length_mm for one in bores)
        letters = tuple(one.letter for one in bores)
        found += [Operation("centre_drill", letters), Operation("drill", letters, smallest.diameter_mm, deepest)]
    found += _each("rough_turn", outsides) + _each("rough_bore", bored) + _each("bore", bored) + _each("turn", outsides)
    found += _each("groove", (one for one in surfaces if one.kind == "groove"))
    edges = tuple(letter for one in surfaces if one.kind == "edge" for letter in one.letters)
    if edges:
        found.append(Operation("chamfer", edges))
    found.append(Operation("deburr"))
    return [*found, *([Operation("part_off", of_whole)] if part_off else [])]


def _each(kind: OperationKind, surfaces: Iterable[Surface]) -> list[Operation]:
    return [Operation(kind, one.letters, one.diameter_mm, one.length_mm) for one in surfaces]


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
    if (one.kind, other.kind) == ("centre_drill", "drill"):
        found.append("spot_before_drill")
    if one.kind == "drill" and other.kind in ("rough_bore", "bore"):
        found.append("drill_before_bore")
    if one.kind in ROUGHING and other.kind in FINISHING:
        found.append("rough_before_finish")
    if one.kind == "bore" and other.kind == "turn" and (_tied(one, other, true_to) or _tied(other, one, true_to)):
        found.append("bore_before_outside")
    if one.kind == "turn" and other.kind == "groove" and _lies_in(other, one, surfaces):
        found.append("groove_after_diameter")
    if one.kind in FINISHING and other.kind == "chamfer":
        found.append("edges_after_finish")
    if other.kind == "deburr" and one.kind != "part_off":
        found.append("deburr_before_measuring")
    if other.kind == "part_off":
        found.append("part_off_last")
    return found


def _tied(one: Operation, other: Operation, true_to: dict[str, str]) -> bool:
    return any(true_to.get(letter) in other.letters for letter in one.letters if true_to.get(letter))


def _lies_in(groove: Operation, outside: Operation, surfaces: Sequence[Surface]) -> bool:
    inner = next((one for one in surfaces if groove.letters[0] in one.letters), None)
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

    Whatever the tool in the post may do is done before it is changed: that never costs a change, so only the choice of the next tool is
    searched. Raises nothing; an order always exists, the rules have no circle. Source: search, exact.

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


def _all_with(tool: str, done: int, operations: Sequence[Operation], waits: Sequence[set[int]]) -> tuple[int, list[int]]:
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
