"""A planned set-up at the lathe: how it is held, what the needle said, ready to be started or not any more."""

from decimal import Decimal
from uuid import uuid4

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, NotDefined
from nomisma.core.planning.chucking import RunoutVerdict
from nomisma.jobs.closing.handing_over import hand_over
from nomisma.jobs.holding.chucking import Chucking, chucking_named, chuckings_of, in_hand
from nomisma.jobs.holding.chucking_log import RunoutEntry, choose_holding, declare_ready_to_cut, log_runout
from nomisma.jobs.opening.requirements import plan_measuring
from nomisma.jobs.planning.plan_entries import StockChosen
from nomisma.jobs.planning.plan_log import choose_stock
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.readings.reading_log import log_reading
from nomisma.store.append import HandedOver
from nomisma.store.models import Instrument
from tests.jobs.shop_floor import entry, now, opened, person, read

STEPPED = "od 24 ±0.1 x 30 ±0.1\nod 40 ±0.1 x 10 ±0.1\nod 20 ±0.1 x 8 ±0.1\nbore 12 H7 thru\nrunout 0.05 true to G"


def begun(db: Session, lines: str = STEPPED) -> list[Chucking]:
    return chuckings_of(db, plan_of(db, opened(db, lines)))


def again(db: Session, chucking: Chucking, piece: str = "") -> Chucking:
    return chucking_named(chuckings_of(db, plan_of(db, now(db, chucking.plan.state), piece)), chucking.key)


def plunger(db: Session) -> Instrument:
    return db.scalars(select(Instrument).where(Instrument.name.startswith("Plunger indicator, 0.01"))).one()


def swing(db: Session, chucking: Chucking, text: str) -> Chucking:
    log_runout(db, chucking, RunoutEntry(uuid4(), text, plunger(db)), by=person(db, "orla"))
    return again(db, chucking)


def started(db: Session, chucking: Chucking) -> Chucking:
    steps = frozenset(range(len(chucking.way.before_first_start)))
    declare_ready_to_cut(db, chucking, steps, by=person(db, "orla"), sent_id=uuid4())
    return again(db, chucking)


def hold(db: Session, chucking: Chucking, way: str, reason: str = "") -> Chucking:
    choose_holding(db, chucking, way, reason, by=person(db, "orla"), sent_id=uuid4())
    return again(db, chucking)


def test_the_set_up_in_hand_is_the_first_that_is_not_ready(db: Session) -> None:
    first, second = begun(db)
    assert in_hand([first, second]) is first
    ready = started(db, first)
    assert ready.ready
    assert in_hand([ready, second]) is second


def test_a_part_without_a_plan_has_no_set_ups(db: Session) -> None:
    assert begun(db, "bore 12 H7") == []
    assert in_hand([]) is None


def test_what_is_read_or_held_otherwise_afterwards_is_looked_at_again(db: Session) -> None:
    first = started(db, begun(db)[0])
    assert swing(db, first, "0.05").ready is None
    first = started(db, again(db, first))
    assert hold(db, first, "four_jaw").ready is None


def test_a_step_that_is_not_ticked_is_counted(db: Session) -> None:
    first = begun(db)[0]
    with pytest.raises(InputError, match=r"5 of the 6 steps are not ticked"):
        declare_ready_to_cut(db, first, frozenset({0}), by=person(db, "orla"), sent_id=uuid4())


def starts_only_with_a_reason(db: Session, found: Chucking, said: str) -> None:
    with pytest.raises(InputError, match=said) as refused:
        started(db, found)
    assert refused.value.field == "start_reason"
    steps = frozenset(range(len(found.way.before_first_start)))
    declare_ready_to_cut(
        db, found, steps, "its outside is turned again on a mandrel", by=person(db, "orla"), sent_id=uuid4()
    )
    assert again(db, found).ready is not None


def test_started_although_it_swings_too_much_it_says_why(db: Session) -> None:
    second = hold(db, begun(db)[1], "three_jaw", "the four-jaw is in use")
    found = swing(db, second, "0.21")
    assert found.is_too_much
    starts_only_with_a_reason(db, found, "too much")


def test_started_although_it_swings_more_than_its_jaws_usually_leave_it_says_why(db: Session) -> None:
    first = begun(db)[0]
    assert first.allowed.most_mm is None, "nothing asks for better: it is held on its stock"
    found = swing(db, first, "0.6")
    assert not found.is_too_much
    starts_only_with_a_reason(db, found, "More than is usual for it")


def test_held_in_its_bore_the_jaws_push_out_and_nothing_else_stands_for_it(db: Session) -> None:
    state = opened(db, "od 60 ±0.1 x 20 ±0.1\nbore 20 H7 thru")
    choose_stock(db, plan_of(db, state), StockChosen(held="blank", unit="mm"), by=person(db, "orla"), sent_id=uuid4())
    second = chuckings_of(db, plan_of(db, now(db, state)))[1]
    assert (second.planned.set_up.held_on, second.grip) == ("C", "inside")
    assert second.held_long_mm == 20
    assert second.work.stands_out_mm(second.planned) == Decimal("20.8")  # from the face at the mandrel's shoulder


