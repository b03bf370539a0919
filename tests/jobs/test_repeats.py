"""A form sent twice: the same content is the same answer, another is refused with what was kept; and two at once see
each other.
"""

import threading
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from uuid import UUID, uuid4

import pytest
from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.quantity.length import Length
from nomisma.jobs.closing.dispositions import DispositionGiven, decide
from nomisma.jobs.closing.handing_over import hand_over, take_up_again
from nomisma.jobs.cutting import cutting_run
from nomisma.jobs.opening import requirements
from nomisma.jobs.opening.assembling import AssemblyEntry, log_assembly, plan_assembly
from nomisma.jobs.opening.kept_answers import AnswerToKeep, keep_answer
from nomisma.jobs.opening.new_job import Lines, add_features, open_bush, open_by_lines, open_mated
from nomisma.jobs.opening.recipe import carry_over
from nomisma.jobs.planning import plan_log
from nomisma.jobs.planning.plan_entries import Intake, StockChosen, Tick
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.readings import gauges
from nomisma.jobs.readings.reading_log import Correction, log_reading, supersede
from nomisma.jobs.readings.trial_log import TrialEntry, log_trial
from nomisma.jobs.shop.choices import choose
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.shop.stock_shelf import bar_of, saw_off
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.state import JobState
from nomisma.store import shop
from nomisma.store.append import AlreadyChanged, AlreadySent, HandedOver
from nomisma.store.database import sessions_of
from nomisma.store.models import Base, Job, Reading
from tests.jobs.shop_floor import entry, job, now, opened, person, read

Send = Callable[[str], Any]
Command = Callable[[Session], Send]


def _out(db: Session) -> JobState:
    state = opened(db, "od 24 h9\nod 30 h9")
    read(db, state, "23.5")
    return now(db, state)


