"""How a job's plan stands: what was said last of each topic, what is open, the order of work and what of it is done."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import cast

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.part.duty import may_give
from nomisma.core.part.section import Section, section_of
from nomisma.core.planning.batch_order import BatchWay, batch_ways
from nomisma.core.planning.blank import MOST_PIECES, BlankInput, BlankResult, blank, corners_mm
from nomisma.core.planning.holding import HeldWork, Suggestion, bends_mm, ways_to_hold
from nomisma.core.planning.operations import BY_HAND, FINISHING
from nomisma.core.planning.order import OrderOfWork, PlannedOperation, PlannedSetUp, order_of_work
from nomisma.core.planning.sheet import HANDLING_MIN, WORKED_AS, Run, minutes_of, run_of
from nomisma.core.planning.which_lathe import Check, MachineRoom, Verdict, WorkSize, checks, fits, room_mm
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.plan_entries import TOPICS, Answer, Intake, OrderKept, Question, Said, SawLooked, StockChosen, Tick, Topic
from nomisma.jobs.state import JobState
from nomisma.store import shop
from nomisma.store.models import Machine, PlanEntry
from nomisma.store.plans import plan_entries


@dataclass(frozen=True, slots=True)
class Asked:
    """A question with its row, and its answer where it has one."""

    row: PlanEntry
    question: Question
    answer: Answer | None = None
    answered: PlanEntry | None = None


@dataclass(frozen=True, slots=True)
class LatheConsidered:
    """A machine of the shop, what the work asks of it, and what that comes to."""

    machine: Machine
    checks: list[Check]
    verdict: Verdict


@dataclass(frozen=True)
class JobPlan:
    """A job's plan as it stands."""

    state: JobState
    entries: Sequence[PlanEntry]

    def newest(self, topic: Topic) -> PlanEntry | None:
        """What was said last of a topic."""
        return next((row for row in reversed(self.entries) if row.topic == topic), None)

    def _said(self, topic: Topic) -> Said | None:
        row = self.newest(topic)
        return TOPICS[topic].model_validate(row.said) if row else None

    @cached_property
    def intake(self) -> Intake | None:
        """What was asked."""
        return cast(Intake | None, self._said("intake"))

    @cached_property
    def stock(self) -> StockChosen:
        """The stock; what is usual where nobody chose."""
        found = cast(StockChosen | None, self._said("stock"))
        return found or StockChosen(unit=self.state.unit)

    @cached_property
    def saw(self) -> SawLooked | None:
        """The newest look before the saw, if the part is still as long as it was then."""
        found = cast(SawLooked | None, self._said("saw"))
        still = found is not None and self.section is not None and Decimal(found.for_length_mm) == self.section.length_mm
        return found if still else None

    @cached_property
    def kept_order(self) -> OrderKept:
        """The order a hand put."""
        return cast(OrderKept | None, self._said("order")) or OrderKept(keys=[])

    @cached_property
    def section(self) -> Section | None:
        """The part that is made in section."""
        return section_of(self.state.lettered)

    @cached_property
    def questions(self) -> list[Asked]:
        """Every question, the open ones first."""
        answers = {}
        for row in self.entries:
            if row.topic == "answer":
                answer = Answer.model_validate(row.said)
                answers[answer.of] = (answer, row)
        asked = [
            Asked(row, Question.model_validate(row.said), *answers.get(str(row.id), (None, None)))
            for row in self.entries
            if row.topic == "question"
        ]
        return sorted(asked, key=lambda one: one.answer is not None)

    @property
    def open_questions(self) -> int:
        """How many questions are neither answered nor waived."""
        return sum(one.answer is None for one in self.questions)

    @cached_property
    def order(self) -> OrderOfWork | None:
        """The order of work; none without an outside of a known size."""
        stock = self.stock
        return order_of_work(
            self.state.lettered,
            stock=stock.held,
            face_as_parted=stock.face_as_parted,
            hollow=stock.shape == "tube",
            kept=self.kept_order.keys,
        )

    @cached_property
    def blank_input(self) -> BlankInput | None:
        """The blank's inputs; none without a section. Raises InputError for a size that cannot be read."""
        if self.section is None:
            return None
        stock, unit = self.stock, self.state.unit
        sizes = {
            "stock_across": stock.across,
            "stock_bore": stock.bore,
            "stock_length": stock.length,
            "parting": stock.parting,
            "grip": stock.grip,
        }
        given = {name: parse_length(text, stock.unit) for name, text in sizes.items() if text}
        bores = [one.diameter_mm for one in self.section.bores]
        return BlankInput(
            finished_length=Length(self.section.length_mm, unit), finished_diameter=Length(self.section.diameter_mm, unit),
            bore=Length(max(bores), unit) if bores and stock.shape == "tube" else None, shape=stock.shape, surface=stock.surface,
            pieces=min(self.state.in_force.pieces_wanted, MOST_PIECES), material=stock.material, unit=unit, **given,
        )  # fmt: skip

    @cached_property
    def blank(self) -> BlankResult | None:
        """The blank for all pieces; none where the part or its stock is not known well enough."""
        try:
            return blank(self.blank_input) if self.blank_input else None
        except InputError:
            return None

    @property
    def stock_not_said(self) -> str:
        """What comes on top of the blank and nobody said; empty where all is said, or nothing is held beyond the part."""
        missing = [name for name in ("parting", "grip") if not getattr(self.stock, name)]
        return " and ".join(missing) if self.stock.held == "bar" else ""

    @cached_property
    def ticks(self) -> dict[str, PlanEntry]:
        """By key, the row that ticked an operation off and was not taken back."""
        done: dict[str, PlanEntry] = {}
        for row in self.entries:
            if row.topic == "tick":
                tick = Tick.model_validate(row.said)
                done.pop(tick.key, None)
                if tick.done:
                    done[tick.key] = row
        return done

    def features_of(self, one: PlannedOperation) -> list[JobState]:
        """The features an operation makes, each with its limits and readings."""
        return [made for letter in one.operation.letters for made in self.state.made if made.letter == letter]

    def is_done(self, one: PlannedOperation) -> bool:
        """Whether it is ticked off; what finishes a surface is done as well once all it makes is measured and in limits."""
        if one.key in self.ticks:
            return True
        judged = [made for made in self.features_of(one) if made.requirement is not None]
        return (
            one.operation.kind in (*FINISHING, "face", "part_off")
            and bool(judged)
            and all(made.is_settled for made in judged)
        )

    @property
    def done_count(self) -> int:
        """How many operations are done."""
        return sum(self.is_done(one) for one in self.order.operations) if self.order else 0

    @property
    def next_operation(self) -> PlannedOperation | None:
        """The first operation that is not done; none where all are, or there is no plan."""
        operations = self.order.operations if self.order else ()
        return next((one for one in operations if not self.is_done(one)), None)

    def run_of(self, one: PlannedOperation) -> Run | None:
        """How fast an operation is run on the job's machine."""
        machine, largest = self.state.job.machine, self.stock_mm
        return run_of(
            one.operation, material=self.stock.material, largest_mm=largest, machine_speeds=machine.speeds if machine else "",
            most_rpm=machine.most_rpm if machine else None, cautious=self.intake is not None and self.intake.known_by == "unknown",
        )  # fmt: skip

    @property
    def stock_mm(self) -> Decimal:
        """The stock's diameter, mm: as measured, else the least it must be; 0 where the part is not known."""
        if self.blank is None or self.blank_input is None:
            return Decimal(0)
        return self.blank_input.stock_across.mm if self.blank_input.stock_across else self.blank.least_across.mm

    def ways_to_hold(self, one: PlannedSetUp) -> list[Suggestion]:
        """How a set-up may be held, the first one suggested, with reasons."""
        return ways_to_hold(one.set_up, self._held_work(one)) if self.section else []

    def stands_out_mm(self, one: PlannedSetUp) -> Decimal:
        """How far the work stands out of what holds it in a set-up, mm."""
        return self._held_work(one).stands_out_mm

    def bends_mm(self, one: PlannedSetUp) -> tuple[Decimal, Decimal] | None:
        """What bending under a light cut leaves on diameter as stock and as finished, mm; none between centres, or where it cannot be said."""
        if one.set_up.station not in ("right", "left") or self.section is None:
            return None
        work = self._held_work(one)
        finished = min(
            (each.diameter_mm for each in one.set_up.surfaces if each.kind == "outside"), default=work.diameter_mm
        )
        at_centre = any(way.holding.name == "chuck_and_centre" for way in self.ways_to_hold(one)[:1])
        cut = WORKED_AS.get(self.stock.material, self.stock.material)
        bent = [
            bends_mm(work, mm, stiff_material=self.stock.material, cut_material=cut, at_centre=at_centre)
            for mm in (work.diameter_mm, finished)
        ]
        return (bent[0], bent[1]) if bent[0] is not None and bent[1] is not None else None

    def _held_work(self, one: PlannedSetUp) -> HeldWork:
        assert self.section is not None
        assert self.order is not None
        held = next((each for each in self.section.outside if each.letter == one.set_up.held_on), None)
        within = [
            bore.diameter_mm
            for bore in self.section.bores
            if held and bore.from_mm < held.to_mm and held.from_mm < bore.to_mm
        ]
        gripped_mm = held.diameter_mm if held else self.stock_mm
        return HeldWork(
            diameter_mm=gripped_mm, stands_out_mm=self.section.length_mm - (held.to_mm - held.from_mm if held else Decimal(0)),
            wall_mm=(gripped_mm - max(within)) / 2 if held and within else None, shape=self.stock.shape if not held else "round",
            pieces=self.state.in_force.pieces_wanted, runs_with=bool(held and self.order.dial_in), finished=held is not None,
        )  # fmt: skip

    @property
    def batch_ways(self) -> tuple[BatchWay, ...]:
        """The ways through a batch, counted; none for a single piece."""
        if self.order is None or not self.state.is_batch:
            return ()
        tools = [
            [step.operation.tool for step in one.operations if step.operation.tool != BY_HAND] for one in self.order.set_ups
        ]
        return batch_ways(tools, self.state.in_force.pieces_wanted)

    @property
    def may_give(self) -> list[str]:
        """The letters that may give where the stock does not clean up: what is only seen or free, what gives first in front."""
        return may_give((one.letter, one.duty) for one in self.state.made)

    @property
    def clock_minutes(self) -> float | None:
        """Minutes from the first tick that stands to the last, by the clock; none before there are two."""
        ticked = sorted(row.at for row in self.ticks.values())
        return (ticked[-1] - ticked[0]).total_seconds() / 60 if len(ticked) > 1 else None

    @cached_property
    def minutes(self) -> dict[str, float]:
        """About how long each operation takes, minutes, by key: an estimate."""
        found: dict[str, float] = {}
        tool = ""
        for one in self.order.operations if self.order else ():
            found[one.key] = minutes_of(
                one.operation, self.run_of(one), stock_mm=self.stock_mm, new_tool=one.operation.tool != tool
            )
            tool = one.operation.tool
        return found

    @property
    def total_minutes(self) -> float:
        """About how long a piece takes with its set-ups, minutes: an estimate."""
        return sum(self.minutes.values()) + HANDLING_MIN["set_up"] * (len(self.order.set_ups) if self.order else 0)

    def set_up_of(self, operation: PlannedOperation) -> PlannedSetUp:
        """The set-up an operation is done in."""
        assert self.order is not None
        return next(one for one in self.order.set_ups if operation in one.operations)

    @property
    def before_metal(self) -> list[str]:
        """What stands open before metal is cut, in words; empty where nothing does, or nobody planned anything."""
        if not self.entries:
            return []
        found = []
        if self.open_questions:
            found.append(f"{self.open_questions} open question{'s' if self.open_questions > 1 else ''}")
        if self.saw is not None and not self.saw.may_saw:
            found.append("the drawing and the metal do not agree")
        return found


