"""The pieces of a job: their serials, the places of each, and which is read next."""

import pytest
from sqlalchemy.orm import Session

from nomisma.jobs.opening.requirements import plan_measuring
from nomisma.jobs.standing.pieces import next_piece, places_planned, places_read, places_to_close, serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.readings import log
from tests.jobs.shop_floor import now, opened, person, read


@pytest.fixture
def batch(db: Session) -> JobState:
    """Three spacers, one place of each enough."""
    state = opened(db, "28 ±0.1")
    wanted = {"pieces": "3", "measuring_plan": "one", "acceptance": state.acceptance}
    plan_measuring(db, state, wanted, by=person(db, "orla"))
    return now(db, state)


def test_a_single_piece_has_no_serial_and_all_its_places(db: Session) -> None:
    state = opened(db, "od 28 ±0.1")
    assert serials(state) == ()
    assert len(places_planned(state)) == len(state.feature.of_kind.places)


def test_what_is_only_seen_is_read_at_one_place(db: Session) -> None:
    assert len(places_planned(opened(db, "od 28 ±0.1, only seen"))) == 1


def test_a_batch_goes_on_to_the_next_piece_once_one_is_done(db: Session, batch: JobState) -> None:
    assert serials(batch) == ("1", "2", "3")
    assert next_piece(batch, []) == "1"
    read(db, batch, "28.00", piece="1")
    state = now(db, batch)
    assert places_read(state, "1") == {"0°"}
    assert next_piece(state, log(db, state.feature_id)) == "2"


def test_a_piece_with_metal_to_go_stays_at_hand(db: Session) -> None:
    state = opened(db, "od 28 ±0.1")
    wanted = {"pieces": "2", "measuring_plan": "one", "acceptance": state.acceptance}
    plan_measuring(db, state, wanted, by=person(db, "orla"))
    read(db, state, "29.00", piece="1")
    found = now(db, state)
    assert next_piece(found, log(db, found.feature_id)) == "1"


@pytest.mark.parametrize(
    ("lines", "places"),
    [
        ("od 28 ±0.04", 6),
        ("od 28 ±0.05", 1),
        ("od 28 ±0.05, carries the load", 6),
        ("bore 12 H7", 6),
        ("length 40 ±0.2", 1),
    ],
)
def test_limits_a_tenth_apart_are_read_at_one_place_where_nobody_asks_for_more(
    db: Session, lines: str, places: int
) -> None:
    assert len(places_to_close(opened(db, lines))) == places
