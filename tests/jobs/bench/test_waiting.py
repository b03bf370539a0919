"""What a job waits for before it is first cut, in the order of the work."""

import pytest
from sqlalchemy.orm import Session

from nomisma.jobs.bench.waiting import waits_for
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
