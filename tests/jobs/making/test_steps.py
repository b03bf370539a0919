"""The steps of a job at the lathe: which there are, which is in hand, where the work goes on."""

from decimal import Decimal
from itertools import groupby
from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.closing.dispositions import DispositionGiven, decide
from nomisma.jobs.holding.chucking_log import choose_holding, declare_ready_to_cut
from nomisma.jobs.holding.truing_log import NeedleEntry, declare_true, log_truing, set_up_truing
from nomisma.jobs.holding.truing_state import SAFETY, truing_state
from nomisma.jobs.making.step_log import close, read_enough
from nomisma.jobs.making.steps import Making, Step, go_by, goes_on, making_in_hand, of_every_piece
from nomisma.jobs.opening.requirements import make_pieces
from nomisma.jobs.planning.plan_log import choose_stock
from nomisma.jobs.planning.plan_state import StockChosen, plan_of
from nomisma.jobs.readings.reading_log import log_reading
from nomisma.store.models import Truing
from tests.jobs.planning.test_plan_log import FLANGED, by
from tests.jobs.shop_floor import entry, now, opened, person

EVERY_KIND = (
    FLANGED,
    "od 28 ±0.04\nlength 40 ±0.2",
    "od 30 ±0.1 x 60 ±0.2\nod 24 h7 x 20 ±0.1\nM12x1.75 x 18 deep\ngroove 2 to 20 at 12\ncham 1 x 45 both ends"
    "\nrunout 0.02",
    "od 25 ±0.1 x 50 ±0.2\n6 holes 9 on 115\nRa 0.8",
)


def begun(db: Session, lines: str = FLANGED, pieces: int = 1) -> Making:
    state = opened(db, lines)
    if pieces > 1:
        make_pieces(db, state, pieces, by=person(db, "orla"))
    return making_in_hand(db, now(db, state))


def again(db: Session, making: Making, piece: str = "") -> Making:
    return making_in_hand(db, now(db, making.state), piece or making.plan.piece)


def read(db: Session, making: Making, step: Step, size: str, place: str) -> Making:
    assert step.feature is not None
    taken = entry(db, step.feature, size, with_="25–50", place=place, piece=making.plan.piece)
    log_reading(db, step.feature, taken, by=person(db, "orla"))
    return again(db, making)


def named(making: Making, key: str) -> Step:
    found = making.named(key)
    assert found is not None
    return found


def done(db: Session, making: Making, step: Step) -> Making:
    """Whatever kind of step it is, closed by hand."""
    if step.chucking is not None and step.kind == "hold":
        every = frozenset(range(len(step.chucking.way.before_first_start)))
        declare_ready_to_cut(db, step.chucking, every, **by(db))
    else:
        close(db, making, step, without_reading=True, **by(db))
    return again(db, making)


@pytest.mark.parametrize("lines", EVERY_KIND)
def test_every_feature_that_must_be_measured_is_so_at_just_one_step(db: Session, lines: str) -> None:
    making = begun(db, lines)
    found = [one.letter for step in making.steps for one in step.measured]
    wanted = [one.letter for one in making.state.made if one.requirement is not None and not one.may_be_left]
    assert sorted(found) == sorted(wanted)
    assert [step.number for step in making.steps] == list(range(1, len(making.steps) + 1))
    assert len({step.key for step in making.steps}) == len(making.steps)


def test_a_set_up_is_held_before_anything_is_cut_in_it(db: Session) -> None:
    making = begun(db)
    kinds = [(step.kind, step.set_up_key) for step in making.steps if step.set_up_key]
    for held in dict(kinds[::-1]).values():
        assert next(kind for kind, key in kinds if key == held) == "hold"


def test_a_feature_is_measured_at_the_last_operation_that_makes_it(db: Session) -> None:
    making = begun(db)
    rough, finish = (making.named(key) for key in ("1/rough_turn:A,B", "1/turn:A,B"))
    assert rough is not None
    assert finish is not None
    assert ([one.letter for one in rough.measured], [one.letter for one in finish.measured]) == ([], ["A", "B"])


