"""What a job's record says of its plan."""

from collections.abc import Iterator, Sequence
from decimal import Decimal
from typing import cast

from sqlalchemy.orm import Session

from nomisma.core.order.mountings import MOUNTING_WORDS
from nomisma.core.order.order import PlannedOperation, PlannedSetUp
from nomisma.core.order.set_ups import STOCK_WORDS
from nomisma.core.planning.blank import SHAPE_WORDS, SURFACE_WORDS
from nomisma.core.planning.holding import holdings
from nomisma.exchange.recorded_plan import (
    RecordedDone,
    RecordedIntake,
    RecordedLook,
    RecordedOperation,
    RecordedPlan,
    RecordedQuestion,
    RecordedRunout,
    RecordedSetUp,
    RecordedStock,
)
from nomisma.jobs.planning.plan_entries import (
    CAME_AS_WORDS,
    KNOWN_BY_WORDS,
    TOPICS,
    FirstStart,
    RunoutRead,
    Said,
    SawLooked,
    StockChosen,
    Tick,
    Topic,
    WentOn,
)
from nomisma.jobs.planning.plan_state import Asked, JobPlan, plan_of
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.jobs.standing.pieces import serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.models import PlanEntry


def recorded_plan(session: Session, state: JobState) -> RecordedPlan | None:
    """The plan of a job; none where nobody said anything of it."""
    plan = plan_of(session, state)
    if not plan.entries:
        return None
    return RecordedPlan(
        intake=_intake(plan),
        questions=[_question(one) for one in plan.questions],
        stock=_stock(plan),
        looks=[_look(row, cast(SawLooked, said)) for row, said in _all(plan, "saw")],
        set_ups=[*_set_ups(plan), *_of_pieces_gone_on(plan)],
        order_by_hand=plan.order is not None and plan.order.by_hand,
        order_reason=plan.kept_order.reason,
        went_on=_went_on(plan),
        made_with_jobs=plan.family,
    )


def _set_ups(plan: JobPlan) -> list[RecordedSetUp]:
    return [_set_up(plan, one) for one in plan.order.set_ups] if plan.order else []


def _of_pieces_gone_on(plan: JobPlan) -> Iterator[RecordedSetUp]:
    """Of a batch, what other pieces went through otherwise than the first."""
    known = {one.key for one in plan.order.operations} if plan.order else set()
    for piece in serials(plan.state)[1:]:
        own = plan.for_piece(piece)
        for one in own.order.set_ups if own.order and own.gone_on else ():
            if {each.key for each in one.operations} - known:
                found = _set_up(own, one)
                yield found.model_copy(update={"title": f"{found.title}, piece {piece}"})


def _went_on(plan: JobPlan) -> list[RecordedDone]:
    """When the rest was planned anew from a piece as it was, and why."""
    return [
        RecordedDone(piece=said.piece, by=row.by.name, at=row.at, reason=said.reason)
        for row, said in _all(plan, "gone_on")
        if isinstance(said, WentOn)
    ]


def _all(plan: JobPlan, topic: Topic) -> list[tuple[PlanEntry, Said]]:
    return [(row, TOPICS[topic].as_kept(row.said)) for row in plan.entries if row.topic == topic]


def _intake(plan: JobPlan) -> RecordedIntake | None:
    row, said = plan.newest("intake"), plan.intake
    if row is None or said is None:
        return None
    return RecordedIntake(
        must_do=said.must_do,
        for_whom=said.for_whom,
        needed_by=said.needed_by,
        came_as=CAME_AS_WORDS[said.came_as],
        material=said.material,
        known_by=KNOWN_BY_WORDS[said.known_by],
        surfaces=said.surfaces,
        worn=said.worn,
        by=row.by.name,
        at=row.at,
    )


def _question(one: Asked) -> RecordedQuestion:
    asked = RecordedQuestion(question=one.question.question, by=one.row.by.name, at=one.row.at)
    if one.answer is None or one.answered is None:
        return asked
    answered = {"answered_by": one.answered.by.name, "answered_at": one.answered.at}
    return asked.model_copy(update={"answer": one.answer.answer, "waived": one.answer.waived, **answered})


def _stock(plan: JobPlan) -> RecordedStock | None:
    row, said = plan.newest("stock"), plan.stock
    if row is None:
        return None
    return RecordedStock(
        shape=SHAPE_WORDS[said.shape],
        surface=SURFACE_WORDS[said.surface],
        material=said.material,
        across=said.across,
        bore=said.bore,
        length=said.length,
        parting=said.parting,
        grip=said.grip,
        unit=said.unit,
        held=STOCK_WORDS[said.held],
        chosen=list(_chosen(said)),
        by=row.by.name,
        at=row.at,
    )


def _chosen(said: StockChosen) -> Iterator[str]:
    """What was chosen of how the part is made."""
    if said.face_as_parted:
        yield "the far face may stay as parted"
    if said.rough_first:
        yield "roughed all over first"
    if said.centred:
        yield "it has its own centre holes"
    if said.mounting != "any":
        yield f"held {MOUNTING_WORDS[said.mounting]}"


def _look(row: PlanEntry, said: SawLooked) -> RecordedLook:
    return RecordedLook(
        length_again=said.length_again,
        diameter_again=said.diameter_again,
        may_saw=said.may_saw,
        headline=said.headline,
        against=said.against,
        by=row.by.name,
        at=row.at,
    )


def _set_up(plan: JobPlan, one: PlannedSetUp) -> RecordedSetUp:
    ways, key = PlannedWork(plan).ways_to_hold(one), one.set_up.name
    ready = [
        (row, said) for row, said in _all(plan, "first_start") if isinstance(said, FirstStart) and said.set_up == key
    ]
    return RecordedSetUp(
        number=one.number,
        title=one.title,
        way=ways[0].holding.title if ways else "",
        reason=ways[0].why if ways else "",
        runouts=[
            _runout(row, said)
            for row, said in _all(plan, "runout")
            if isinstance(said, RunoutRead) and said.set_up == key
        ],
        ready=[
            RecordedDone(piece=said.piece, by=row.by.name, at=row.at, reason=said.reason, lathe=said.lathe)
            for row, said in ready
        ],
        operations=[_operation(plan, each, _all(plan, "tick")) for each in one.operations],
    )


def _runout(row: PlanEntry, said: RunoutRead) -> RecordedRunout:
    return RecordedRunout(
        piece=said.piece,
        readings=said.readings,
        indicator=said.indicator,
        total_indicator_reading_mm=Decimal(said.total_indicator_reading_mm),
        allowed_mm=Decimal(said.allowed_mm) if said.allowed_mm else None,
        said=f"{holdings()[said.way].title}: {said.headline}",
        by=row.by.name,
        at=row.at,
    )


def _operation(plan: JobPlan, one: PlannedOperation, ticks: Sequence[tuple[PlanEntry, Said]]) -> RecordedOperation:
    done: dict[str, RecordedDone] = {}
    for row, said in ticks:
        if isinstance(said, Tick) and said.key == one.key and not said.letter:
            done.pop(said.piece, None)
            if said.done:
                closed = "by its reading" if said.by_reading else "without its reading" if said.without_reading else ""
                done[said.piece] = RecordedDone(
                    piece=said.piece, by=row.by.name, at=row.at, lathe=said.lathe, closed=closed
                )
    return RecordedOperation(
        number=one.number,
        title=one.operation.title,
        tool=one.operation.tool,
        breaks=list(one.breaks),
        finds=[each.letter for each in plan.measured_at(one)],
        done=list(done.values()),
    )
