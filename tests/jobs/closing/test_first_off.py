"""The first off over all features: whole, good, and approved at one go by the lead."""

from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.closing.first_off import approve_first_off, first_off
from nomisma.jobs.opening.requirements import plan_measuring
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.standing.state import JobState
from tests.jobs.shop_floor import now, opened, person, read


@pytest.fixture
def batch(db: Session) -> JobState:
    """Five spacers of two sizes, one place of each enough."""
    state = opened(db, "28 ±0.1\nlength 40 ±0.2\n6 max\nRa 0.8")
    wanted = {"pieces": "5", "measuring_plan": "one", "acceptance": state.acceptance}
    plan_measuring(db, state, wanted, by=person(db, "orla"))
    return now(db, state)


def test_a_single_piece_has_no_first_off(db: Session) -> None:
    state = opened(db, "28 ±0.1\nlength 40 ±0.2")
    assert first_off(db, state) is None
    with pytest.raises(InputError, match="no first off"):
        approve_first_off(db, state, by=person(db, "bram"), sent_id=uuid4())


def test_what_is_still_to_be_measured_and_what_is_out_is_named(db: Session, batch: JobState) -> None:
    read(db, batch, "27.50", piece="1")
    read(db, batch.features[1], "40.00", piece="2")
    found = first_off(db, now(db, batch))
    assert found
    assert (found.serial, found.unread, found.out, found.is_good) == ("1", ("B", "C"), ("A",), False)
    with pytest.raises(InputError, match="Piece 1 is not measured at every place: B, C; not in limits: A"):
        approve_first_off(db, now(db, batch), by=person(db, "bram"), sent_id=uuid4())


def test_the_lead_approves_all_features_at_one_go(db: Session, batch: JobState) -> None:
    for one, size in zip(batch.features, ("28.00", "40.00", "5.50"), strict=False):
        read(db, one, size, piece="1")
    state = now(db, batch)
    with pytest.raises(NotAllowed):
        approve_first_off(db, state, by=person(db, "orla"), sent_id=uuid4())
    sent_id = uuid4()
    rows = approve_first_off(db, state, by=person(db, "bram"), sent_id=sent_id)
    again = approve_first_off(db, now(db, state), by=person(db, "bram"), sent_id=sent_id)
    assert (len(rows), {row.id for row in rows}) == (3, {row.id for row in again})
    assert all(row.reading_ids for row in rows)
    found = first_off(db, now(db, state))
    assert found
    assert len(found.approved) == 3
