"""What a job waits for before it is first cut, in the order of the work."""

import pytest
from sqlalchemy.orm import Session

from nomisma.jobs.bench.waiting import waits_for
from nomisma.jobs.planning.plan_entries import StockChosen
from nomisma.jobs.planning.plan_log import choose_stock, look_before_the_saw
from nomisma.jobs.planning.plan_state import plan_of
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
    assert waits_for(db, opened(db, lines)) == (stage, words)


def test_once_it_is_read_its_feature_says_what_is_next(db: Session) -> None:
    state = opened(db, "od 28 ±0.1")
    read(db, state, "29.00")
    stage, words = waits_for(db, now(db, state))
    assert stage in ("cut", "measure")
    assert "etal to go" in words


def test_sawn_it_waits_at_the_lathe(db: Session) -> None:
    state = opened(db, "od 28 ±0.1 x 40\nbore 12 H7 thru")
    choose_stock(db, plan_of(db, state), StockChosen(parting="3", grip="20"), **by(db))
    look_before_the_saw(db, plan_of(db, now(db, state)), "40", "28", **by(db))
    stage, words = waits_for(db, now(db, state))
    assert (stage, words.endswith("hold it, and look before the first start.")) == ("make", True)
