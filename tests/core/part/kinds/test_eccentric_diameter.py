"""An eccentric: its diameter, how high it stands, and its throw, in one line."""

import pytest

from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from nomisma.core.planning.order import order_of_work
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


def test_its_metal_is_there_and_the_part_is_as_long_as_it_stands() -> None:
    """By hand: 1.25 swings 1.25 + 2·0.187 = 1.624 wide; 0.75 and 0.5 are 1.25 long. The plan leaves it to its own
    chucking.
    """
    lines = "od 2.000 ±.002 x .750\neccentric od 1.250 ±.001 x .500 high, throw .187\nbore .501/.502 thru"
    parts = [lettered(one) for one in feature_lines(FeatureLinesInput(text=lines, unit="in")).features]
    section = section_of(parts)
    assert section is not None
    assert float(section.length_mm) == pytest.approx(1.25 * 25.4)
    assert float(section.outside[-1].diameter_mm) == pytest.approx(1.624 * 25.4)
    assert section.bores[0].to_mm == section.length_mm
    order = order_of_work(parts, stock="bar")
    assert order is not None
    assert not [one for one in order.operations if "C" in one.operation.letters]
    assert "a chucking of its own" in next(one.why for one in order.left_out if one.letter == "C")
