"""Saying something of a plan: kept, refused with its sentence, never overwritten."""

from decimal import Decimal
from typing import Any
from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.closing.handing_over import hand_over
from nomisma.jobs.planning.plan_entries import Intake, StockChosen, Tick
from nomisma.jobs.planning.plan_log import (
    answer,
    ask,
    choose_stock,
    keep_order,
    look_before_the_saw,
    moved,
    take_in,
    tick,
)
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.readings.reading_log import log_reading
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.store.append import HandedOver
from tests.jobs.shop_floor import entry, now, opened, person

FLANGED = "od 24 h9 x 30 ±0.1\nod 40 ±0.1 x 10 ±0.1\nbore 12 H7 thru\nlength 40 ±0.1"


def by(db: Session, name: str = "orla") -> dict[str, Any]:
    return {"by": person(db, name), "sent_id": uuid4()}


def plan(db: Session, lines: str = FLANGED) -> JobPlan:
    return plan_of(db, opened(db, lines))


def again(db: Session, before: JobPlan) -> JobPlan:
    return plan_of(db, now(db, before.state))


def test_what_was_asked_is_kept_and_said_anew_without_losing_the_first(db: Session) -> None:
    begun = plan(db)
    for words in ("holds the encoder", "holds the encoder and seals"):
        take_in(db, begun, Intake(must_do=words, came_as="sketch"), **by(db))
    found = again(db, begun)
    assert found.intake is not None
    assert (found.intake.must_do, len(found.entries)) == ("holds the encoder and seals", 2)


def test_a_question_is_open_until_it_is_answered_or_waived(db: Session) -> None:
    begun = plan(db)
    ask(db, begun, "which steel is it?", **by(db))
    found = again(db, begun)
    assert (found.open_questions, found.before_metal) == (1, ["1 open question"])
    answer(db, found, found.questions[0].row.id, "1045, by its certificate", waived=False, **by(db))
    assert again(db, found).before_metal == []


def test_an_apprentice_answers_a_question_and_waives_none(db: Session) -> None:
    begun = plan(db)
    ask(db, begun, "which steel is it?", **by(db, "pim"))
    found = again(db, begun)
    of = found.questions[0].row.id
    with pytest.raises(NotAllowed, match="Questions are waived by a machinist or the lead"):
        answer(db, found, of, "never mind", waived=True, **by(db, "pim"))
    answer(db, found, of, "it sparks like 1045", waived=False, **by(db, "pim"))
    assert again(db, found).open_questions == 0


@pytest.mark.parametrize("words", ["", "   "])
def test_a_question_without_words_is_none(db: Session, words: str) -> None:
    with pytest.raises(InputError):
        ask(db, plan(db), words.strip(), **by(db))


def test_the_stock_says_how_long_it_is_sawn_and_whether_it_cleans_up(db: Session) -> None:
    begun = plan(db)
    choose_stock(db, begun, StockChosen(across="45", length="300", parting="3", grip="20"), **by(db))
    found = again(db, begun)
    assert found.blank is not None
    assert (found.blank.blank_length.mm, found.blank.cleans_up) == (Decimal("64.6"), True)


@pytest.mark.parametrize(
    ("stock", "field"),
    [({"across": "wide"}, "across"), ({"shape": "tube", "across": "45"}, "bore"),
        ({"shape": "tube", "across": "45", "bore": "46"}, "bore"),
     ({"length": "-3"}, "length")],
)  # fmt: skip
def test_stock_that_cannot_be_is_refused_at_its_field(db: Session, stock: dict[str, Any], field: str) -> None:
    begun = plan(db)
    with pytest.raises(InputError) as refused:
        choose_stock(db, begun, StockChosen(**stock), **by(db))
    assert (refused.value.field, len(again(db, begun).entries)) == (field, 0)


@pytest.mark.parametrize(
    ("length", "diameter", "headline"),
    [
        ("40", "40", "Saw at 41.6 mm"),
        ("14.6", "40", "Stop"),
        ("40", "20", "Stop"),
        ("1.575 in", "40", "Saw at 41.6 mm"),
    ],
)
def test_the_drawing_typed_again_opens_the_saw_or_stops_it(
    db: Session, length: str, diameter: str, headline: str
) -> None:
    begun = plan(db)
    look_before_the_saw(db, begun, length, diameter, **by(db))
    found = again(db, begun)
    assert found.saw is not None
    assert found.saw.headline == headline
    assert (found.before_metal == []) is (headline != "Stop")


def test_a_look_at_another_length_of_the_part_counts_no_more(db: Session) -> None:
    begun = plan(db)
    look_before_the_saw(db, begun, "40", "40", **by(db))
    longer = plan_of(db, opened(db, FLANGED.replace("length 40", "length 50").replace("x 30", "x 40")))
    assert again(db, begun).saw is not None
    assert JobPlan(longer.state, again(db, begun).entries).saw is None


