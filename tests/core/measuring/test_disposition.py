"""What may be decided about a piece, by whom and in which state."""

import pytest

from nomisma.core.measuring.disposition import DISPOSITIONS, OUT_DISPOSITIONS, dispositions_open
from nomisma.core.part.feature import State


@pytest.mark.parametrize("state", list(State))
def test_each_state_has_a_way_on_for_somebody(state: State) -> None:
    assert any(may for _, may in dispositions_open(state, "lead"))


@pytest.mark.parametrize("state", list(State))
def test_only_ways_for_that_state_are_shown(state: State) -> None:
    assert all(state in rule.states for rule, _ in dispositions_open(state, "apprentice"))


def test_an_apprentice_does_not_use_as_it_is_what_is_gone() -> None:
    ways = {rule.kind: may for rule, may in dispositions_open(State.GONE_TOO_FAR, "apprentice")}
    assert not ways["use_as_is"]


def test_what_is_decided_of_a_piece_that_is_out_is_among_the_decisions() -> None:
    assert set(OUT_DISPOSITIONS) <= set(DISPOSITIONS)
