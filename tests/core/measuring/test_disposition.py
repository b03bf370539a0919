"""What may be decided about a piece, and in which state."""

import pytest

from nomisma.core.measuring.disposition import DISPOSITIONS, OUT_DISPOSITIONS, dispositions_open
from nomisma.core.part.feature import State


@pytest.mark.parametrize("state", list(State))
def test_each_state_has_a_way_on(state: State) -> None:
    assert dispositions_open(state)


@pytest.mark.parametrize("state", list(State))
def test_only_ways_for_that_state_are_shown(state: State) -> None:
    assert all(state in rule.states for rule in dispositions_open(state))


def test_what_is_decided_of_a_piece_that_is_out_is_among_the_decisions() -> None:
    assert set(OUT_DISPOSITIONS) <= set(DISPOSITIONS)
