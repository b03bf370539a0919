"""Turns of the key and directions in the words of the bench."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.truing.turn_words import towards, turns_in_words


@pytest.mark.parametrize(
    ("turns", "words"),
    [
        (0.01, "a touch of the key"),
        (0.125, "an eighth of a turn"),
        (0.5, "half a turn"),
        (1.0, "one turn"),
        (2.25, "2.2 turns"),
    ],
)
def test_a_part_of_a_turn_as_a_hand_knows_it(turns: float, words: str) -> None:
    assert turns_in_words(turns) == words


@given(st.floats(0, 359.9))
def test_every_direction_is_a_jaw_or_between_two_neighbours(at_deg: float) -> None:
    numbers = [int(one) for one in towards(at_deg) if one.isdigit()]
    assert all(1 <= number <= 4 for number in numbers)
    assert len(numbers) == 1 or (numbers[1] - numbers[0]) % 4 == 1


def test_the_jaw_nearest_is_named_within_an_eighth_of_the_turn() -> None:
    assert [towards(at) for at in (0, 22, 90, 180, 270, 350)] == ["jaw 1", "jaw 1", "jaw 2", "jaw 3", "jaw 4", "jaw 1"]