def _reading(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    given = entry(db, state, "24.3", id=id, place="near end 0°", with_="0–25 mm")
    return lambda said: log_reading(db, now(db, state), replace(given, size=said or "24.3"), by=person(db, "orla"))


def _correction(db: Session) -> Send:
    state, id = _out(db), uuid4()
    first = db.scalars(select(Reading).where(Reading.feature_id == state.feature_id)).one()
    return lambda said: supersede(
        db,
        now(db, state),
        first,
        Correction(id=id, what="withdrawn", size="", reason=said or "burr"),
        by=person(db, "orla"),
    )


def _trial(db: Session) -> Send:
    state, id = opened(db, "trial shutter plate wrings to slides"), uuid4()
    return lambda said: log_trial(
        db, now(db, state), TrialEntry(id=id, outcome="slides", place="mouth", note=said), by=person(db, "orla")
    )


def _disposition(db: Session) -> Send:
    state, id = _out(db), uuid4()
    return lambda said: decide(
        db, now(db, state), DispositionGiven(id, said or "use_as_is", "", "rides on oil"), by=person(db, "bram")
    )


def _kept_answer(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    asked = {"measured": "29.43 mm", "wanted": "28 mm"}
    given = AnswerToKeep(id=id, calculation="amount_to_take", asked=asked, values=asked, unit="mm")
    return lambda said: keep_answer(db, now(db, state), replace(given, note=said), by=person(db, "orla"))


def _hand_over(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    return lambda said: hand_over(db, now(db, state), said or "as is", by=person(db, "bram"), sent_id=id)


def _take_up(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    hand_over(db, state, "as is", by=person(db, "bram"), sent_id=uuid4())
    return lambda said: take_up_again(db, now(db, state), said, by=person(db, "bram"), sent_id=id)


def _question(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    return lambda said: plan_log.ask(
        db, plan_of(db, now(db, state)), said or "which way?", by=person(db, "orla"), sent_id=id
    )


def _intake(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    return lambda said: plan_log.take_in(
        db, plan_of(db, now(db, state)), Intake(must_do=said), by=person(db, "orla"), sent_id=id
    )


def _stock(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    stock = StockChosen(across="26", length="80", unit="mm")
    return lambda said: plan_log.choose_stock(
        db,
        plan_of(db, now(db, state)),
        stock.model_copy(update={"grip": said and "20"}),
        by=person(db, "orla"),
        sent_id=id,
    )


def _tick(db: Session) -> Send:
    state, id = opened(db, "od 24 h9 x 30 ±0.1"), uuid4()
    keys = [one.key for one in plan_of(db, state).order.operations]
    return lambda said: plan_log.tick(
        db, plan_of(db, now(db, state)), Tick(key=keys[1 if said else 0]), by=person(db, "orla"), sent_id=id
    )


def _limits(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    return lambda said: requirements.set_by_line(
        db, now(db, state), said or "24 ±0.1", based_on=1, by=person(db, "orla"), sent_id=id
    )


def _withdrawal(db: Session) -> Send:
    state, id = opened(db, "od 24 h9\ncham 0.5 x 45"), uuid4()
    return lambda said: requirements.withdraw(
        db, now(db, state), reason=said or "by hand", by=person(db, "orla"), sent_id=id
    )


def _callout(db: Session) -> Send:
    state, id = _mated(db), uuid4()
    return lambda said: requirements.say_partner(db, now(db, state), said or "24 H7", by=person(db, "orla"), sent_id=id)


def _mated(db: Session) -> JobState:
    return state_numbered(db, open_mated(db, job(db), "bore").number)


def _push(db: Session) -> Send:
    state, id = _mated(db), uuid4()
    other = _mated(db)
    return lambda said: plan_assembly(db, other if said else state, None, by=person(db, "orla"), sent_id=id)


def _assembled(db: Session) -> Send:
    state, id = _mated(db), uuid4()
    plan_assembly(db, state, None, by=person(db, "orla"), sent_id=uuid4())
    return lambda said: log_assembly(
        db, now(db, state), AssemblyEntry(id=id, felt="as_expected", note=said), by=person(db, "orla")
    )


def _features(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    return lambda said: add_features(
        db, now(db, state), Lines(said or "cham 1 x 45", "mm"), by_id=state.job.by_id, sent_id=id
    )


def _start(db: Session) -> Send:
    begun = job(db)
    values = {name: getattr(begun, name) for name in ("id", "title", "asked", "unit", "by_id")}
    return lambda said: open_by_lines(db, Job(**values), Lines(said or "od 24 h9", "mm"))


def _start_mated(db: Session) -> Send:
    begun = job(db)
    values = {name: getattr(begun, name) for name in ("id", "title", "asked", "unit", "by_id")}
    return lambda said: open_mated(db, Job(**{**values, "title": said or "hub"}), "bore")


def _start_bush(db: Session) -> Send:
    begun = job(db)
    values = {name: getattr(begun, name) for name in ("id", "title", "asked", "unit", "by_id")}
    return lambda said: open_bush(db, Job(**{**values, "title": said or "bush"}))


def _gauge(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    return lambda said: gauges.bind_gauge(db, now(db, state), said or "bench-gauge", by=person(db, "orla"), sent_id=id)


def _sawn(db: Session) -> Send:
    bar, id = shop.stock_bars(db)[0], uuid4()
    piece = Length.of("100", "mm")
    return lambda said: saw_off(
        db,
        bar_of(db, bar.first_id),
        Length.of(said, "mm") if said else piece,
        None,
        None,
        by=person(db, "orla"),
        sent_id=id,
    )


def _chosen(db: Session) -> Send:
    state, id = opened(db, "od 24 h9"), uuid4()
    return lambda said: choose(
        db,
        {"approach": said or "creep"},
        by=person(db, "orla"),
        job_id=state.job.id,
        in_force={"approach": "equal_cuts"},
        sent_id=id,
    )


# what is sent first (empty: the usual), and what else under the same id
COMMANDS: dict[str, tuple[Command, str]] = {
    "a reading": (_reading, "24.9"), "a correction": (_correction, "dirt"), "a trial": (_trial, "with oil"),
    "a disposition": (_disposition, "scrap"), "an answer kept": (_kept_answer, "for the bar"),
    "handing over": (_hand_over, "all good"),
    "taking up again": (_take_up, "once more"), "a question": (_question, "which hand?"),
    "what was asked": (_intake, "turns"),
    "stock": (_stock, "20"), "a tick": (_tick, "other"), "limits": (_limits, "24 ±0.2"),
    "a withdrawal": (_withdrawal, "not needed"),
    "a callout": (_callout, "24 H8"), "a push by hand": (_push, "other"), "what was seen": (_assembled, "tight"),
    "features added": (_features, "cham 2 x 45"), "a job by lines": (_start, "od 25 h9"),
    "a mated job": (_start_mated, "wheel"),
    "a bush": (_start_bush, "wheel"), "a gauge": (_gauge, "bench-indicator"), "a bar sawn": (_sawn, "120"),
    "a choice": (_chosen, "polish"),
}  # fmt: skip


def _counted(db: Session) -> dict[str, int]:
    tables = [table for table in Base.metadata.sorted_tables if table.name != "job_summary"]
    return {table.name: db.scalar(select(func.count()).select_from(table)) or 0 for table in tables}


@pytest.mark.parametrize("name", COMMANDS)
def test_sent_twice_it_is_one(db: Session, name: str) -> None:
    send = COMMANDS[name][0](db)
    first = send("")
    written = _counted(db)
    again = send("")
    assert getattr(again, "id", None) == getattr(first, "id", None)
    assert _counted(db) == written


@pytest.mark.parametrize("name", COMMANDS)
def test_sent_with_something_else_it_is_refused_and_nothing_is_kept(db: Session, name: str) -> None:
    make, other = COMMANDS[name]
    send = make(db)
    send("")
    written = _counted(db)
    with pytest.raises(AlreadySent, match="the first ones? stands?"):
        send(other)
    assert _counted(db) == written


def test_the_refusal_says_what_was_kept(db: Session) -> None:
    send = _disposition(db)
    send("use_as_is")
    with pytest.raises(AlreadySent, match="kind “use_as_is”"):
        send("scrap")


def test_a_repeat_of_a_start_burns_no_number(db: Session) -> None:
    send = _start(db)
    number = send("").number
    for _ in range(8):
        assert send("").number == number
    assert open_by_lines(db, job(db), Lines("od 25 h9", "mm")).number == number + 1


def test_two_decisions_at_once_the_second_sees_both(db: Session) -> None:
    state = _out(db)
    decide(db, state, DispositionGiven(uuid4(), "use_as_is", "", "it runs", seen=""), by=person(db, "bram"))
    with pytest.raises(
        AlreadyChanged, match="decided “Use as is” about it a moment before you .it runs.. Your “Scrap it” is not kept"
    ):
        decide(db, now(db, state), DispositionGiven(uuid4(), "scrap", "", "away", seen=""), by=person(db, "bram"))


def test_two_answers_at_once_the_second_sees_both(db: Session) -> None:
    state = opened(db, "od 24 h9")
    asked = plan_log.ask(db, plan_of(db, state), "which hand?", by=person(db, "orla"), sent_id=uuid4())
    plan = plan_of(db, state)
    plan_log.answer(db, plan, asked.id, "left", waived=False, by=person(db, "orla"), sent_id=uuid4(), seen="")
    with pytest.raises(
        AlreadyChanged, match="said it a moment before you: answer left. Yours is not kept: answer right"
    ):
        plan_log.answer(db, plan, asked.id, "right", waived=False, by=person(db, "bram"), sent_id=uuid4(), seen="")


def test_two_stocks_at_once_the_second_sees_both(db: Session) -> None:
    state = opened(db, "od 24 h9")
    plan = plan_of(db, state)
    for across, by in (("26", "orla"), ("28", "bram")):
        stock = StockChosen(across=across, length="80", unit="mm")
        if by == "bram":
            with pytest.raises(AlreadyChanged, match="across 26. Yours is not kept: across 28"):
                plan_log.choose_stock(db, plan, stock, by=person(db, by), sent_id=uuid4(), seen="")
        else:
            plan_log.choose_stock(db, plan, stock, by=person(db, by), sent_id=uuid4(), seen="")


def test_what_was_seen_may_be_said_otherwise(db: Session) -> None:
    state = opened(db, "od 24 h9")
    first = plan_log.choose_stock(
        db,
        plan_of(db, state),
        StockChosen(across="26", length="80", unit="mm"),
        by=person(db, "orla"),
        sent_id=uuid4(),
        seen="",
    )
    stock = StockChosen(across="28", length="80", unit="mm")
    row = plan_log.choose_stock(
        db, plan_of(db, state), stock, by=person(db, "bram"), sent_id=uuid4(), seen=str(first.id)
    )
    assert row.said["across"] == "28"


@pytest.mark.parametrize("keys", [["1/face:"] * 2, [f"9/nothing:{n}" for n in range(500)]])
def test_an_order_of_strangers_or_of_one_operation_twice_is_refused(db: Session, keys: list[str]) -> None:
    state = opened(db, "od 24 h9 x 30 ±0.1")
    with pytest.raises(InputError, match="not in the plan|named twice"):
        plan_log.keep_order(db, plan_of(db, state), keys, "", by=person(db, "orla"), sent_id=uuid4())


def test_another_job_begun_from_one_is_carried_over_whole_or_not_at_all(db: Session) -> None:
    former = opened(db, "od 24 h9")
    plan_log.take_in(db, plan_of(db, former), Intake(must_do="turns"), by=person(db, "orla"), sent_id=uuid4())
    begun = opened(db, "od 24 h9")
    carry_over(db, former, begun, by=person(db, "orla"))
    carried = _counted(db)["plan_entry"]
    carry_over(db, former, begun, by=person(db, "orla"))
    assert _counted(db)["plan_entry"] == carried


def test_what_a_machine_taught_is_set_aside_by_whom_may(db: Session) -> None:
    with pytest.raises(NotAllowed, match="What a machine has taught is set aside by a machinist or the lead"):
        cutting_run.forget_earlier_set_ups(db, opened(db, "od 24 h9"), by=person(db, "pim"), sent_id=uuid4())


def test_a_reading_on_the_way_when_a_job_is_handed_over_comes_before_it_or_not_at_all(engine: Engine) -> None:
    sessions = sessions_of(engine)
    with sessions() as session:
        number = opened(session, "od 24 h9").job.number
        session.commit()
    outcomes: list[str] = []
    on_the_way, closed = threading.Event(), threading.Event()

    def log() -> None:
        with sessions() as session:
            state = state_numbered(session, number)  # it is open still
            given = entry(session, state, "24.3", place="near end 0°", with_="0–25 mm")
            on_the_way.set()
            closed.wait(10)
            try:
                log_reading(session, state, given, by=person(session, "pim"))
                session.commit()
                outcomes.append("kept")
            except HandedOver:
                outcomes.append("refused")

    reader = threading.Thread(target=log)
    reader.start()
    on_the_way.wait(10)
    with sessions() as session:
        hand_over(session, state_numbered(session, number), "as is", by=person(session, "bram"), sent_id=uuid4())
        session.commit()
    closed.set()
    reader.join(20)
    assert outcomes == ["refused"]


def test_handing_over_waits_for_a_reading_that_is_being_written(engine: Engine) -> None:
    sessions = sessions_of(engine)
    with sessions() as session:
        state = opened(session, "od 24 h9")
        number, feature_id = state.job.number, state.feature_id
        session.commit()
    done: list[str] = []

    def close() -> None:
        with sessions() as session:
            hand_over(session, state_numbered(session, number), "as is", by=person(session, "bram"), sent_id=uuid4())
            done.append("closed")
            session.commit()

    with sessions() as session:
        state = state_numbered(session, number)
        log_reading(
            session,
            state,
            entry(session, state, "24.3", place="near end 0°", with_="0–25 mm"),
            by=person(session, "orla"),
        )
        closer = threading.Thread(target=close)
        closer.start()
        closer.join(0.5)
        assert done == []
        session.commit()
    closer.join(20)
    assert done == ["closed"]
    assert _readings(engine, feature_id) == 1


def _readings(engine: Engine, feature_id: UUID) -> int:
    with sessions_of(engine)() as session:
        return session.scalar(select(func.count()).select_from(Reading).where(Reading.feature_id == feature_id)) or 0