def test_a_swing_is_judged_by_the_stock_that_was_measured(db: Session) -> None:
    first = begun(db)[0]
    choose_stock(db, first.plan, StockChosen(across="42", unit="mm"), by=person(db, "orla"), sent_id=uuid4())
    largest = max(one.diameter_mm for one in first.planned.set_up.surfaces if one.kind == "outside")
    spare = 42 - largest
    found = swing(db, again(db, first), str(spare))
    assert found.last_runout is not None
    assert found.last_runout.judged.state is RunoutVerdict.GOOD
    assert swing(db, found, f"{spare + 1}").is_too_much


def test_a_round_beside_three_jaws_says_what_is_packed(db: Session) -> None:
    second = hold(db, begun(db)[1], "three_jaw", "the four-jaw is in use")
    assert second.allowed.most_mm is not None
    found = swing(db, second, "0.21 0 0.05")
    assert found.last_runout is not None
    assert found.packing is not None
    assert [(one.jaw, float(one.thick.mm)) for one in found.packing.packings] == [
        (1, pytest.approx(0.21)),
        (3, pytest.approx(0.05)),
    ]
    assert round(float(found.last_runout.total_indicator_reading_mm), 4) == 0.2533  # twice ⅔·|0.21, 0, 0.05| by hand


def test_the_parts_own_runout_is_what_the_second_chucking_may_swing(db: Session) -> None:
    second = begun(db)[1]
    assert second.allowed.most_mm == Decimal("0.05")
    assert second.allowed.why.endswith("the part's own runout")


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("", "Nothing was entered"), ("cheese", "not understood"), ("-0.1", "not below zero"),
        ("40", "past the indicator's range"),
        ("1 2", "no swing"),
    ],
)  # fmt: skip
def test_a_swing_that_is_none_is_refused_with_a_sentence(db: Session, text: str, sentence: str) -> None:
    with pytest.raises(InputError, match=sentence) as found:
        swing(db, begun(db)[0], text)
    assert found.value.field == "runout"


def test_a_round_without_an_indicator_of_the_shop_is_refused(db: Session) -> None:
    with pytest.raises(InputError, match="How fine the needle reads") as found:
        log_runout(db, begun(db)[0], RunoutEntry(uuid4(), "0.1 0 0"), by=person(db, "orla"))
    assert found.value.field == "instrument_id"


def test_a_way_the_plan_does_not_suggest_needs_a_reason_and_none_is_refused(db: Session) -> None:
    first = begun(db)[0]
    with pytest.raises(InputError, match="not among what the plan suggests"):
        hold(db, first, "faceplate")
    with pytest.raises(InputError, match="no way of holding"):
        hold(db, first, "by hand")
    found = hold(db, first, "faceplate", "the casting's feet are flat")
    assert (found.way.name, found.suggestions[0].why) == ("faceplate", "the casting's feet are flat")


def test_a_four_jaw_takes_no_swing_here(db: Session) -> None:
    with pytest.raises(InputError, match="round by round"):
        swing(db, hold(db, begun(db)[0], "four_jaw"), "0.1")


def test_soft_jaws_are_cut_to_the_surface_as_measured_with_a_step_as_deep_as_it_but_a_little(db: Session) -> None:
    second = hold(db, begun(db)[1], "soft_jaws")
    assert second.held is not None
    assert second.held_size is not None
    assert second.held_size[1] is False
    read(db, second.held, f"{second.held_size[0].mm - Decimal('0.02')}")
    found = again(db, second)
    assert found.held_size is not None
    assert found.soft_jaws is not None
    assert found.held_size[1] is True
    assert found.soft_jaws.lower.mm == second.held_size[0].mm - Decimal("0.02")
    long_mm = {"A": 30, "C": 10, "E": 8}[second.held.letter]
    assert found.step_deep_mm == long_mm - 1


def test_of_a_batch_a_way_that_repeats_is_looked_at_once_and_another_for_each_piece(db: Session) -> None:
    state = opened(db, STEPPED)
    plan_measuring(
        db, state, {"pieces": "3", "measuring_plan": "one", "acceptance": state.acceptance}, by=person(db, "orla")
    )
    first = chuckings_of(db, plan_of(db, now(db, state), "1"))[0]
    assert first.way.name == "three_jaw"
    started(db, first)
    assert again(db, first, "1").ready
    assert not again(db, first, "2").ready
    collet = started(db, hold(db, again(db, first, "1"), "collet"))
    assert collet.ready
    assert again(db, collet, "2").ready


def test_a_set_up_the_plan_has_not_is_not_defined(db: Session) -> None:
    with pytest.raises(NotDefined, match="no such set-up"):
        chucking_named(begun(db), "centres")


def test_sent_twice_a_swing_is_one(db: Session) -> None:
    first, sent = begun(db)[0], uuid4()
    for _ in range(2):
        log_runout(db, first, RunoutEntry(sent, "0.05", plunger(db)), by=person(db, "orla"))
    assert len(again(db, first).runouts) == 1


def test_a_job_that_was_handed_over_takes_nothing_more(db: Session) -> None:
    state = opened(db, "od 20 ±0.1 x 30 ±0.1, free")
    first = chuckings_of(db, plan_of(db, state))[0]
    log_reading(db, state, entry(db, state, "20.00 mm"), by=person(db, "orla"))
    hand_over(db, now(db, state), "the length is free", by=person(db, "bram"), sent_id=uuid4())
    with pytest.raises(HandedOver):
        swing(db, again(db, first), "0.05")
