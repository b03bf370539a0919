"""What is required: put in force as a new version, by whoever may, with a reason where a piece is out."""

from decimal import Decimal
from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.part.duty import FeatureDuty
from nomisma.jobs.opening.requirements import plan_measuring, set_by_line, set_duty_and_place, withdraw
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.standing.pieces import places_planned
from nomisma.store.append import AlreadyChanged
from tests.jobs.shop_floor import now, opened, person, read


def test_a_line_puts_a_new_version_in_force_and_the_old_one_stays(db: Session) -> None:
    state = opened(db, "od 28 ±0.1")
    set_by_line(db, state, "28 h7", based_on=1, by=person(db, "orla"), sent_id=uuid4(), why="the drawing was changed")
    changed = now(db, state)
    assert changed.requirement
    assert (changed.requirement.version, changed.requirement.reason) == (2, "the drawing was changed")
    assert (changed.feature.lower_mm, changed.feature.upper_mm) == (Decimal("27.979"), Decimal(28))


def test_a_version_that_was_not_seen_is_not_written_over(db: Session) -> None:
    state = opened(db, "28 ±0.1")
    set_by_line(db, state, "28 ±0.2", based_on=1, by=person(db, "orla"), sent_id=uuid4())
    with pytest.raises(AlreadyChanged):
        set_by_line(db, state, "28 ±0.3", based_on=1, by=person(db, "bram"), sent_id=uuid4())


def test_once_a_piece_is_out_the_lead_changes_the_limits_and_says_why(db: Session) -> None:
    state = opened(db, "28 ±0.1")
    read(db, state, "27.80")
    out = now(db, state)
    with pytest.raises(NotAllowed, match="changed, with the reason, by the lead"):
        set_by_line(db, out, "28 ±0.3", based_on=1, by=person(db, "orla"), sent_id=uuid4(), judge_reason="it will do")
    with pytest.raises(InputError) as refused:
        set_by_line(db, out, "28 ±0.3", based_on=1, by=person(db, "bram"), sent_id=uuid4())
    assert refused.value.field == "judge_reason"
    set_by_line(
        db, out, "28 ±0.3", based_on=1, by=person(db, "bram"), sent_id=uuid4(), judge_reason="clears by a millimetre"
    )
    assert now(db, state).feature.lower_mm == Decimal("27.7")


def test_the_only_feature_of_a_part_is_not_withdrawn(db: Session) -> None:
    with pytest.raises(InputError, match="only feature"):
        withdraw(db, opened(db, "28 ±0.1"), reason="not wanted", by=person(db, "orla"), sent_id=uuid4())


def test_a_withdrawal_needs_its_reason(db: Session) -> None:
    with pytest.raises(InputError, match="Nothing was entered"):
        withdraw(db, opened(db, "28 ±0.1\nlength 40 ±0.2"), reason="", by=person(db, "orla"), sent_id=uuid4())


def test_a_batch_is_not_made_one_once_two_are_measured(db: Session) -> None:
    state = opened(db, "28 ±0.1")
    wanted = {"pieces": "3", "measuring_plan": "one", "acceptance": "guarded"}
    plan_measuring(db, state, {**wanted, "acceptance": state.acceptance}, by=person(db, "orla"))
    for piece in ("1", "2"):
        read(db, now(db, state), "28.00", piece=piece)
    with pytest.raises(InputError, match="2 pieces are measured already"):
        plan_measuring(
            db, now(db, state), {**wanted, "pieces": "1", "acceptance": state.acceptance}, by=person(db, "orla")
        )


def test_what_matters_is_a_new_version_with_the_same_limits(db: Session) -> None:
    state = opened(db, "od 28 ±0.1, carries the load\nlength 40 ±0.2")
    assert state.duty.words == "carries the load"
    set_duty_and_place(
        db, state.features[1], FeatureDuty("seen"), "", based_on=1, by=person(db, "pim"), sent_id=uuid4()
    )
    changed = now(db, state.features[1])
    assert changed.requirement
    assert (changed.requirement.version, changed.duty.name, changed.feature.upper_mm) == (2, "seen", Decimal("40.2"))
    assert (changed.may_give, places_planned(changed), len(places_planned(now(db, state)))) == (["B"], ("0°",), 6)


