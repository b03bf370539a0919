"""A job opened by its lines, and features added to it: lettered on, by the part as it is by then, once."""

from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.opening.new_job import Lines, NotUnderstood, add_features
from nomisma.jobs.standing.state import JobState
from nomisma.store.append import AlreadySent
from tests.jobs.shop_floor import now, opened


def added(db: Session, state: JobState, lines: str) -> JobState:
    add_features(db, state, Lines(lines, "mm"), by_id=state.job.by_id, sent_id=uuid4())
    return now(db, state)


def test_a_step_added_beside_a_larger_one_has_a_length_that_is_cut_deeper(db: Session) -> None:
    state = added(db, opened(db, "od 40 ±0.1 x 10 ±0.1"), "od 20 ±0.1 x 30 ±0.1")
    assert [(one.letter, one.kind) for one in state.features] == [
        ("A", "outside_diameter"),
        ("B", "length"),
        ("C", "outside_diameter"),
        ("D", "step_length"),
    ]


def test_a_form_sent_twice_adds_once_and_with_other_lines_is_refused(db: Session) -> None:
    state, sent_id = opened(db, "od 40 ±0.1"), uuid4()
    first = add_features(db, state, Lines("bore 12 H7", "mm"), by_id=state.job.by_id, sent_id=sent_id)
    again = add_features(db, now(db, state), Lines("bore 12 H7", "mm"), by_id=state.job.by_id, sent_id=sent_id)
    assert [row.id for row in first] == [row.id for row in again]
    with pytest.raises(AlreadySent, match="the first ones stand: 12 H7"):
        add_features(db, now(db, state), Lines("bore 14 H7", "mm"), by_id=state.job.by_id, sent_id=sent_id)


def test_lines_that_are_not_all_understood_open_nothing(db: Session) -> None:
    with pytest.raises(NotUnderstood) as refused:
        opened(db, "od 40 ±0.1\nslot 3")
    assert "No feature is called “slot”" in refused.value.refused[0].sentence


@pytest.mark.parametrize("lines", ["", "\n \n"])
def test_no_lines_are_asked_for(db: Session, lines: str) -> None:
    with pytest.raises(InputError, match="Nothing was entered"):
        opened(db, lines)
