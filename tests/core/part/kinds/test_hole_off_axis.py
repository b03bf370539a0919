"""Holes off the axis: how many of what size, and their circle, in one line."""

import pytest

from nomisma.core.errors import InputError
from tests.core.part.kinds.reading import again, read


def test_each_hole_has_the_limits_and_the_count_stays_with_it() -> None:
    hole, circle = read("6 holes 9 ±0.1 thru on 115 ±0.2")
    assert (hole.text, str(hole.upper), circle.kind, str(circle.lower)) == (
        "6 x 9 ±0.1",
        "9.1 mm",
        "hole_circle",
        "114.8 mm",
    )
    assert "6 of them, from 8.9 mm" in hole.sentence


@pytest.mark.parametrize("line", ["6 holes 9 ±0.1 on 115 ±0.2", "4 holes 17/32 on 8-3/4"])
def test_they_are_said_again_in_one_line(line: str) -> None:
    assert again(line) == [line]


@pytest.mark.parametrize("line", ["6 holes 9", "holes 3", "0 holes 9 on 30", "6 holes on 115"])
def test_size_and_circle_must_be_said(line: str) -> None:
    with pytest.raises(InputError):
        read(line)
