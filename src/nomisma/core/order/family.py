"""Pieces that differ go through each set-up together: what is alike on all of them, and what each has of its own."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import zip_longest

from nomisma.core.operations.operations import OperationKind
from nomisma.core.order.order import OrderOfWork, PlannedOperation, PlannedSetUp

FiguresOf = Callable[[PlannedOperation], Sequence[str]]
MOST_SIBLINGS = 8
_Key = tuple[OperationKind, int]


@dataclass(frozen=True, slots=True)
class Sibling:
    """One of a family: what it is called, its plan, and the figures of its steps."""

    name: str
    order: OrderOfWork
    figures_of: FiguresOf


@dataclass(frozen=True, slots=True)
class FamilyCell:
    """What a step is on one of the family: its operation and its figures."""

    operation: PlannedOperation
    figures: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FamilyStep:
    """One step on all of the family: each one's own, none where it has no such step."""

    cells: tuple[FamilyCell | None, ...]

    @property
    def title(self) -> str:
        """As it is said: with the letters where they are the same on all, else by its kind."""
        titles = {one.operation.operation.title for one in self.cells if one is not None}
        first = next(one for one in self.cells if one is not None)
        return titles.pop() if len(titles) == 1 else first.operation.operation.row.title

    @property
    def is_shared(self) -> bool:
        """Whether it is the same on all of them, figure for figure: done on every piece without touching a dial."""
        return None not in self.cells and len({one.figures for one in self.cells if one is not None}) == 1


@dataclass(frozen=True, slots=True)
class FamilySetUp:
    """One set-up of all of the family, each as it is held (none where it has no such set-up), and its steps."""

    number: int
    set_ups: tuple[PlannedSetUp | None, ...]
    steps: tuple[FamilyStep, ...]

    @property
    def is_held_alike(self) -> bool:
        """Whether all of them are held so in one way, on one diameter, and stand out as far."""
        ways = {_held(one) for one in self.set_ups}
        return len(ways) == 1 and None not in ways

    @property
    def shared(self) -> int:
        """How many of its steps are the same on all of them."""
        return sum(one.is_shared for one in self.steps)


def _held(one: PlannedSetUp | None) -> tuple[object, ...] | None:
    held = one.set_up.workholding if one is not None else None
    if held is None:
        return None
    return held.way, held.worked, held.stands_out_mm, held.grip.diameter_mm if held.grip else None


def family_of(siblings: Sequence[Sibling]) -> tuple[FamilySetUp, ...]:
    """The set-ups of several plans side by side, and in each their steps: the first, second, third of a kind beside
    each other. Source: common practice, no source (pieces alike go through each set-up together).

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.order import order_of_work
    >>> def planned(text):
    ...     return order_of_work([lettered(one) for one in feature_lines(FeatureLinesInput(text=text)).features])
    >>> pair = [Sibling(text, planned(text), lambda one: [str(cut.to_mm) for cut in one.cuts])
    ...         for text in ("od 24 x 30", "od 24 x 40")]
    >>> [(one.number, [step.is_shared for step in one.steps][:2]) for one in family_of(pair)][:1]
    [(1, [False, False])]
    """
    rows = zip_longest(*(one.order.set_ups for one in siblings))
    return tuple(FamilySetUp(number, row, tuple(_steps(row, siblings))) for number, row in enumerate(rows, 1))


def _steps(row: Sequence[PlannedSetUp | None], siblings: Sequence[Sibling]) -> list[FamilyStep]:
    keyed = [_by_key(one) for one in row]
    order: list[_Key] = []
    for one in keyed:
        behind = 0
        for key in one:
            if key in order:
                behind = order.index(key) + 1
            else:
                order.insert(behind, key)
                behind += 1
    return [
        FamilyStep(
            tuple(
                FamilyCell(done, tuple(sibling.figures_of(done))) if (done := own.get(key)) is not None else None
                for own, sibling in zip(keyed, siblings, strict=True)
            )
        )
        for key in order
    ]


def _by_key(one: PlannedSetUp | None) -> dict[_Key, PlannedOperation]:
    """The operations of a set-up: the first, the second, the third of each kind."""
    found: dict[_Key, PlannedOperation] = {}
    for each in one.operations if one is not None else ():
        kind = each.operation.kind
        found[kind, sum(known == kind for known, _ in found)] = each
    return found
