"""Handing over: who may, and what must be measured or said first."""

from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.closing.dispositions import DispositionGiven, decide, piece_states
from nomisma.jobs.closing.handing_over import hand_over, take_up_again
from nomisma.jobs.opening.requirements import plan_measuring
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.standing.state import JobState
from tests.jobs.shop_floor import now, opened, person, read


def sparse(db: Session, lines: str) -> JobState:
    """A job of which one place of each feature is enough."""
    state = opened(db, lines)
    plan_measuring(
        db, state, {"pieces": "1", "measuring_plan": "one", "acceptance": state.acceptance}, by=person(db, "orla")
    )
    return now(db, state)


def test_in_limits_and_read_it_is_handed_over_and_taken_up_again(db: Session) -> None:
    state = sparse(db, "28 ±0.1")
    read(db, state, "28.00")
    hand_over(db, now(db, state), "", by=person(db, "orla"), sent_id=uuid4())
    assert now(db, state).handed_over
    take_up_again(db, now(db, state), "", by=person(db, "orla"), sent_id=uuid4())
    assert not now(db, state).handed_over


def test_places_of_the_plan_not_read_are_named_with_their_feature(db: Session) -> None:
    state = opened(db, "28 ±0.1\n6 max")
    for one in state.features:
        read(db, one, "28.00" if one.letter == "A" else "5.50")
    with pytest.raises(InputError, match="Not all places of the plan were read: A, "):
        hand_over(db, now(db, state), "", by=person(db, "orla"), sent_id=uuid4())


def test_many_readings_of_one_piece_do_not_hide_what_was_read_first(db: Session) -> None:
    state = sparse(db, "28 ±0.1")
    plan_measuring(
        db, state, {"pieces": "30", "measuring_plan": "one", "acceptance": state.acceptance}, by=person(db, "orla")
    )
    for piece in range(1, 31):
        read(db, now(db, state), "28.00", piece=str(piece))
    hand_over(db, now(db, state), "", by=person(db, "orla"), sent_id=uuid4())
    assert now(db, state).handed_over


def test_out_of_limits_it_is_the_leads_to_hand_over_and_to_say_why(db: Session) -> None:
    state = sparse(db, "28 ±0.1")
    read(db, state, "27.80")
    with pytest.raises(NotAllowed, match="Only the lead"):
        hand_over(db, now(db, state), "it will do", by=person(db, "orla"), sent_id=uuid4())
    with pytest.raises(InputError, match="Say in the note why"):
        hand_over(db, now(db, state), "", by=person(db, "bram"), sent_id=uuid4())
    hand_over(db, now(db, state), "goes to the scrap bin", by=person(db, "bram"), sent_id=uuid4())


def test_used_as_it_is_by_the_leads_word_it_counts_as_good(db: Session) -> None:
    state = sparse(db, "28 ±0.1")
    read(db, state, "27.80")
    given = DispositionGiven(uuid4(), "use_as_is", "", "nothing bears on it")
    with pytest.raises(NotAllowed):
        decide(db, now(db, state), given, by=person(db, "pim"))
    row = decide(db, now(db, state), given, by=person(db, "bram"))
    assert (row.state, [one.sizes for one in piece_states(now(db, state))]) == ("gone_too_far", ["27.800 mm"])
    hand_over(db, now(db, state), "", by=person(db, "orla"), sent_id=uuid4())


def test_a_decision_needs_its_reason(db: Session) -> None:
    state = sparse(db, "28 ±0.1")
    read(db, state, "27.80")
    with pytest.raises(InputError, match="Nothing was entered"):
        decide(db, now(db, state), DispositionGiven(uuid4(), "use_as_is", "", ""), by=person(db, "bram"))


def test_an_apprentice_hands_nothing_over(db: Session) -> None:
    with pytest.raises(NotAllowed, match="by a machinist or the lead"):
        hand_over(db, sparse(db, "28 ±0.1"), "", by=person(db, "pim"), sent_id=uuid4())
