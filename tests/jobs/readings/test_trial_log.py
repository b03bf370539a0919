"""A trial is logged, counts by place and piece, and speaks for the feature as a reading does."""

from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.closing.dispositions import DispositionGiven, decide, piece_states
from nomisma.jobs.closing.handing_over import hand_over
from nomisma.jobs.closing.record import record_of
from nomisma.jobs.opening.requirements import plan_measuring
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.readings.trial_log import TrialEntry, log_trial
from nomisma.jobs.standing.state import JobState
from nomisma.store.append import HandedOver
from tests.jobs.shop_floor import now, opened, person, read


def tried(db: Session, state: JobState, outcome: str, place: str = "mouth", **more: str) -> JobState:
    log_trial(db, state, TrialEntry(id=uuid4(), outcome=outcome, place=place, **more), by=person(db, "orla"))
    return now(db, state)


def test_a_trial_at_both_ends_settles_what_goes_as_wanted(db: Session) -> None:
    state = opened(db, "trial axle wrings to slides")
    assert state.job_next == ("measure", "Try it, and log how it went.")
    state = tried(db, state, "wrings")
    with pytest.raises(InputError, match="Not all places of the plan were read: far end"):
        hand_over(db, state, "", by=person(db, "orla"), sent_id=uuid4())
    state = tried(db, state, "slides", "far end", orientation="mark up")
    assert (state.is_settled, state.words, state.job_next[0]) == (True, "in limits", "record")
    hand_over(db, state, "", by=person(db, "orla"), sent_id=uuid4())


def test_too_tight_goes_on_and_the_newest_trial_of_a_place_counts(db: Session) -> None:
    state = tried(db, opened(db, "trial axle slides"), "will_not_start")
    assert state.next == ("measure", "Metal to go: cut, and try again.")
    state = tried(db, state, "slides")
    assert (state.words, [row.outcome for row in state.own_trials]) == ("in limits", ["slides"])
    record = record_of(db, state)
    assert [(row.outcome, row.counts, row.tried_with) for row in record.trials] == [
        ("will not start", False, "axle"),
        ("slides", True, "axle"),
    ]


def test_too_loose_has_to_be_decided_about(db: Session) -> None:
    state = tried(db, opened(db, "trial axle slides\n28 ±0.1"), "drops")
    assert (state.needs.letter, state.a_piece_is_out) == ("A", True)
    decide(db, state, DispositionGiven(uuid4(), "use_as_is", "", "it is oiled"), by=person(db, "bram"))
    assert now(db, state).is_settled


def test_each_piece_of_a_batch_is_tried(db: Session) -> None:
    state = opened(db, "trial axle slides")
    plan_measuring(
        db, state, {"pieces": "2", "measuring_plan": "one", "acceptance": state.acceptance}, by=person(db, "orla")
    )
    state = tried(db, now(db, state), "slides", piece="1")
    assert not state.is_settled
    state = tried(db, state, "slides", piece="2")
    assert (state.is_settled, list(state.verdict_of_piece)) == (True, ["1", "2"])


def test_a_finish_may_be_left_but_a_rough_one_is_said(db: Session) -> None:
    state = opened(db, "28 ±0.1\nRa 0.8")
    finish = state.features[1]
    read(db, state, "28.00")
    assert finish.is_settled
    finish = tried(db, finish, "rougher", "middle")
    assert (finish.is_settled, finish.words) == (False, "metal to go")


def test_what_is_measured_is_not_tried_and_a_closed_job_takes_no_trial(db: Session) -> None:
    state = opened(db, "28 ±0.1\ntrial axle slides")
    with pytest.raises(InputError, match="is measured, not tried"):
        tried(db, state, "slides")
    hand_over(db, state, "scrap", by=person(db, "bram"), sent_id=uuid4())
    with pytest.raises(HandedOver):
        tried(db, now(db, state.features[1]), "slides")


def test_the_same_trial_sent_twice_is_one(db: Session) -> None:
    state = opened(db, "trial axle slides")
    sent = TrialEntry(id=uuid4(), outcome="slides", place="mouth")
    assert log_trial(db, state, sent, by=person(db, "orla")) is log_trial(db, state, sent, by=person(db, "orla"))


@pytest.mark.parametrize(("field", "value"), [("place", "the middle"), ("piece", "7")])
def test_a_trial_is_of_a_place_and_a_piece_there_are(db: Session, field: str, value: str) -> None:
    state = opened(db, "trial axle slides")
    with pytest.raises(InputError, match=f"“{value}” is no {field} of this") as refused:
        log_trial(
            db,
            state,
            TrialEntry(**{"id": uuid4(), "outcome": "slides", "place": "mouth", field: value}),
            by=person(db, "orla"),
        )
    assert refused.value.field == field


def test_a_decision_hangs_on_the_trials_of_its_piece(db: Session) -> None:
    state = opened(db, "trial axle slides")
    wanted = {"pieces": "2", "measuring_plan": "one", "acceptance": state.acceptance}
    plan_measuring(db, state, wanted, by=person(db, "orla"))
    tried(db, now(db, state), "slides", piece="1")
    state = tried(db, now(db, state), "drops", piece="2")
    assert [(one.serial, one.sizes) for one in piece_states(state)] == [("1", "slides"), ("2", "drops in")]
    row = decide(db, state, DispositionGiven(uuid4(), "use_as_is", "2", "it is oiled"), by=person(db, "bram"))
    assert row.reading_ids == [str(one.id) for one in state.own_trials if one.piece == "2"]


def test_a_step_of_the_plan_is_done_once_its_gauges_say_so(db: Session) -> None:
    """What was tried closes its step as what was read does; refused, it stays open."""
    state = opened(db, "M20x1.5 6g x 30").made[2]
    done = []
    for outcome in ("go_refused", "go_only", "no_go_entered"):
        state = tried(db, state, outcome, "all along")
        plan = plan_of(db, state)
        assert plan.order is not None
        (cut,) = [one for one in plan.order.operations if one.operation.kind == "thread"]
        done.append(plan.is_done(cut))
    assert done == [False, True, False]
