"""What a line ends with to say what its feature is there for."""

import pytest

from nomisma.core.part.duty import duty_said
from nomisma.core.part.said_feature import SaidFeature, duty_words


@pytest.mark.parametrize(
    ("name", "true_to", "words"),
    [
        ("", "", ""),
        ("true_to", "A", ", true to A"),
        ("sets_position", "A", ", sets the position, true to A"),
        ("seen", "", ", only seen"),
    ],
)
def test_a_duty_is_said_behind_the_size(name: str, true_to: str, words: str) -> None:
    assert duty_words(SaidFeature("B", "bore", "12 H7", duty=duty_said(name, true_to))) == words
