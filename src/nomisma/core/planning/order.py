"""The order of work: set-ups and operations numbered for the lathe, and what a hand's own order breaks."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import assert_never

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.model import Model
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import MOST_LINES, FeatureLinesInput, feature_lines, lettered
from nomisma.core.planning.operations import BY_HAND, RULES, Operation, broken, tool_changes
from nomisma.core.planning.set_ups import WORKED_WORDS, SetUp, StockHeld, set_ups_of
from nomisma.core.planning.surfaces import Surface, surfaces_of, whole_letter
from nomisma.core.quantity.fields import Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer


@dataclass(frozen=True, slots=True)
class PlannedOperation:
    """One operation of the plan: its number, its key in a kept order, and in words each rule it breaks where
    it stands.
    """

    number: int
    key: str
    operation: Operation
    breaks: tuple[str, ...] = ()

    @property
    def why(self) -> str:
        """The reason it stands where it does; empty where no rule is its own."""
        rule = self.operation.row.rule
        return RULES[rule] if rule else ""


@dataclass(frozen=True, slots=True)
class PlannedSetUp:
    """One set-up of the plan: its number, where it is worked on, the letter that holds it, and its operations
    in order.
    """

    number: int
    set_up: SetUp
    operations: tuple[PlannedOperation, ...]

    @property
    def title(self) -> str:
        """As it is said: Set-up 2, from the left end, held on A."""
        held = f", held on {self.set_up.held_on}" if self.set_up.held_on else ""
        return f"Set-up {self.number}, {WORKED_WORDS[self.set_up.worked]}{held}"


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A feature that a lathe cuts and no operation here makes, and why."""

    letter: str
    why: str


@dataclass(frozen=True, slots=True)
class OrderOfWork:
    """The whole plan: set-ups, what is to be dialled in, what no operation makes, changes of tool, and whether it is
    proved fewest.
    """

    set_ups: tuple[PlannedSetUp, ...]
    dial_in: tuple[str, ...]
    left_out: tuple[LeftOut, ...]
    changes: int
    proved: bool
    by_hand: bool = False

    @property
    def operations(self) -> tuple[PlannedOperation, ...]:
        """All operations in order."""
        return tuple(one for set_up in self.set_ups for one in set_up.operations)

    @property
    def breaks(self) -> tuple[str, ...]:
        """Every rule the order breaks, in words."""
        return tuple(words for one in self.operations for words in one.breaks)


def order_of_work(
    features: Sequence[LetteredFeature],
    *,
    stock: StockHeld,
    face_as_parted: bool = False,
    hollow: bool = False,
    with_skin: bool = False,
    kept: Sequence[str] = (),
) -> OrderOfWork | None:
    """The plan for a part's features, in the kept order where there is one; None without an outside of a known size.

    `hollow`: the stock is a tube, nothing is drilled; `with_skin`: a casting or the like, held on its skin
    at first. A kept order is a list of keys; an operation it does not name stands where the plan has it.

    Source: search (set-ups, changes of tool); common practice, no source (rules).

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> [one.operation.title for one in order_of_work(pin, stock="bar", face_as_parted=True).operations][:2]
    ['Face', 'Rough turn A']
    """
    return _order_of_work(tuple(features), stock, face_as_parted, hollow, with_skin, tuple(kept))


@lru_cache(maxsize=256)  # the same part is looked at again and again, by several pages
def _order_of_work(
    features: tuple[LetteredFeature, ...],
    stock: StockHeld,
    face_as_parted: bool,
    hollow: bool,
    with_skin: bool,
    kept: tuple[str, ...],
) -> OrderOfWork | None:
    section = section_of(features)
    if section is None:
        return None
    surfaces = surfaces_of(features, section)
    found = set_ups_of(
        surfaces,
        stock=stock,
        face_as_parted=face_as_parted,
        hollow=hollow,
        with_skin=with_skin,
        whole=whole_letter(features, section),
    )
    places = {key: place for place, key in enumerate(kept)}
    set_ups, count, changes = [], 0, []
    for number, set_up in enumerate(found.set_ups, 1):
        order = _in_kept_order(set_up.operations, number, places)
        set_ups.append(PlannedSetUp(number, set_up, _numbered(order, number, count, surfaces)))
        count += len(order)
        changes += order
    apart = [f"{one.letter} must be true to {one.true_to} and is cut in another chucking" for one in found.apart]
    return OrderOfWork(
        set_ups=tuple(set_ups),
        dial_in=tuple(apart),
        left_out=tuple(
            _left_out(
                features,
                {letter for set_up in set_ups for one in set_up.operations for letter in one.operation.letters},
            )
        ),
        changes=tool_changes(changes),
        proved=found.proved,
        by_hand=any(one.key in places for set_up in set_ups for one in set_up.operations),
    )


