"""A fit by trial: its line is not parted at an x, and says how it is to go."""

import pytest

from nomisma.core.errors import InputError
from tests.core.part.kinds.reading import read


def test_what_is_tried_may_have_an_x_in_it() -> None:
    (found,) = read("trial M8 x 20 screw slides")
    assert (found.kind, found.text, found.lower) == ("by_trial", "M8 x 20 screw slides", None)


@pytest.mark.parametrize("line", ["trial screw", "trial"])
def test_how_it_is_to_go_must_be_said(line: str) -> None:
    with pytest.raises(InputError):
        read(line)
