"""The marks between what a line of a sketch says."""

import pytest

from nomisma.core.part.written import BY, ENDS, THROUGH


@pytest.mark.parametrize(
    ("size", "bare"), [("20 deep", "20"), (".125 wide", ".125"), ("3 high", "3"), ("12 H7", "12 H7")]
)
def test_the_word_behind_a_size_is_none_of_it(size: str, bare: str) -> None:
    assert ENDS.sub("", size) == bare


def test_an_x_between_spaces_parts_two_sizes_and_one_within_a_size_does_not() -> None:
    assert BY.split("24 x 18") == ["24", "18"]
    assert BY.split("M8x1") == ["M8x1"]
    assert THROUGH.sub("", "17/32 THRU") == "17/32"
