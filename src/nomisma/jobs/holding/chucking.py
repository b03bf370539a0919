"""A planned set-up at the lathe: how it is held, what the needle said of it, and whether it is ready to be started."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from functools import cached_property

from sqlalchemy.orm import Session

from nomisma.core.errors import NotDefined
from nomisma.core.order.order import PlannedSetUp
from nomisma.core.planning.chucking import (
    USUAL,
    RunoutAllowed,
    RunoutJudged,
    RunoutVerdict,
    judge_runout,
    seldom_so_true,
)
from nomisma.core.planning.holding import Holding, Suggestion
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.truing.soft_jaws import SoftJawsInput, SoftJawsResult, soft_jaws
from nomisma.core.truing.surface import Grip, uses
from nomisma.core.truing.three_jaw import ThreeJawInput, ThreeJawResult, three_jaw
from nomisma.jobs.holding.truing_state import truing_state
from nomisma.jobs.planning.plan_entries import FirstStart, HoldingChosen, RunoutRead
from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.jobs.standing.state import JobState
from nomisma.store.by_version import by_version
from nomisma.store.models import PlanEntry
from nomisma.store.truing import truings_of

CLEAR: dict[Unit, Length] = {"in": Length.of("0.040", "in"), "mm": Length.of("1", "mm")}
"""How much of what is held stands clear of soft jaws. Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class RunoutLogged:
    """A runout that was read, with its row and what it comes to now."""

    row: PlanEntry
    read: RunoutRead
    judged: RunoutJudged

    @property
    def total_indicator_reading_mm(self) -> Decimal:
        """As it was read, mm."""
        return Decimal(self.read.total_indicator_reading_mm)


@dataclass(frozen=True, slots=True)
class SaidReady:
    """Who said that it may be started, and when."""

    by: str
    at: datetime