def test_one_diameter_is_made_at_once(db: Session) -> None:
    making = begun(db, "od 28 ±0.1")
    assert [(step.kind, step.title) for step in making.steps] == [("feature", "The outside diameter")]


def test_somebody_who_planned_one_diameter_makes_it_step_by_step(db: Session) -> None:
    making = begun(db, "od 28 ±0.1")
    choose_stock(db, making.plan, StockChosen(across="32"), **by(db))
    assert "hold" in {step.kind for step in again(db, making).steps}


def test_a_step_is_closed_once_all_of_it_is_read_at_its_places(db: Session) -> None:
    making = begun(db, "od 28 ±0.04\nlength 40 ±0.2")
    for place in ("near end 0°", "near end 90°", "middle 0°", "middle 90°", "far end 0°", "far end 90°"):
        step = making.named("1/turn:A")
        assert step is not None
        assert not step.is_done
        making = read(db, making, step, "28.00", place)
    step = making.named("1/turn:A")
    assert step is not None
    assert step.is_done


def test_read_enough_it_is_closed_sooner_and_open_again_once_it_is_no_more_in_limits(db: Session) -> None:
    making = begun(db, "od 28 ±0.04\nlength 40 ±0.2")
    step = making.named("1/turn:A")
    assert step is not None
    making = read(db, making, step, "28.00", "near end 0°")
    read_enough(db, making, making.named("1/turn:A") or step, **by(db))
    making = again(db, making)
    assert (making.named("1/turn:A") or step).is_done
    making = read(db, making, step, "28.06", "middle 0°")
    assert not (making.named("1/turn:A") or step).is_done


def test_the_work_goes_on_with_what_follows_and_what_was_left_open_waits(db: Session) -> None:
    making = begun(db)
    skipped, taken = making.steps[1], making.steps[2]
    making = done(db, making, making.steps[0])
    making = done(db, making, taken)
    _, following = goes_on(db, making, making.steps[2])
    assert following == making.steps[3]
    assert [one.key for one in making.left_open(making.steps[3])] == [skipped.key]
    assert making.in_hand is not None
    assert making.in_hand.key == skipped.key


def test_a_batch_goes_through_a_set_up_piece_by_piece_before_it_is_broken(db: Session) -> None:
    making = begun(db, "od 28 ±0.04\nlength 40 ±0.2", pieces=3)
    came = []
    step = making.in_hand
    while step is not None:
        came.append((step.set_up_key, making.plan.piece))
        making = done(db, making, step) if step.kind != "feature" else making
        making, step = goes_on(db, making, making.named(step.key) or step)
    set_ups = [held for held, _ in came]
    assert set_ups == sorted(set_ups, key=set_ups.index), "no set-up is gone back to"
    for held in dict.fromkeys(set_ups):
        pieces = [piece for key, piece in came if key == held]
        assert pieces == sorted(pieces)
        assert set(pieces) == {"1", "2", "3"}
    assert all(one.in_hand is None for one in of_every_piece(db, now(db, making.state)))


def test_by_choice_each_step_goes_through_all_pieces_before_the_next(db: Session) -> None:
    making = begun(db, "od 28 ±0.1 x 40", pieces=3)
    go_by(db, making.state, "step", **by(db))
    making = making_in_hand(db, now(db, making.state))
    order: list[tuple[str, str]] = []
    step = making.in_hand
    while step is not None:
        order.append((making.plan.piece, step.key))
        making = done(db, making, step)
        making, step = goes_on(db, making, named(making, step.key))
        assert step is None or making_in_hand(db, now(db, making.state)).in_hand == step  # opened again, the same
    cut = [key for _, key in order if not key.startswith("hold")]
    assert [key for key, _ in groupby(cut)] == list(dict.fromkeys(cut))
    assert all(cut.count(key) == 3 for key in cut)
    for piece in "123":
        own = [key for one, key in order if one == piece]
        assert own == [one.key for one in making.steps if one.key in own]  # of each piece in the order of the plan
    assert [key for _, key in order if key.startswith("hold/left")] == ["hold/left"]  # soft jaws hold each alike


