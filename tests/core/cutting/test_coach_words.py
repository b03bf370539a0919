"""What the coach says: chances are never a bare nothing, and each approach has its words."""

from typing import get_args

import pytest

from nomisma.core.cutting.coach_words import APPROACH_WORDS, percent
from nomisma.core.cutting.depth import Approach


def test_every_approach_has_its_words() -> None:
    assert set(APPROACH_WORDS) == set(get_args(Approach))


@pytest.mark.parametrize(
    ("chance", "words"),
    [(0.0, "below 0.01 %"), (0.00009, "below 0.01 %"), (0.0025, "0.25 %"), (0.5, "50.00 %"), (1.0, "above 99.99 %")],
)
def test_a_chance_is_never_said_to_be_none_or_sure(chance: float, words: str) -> None:
    assert percent(chance) == words
