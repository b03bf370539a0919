"""A hand that follows the advice: what is asked for is what is done, and a heavy one takes longer."""

from random import Random

import pytest

from nomisma.core.practice.chuck import SimulatedChuck
from nomisma.core.practice.follow import advice, follow, make_move
from nomisma.core.practice.levels import levels


def test_a_move_made_is_the_move_that_was_asked_for() -> None:
    held = SimulatedChuck(levels()["cast_rim"], 11)
    move = advice(held).moves[0]
    before = held.offset_along(move.drive_jaw)
    make_move(held, move, 1.0)
    assert before - held.offset_along(move.drive_jaw) == pytest.approx(float(move.move.mm), abs=0.01)
    assert all(one.gap < 0.05 for one in held.jaws.values())


def test_a_heavy_hand_takes_more_rounds_than_a_sure_one() -> None:
    level = levels()["round_bar"]
    chance = Random(5)
    sure = sum(follow(SimulatedChuck(level, seed), lambda: 1.0).rounds for seed in range(40))
    heavy = sum(follow(SimulatedChuck(level, seed), lambda: chance.uniform(0.5, 1.5)).rounds for seed in range(40))
    assert heavy > sure