def test_a_change_of_limits_keeps_what_matters_unless_the_line_says_otherwise(db: Session) -> None:
    state = opened(db, "od 28 ±0.1, carries the load")
    set_by_line(db, state, "28 ±0.2", based_on=1, by=person(db, "orla"), sent_id=uuid4())
    assert now(db, state).duty.name == "carries_load"
    set_by_line(db, now(db, state), "28 ±0.2, only seen", based_on=2, by=person(db, "orla"), sent_id=uuid4())
    assert now(db, state).duty.name == "seen"


def test_a_feature_is_true_to_another_one_that_is_there(db: Session) -> None:
    state = opened(db, "od 28 ±0.1\nrunout 0.02")
    for letter in ("B", "F"):
        with pytest.raises(InputError, match=f"no other feature {letter}"):
            set_duty_and_place(
                db,
                state.features[1],
                FeatureDuty("true_to", letter),
                "",
                based_on=1,
                by=person(db, "orla"),
                sent_id=uuid4(),
            )
    set_duty_and_place(
        db, state.features[1], FeatureDuty("true_to", "A"), "", based_on=1, by=person(db, "orla"), sent_id=uuid4()
    )
    assert now(db, state.features[1]).duty.words == "must be true to A"


def test_once_a_piece_is_out_what_matters_is_the_leads_to_change(db: Session) -> None:
    state = opened(db, "od 28 ±0.1\nlength 40 ±0.2")
    read(db, state, "27.80")
    out = now(db, state.features[1])
    for name in ("pim", "orla"):
        with pytest.raises(NotAllowed):
            set_duty_and_place(db, out, FeatureDuty("seen"), "", based_on=1, by=person(db, name), sent_id=uuid4())
    with pytest.raises(InputError, match="Nothing was entered"):
        set_duty_and_place(db, out, FeatureDuty("seen"), "", based_on=1, by=person(db, "bram"), sent_id=uuid4())
    set_duty_and_place(
        db,
        out,
        FeatureDuty("seen"),
        "",
        based_on=1,
        by=person(db, "bram"),
        sent_id=uuid4(),
        judge_reason="the customer agreed",
    )
    assert now(db, out).duty.name == "seen"


def test_where_a_feature_lies_is_said_without_touching_its_limits_and_kept_when_they_change(db: Session) -> None:
    state = opened(db, "od 30 ±0.1 x 20 ±0.1\nbore 12 ±0.1 x 8 ±0.1 deep, from the right")
    bore = state.features[2]
    assert bore.along.words == "from the right"
    set_duty_and_place(db, bore, FeatureDuty(), "at 5 from A", based_on=1, by=person(db, "orla"), sent_id=uuid4())
    said = now(db, bore)
    assert (said.along.words, said.feature.upper_mm) == ("at 5 mm from A", Decimal("12.1"))
    set_by_line(db, said, "12 H7", based_on=2, by=person(db, "orla"), sent_id=uuid4())
    assert now(db, bore).along.words == "at 5 mm from A"
    set_duty_and_place(db, now(db, bore), FeatureDuty(), "", based_on=3, by=person(db, "orla"), sent_id=uuid4())
    assert now(db, bore).along.words == ""


@pytest.mark.parametrize(
    ("along", "sentence"),
    [("at 5 from Q", "There is no other feature Q"), ("at 5 from C", "There is no other feature C"),
        ("somewhere", "does not say where"),
     ("from 9 to 3", "would end at 3 mm")],
)  # fmt: skip
def test_a_place_that_is_none_is_refused_with_its_sentence(db: Session, along: str, sentence: str) -> None:
    bore = opened(db, "od 30 ±0.1 x 20 ±0.1\nbore 12 ±0.1 x 8 ±0.1 deep").features[2]
    with pytest.raises(InputError, match=sentence) as refused:
        set_duty_and_place(db, bore, FeatureDuty(), along, based_on=1, by=person(db, "orla"), sent_id=uuid4())
    assert refused.value.field == "along"
