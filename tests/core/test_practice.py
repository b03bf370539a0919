"""The simulated chuck: screws, gaps, backlash, tightening; the same seed and turns give the same work."""

from copy import copy
from functools import partial
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import NotDefined
from nomisma.core.practice.chuck import SNUG_MM, Feel, SimulatedChuck
from nomisma.core.practice.follow import advice, follow, read_round
from nomisma.core.practice.levels import level_named, levels
from nomisma.core.truing.seen import Stop
from nomisma.core.truing.surface import Grip

turns = st.lists(st.tuples(st.integers(1, 4), st.sampled_from([-0.5, -0.125, 0.03125, 0.125])), max_size=8)


def chuck(level: str = "round_bar", seed: int = 3) -> SimulatedChuck:
    return SimulatedChuck(level_named(level), seed)


@given(st.sampled_from(sorted(levels())), st.integers(0, 10**6), turns)
def test_the_same_seed_and_the_same_turns_are_the_same_work(
    level: str, seed: int, done: list[tuple[int, float]]
) -> None:
    first, second = chuck(level, seed), chuck(level, seed)
    for jaw, amount in done:
        assert first.turn(jaw, amount) is second.turn(jaw, amount)
    assert read_round(first) == read_round(second)


@given(st.integers(0, 10**6), turns)
def test_no_jaw_is_ever_inside_the_work(seed: int, done: list[tuple[int, float]]) -> None:
    held = chuck(seed=seed)
    for jaw, amount in done:
        held.turn(jaw, amount)
        assert all(one.gap >= 0 for one in held.jaws.values())


def test_a_jaw_driven_against_the_one_across_is_hard_and_moves_nothing() -> None:
    held = chuck()
    before = (held.x, held.y)
    assert held.turn(1, 0.5) is Feel.HARD
    assert (held.x, held.y) == before


def test_eased_and_driven_by_the_same_the_work_moves_by_as_much_less_what_gripped_it() -> None:
    held = chuck()
    before, lead = held.x, float(held.level.lead.mm)
    held.turn(3, -0.2 / lead - (held.level.backlash_mm + SNUG_MM) / lead)
    assert held.turn(1, 0.2 / lead) is Feel.PUSHES
    assert before - held.x == pytest.approx(0.2)


def test_a_screw_turned_back_takes_up_its_backlash_first() -> None:
    held = chuck("cast_rim")
    lead = float(held.level.lead.mm)
    assert held.turn(2, -0.5 * held.level.backlash_mm / lead) is Feel.SLACK
    assert held.turn(2, -2 * held.level.backlash_mm / lead) is Feel.FREE


def test_a_jaw_that_touches_nothing_turns_free() -> None:
    held = chuck()
    held.turn(2, -0.5)
    assert held.turn(2, 0.1) is Feel.FREE


def test_tightening_moves_the_work_the_chucks_own_way_and_only_once() -> None:
    held = chuck("finished_bore")
    before = (held.x, held.y)
    held.tighten()
    moved = ((held.x - before[0]) ** 2 + (held.y - before[1]) ** 2) ** 0.5
    assert moved == pytest.approx(held.level.drift_mm, rel=0.5)
    after = (held.x, held.y)
    held.tighten()
    assert (held.x, held.y) == after


def test_tapping_takes_the_lean_out() -> None:
    held = chuck("leaning_sleeve")
    lean_before = held.total_indicator_reading("far")
    jaw = max((1, 2, 3, 4), key=lambda n: {1: held.lean_x, 2: held.lean_y, 3: -held.lean_x, 4: -held.lean_y}[n])
    held.x = held.y = 0.0
    held.tap(jaw, 0.05)
    assert held.total_indicator_reading("far") < lean_before


def test_looking_twice_says_the_same() -> None:
    held = chuck("cast_rim")
    assert held.needle(90.0) == held.needle(90.0)


def replaced_grip(held: SimulatedChuck, said: Grip) -> SimulatedChuck:
    """The same chuck, as the advice is told it holds."""
    told = copy(held)
    told.level = held.level.model_copy(update={"grip": said})
    return told


@pytest.mark.parametrize("grip", ["outside", "inside"])
def test_both_grips_end_true_when_they_are_said_rightly(grip: Grip) -> None:
    for seed in range(10):
        held = SimulatedChuck(level_named("round_bar").model_copy(update={"grip": grip}), seed)
        follow(held, lambda: 1.0)
        assert 2 * held.offset() < 0.02, (grip, seed)


@pytest.mark.parametrize(("grip", "said"), [("outside", "inside"), ("inside", "outside")])
def test_a_grip_said_wrongly_drives_the_work_farther_off(grip: Grip, said: Grip) -> None:
    held = SimulatedChuck(level_named("round_bar").model_copy(update={"grip": grip}), 3)
    before, found = held.offset(), advice(replaced_grip(held, said))
    move = found.moves[0]
    held.turn(move.ease_jaw, -1.0)
    held.turn(move.drive_jaw, move.turns + 0.02)
    assert held.offset() > before


@pytest.mark.parametrize("level", sorted(levels()))
def test_following_the_advice_ends_true_or_at_the_works_own_shape(level: str) -> None:
    good = 0
    for seed in range(60):
        held, hand = chuck(level, seed), Random(seed)
        found = follow(held, partial(hand.uniform, 0.9, 1.1))
        target = float(held.level.target.mm)
        good += found.rounds <= 3 and (found.total_indicator_reading_mm <= target or 2 * found.offset_mm <= target)
    assert good >= 54


def test_oval_stock_is_recognised() -> None:
    held = chuck("oval_stock")
    held.x = held.y = 0.0
    held._waves = [(2, 0.02, 0.0)]
    assert advice(held).stop is Stop.WORK_NOT_CHUCK


def test_a_level_that_is_none_has_its_sentence() -> None:
    with pytest.raises(NotDefined, match="no level “anvil”"):
        level_named("anvil")