def _left_out(features: Sequence[LetteredFeature], cut: Collection[str]) -> Iterator[LeftOut]:
    for one in features:
        if one.letter in cut or one.is_left_as_it_is:
            continue
        match one.feature.of_kind.cut_as:
            case "outside" | "bore":
                yield LeftOut(
                    one.letter, "no end reaches it past what is larger; it is cut as a groove, by hand in the order"
                )
            case "taper" | "groove" | "face_groove" | "edge" | "thread" | "knurl" | "undercut":
                yield LeftOut(one.letter, "where it lies is not known; say it on Part (on A), and it is planned")
            case "elsewhere":
                yield LeftOut(one.letter, one.feature.of_kind.made_elsewhere)
            case "fillet":
                yield LeftOut(one.letter, "no shoulder is known for it; say on which smaller diameter it lies (on A)")
            case "with_another" | "none":
                pass
            case _:
                assert_never(one.feature.of_kind.cut_as)


def _key(number: int, one: Operation) -> str:
    return f"{number}/{one.key}"


def _in_kept_order(operations: Sequence[Operation], number: int, places: Mapping[str, int]) -> list[Operation]:
    """The operations as a hand put them: those it named in its order, each other one behind the one it stands behind in
    the plan.
    """
    order = sorted(
        (one for one in operations if _key(number, one) in places), key=lambda one: places[_key(number, one)]
    )
    for index, one in enumerate(operations):
        if one not in order:
            before = operations[index - 1] if index else None
            order.insert(order.index(before) + 1 if before is not None else 0, one)
    return order


def _numbered(
    order: Sequence[Operation], number: int, before: int, surfaces: Sequence[Surface]
) -> tuple[PlannedOperation, ...]:
    wrong: dict[int, list[str]] = {}
    for pair in broken(order, surfaces):
        wrong.setdefault(pair.then, []).append(f"{order[pair.first].title} stands after it. {RULES[pair.rule]}")
    said = [tuple(dict.fromkeys(wrong.get(index, ()))) for index in range(len(order))]
    return tuple(
        PlannedOperation(before + index + 1, _key(number, one), one, said[index]) for index, one in enumerate(order)
    )


class OrderInput(Model):
    """A part as its lines say it, how its stock is held, and whether the far face may stay as the parting tool leaves
    it.

    `with_skin`: a casting or the like, held on its skin at first.
    """

    lines: str = Field(max_length=20_000, examples=["od 24 h9 x 30\nod 40 x 10\nbore 12 H7 thru"])
    stock: StockHeld = "bar"
    face_as_parted: bool = False
    with_skin: bool = False
    unit: Unit = "mm"


class OperationRead(Model):
    """One operation: its set-up, title, tool, the letters it makes, and the diameter it reaches."""

    number: int
    set_up: int
    title: str
    tool: str
    letters: list[str]
    diameter: Size | None = None


class OrderResult(WorksheetAnswer):
    """The operations in order, what must be dialled in, the letters no operation makes; whether no order has fewer
    set-ups and tools.
    """

    operations: list[OperationRead]
    set_ups: list[str]
    dial_in: list[str]
    left_out: list[str]
    tool_changes: int
    proved: bool


