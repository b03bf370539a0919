"""An eccentric: its diameter, how high it stands, and its throw, in one line."""

import pytest

from tests.core.part.kinds.reading import again, read


@pytest.mark.parametrize(
    "line", ["eccentric od 30 ±0.02 x 12 high, throw 4.75 ±0.05", "eccentric 30 ±0.02 x 12, throw 4.75 ±0.05"]
)
def test_diameter_height_and_throw_are_three_features(line: str) -> None:
    diameter, height, throw = read(line)
    assert [one.kind for one in (diameter, height, throw)] == ["eccentric_diameter", "height", "throw"]
    assert (str(diameter.upper), str(throw.lower)) == ("30.02 mm", "4.7 mm")


def test_they_are_said_again_in_one_line() -> None:
    assert again("eccentric 30 ±0.02 x 12 high, throw 4.75 ±0.05") == ["eccentric 30 ±0.02 x 12 high, throw 4.75 ±0.05"]
    assert again("eccentric 30 ±0.02, throw 4.75 ±0.05") == ["eccentric 30 ±0.02, throw 4.75 ±0.05"]


def test_where_it_lies_may_stand_behind_its_throw() -> None:
    diameter, throw = read("eccentric 30 ±0.02, throw 4.75 ±0.05 on A")
    assert (diameter.along, throw.text) == ("on A", "4.75 ±0.05")
    assert again("eccentric 30 ±0.02, throw 4.75 ±0.05 on A") == ["eccentric 30 ±0.02, throw 4.75 ±0.05 on A"]
