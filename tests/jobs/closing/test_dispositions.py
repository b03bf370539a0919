"""What is decided about a piece that is out: by whom, how it stood, and never over another decision unseen."""

from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.jobs.closing.dispositions import DispositionGiven, decide, piece_states
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.standing.state import JobState
from nomisma.store.append import AlreadyChanged
from tests.jobs.shop_floor import now, opened, person, read


@pytest.fixture
def too_small(db: Session) -> JobState:
    state = opened(db, "od 28 ±0.1")
    read(db, state, "27.50")
    return now(db, state)


def given(kind: str = "scrap", reason: str = "cut past", seen: str | None = None) -> DispositionGiven:
    return DispositionGiven(uuid4(), kind, "", reason, seen)


def test_a_piece_that_is_out_stands_so_with_its_size(too_small: JobState) -> None:
    (only,) = piece_states(too_small)
    assert (only.state, only.sizes) == (State.GONE_TOO_FAR, "27.500 mm")


def test_a_decision_keeps_how_it_stood_and_the_readings_it_looked_at(db: Session, too_small: JobState) -> None:
    row = decide(db, too_small, given(), by=person(db, "bram"))
    assert (row.state, len(row.reading_ids)) == ("gone_too_far", 1)


def test_an_apprentice_does_not_scrap_and_a_reason_is_wanted(db: Session, too_small: JobState) -> None:
    with pytest.raises(NotAllowed):
        decide(db, too_small, given(), by=person(db, "pim"))
    with pytest.raises(InputError):
        decide(db, too_small, given(reason=""), by=person(db, "bram"))


def test_a_decision_on_a_page_that_had_not_seen_another_is_refused(db: Session, too_small: JobState) -> None:
    decide(db, too_small, given(), by=person(db, "bram"))
    with pytest.raises(AlreadyChanged, match="decided “.*” about it a moment before you"):
        decide(db, now(db, too_small), given(seen=""), by=person(db, "bram"))


def test_a_piece_in_limits_needs_no_sleeve(db: Session) -> None:
    state = opened(db, "od 28 ±0.1")
    read(db, state, "28.00")
    with pytest.raises(InputError, match="is no way on for a piece that is in limits"):
        decide(db, now(db, state), given("sleeve"), by=person(db, "bram"))