@dataclass(frozen=True)
class Chucking:
    """One set-up of a plan, for the piece in hand of a batch. `trued`: that it was said ready in a four-jaw; none:
    nobody said so.
    """

    work: PlannedWork
    planned: PlannedSetUp
    trued: SaidReady | None = None

    @property
    def plan(self) -> JobPlan:
        """The plan it is of."""
        return self.work.plan

    @property
    def key(self) -> str:
        """What it is called in addresses and in what is kept of it: where it is worked on."""
        return self.planned.set_up.name

    @cached_property
    def suggestions(self) -> list[Suggestion]:
        """The ways to hold it, the one that was chosen (else the first suggested) in front."""
        return self.work.ways_to_hold(self.planned)

    @property
    def chosen(self) -> HoldingChosen | None:
        """How somebody chose to hold it."""
        return self.work.chosen_holding(self.planned)

    @cached_property
    def way(self) -> Holding:
        """How it is held."""
        return self.work.way_to_hold(self.planned)

    @cached_property
    def held(self) -> JobState | None:
        """The feature that holds it, with its limits and readings; none where the stock does."""
        return next((one for one in self.plan.state.made if one.letter == self.planned.set_up.held_on), None)

    @cached_property
    def allowed(self) -> RunoutAllowed:
        """How true it must run."""
        return self.work.runout_allowed(self.planned)

    def _of_this(self, topic: str) -> list[PlanEntry]:
        """What was said of this set-up in a topic, for the piece in hand, or for any where the way holds every piece
        alike.
        """
        alike = self.way.repeats or topic == "holding"
        return [
            row
            for row in self.plan.entries
            if row.topic == topic
            and row.said["set_up"] == self.key
            and (alike or row.said.get("piece", "") == self.plan.piece)
        ]

    @cached_property
    def runouts(self) -> list[RunoutLogged]:
        """What the needle said of it held as it is held now, oldest first."""
        found = []
        for row in self._of_this("runout"):
            read = RunoutRead.as_kept(row.said)
            if read.way == self.way.name:
                found.append(
                    RunoutLogged(
                        row,
                        read,
                        judge_runout(Decimal(read.total_indicator_reading_mm), self.allowed, self.way, read.unit),
                    )
                )
        return found

    @property
    def last_runout(self) -> RunoutLogged | None:
        """The newest of them."""
        return self.runouts[-1] if self.runouts else None

    @cached_property
    def packing(self) -> ThreeJawResult | None:
        """What the newest round beside the jaws says is packed; none where the whole swing was read, or it is good
        enough.
        """
        if self.last_runout is None or not self.is_too_much or len(self.last_runout.read.readings) == 1:
            return None
        read = self.last_runout.read
        sizes = [parse_length(one, read.unit, positive=False) for one in read.readings]
        return self.beside_three_jaws(sizes, parse_length(read.graduation, read.unit), read.unit)

    def beside_three_jaws(self, readings: Sequence[Length], graduation: Length, unit: Unit) -> ThreeJawResult:
        """What a round beside three jaws says. Raises InputError."""
        usual = uses()[USUAL].total_indicator_reading
        target = Length(self.allowed.most_mm, unit) if self.allowed.most_mm else usual
        return three_jaw(
            ThreeJawInput(readings=list(readings), grip=self.grip, target=target, graduation=graduation, unit=unit)
        )

    @property
    def grip(self) -> Grip:
        """Whether the jaws hold it round its outside, or inside a bore."""
        return "inside" if self.held is not None and self.held.feature.of_kind.cut_as == "bore" else "outside"

    @property
    def is_too_much(self) -> bool:
        """Whether it swings more than it may, by the newest reading."""
        return self.last_runout is not None and self.last_runout.judged.state is RunoutVerdict.TOO_MUCH

    @property
    def wants_reason(self) -> str:
        """Why it is not started without a reason, in words: it swings more than it may, or than its way of holding
        usually leaves.
        """
        judged = self.last_runout.judged if self.last_runout else None
        if judged is None:
            return ""
        return f"{judged.headline}." if self.is_too_much else judged.more_than_usual

    @property
    def seldom(self) -> str:
        """That its way seldom holds as true as is wanted, in words; empty once a needle was on it."""
        return "" if self.last_runout else seldom_so_true(self.allowed, self.way, self.plan.state.unit)

    @property
    def ready(self) -> SaidReady | None:
        """When it was said to be ready to be started; none where it was read, or held otherwise, since."""
        if self.way.read_as == "rounds":
            return self.trued
        rows = [*self._of_this("first_start"), *self._of_this("runout"), *self._of_this("holding")]
        newest = max(rows, key=lambda row: row.sequence, default=None)
        if newest is None or newest.topic != "first_start" or FirstStart.as_kept(newest.said).way != self.way.name:
            return None
        return SaidReady(newest.by.name, newest.at)

    @property
    def held_size(self) -> tuple[Length, bool] | None:
        """What the surface that holds it measures, and whether it was read; none where the stock holds it, or nothing
        is known of it.
        """
        if self.held is None:
            return None
        sizes, unit = self.held.own_readings, self.plan.state.unit
        if sizes.count:
            return Length(sizes.largest_mm if self.grip == "outside" else sizes.smallest_mm, unit), True
        limits = self.held.both_limits
        known = limits.aim_mm if limits else self.held.requirement.nominal_mm if self.held.requirement else None
        return (Length(known, unit), False) if known is not None else None

    @property
    def soft_jaws(self) -> SoftJawsResult | None:
        """What soft jaws are cut to for it; none where it is held otherwise, or its size is not known."""
        if self.way.name != "soft_jaws" or self.held_size is None:
            return None
        return soft_jaws(SoftJawsInput(held=self.held_size[0], grip=self.grip, unit=self.plan.state.unit))

    @property
    def held_long_mm(self) -> Decimal | None:
        """How long the surface that holds it is, mm; none where the stock holds it."""
        held = self.work.held_step(self.planned)
        return held.to_mm - held.from_mm if held else None

    @property
    def step_deep_mm(self) -> Decimal | None:
        """How deep the step of soft jaws is that every piece is seated on, mm; none where the stock is held, or it is
        too short for one.
        """
        deep = self.held_long_mm - CLEAR[self.plan.state.unit].mm if self.held_long_mm is not None else Decimal(0)
        return deep if deep > 0 else None


@by_version("job")
def chuckings_of(session: Session, plan: JobPlan) -> list[Chucking]:
    """Every set-up of a plan as it stands at the lathe; none where there is no plan."""
    if plan.order is None:
        return []
    ready = plan.state.once("trued", lambda: _trued(session, plan.state))
    work = PlannedWork(plan)
    return [Chucking(work, one, ready.get((one.set_up.name, plan.piece))) for one in plan.order.set_ups]


def _trued(session: Session, state: JobState) -> dict[tuple[str, str], SaidReady]:
    """By set-up and piece, that it was said ready in a four-jaw by the newest truing there; of all pieces in one
    question.
    """
    ready: dict[tuple[str, str], SaidReady] = {}
    for truing in truings_of(session, state.job.id):
        if not truing.planned_set_up:
            continue
        said = truing_state(session, truing).ready
        ready.pop((truing.planned_set_up, truing.piece), None)
        if said is not None:
            ready[truing.planned_set_up, truing.piece] = SaidReady(said.by.name, said.at)
    return ready


def chucking_named(chuckings: Sequence[Chucking], key: str) -> Chucking:
    """One of a plan's set-ups by where it is worked on. Raises NotDefined."""
    found = next((one for one in chuckings if one.key == key), None)
    if found is None:
        raise NotDefined("The plan has no such set-up any more.", "Open Hold anew.", field="number")
    return found


def in_hand(chuckings: Sequence[Chucking]) -> Chucking | None:
    """The set-up that is next: the first that is not ready; the last where all are, none where there is no plan."""
    return next((one for one in chuckings if not one.ready), chuckings[-1] if chuckings else None)
