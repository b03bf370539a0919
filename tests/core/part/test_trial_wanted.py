"""What a line wants of a trial: what is tried, and between which steps it is to go."""

import pytest

from nomisma.core.errors import InputError
from nomisma.core.part.trial_wanted import TrialWanted, wanted_by_trial


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("axle slides", TrialWanted("axle", 4, 4)),
        ("ring gauge wrings to slides", TrialWanted("ring gauge", 3, 4)),
        ("plug slides to wrings", TrialWanted("plug", 3, 4)),
        ("go plug 25 H7 goes", TrialWanted("go plug 25 H7", 4, 5)),
        ("no-go plug does not go", TrialWanted("no-go plug", 1, 1)),
        ("Spindle  Starts and stops", TrialWanted("Spindle", 2, 2)),
    ],
)
def test_what_is_tried_and_how_it_is_to_go(text: str, wanted: TrialWanted) -> None:
    assert wanted_by_trial(text) == wanted


@pytest.mark.parametrize("text", ["", "axle", "slides", "axle fits nicely", "轴 滑动"])
def test_a_line_that_does_not_say_it_is_refused_with_how_to(text: str) -> None:
    with pytest.raises(InputError, match="does not say what is tried"):
        wanted_by_trial(text)
