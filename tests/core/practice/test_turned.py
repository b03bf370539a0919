"""Parts turned on the simulated lathe: the same seed is the same part, and the coach spoils none of a few."""

import pytest

from nomisma.core.cutting.depth import Approach, CutRules
from nomisma.core.cutting.learned import CutSeen
from nomisma.core.practice.lathe import SimulatedLathe
from nomisma.core.practice.turned import APPROACHES, Limits, by_hand, coached, many, older

LIMITS = Limits(24.967, 24.993)
RULES = CutRules(step=0.01, polish=0.008, guard=0.0026)


def test_the_same_seed_turns_the_same_part() -> None:
    first, second = (coached(SimulatedLathe(7, 27.5), LIMITS, (), "equal_cuts", RULES) for _ in range(2))
    assert first == second


@pytest.mark.parametrize("approach", APPROACHES)
def test_twenty_parts_with_the_coach_and_none_is_scrap(approach: Approach) -> None:
    found = many(20, approach)
    assert (found.parts, found.scrap_percent) == (20, 0)


def test_a_hand_measures_and_cuts_until_it_is_in_or_gone() -> None:
    found = by_hand(SimulatedLathe(3, 26.5), LIMITS, "creep", RULES)
    assert found.measured > 2
    assert found.scrap is not found.in_limits


def test_the_cuts_of_the_last_piece_are_one_piece_older() -> None:
    assert [one.pieces_ago for one in older([CutSeen(0.2, 0.2), CutSeen(0.1, 0.1, pieces_ago=2)])] == [1, 3]
