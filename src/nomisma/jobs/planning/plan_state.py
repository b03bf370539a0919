"""How a job's plan stands: what was said last of each topic, what is open, the order of work and what of it is done."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from functools import cached_property
from typing import cast

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.measuring.disposition import OUT_DISPOSITIONS
from nomisma.core.operations.hole_tools import HoleTools
from nomisma.core.operations.slide_dials import NO_DIALS, SlideDials, slide_dials
from nomisma.core.operations.task import LEFT_ROUGH
from nomisma.core.order.from_now import GoneOn, gone_on
from nomisma.core.order.holds import SPINDLE_BORE_MM
from nomisma.core.order.laid_out import StockKind, StockSaid
from nomisma.core.order.mountings import PlanMounting
from nomisma.core.order.order import OrderOfWork, PlannedOperation, PlannedSetUp, mountings_that_run, order_of_work
from nomisma.core.part.feature import State
from nomisma.core.part.section import Section, section_of
from nomisma.core.planning.blank import MOST_PIECES, BlankInput, BlankResult, blank
from nomisma.core.planning.which_lathe import room_mm
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.planning.plan_entries import (
    TOPICS,
    Answer,
    FamilyNamed,
    Intake,
    OrderKept,
    Question,
    Said,
    SawLooked,
    StockChosen,
    Tick,
    Topic,
    WentOn,
)
from nomisma.jobs.shop.plan_choices import DEFAULTS, plan_choices, tools_of
from nomisma.jobs.standing.pieces import is_read_at_its_places, serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.by_version import by_version
from nomisma.store.jobs import dispositions
from nomisma.store.models import Disposition, PlanEntry
from nomisma.store.plans import plan_entries


def feature_key(letter: str) -> str:
    """The key of the step at which a feature is measured that no operation makes."""
    return f"feature/{letter}"


@dataclass(frozen=True, slots=True)
class Asked:
    """A question with its row, and its answer where it has one."""

    row: PlanEntry
    question: Question
    answer: Answer | None = None
    answered: PlanEntry | None = None


_OF_EVERY_PIECE = ("intake", "stock", "saw", "kept_order", "section", "questions", "order", "tools", "dials", "blank")
"""What of a plan is the same whichever piece is in hand."""


@dataclass(frozen=True)
class JobPlan:
    """A job's plan as it stands, for the piece in hand of a batch (empty: the one piece); `choices`: what the shop says
    of its planning; `dispositions`: what was decided about its pieces, oldest first.
    """

    state: JobState
    entries: Sequence[PlanEntry]
    piece: str = ""
    choices: Mapping[str, str] = field(default_factory=lambda: DEFAULTS)
    dispositions: Sequence[Disposition] = ()

    def for_piece(self, piece: str) -> "JobPlan":
        """The same plan for another piece of the batch: what does not depend on the piece is not worked out again."""
        found = replace(self, piece=piece)
        alike = {name: value for name, value in self.__dict__.items() if name in _OF_EVERY_PIECE}
        if self.gone_on or found.gone_on:
            alike.pop("order", None)
        found.__dict__.update(alike)
        return found

    @property
    def asked_by(self) -> tuple[Hashable, ...]:
        """By what an answer about the plan is found again."""
        return *self.state.asked_by, self.piece

    def newest(self, topic: Topic) -> PlanEntry | None:
        """What was said last of a topic."""
        return next((row for row in reversed(self.entries) if row.topic == topic), None)

    def _said(self, topic: Topic) -> Said | None:
        row = self.newest(topic)
        return TOPICS[topic].as_kept(row.said) if row else None

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
        """The newest look before the saw, if the part and its blank are still as long as they were then."""
        found = cast(SawLooked | None, self._said("saw"))
        if found is None or not found.for_blank_mm or self.section is None or self.blank is None:
            return None
        lengths = self.section.length_mm, self.blank.blank_length.mm
        return found if (Decimal(found.for_length_mm), Decimal(found.for_blank_mm)) == lengths else None

    @cached_property
    def kept_order(self) -> OrderKept:
        """The order a hand put."""
        return cast(OrderKept | None, self._said("order")) or OrderKept(keys=[])

    @property
    def family(self) -> list[int]:
        """The numbers of the jobs that are made together with this one."""
        said = cast(FamilyNamed | None, self._said("family"))
        return said.jobs if said is not None else []

    @cached_property
    def section(self) -> Section | None:
        """The part that is made in section."""
        return section_of(self.state.lettered)

    @property
    def length_not_known(self) -> str:
        """That the part's length is not known, in words: how long which outside is nobody said; empty where it is
        known.
        """
        letters = self.section.lengths_not_said if self.section else ()
        if not letters:
            return ""
        return f"How long {' and '.join(letters)} {'is' if len(letters) == 1 else 'are'} nobody said"

    @cached_property
    def questions(self) -> list[Asked]:
        """Every question, the open ones first."""
        answers = {}
        for row in self.entries:
            if row.topic == "answer":
                answer = Answer.as_kept(row.said)
                answers[answer.of] = (answer, row)
        asked = [
            Asked(row, Question.as_kept(row.said), *answers.get(str(row.id), (None, None)))
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
        return self.order_with(self._orders_put[-1])

    def order_with(self, keys: Sequence[str], then: GoneOn | None = None) -> OrderOfWork | None:
        """The order of work as a hand would have it, by its keys; of a piece that went on otherwise as it did. `then`:
        as it would go on from now, besides.
        """
        *before, kept = [*self._orders_put[:-1], tuple(keys)]
        found = order_of_work(
            self.state.lettered,
            stock=self.stock_said,
            face_as_parted=self.stock.face_as_parted,
            kept=before[0] if before else kept,
            unit=self.state.unit,
            tools=self.tools,
            rough_first=self.stock.rough_first,
        )
        how = [
            GoneOn(tuple(one.done), one.first, order)
            for one, order in zip(self.gone_on, [*before[1:], kept], strict=bool(before))
        ]
        how += [then] if then is not None else []
        if found is None or not how:
            return found
        return gone_on(found, how, self.stock_said, face_as_parted=self.stock.face_as_parted)

    @cached_property
    def gone_on(self) -> list[WentOn]:
        """How the piece in hand went on otherwise than it was planned, oldest first."""
        return [one for _, one in self._went_on]

    @property
    def done_keys(self) -> tuple[str, ...]:
        """The operations that are done of the piece in hand, by their keys, in the order of the plan."""
        return tuple(one.key for one in (self.order.operations if self.order else ()) if self.is_done(one))

    def going_on(self, first: str) -> OrderOfWork | None:
        """The order of work as it would go on from the piece in hand as it is, with an operation of another set-up
        next, by its key. Where no plan does, `complaints` says why.
        """
        return self.order_with(self._orders_put[-1], GoneOn(self.done_keys, first))

    @cached_property
    def _went_on(self) -> list[tuple[PlanEntry, WentOn]]:
        every = ((row, WentOn.as_kept(row.said)) for row in self.entries if row.topic == "gone_on")
        return [(row, said) for row, said in every if said.piece == self.piece]

    @cached_property
    def _orders_put(self) -> list[tuple[str, ...]]:
        """The order a hand put, of the plan at first and of each as it went on: each the newest before the next."""
        begins = [0, *(row.sequence for row, _ in self._went_on)]
        puts = [(row.sequence, tuple(OrderKept.as_kept(row.said).keys)) for row in self.entries if row.topic == "order"]
        found = []
        for at, since in enumerate(begins):
            until = begins[at + 1] if at + 1 < len(begins) else None
            own = [keys for sequence, keys in puts if sequence > since and (until is None or sequence < until)]
            found.append(own[-1] if own else ())
        return found

    def mountings(self) -> list[tuple[PlanMounting, OrderOfWork]]:
        """The ways to mount the whole part that were run, each with its plan."""
        return mountings_that_run(
            self.state.lettered,
            self.stock_said,
            face_as_parted=self.stock.face_as_parted,
            unit=self.state.unit,
            tools=self.tools,
            rough_first=self.stock.rough_first,
        )

    @cached_property
    def tools(self) -> HoleTools:
        """What the shop has for holes."""
        return tools_of(self.choices)

    @cached_property
    def dials(self) -> SlideDials:
        """How the handwheels of the job's lathe are graduated; nothing is known of them where no lathe is named."""
        machine = self.state.job.machine
        return slide_dials(room_mm(machine.room), machine.dial_reads) if machine else NO_DIALS

    @cached_property
    def stock_said(self) -> StockSaid:
        """The stock as the plan is run on it: what was measured of it, else what is usual."""
        stock, given = self.stock, self.blank_input
        machine = self.state.job.machine
        room = room_mm(machine.room) if machine else {}
        kind: StockKind = "cast" if stock.held == "blank" and stock.surface == "cast" else stock.held
        one_blank = kind == "blank" and self.state.in_force.pieces_wanted == 1
        across = given.stock_across if given else None
        skin = given.skin_mm if given is not None and stock.with_skin else Decimal(0)
        if kind == "cast" and across is not None and self.section is not None:
            skin = max((across.mm - self.section.diameter_mm) / 2, Decimal(0))
        return StockSaid(
            kind,
            "round" if stock.shape == "tube" else stock.shape,
            across_mm=across.mm if across else None,
            bore_mm=given.stock_bore.mm if given and given.stock_bore and stock.shape == "tube" else Decimal(0),
            long_mm=given.stock_length.mm if given and given.stock_length and one_blank else None,
            skin_mm=skin,
            blade_mm=given.parting.mm if given and given.parting.mm > 0 else None,
            spindle_mm=room.get("spindle_bore", SPINDLE_BORE_MM),
            centred=stock.centred,
            mounting=stock.mounting,
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
        given = {
            name: parse_length(text, stock.unit, positive=name.startswith("stock_"))
            for name, text in sizes.items()
            if text
        }
        bores = [one.diameter_mm for one in self.section.bores]
        left_on_mm = 2 * LEFT_ROUGH[unit].mm if stock.rough_first else Decimal(0)  # it is sawn for its rough shape
        return BlankInput(
            finished_length=Length(self.section.length_mm + left_on_mm, unit),
            finished_diameter=Length(self.section.diameter_mm + left_on_mm, unit),
            bore=Length(max(bores), unit) if bores and stock.shape == "tube" else None,
            shape=stock.shape,
            surface=stock.surface,
            pieces=min(self.state.in_force.pieces_wanted, MOST_PIECES),
            material=stock.material,
            lift_kg=Decimal(self.choices["lift_kg"]),
            unit=unit,
            **given,
        )

    @cached_property
    def blank(self) -> BlankResult | None:
        """The blank for all pieces; none where part or stock is not known well enough, or the part is mended."""
        if self.stock.held == "repair":
            return None
        try:
            given = self.blank_input
            return blank(given.model_copy(update={"outside_stays": self._outside_stays})) if given else None
        except InputError:
            return None

    @property
    def _outside_stays(self) -> bool:
        """Whether the largest outside stays as the stock came."""
        piece = self.order.piece if self.order is not None else None
        if piece is None:
            return False
        largest = max(piece.section.outside, key=lambda step: step.diameter_mm)
        wide = (piece.bought_mm or largest.diameter_mm) >= largest.diameter_mm
        return largest.letter in piece.as_bought or (wide and piece.stays(largest.letter))

    @property
    def stock_mm(self) -> Decimal:
        """The stock's diameter, mm: as measured, else the least it must be; 0 where the part is not known."""
        if self.blank is None or self.blank_input is None:
            return Decimal(0)
        return self.blank_input.stock_across.mm if self.blank_input.stock_across else self.blank.least_across.mm

    @property
    def stock_not_said(self) -> str:
        """What comes on top of the blank and nobody said; empty where all is said, or nothing is held beyond
        the part.
        """
        missing = [name for name in ("parting", "grip") if not getattr(self.stock, name)]
        return " and ".join(missing) if self.stock.held == "bar" else ""

    @cached_property
    def _ticked(self) -> list[tuple[PlanEntry, Tick]]:
        """What was ticked off of the piece in hand, and taken back, oldest first."""
        every = ((row, Tick.as_kept(row.said)) for row in self.entries if row.topic == "tick")
        return [(row, tick) for row, tick in every if tick.piece == self.piece]

    @cached_property
    def closed(self) -> dict[str, PlanEntry]:
        """By key, the row that closed an operation of the piece in hand, by hand or by a reading, and was not taken
        back.
        """
        done: dict[str, PlanEntry] = {}
        for row, tick in self._ticked:
            if not tick.letter:
                done.pop(tick.key, None)
                if tick.done:
                    done[tick.key] = row
        return done

    @cached_property
    def ticks(self) -> dict[str, PlanEntry]:
        """By key, the row that ticked an operation of the piece in hand off by hand and was not taken back."""
        by_reading = {row.id for row, tick in self._ticked if tick.by_reading}
        return {key: row for key, row in self.closed.items() if row.id not in by_reading}

    @cached_property
    def _read_enough(self) -> frozenset[str]:
        """The keys of the steps at which somebody said that the piece in hand was read at places enough."""
        return frozenset(tick.key for _, tick in self._ticked if tick.letter)

    def is_decided(self, made: JobState) -> bool:
        """Whether what was decided last about a feature of the piece in hand lets it stay out of its limits; of a
        single piece, where nothing was measured since.
        """
        about = [row for row in self.dispositions if row.feature_id == made.feature_id and row.piece == self.piece]
        stands = made.is_batch or bool(made.decided)
        return stands and bool(about) and about[-1].kind in OUT_DISPOSITIONS

    def is_in_limits(self, made: JobState) -> bool:
        """Whether a feature of the piece in hand is in limits by all that was read of it, or decided about."""
        found = made.verdict_of_piece.get(self.piece)
        return self.is_decided(made) or (found is not None and found.state is State.IN_LIMITS)

    def is_read(self, made: JobState) -> bool:
        """Whether a feature of the piece in hand is read at its places and in limits, or in limits where somebody said
        at its step that one place is enough; or decided about.
        """
        if self.is_decided(made) or is_read_at_its_places(made, self.piece):
            return True
        key = self._made_by.get(made.letter, feature_key(made.letter))
        return key in self._read_enough and self.is_in_limits(made)

    def features_of(self, one: PlannedOperation) -> list[JobState]:
        """The features an operation makes, each with its limits and readings."""
        return [made for letter in one.operation.letters for made in self.state.made if made.letter == letter]

    @cached_property
    def _made_by(self) -> dict[str, str]:
        """By the letter of each feature, the key of the last operation that makes it."""
        return {
            letter: one.key for one in (self.order.operations if self.order else ()) for letter in one.operation.letters
        }

    def measured_at(self, one: PlannedOperation) -> list[JobState]:
        """The features whose size is found at an operation: those it is the last to make."""
        return [
            made
            for made in self.features_of(one)
            if self._made_by[made.letter] == one.key and made.requirement is not None and not made.may_be_left
        ]

    def is_done(self, one: PlannedOperation) -> bool:
        """Whether it is ticked off for the piece in hand; what is measured after it is done once all of that is read
        and in limits.
        """
        if one.key in self.ticks:
            return True
        judged = self.measured_at(one)
        return bool(judged) and all(self.is_read(made) for made in judged)

    @property
    def last_changed(self) -> PlanEntry | None:
        """What was said last that may change its steps."""
        changes: tuple[Topic, ...] = ("stock", "order", "holding", "gone_on")
        return next((row for row in reversed(self.entries) if row.topic in changes), None)

    @property
    def done_count(self) -> int:
        """How many operations are done."""
        return sum(self.is_done(one) for one in self.order.operations) if self.order else 0

    @property
    def next_operation(self) -> PlannedOperation | None:
        """The first operation that is not done; none where all are, or there is no plan."""
        operations = self.order.operations if self.order else ()
        return next((one for one in operations if not self.is_done(one)), None)

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


@by_version("job")
def plan_of(session: Session, state: JobState, piece: str = "") -> JobPlan:
    """The plan of a job as it stands; of a batch for one piece, the first where none of them is named."""
    known = serials(state)
    in_hand = piece if piece in known else next(iter(known), "")
    decided = dispositions(session, *(one.feature_id for one in state.made))
    return JobPlan(state, plan_entries(session, state.job.id), in_hand, plan_choices(session), decided)