def test_there_is_no_third_way_through_a_batch(db: Session) -> None:
    making = begun(db, "od 28 ±0.1 x 40", pieces=2)
    with pytest.raises(InputError, match="no way through a batch"):
        go_by(db, making.state, "backwards", **by(db))


def test_opened_again_it_stands_at_the_same_piece_and_step(db: Session) -> None:
    making = begun(db, "od 28 ±0.04\nlength 40 ±0.2", pieces=3)
    for _ in range(9):
        assert making.in_hand is not None
        making = done(db, making, making.in_hand)
        making = making_in_hand(db, now(db, making.state))
    found = making_in_hand(db, now(db, making.state))
    assert (found.plan.piece, found.in_hand) == (making.plan.piece, making.in_hand)
    assert plan_of(db, now(db, making.state), "2").piece == "2"


def test_what_is_decided_about_one_piece_closes_no_step_of_another(db: Session) -> None:
    making = begun(db, "od 28 ±0.04\nlength 40 ±0.2", pieces=3)
    key = "1/turn:A"
    for piece in ("1", "2"):
        making = making_in_hand(db, now(db, making.state), piece)
        making = read(db, making, named(making, key), "27.90", "near end 0°")
        assert named(making, key).gone_too_far is not None
    given = DispositionGiven(uuid4(), "scrap", "1", "cut under", seen=None)
    decide(db, named(making, key).measured[0], given, by=person(db, "bram"))
    done = {one.plan.piece: named(one, key).is_done for one in of_every_piece(db, now(db, making.state))}
    assert done == {"1": True, "2": False, "3": False}


def test_what_is_to_be_cut_again_is_not_done(db: Session) -> None:
    making = begun(db, "od 28 ±0.04\nlength 40 ±0.2")
    making = read(db, making, named(making, "1/turn:A"), "28.10", "near end 0°")
    given = DispositionGiven(uuid4(), "cut_again", "", "there is metal", seen=None)
    decide(db, named(making, "1/turn:A").measured[0], given, by=person(db, "bram"))
    assert not named(again(db, making), "1/turn:A").is_done


def test_the_next_piece_in_a_four_jaw_is_trued_before_it_is_started(db: Session) -> None:
    making = begun(db, "od 28 ±0.04\nlength 40 ±0.2", pieces=2)
    first = making.steps[0]
    assert first.chucking is not None
    choose_holding(db, first.chucking, "four_jaw", "it must run true", **by(db))
    lengths = {"target": "0.02", "screw_lead": "4", "graduation": "0.01"}
    truing = Truing(
        id=uuid4(),
        job_id=making.state.job.id,
        planned_set_up=first.set_up_key,
        piece="1",
        surface="outside",
        grip="outside",
        places=4,
        keys="one",
        unit="mm",
        by_id=person(db, "orla").id,
        **{f"{name}_mm": Decimal(size) for name, size in lengths.items()},
        **{f"{name}_text": f"{size} mm" for name, size in lengths.items()},
    )
    set_up_truing(db, now(db, making.state), truing)
    entry_ = NeedleEntry(id=uuid4(), size="0 0 0 0", tightened=True, round="1", circle="near")
    log_truing(db, truing_state(db, truing), entry_, by=person(db, "orla"), job=now(db, making.state))
    ticked = frozenset(name for name, _ in SAFETY)
    declare_true(
        db, truing_state(db, truing), ticked, by=person(db, "orla"), sent_id=uuid4(), job=now(db, making.state)
    )
    held = {one.plan.piece: one.steps[0].is_done for one in of_every_piece(db, now(db, making.state))}
    assert held == {"1": True, "2": False}
