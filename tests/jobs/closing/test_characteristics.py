"""Characteristics of a report: they say what the record says, with what it was read, and by whom."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.part.feature import State
from nomisma.jobs.closing.characteristics import characteristics
from nomisma.jobs.closing.record import record_of
from nomisma.jobs.opening.requirements import plan_measuring
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.store.models import Job
from tests.jobs.shop_floor import now, opened, person, read


def test_over_the_whole_shop_they_say_what_the_record_says(db: Session) -> None:
    counted = 0
    for number in db.scalars(select(Job.number)):
        state = state_numbered(db, number)
        record = record_of(db, state)
        said = {one.letter: one for one in record.features}
        found = characteristics(record, state)
        assert [one.number for one in found] == list(range(1, len(state.made) + 1))
        for one in found:
            recorded = said[one.feature.letter]
            assert (one.smallest_mm, one.largest_mm) == (recorded.smallest_mm, recorded.largest_mm), (number, recorded)
            assert bool(one.by) == bool(one.reading_count or one.tried)
            assert (one.uncertainty_mm is None) == (not one.instruments)
            counted += one.reading_count
    assert counted > 50


def test_of_one_piece_only_its_own_readings_count(db: Session) -> None:
    state = opened(db, "28 ±0.1\nlength 40 ±0.2")
    wanted = {"pieces": "3", "measuring_plan": "one", "acceptance": state.acceptance}
    plan_measuring(db, state, wanted, by=person(db, "orla"))
    state = now(db, state)
    for piece, size in [("1", "28.00"), ("2", "27.80"), ("3", "28.05")]:
        read(db, state, size, piece=piece)
    state = now(db, state)
    record = record_of(db, state)
    of = {piece: characteristics(record, state, piece)[0] for piece in ("1", "2", "3")}
    assert [f"{one.smallest_mm:.2f}" for one in of.values()] == ["28.00", "27.80", "28.05"]
    assert [one.is_accepted for one in of.values()] == [True, False, True]
    whole = characteristics(record, state)[0]
    assert (f"{whole.smallest_mm:.2f} {whole.largest_mm:.2f}", whole.state) == ("27.80 28.05", State.GONE_TOO_FAR)


def test_what_is_not_finished_is_neither_accepted_nor_rejected(db: Session) -> None:
    state = opened(db, "od 28 ±0.1\nlength 40 ±0.2")
    read(db, state, "28.60")
    state = now(db, state)
    to_go, unread = characteristics(record_of(db, state), state, "")
    assert (to_go.state, to_go.is_accepted) == (State.METAL_TO_GO, None)
    assert (unread.state, unread.is_accepted, unread.by) == (None, None, ())