@pytest.mark.parametrize(("typed", "field"), [(("", "40"), "length_again"), (("40", "x"), "diameter_again")])
def test_a_size_that_is_none_is_refused_before_the_saw(db: Session, typed: tuple[str, str], field: str) -> None:
    with pytest.raises(InputError) as refused:
        look_before_the_saw(db, plan(db), *typed, **by(db))
    assert refused.value.field == field


def test_a_part_without_sizes_is_not_sawn(db: Session) -> None:
    with pytest.raises(InputError, match="no outside of a known size"):
        look_before_the_saw(db, plan(db, "bore 12 H7 thru"), "40", "40", **by(db))


def test_an_order_that_breaks_a_rule_is_kept_with_its_reason_by_whom_may(db: Session) -> None:
    begun = plan(db)
    keys = moved(begun, "1/part_off:", -1)
    with pytest.raises(InputError, match="Part off last"):
        keep_order(db, begun, keys, "", **by(db))
    with pytest.raises(NotAllowed):
        keep_order(db, begun, keys, "quicker", **by(db, "pim"))
    keep_order(db, begun, keys, "the saw takes it off", **by(db))
    found = again(db, begun)
    assert found.order is not None
    assert [one.key for one in found.order.set_ups[0].operations[-2:]] == ["1/part_off:", "1/deburr:"]
    assert found.kept_order.reason == "the saw takes it off"


def test_an_operation_that_is_not_in_the_plan_is_neither_moved_nor_ticked(db: Session) -> None:
    begun = plan(db)
    with pytest.raises(InputError, match="not in the plan"):
        moved(begun, "1/thread:", 1)
    with pytest.raises(InputError, match="not in the plan"):
        tick(db, begun, Tick(key="1/thread:"), **by(db))


def test_a_tick_is_taken_back_and_both_stay_on_record(db: Session) -> None:
    begun = plan(db)
    for done in (True, False):
        tick(db, begun, Tick(key="1/face:", done=done), **by(db))
    found = again(db, begun)
    assert (found.ticks, len(found.entries)) == ({}, 2)


def test_what_is_measured_in_limits_is_done_without_a_tick(db: Session) -> None:
    begun = plan(db, "od 28 ±0.04\nlength 40 ±0.2")
    assert begun.order is not None
    turn = next(one for one in begun.order.operations if one.operation.kind == "turn")
    for place in ("near end 0°", "near end 90°", "middle 0°", "middle 90°", "far end 0°", "far end 90°"):
        assert again(db, begun).is_done(turn) is False
        state = again(db, begun).state
        log_reading(db, state, entry(db, state, "28.00", with_="25–50", place=place), by=person(db, "orla"))
    assert again(db, begun).is_done(turn) is True


def test_nothing_is_said_of_a_job_that_is_handed_over(db: Session) -> None:
    begun = plan(db, "28 ±0.1")
    log_reading(db, begun.state, entry(db, begun.state, "28.00", with_="0–150", place="0°"), by=person(db, "orla"))
    log_reading(
        db, now(db, begun.state), entry(db, begun.state, "28.00", with_="0–150", place="90°"), by=person(db, "orla")
    )
    hand_over(db, now(db, begun.state), "", by=person(db, "bram"), sent_id=uuid4())
    with pytest.raises(HandedOver):
        ask(db, again(db, begun), "what now?", **by(db))


def test_a_blank_of_another_length_wants_another_look_before_the_saw(db: Session) -> None:
    """Where it says to saw must be where it is to be sawn now."""
    begun = plan(db)
    look_before_the_saw(db, begun, "40", "40", **by(db))
    assert again(db, begun).saw is not None
    choose_stock(db, begun, StockChosen(parting="3", grip="20"), **by(db))
    assert again(db, begun).saw is None


def test_a_feature_that_may_be_left_is_not_done_before_it_is_cut(db: Session) -> None:
    begun = plan(db, "od 28 ±0.2, free\nlength 40 ±0.2, free")
    assert begun.done_count == 0


def test_a_tick_is_of_one_piece_of_a_batch(db: Session) -> None:
    begun = plan(db)
    tick(db, begun, Tick(key="1/face:", piece="2"), **by(db))
    entries = again(db, begun).entries
    assert [len(JobPlan(begun.state, entries, piece).ticks) for piece in ("1", "2")] == [0, 1]


def test_nothing_stays_in_the_chuck_where_it_says_nothing_does(db: Session) -> None:
    begun = plan(db)
    choose_stock(db, begun, StockChosen(parting="0", grip="0"), **by(db))
    found = again(db, begun).blank
    assert found is not None
    assert found.blank_length.mm == Decimal("41.6")