@calculation(
    name="order_of_work",
    title="Set-ups and order of operations",
    validity=(
        f"Turned parts of {MOST_LINES} lines or less with an outside of a known size; a start for the one who decides."
    ),
    source="search over set-ups and changes of tool; rules: common practice, no source",
    example={"lines": "od 24 h9 x 30 ±0.1\nod 40 x 10 ±0.1\nbore 12 H7 thru\nlength 40 ±0.1", "stock": "bar"},
)
def order_of_work_of_lines(given: OrderInput) -> OrderResult:
    """The plan of a sketched part. Raises UnreadableLength for a line that is none, InputError where no outside has a
    size.

    Source: search; rules: common practice, no source.

    >>> found = order_of_work_of_lines(OrderInput(lines="od 24 x 30", face_as_parted=True))
    >>> found.operations[0].title, found.set_ups
    ('Face', ['Set-up 1, from the right end'])
    """
    read = feature_lines(FeatureLinesInput(text=given.lines, unit=given.unit))
    if read.not_understood:
        wrong = read.not_understood[0]
        raise UnreadableLength(
            f"Line {wrong.line}, “{wrong.text[:40]}”: {wrong.sentence}", "Write it as on Part.", field="lines"
        )
    found = order_of_work(
        [lettered(one) for one in read.features],
        stock=given.stock,
        face_as_parted=given.face_as_parted,
        with_skin=given.with_skin,
    )
    if found is None:
        raise InputError("No outside has a size.", "Give its diameter and its length: od 24 x 30.", field="lines")
    said = "no plan has fewer set-ups" if found.proved else "a good plan; that none has fewer is not proved"
    return OrderResult(
        operations=[_read(one, set_up.number, given.unit) for set_up in found.set_ups for one in set_up.operations],
        set_ups=[one.title for one in found.set_ups],
        dial_in=list(found.dial_in),
        left_out=[one.letter for one in found.left_out],
        tool_changes=found.changes,
        proved=found.proved,
        headline=f"{len(found.set_ups)} set-up{'s' if len(found.set_ups) > 1 else ''}",
        sentence=f"{len(found.operations)} operations, {found.changes} changes of tool; {said}.",
        table=AnswerTable(
            head=["Operation", "Tool", "Why there"],
            rows=[_row(one, set_up) for set_up in found.set_ups for one in set_up.operations],
        ),
        notes=notes_of(found),
        cautions=["Key out, guard on; spin by hand before power. The machine’s manual comes first."],
        working=[
            Step(
                name="Order",
                formula=(
                    "fewest set-ups; true to each other in one chucking; most diameters in one chucking; fewest tools"
                ),
                result=said,
                source=COMMON_PRACTICE,
            )
        ],
    )


def notes_of(found: OrderOfWork) -> list[str]:
    """What the plan leaves to be looked after, in words. Source: common practice, no source.

    >>> left_out = (LeftOut("C", "no end reaches it"),)
    >>> notes = notes_of(OrderOfWork((), ("A must be true to B and is cut in another chucking",), left_out, 0, True))
    >>> notes[0][52:], notes[1]
    ('dial it in, or hold it by that surface in soft jaws.', 'C: no end reaches it.')
    """
    why_left_out: dict[str, list[str]] = {}
    for one in found.left_out:
        why_left_out.setdefault(one.why, []).append(one.letter)
    return [
        *(f"{apart}: dial it in, or hold it by that surface in soft jaws." for apart in found.dial_in),
        *(f"{', '.join(letters)}: {why}." for why, letters in why_left_out.items()),
    ]


def _read(one: PlannedOperation, set_up: int, unit: Unit) -> OperationRead:
    size = one.operation.diameter_mm
    return OperationRead(
        number=one.number,
        set_up=set_up,
        title=one.operation.title,
        tool=one.operation.tool,
        letters=list(one.operation.letters),
        diameter=Length(size, unit) if size is not None else None,
    )


def _row(one: PlannedOperation, set_up: PlannedSetUp) -> list[Fact]:
    tool = "" if one.operation.tool == BY_HAND else one.operation.tool
    return [Fact(words=f"{set_up.number}.{one.number} {one.operation.title}"), Fact(words=tool), Fact(words=one.why)]
