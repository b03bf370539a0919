"""How long the steps of a job took by the clock, and what of the shop's own figures that says is otherwise."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import ROUND_HALF_UP, Decimal
from itertools import pairwise
from statistics import median
from typing import Literal
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.operations.operations import BY_HAND
from nomisma.jobs.making.steps import MOST_LOOKED_AT, Making, Step, of_every_piece
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.jobs.shop.choices import choose
from nomisma.jobs.shop.plan_choices import plan_choices
from nomisma.jobs.standing.state import JobState
from nomisma.store.models import Account

PAUSE_MIN = 60.0
"""So long without a step closed is a pause, no work. Source: this tool's own choice."""
AT_ONCE_MIN = 0.1
"""Steps closed faster than that were ticked off after the fact. Source: this tool's own choice."""
LEAST_TIMES = 3
"""So often a step of a kind must have been timed before it says anything. Source: this tool's own choice."""
PARTS_BY = Decimal("0.5")
"""By so much of the shop's figure the clock must part from it. Source: this tool's own choice."""
Figure = Literal["set_up_minutes", "tool_minutes", "measuring_minutes"]
FIGURE_WORDS: dict[Figure, str] = {
    "set_up_minutes": "A set-up", "tool_minutes": "A change of tool", "measuring_minutes": "A measuring",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class StepTime:
    """One step as it was timed: which of the shop's figures it tells, and what that took, minutes by the clock (of an
    operation less what the rest of it is reckoned with).
    """

    key: str
    piece: str
    figure: Figure
    minutes: float


@dataclass(frozen=True, slots=True)
class FigureLearnt:
    """One of the shop's figures as a job's clock has it: what it is reckoned with, what it took in the middle, minutes
    (to half a minute), and how often.
    """

    figure: Figure
    reckoned_min: Decimal
    took_min: Decimal
    times: int

    @property
    def words(self) -> str:
        """As it is said."""
        reckoned = f"the shop reckons {self.reckoned_min:g}"
        return f"{FIGURE_WORDS[self.figure]} took {self.took_min:g} min here ({self.times} timed); {reckoned}."


def step_times(every: Sequence[Making]) -> list[StepTime]:
    """What the steps of a job's pieces took, each from the step closed before it, of whichever piece. Source: common
    practice, no source.
    """
    closed = sorted(
        (
            (at, step, making)
            for making in every
            for step in making.steps
            if (at := _closed_at(step, making)) is not None
        ),
        key=lambda one: one[0],
    )
    works = {making.plan.piece: PlannedWork(making.plan) for making in every}
    minutes = [((now[0] - before[0]).total_seconds() / 60, now[1], now[2]) for before, now in pairwise(closed)]
    return [
        found
        for took, step, making in minutes
        if AT_ONCE_MIN <= took <= PAUSE_MIN and (found := _timed(took, step, works[making.plan.piece])) is not None
    ]


def _closed_at(step: Step, making: Making) -> datetime | None:
    if step.kind == "hold":
        return step.chucking.ready.at if step.chucking is not None and step.chucking.ready is not None else None
    row = making.plan.closed.get(step.key)
    return row.at if row is not None else None


def _timed(took: float, step: Step, work: PlannedWork) -> StepTime | None:
    """What the time of a step tells; none of one that is reckoned with more than one figure, or with none."""
    plan = work.plan
    piece = plan.piece
    if step.kind == "hold":
        return StepTime(step.key, piece, "set_up_minutes", took)
    if step.operation is None:
        return None
    operations = plan.order.operations if plan.order else ()
    at = operations.index(step.operation)
    own = step.operation.operation
    new_tool = own.tool != BY_HAND and (at == 0 or operations[at - 1].operation.tool != own.tool)
    if own.row.is_measured == new_tool:
        return None
    figure: Figure = "measuring_minutes" if own.row.is_measured else "tool_minutes"
    rest = work.minutes[step.key] - float(plan.choices[figure])
    return StepTime(step.key, piece, figure, took - rest) if took > rest else None


def figures_learnt(session: Session, state: JobState) -> list[FigureLearnt]:
    """The shop's figures from which the clock of a job parts by more than half, where it was timed often enough.
    Source: this tool's own choice.
    """
    if state.in_force.pieces_wanted > MOST_LOOKED_AT:
        return []
    every = of_every_piece(session, state)
    choices = every[0].plan.choices
    return list(_learnt(step_times(every), {name: Decimal(choices[name]) for name in FIGURE_WORDS}))


def _learnt(times: Sequence[StepTime], reckoned: dict[Figure, Decimal]) -> Iterator[FigureLearnt]:
    for figure, reckoned_min in reckoned.items():
        own = [one.minutes for one in times if one.figure == figure]
        if len(own) < LEAST_TIMES:
            continue
        halves = (Decimal(median(own)) * 2).quantize(Decimal(1), ROUND_HALF_UP)
        took = max(halves, Decimal(1)) / 2
        if abs(took - reckoned_min) > PARTS_BY * reckoned_min:
            yield FigureLearnt(figure, reckoned_min, took, len(own))


def reckon_with(
    session: Session, state: JobState, figure: str, seen_min: str, *, by: Account, sent_id: UUID
) -> FigureLearnt | None:
    """Reckon with what a job's clock says from now on, as it was seen, in minutes; commits nothing. None where the shop
    does so already. Raises InputError where the clock says otherwise by now, NotAllowed, HandedOver.
    """
    state.must_be_open()
    if figure in FIGURE_WORDS and plan_choices(session)[figure] == seen_min:
        return None
    found = next((one for one in figures_learnt(session, state) if one.figure == figure), None)
    if found is None or f"{found.took_min:g}" != seen_min:
        raise InputError(
            "The clock says otherwise by now.", "Look at the times again, then decide.", field="reckon", value=seen_min
        )
    reason = f"Job {state.job.number}: {found.words}"
    choose(session, {found.figure: f"{found.took_min:g}"}, by=by, reason=reason, sent_id=sent_id)
    return found
