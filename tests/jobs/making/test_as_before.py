"""What an earlier piece says of the next: the same dial, what it came to, and which length differs."""

from decimal import Decimal

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.jobs.cutting.cutting_run import cutting_run
from nomisma.jobs.making.as_before import PieceBefore, held_against_the_first, piece_before
from nomisma.jobs.making.steps import making_in_hand
from nomisma.jobs.opening.new_job import Lines, open_by_lines
from nomisma.jobs.opening.requirements import make_pieces
from nomisma.jobs.readings.reading_log import log_reading
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.state import JobState
from nomisma.store.models import Machine
from tests.jobs.shop_floor import entry, job, now, person

STEPPED = "od 28 ±0.02 x 40\nod 20 x 10 ±0.1\nlength 50 ±0.1"


@pytest.fixture
def batch(db: Session) -> JobState:
    """Three alike on a lathe whose dial has lines of 0.05 mm on diameter."""
    machine = db.scalars(select(Machine).where(Machine.name == "Bench lathe")).one()
    row = job(db)
    row.machine_id = machine.id
    state = state_numbered(db, open_by_lines(db, row, Lines(STEPPED, "mm")).number)
    make_pieces(db, state, 3, by=person(db, "orla"))
    return now(db, state)


def logged(db: Session, state: JobState, letter: str, size: str, piece: str, dialled: str = "") -> None:
    one = next(each for each in now(db, state).made if each.letter == letter)
    taken = entry(
        db,
        one,
        size,
        with_="25–50" if letter == "A" else "0–150",
        place="0°",
        piece=piece,
        came_off="cut" if dialled else "",
        dialled=dialled,
    )
    log_reading(db, one, taken, by=person(db, "orla"))


def before(db: Session, state: JobState, letter: str, piece: str) -> PieceBefore | None:
    making = making_in_hand(db, now(db, state), piece)
    one = next(each for each in making.state.made if each.letter == letter)
    return piece_before(making, one, cutting_run(db, one, piece))


def test_the_first_has_nothing_before_it(db: Session, batch: JobState) -> None:
    logged(db, batch, "A", "28.000", "1")
    assert before(db, batch, "A", "1") is None


def test_the_next_is_told_the_dial_and_how_much_more_comes_to_its_aim(db: Session, batch: JobState) -> None:
    logged(db, batch, "A", "28.810", "1")
    logged(db, batch, "A", "28.010", "1", dialled="16 lines")
    found = before(db, batch, "A", "2")
    # It reads .006 too large: 28.004, which is .08 of a line of .05 above the aim.
    assert found == PieceBefore("1", Decimal("28.004"), Decimal(16), Decimal("0.08"))


def test_what_came_out_of_limits_is_no_example(db: Session, batch: JobState) -> None:
    logged(db, batch, "A", "28.010", "1")
    logged(db, batch, "A", "27.900", "2")
    found = before(db, batch, "A", "3")
    assert found is not None
    assert found.piece == "1"


def test_once_read_a_piece_is_held_against_the_one_before(db: Session, batch: JobState) -> None:
    logged(db, batch, "A", "28.010", "1")
    logged(db, batch, "A", "28.003", "2")
    found = before(db, batch, "A", "2")
    assert found is not None
    assert (found.differs_mm, found.than) == (Decimal("-0.007"), "smaller")


def test_the_length_that_differs_has_a_stop_that_moved(db: Session, batch: JobState) -> None:
    lengths = [one for one in making_in_hand(db, batch, "1").state.made if one.coached_by == "carriage"]
    assert len(lengths) > 1
    for piece, longer in (("1", "0"), ("2", "0.06")):
        for one, by in zip(lengths[:2], ("0", longer), strict=True):
            assert one.both_limits is not None
            logged(db, batch, one.letter, f"{one.both_limits.aim_mm + Decimal(by):.2f}", piece)
    assert held_against_the_first(making_in_hand(db, now(db, batch), "1")) == []
    (said,) = held_against_the_first(making_in_hand(db, now(db, batch), "2"))
    assert said.startswith(f"{lengths[1].letter}, ")
    assert said.endswith("60.0 µm longer than on the first piece. Look whether its stop is tight.")
