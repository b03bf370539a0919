"""What a job waits for, in the order of the work."""

import pytest
from sqlalchemy.orm import Session

from nomisma.jobs.bench.waiting import waits_for
from nomisma.jobs.planning.plan_entries import StockChosen
from nomisma.jobs.planning.plan_log import choose_stock, look_before_the_saw
from nomisma.jobs.planning.plan_state import plan_of
from tests.jobs.making.test_steps import begun, done
from tests.jobs.planning.test_plan_log import by
from tests.jobs.shop_floor import now, opened, read


@pytest.mark.parametrize(
    ("lines", "stage", "words"),
    [
        ("od 28 ±0.1", "cut", "Cut the outside diameter to 28.000 mm, and log the first reading."),
        ("od 28 ±0.1 x 40\nbore 12 H7 thru", "plan", "Choose the stock."),
        ("Ra 0.8", "measure", "Try the surface finish, and log the first reading."),
    ],
)
def test_a_job_says_what_it_waits_for(db: Session, lines: str, stage: str, words: str) -> None:
    assert waits_for(db, plan_of(db, opened(db, lines))) == (stage, words)


def test_once_it_is_read_its_feature_says_what_is_next(db: Session) -> None:
    state = opened(db, "od 28 ±0.1")
    read(db, state, "29.00")
    stage, words = waits_for(db, plan_of(db, now(db, state)))
    assert stage in ("cut", "measure")
    assert "etal to go" in words


def test_sawn_it_waits_at_the_lathe(db: Session) -> None:
    state = opened(db, "od 28 ±0.1 x 40\nbore 12 H7 thru")
    choose_stock(db, plan_of(db, state), StockChosen(parting="3", grip="20"), **by(db))
    look_before_the_saw(db, plan_of(db, now(db, state)), "40", "28", **by(db))
    stage, words = waits_for(db, plan_of(db, now(db, state)))
    assert (stage, words.endswith("hold it, and look before the first start.")) == ("make", True)


def test_begun_it_waits_for_the_step_in_hand_and_says_how_far_it_is(db: Session) -> None:
    making = begun(db)
    for _ in range(2):
        assert making.in_hand is not None
        making = done(db, making, making.in_hand)
    stage, words = waits_for(db, making.plan)
    step = making.in_hand
    assert step is not None
    assert stage == "make"
    assert words == f"Set-up 1: {step.title[:1].lower()}{step.title[1:]} is next (2 of {len(making.steps)} steps done)."


def test_what_wants_a_decision_comes_before_the_step_in_hand(db: Session) -> None:
    state = opened(db, "od 28 ±0.1 x 40\nbore 12 H7 thru")
    choose_stock(db, plan_of(db, state), StockChosen(across="32", parting="3", grip="20"), **by(db))
    read(db, now(db, state), "27.60")
    assert waits_for(db, plan_of(db, now(db, state)))[1] == "Gone too far: someone has to decide."
