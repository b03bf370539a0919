"""The steps of a job at the lathe, in order, for one piece: what is held, what is cut, what is measured."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.order.order import PlannedOperation, PlannedSetUp
from nomisma.core.part.feature import State
from nomisma.jobs.holding.chucking import Chucking, chuckings_of
from nomisma.jobs.planning.plan_state import JobPlan, feature_key, plan_of
from nomisma.jobs.shop.choices import choose
from nomisma.jobs.standing.pieces import serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.by_version import by_version
from nomisma.store.models import Account
from nomisma.store.shop import settings

StepKind = Literal["hold", "operation", "feature"]
GoesBy = Literal["piece", "step"]
GOES_BY_WORDS: dict[GoesBy, str] = {
    "piece": "each piece through the set-up, then the next",
    "step": "each step through all pieces, then the next",
}
"""How a batch may be gone through. Source: common practice, no source."""
MOST_LOOKED_AT = 60
"""Of so many pieces each is looked at beside the page that is about them: nobody waits longer. Source: this tool's own
choice.
"""
GOES_BY = "goes_by"
"""The choice of a job that says which."""


@dataclass(frozen=True)
class Step:
    """One step of a piece. `hold`: a set-up held and looked at before its first start; `operation`: one of the plan;
    `feature`: a size that no operation of the plan finds.

    `measured`: the features whose size is found at it; `read`: the letters of those that are read enough; `unread`:
    those that are not in limits by what was read, wherever it was, nor decided about.
    """

    number: int
    kind: StepKind
    key: str
    title: str
    is_done: bool
    piece: str
    chucking: Chucking | None = None
    operation: PlannedOperation | None = None
    measured: tuple[JobState, ...] = ()
    read: frozenset[str] = frozenset()
    unread: tuple[JobState, ...] = ()

    @property
    def label(self) -> str:
        """What it is called in a row: an operation by its number in the plan, a set-up as S1, a feature by its
        letter.
        """
        if self.operation is not None:
            return str(self.operation.number)
        return f"S{self.chucking.planned.number}" if self.chucking is not None else self.measured[0].letter

    @property
    def set_up_key(self) -> str:
        """The key of the set-up it is done in; empty where no plan says."""
        return self.chucking.key if self.chucking else ""

    @property
    def set_up(self) -> PlannedSetUp | None:
        """The set-up it is done in; none where no plan says."""
        return self.chucking.planned if self.chucking else None

    @property
    def feature(self) -> JobState | None:
        """The feature to be read next: the first that is not read enough and in limits, else the last."""
        open_ones = (one for one in self.measured if one.letter not in self.read)
        return next(open_ones, self.measured[-1] if self.measured else None)

    def measures(self, letter: str) -> bool:
        """Whether the size of a feature is found at it."""
        return any(one.letter == letter for one in self.measured)

    @property
    def is_cut(self) -> bool:
        """Whether anything measured at it was read of the piece: what it cuts is cut."""
        return any(self.piece in one.verdict_of_piece for one in self.measured)

    @property
    def gone_too_far(self) -> JobState | None:
        """A feature of it that is past its limit and not decided about."""
        return next(
            (
                one
                for one in self.unread
                if (found := one.verdict_of_piece.get(self.piece)) and found.state is State.GONE_TOO_FAR
            ),
            None,
        )


@dataclass(frozen=True)
class Making:
    """The steps of one piece of a job, as they stand."""

    plan: JobPlan
    steps: tuple[Step, ...]

    @property
    def state(self) -> JobState:
        """The job."""
        return self.plan.state

    @cached_property
    def in_hand(self) -> Step | None:
        """The first step that is not done; none where all are."""
        return next((one for one in self.steps if not one.is_done), None)

    def named(self, key: str) -> Step | None:
        """A step by its key; none where there is no such step (any more)."""
        return next((one for one in self.steps if one.key == key), None)

    def where_measured(self, letter: str) -> Step | None:
        """The step at which the size of a feature is found."""
        return next((one for one in self.steps if one.measures(letter)), None)

    def open_in(self, set_up_key: str, after: int = 0) -> Step | None:
        """The first open step of a set-up, by its key, behind a number; of no set-up: of what is measured beside
        them.
        """
        return next((one for one in self.steps[after:] if one.set_up_key == set_up_key and not one.is_done), None)

    def first_open(self, keys: Sequence[str]) -> Step | None:
        """The first of some steps, by their keys, that is open."""
        return next((one for one in self.steps if one.key in keys and not one.is_done), None)

    def beside(self, step: Step, by: int) -> Step | None:
        """The step so many after another, or before it."""
        at = step.number - 1 + by
        return self.steps[at] if 0 <= at < len(self.steps) else None

    def left_open(self, step: Step) -> list[Step]:
        """Steps before another that are not done."""
        return [one for one in self.steps[: step.number - 1] if not one.is_done]

    @property
    def done_count(self) -> int:
        """How many steps are done."""
        return sum(one.is_done for one in self.steps)


def is_by_plan(plan: JobPlan) -> bool:
    """Whether a job is made step by step of its plan: there is one that was run, of a part whose lengths are known or
    that somebody planned. One diameter is made at once.
    """
    return plan.order is not None and bool(plan.order.operations) and (bool(plan.entries) or not plan.length_not_known)


@by_version("job")
def making_of(session: Session, plan: JobPlan) -> Making:
    """The steps of the piece a plan is seen for."""
    chuckings = chuckings_of(session, plan) if is_by_plan(plan) else []
    return Making(plan, tuple(_numbered(plan, chuckings)))


def of_every_piece(session: Session, state: JobState) -> list[Making]:
    """The steps of each piece, in their order; of a single piece one."""
    first, *others = serials(state) or ("",)
    plan = plan_of(session, state, first)
    making = making_of(session, plan)
    return [making, *(making_of(session, plan.for_piece(one)) for one in others)]


def making_in_hand(session: Session, state: JobState, piece: str = "") -> Making:
    """The steps of a piece. Where none is named, of the one in hand: set-up after set-up, in each piece after piece; or
    in each set-up step after step, each through all pieces.
    """
    if piece or not serials(state):
        return making_of(session, plan_of(session, state, piece))
    every = of_every_piece(session, state)
    gone_through = _gone_through(every[0], goes_by(session, state))
    return next((making for keys in gone_through for making in every if making.first_open(keys)), every[0])


def goes_by(session: Session, state: JobState) -> GoesBy:
    """How a batch is gone through."""
    return "step" if settings(session, state.job.id).get(GOES_BY) == "step" else "piece"


def go_by(session: Session, state: JobState, by_what: str, *, by: Account, sent_id: UUID) -> None:
    """Go through a batch by piece or by step from now on; commits nothing. Raises HandedOver, InputError."""
    state.must_be_open()
    if by_what not in GOES_BY_WORDS:
        raise InputError(f"“{by_what[:20]}” is no way through a batch.", "Choose one of them.", field="goes_by")
    choose(session, {GOES_BY: by_what}, by=by, job_id=state.job.id, sent_id=sent_id)


def _gone_through(making: Making, by_what: GoesBy) -> list[list[str]]:
    """The steps, by their keys, in the parts that one piece goes through before the next: a set-up; or one step, the
    set-up's first with the look before it.
    """
    parts: list[list[str]] = []
    last: Step | None = None
    for one in making.steps:
        same_set_up = last is not None and one.set_up_key == last.set_up_key
        if same_set_up and last is not None and (by_what == "piece" or last.kind == "hold"):
            parts[-1].append(one.key)
        else:
            parts.append([one.key])
        last = one
    return parts


def goes_on(session: Session, making: Making, step: Step) -> tuple[Making, Step | None]:
    """Where the work goes on once a step is closed: in the same set-up of the same piece, then of the next piece,
    before the set-up is broken; where a batch is gone through by step, with the same step of the next piece; else with
    the first step that is open. No step where all are done.
    """
    state = making.state
    if not serials(state):
        behind = (one for one in making.steps[step.number :] if not one.is_done)
        return making, making.open_in(step.set_up_key, step.number) or next(behind, making.in_hand)
    parts = _gone_through(making, goes_by(session, state))
    own = next(keys for keys in parts if step.key in keys)
    if (here := making.first_open(own[own.index(step.key) + 1 :])) is not None:
        return making, here
    every = of_every_piece(session, state)
    at = next(index for index, one in enumerate(every) if one.plan.piece == making.plan.piece)
    for other in (*every[at + 1 :], *every[:at]):
        if (first := other.first_open(own)) is not None:
            return other, first
    found = making_in_hand(session, state)
    return found, next((one for keys in parts if (one := found.first_open(keys))), found.in_hand)


def _numbered(plan: JobPlan, chuckings: Sequence[Chucking]) -> Iterator[Step]:
    number = 0
    measured: set[str] = set()
    for chucking in chuckings:
        number += 1
        title, is_ready = f"{chucking.planned.title}: hold it", chucking.ready is not None
        yield Step(number, "hold", f"hold/{chucking.key}", title, is_ready, plan.piece, chucking)
        for one in chucking.planned.operations:
            number += 1
            features = plan.measured_at(one)
            measured |= {each.letter for each in features}
            done = plan.is_done(one)
            step = Step(number, "operation", one.key, one.operation.title, done, plan.piece, chucking, one)
            yield _measuring(step, plan, features)
    for made in plan.state.made:
        if made.letter in measured or made.requirement is None or made.may_be_left or made.why_nothing_is_logged:
            continue
        number += 1
        words = f"{made.letter}, {made.called}" if len(plan.state.made) > 1 else f"The {made.called}"
        step = Step(number, "feature", feature_key(made.letter), words, plan.is_read(made), plan.piece)
        yield _measuring(step, plan, [made])


def _measuring(step: Step, plan: JobPlan, features: Sequence[JobState]) -> Step:
    """A step with what is measured at it."""
    return replace(
        step,
        measured=tuple(features),
        read=frozenset(one.letter for one in features if plan.is_read(one)),
        unread=tuple(one for one in features if not plan.is_in_limits(one)),
    )