def plan_of(session: Session, state: JobState) -> JobPlan:
    """The plan of a job as it stands."""
    return JobPlan(state, plan_entries(session, state.job.id))


def lathes_for(session: Session, plan: JobPlan) -> list[LatheConsidered]:
    """Every machine of the shop with what the work asks of it; those it fits first."""
    work = _work_size(plan)
    if work is None:
        return []
    order: dict[Verdict, int] = {"fits": 0, "not_said": 1, "does_not": 2}
    found = []
    for machine in shop.machines(session):
        room = MachineRoom(
            name=machine.name, room_mm=room_mm(machine.room), speeds=machine.speeds, most_rpm=machine.most_rpm
        )
        looked = checks(work, room, plan.state.unit)
        found.append(LatheConsidered(machine, looked, fits(looked)))
    return sorted(found, key=lambda one: order[one.verdict])


def against_the_machine(session: Session, plan: JobPlan) -> list[str]:
    """What the job's own machine has no room for, in words; empty where it has, or nobody chose one."""
    own = next((one for one in lathes_for(session, plan) if one.machine.id == plan.state.job.machine_id), None)
    return [check.sentence for check in own.checks if check.verdict == "does_not"] if own else []


def _work_size(plan: JobPlan) -> WorkSize | None:
    """What the part and its stock ask of a machine; none without a section."""
    if plan.section is None or plan.blank is None:
        return None
    across = plan.stock_mm
    between = plan.order is not None and any(one.set_up.station == "centres" for one in plan.order.set_ups)
    bores = [one.to_mm - one.from_mm for one in plan.section.bores]
    return WorkSize(
        swings_mm=corners_mm(plan.stock.shape, across), length_mm=plan.section.length_mm, held_mm=across,
        holding="between_centres" if between else "chuck", beyond_chuck_mm=plan.section.length_mm, drilled_mm=max(bores, default=Decimal(0)),
    )  # fmt: skip
