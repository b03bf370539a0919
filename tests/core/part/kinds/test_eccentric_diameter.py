"""An eccentric: its diameter, how high it stands, and its throw, in one line."""

import pytest

from nomisma.core.order.order import order_of_work
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
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
    """By hand: 1.25 swings 1.25 + 2·0.187 = 1.624 wide; 0.75 and 0.5 are 1.25 long. A set-up of its own cuts it."""
    lines = "od 2.000 ±.002 x .750\neccentric od 1.250 ±.001 x .500 high, throw .187\nbore .501/.502 thru"
    parts = [lettered(one) for one in feature_lines(FeatureLinesInput(text=lines, unit="in")).features]
    section = section_of(parts)
    assert section is not None
    assert float(section.length_mm) == pytest.approx(1.25 * 25.4)
    assert float(section.outside[-1].diameter_mm) == pytest.approx(1.624 * 25.4)
    assert section.bores[0].to_mm == section.length_mm
    order = order_of_work(parts, stock="bar")
    assert order is not None
    (off,) = [one.set_up for one in order.set_ups if one.set_up.workholding and one.set_up.workholding.throw_mm]
    assert [each.letters for each in off.surfaces] == [("C", "D", "E")]


def test_a_bore_may_run_on_the_axis_of_the_eccentric() -> None:
    above = "od 40 x 20\neccentric od 20 x 12 high, throw 4\n"
    for line in ("bore 8 H7 thru the eccentric", "bore 8 H7 thru in the eccentric", "bore 8 H7 thru on C"):
        read_of_it = feature_lines(FeatureLinesInput(text=above + line, unit="mm"))
        assert read_of_it.not_understood == []
        assert (read_of_it.features[-1].along, read_of_it.features[-1].through) == ("on C", True)
        section = section_of([lettered(one) for one in read_of_it.features])
        assert section is not None
        assert section.eccentrics[0].holes == ("F",)
        assert (section.bores[0].from_mm, section.bores[0].to_mm) == (0, 32)
    deep = feature_lines(FeatureLinesInput(text=above + "bore 8 H7 x 10 deep in the eccentric", unit="mm"))
    section = section_of([lettered(one) for one in deep.features])
    assert section is not None
    assert (section.bores[0].from_mm, section.bores[0].to_mm) == (22, 32)


@pytest.mark.parametrize(
    ("above", "words"),
    [("od 40 x 20", "No eccentric"), ("eccentric 20 x 5, throw 2\neccentric 20 x 5, throw 3", "2 eccentrics")],
)
def test_which_eccentric_is_meant_is_asked(above: str, words: str) -> None:
    found = feature_lines(FeatureLinesInput(text=f"{above}\nbore 8 H7 thru the eccentric", unit="mm"))
    assert found.not_understood[-1].sentence.startswith(words)


def test_where_it_cannot_be_planned_it_is_left_to_a_chucking_of_its_own() -> None:
    """Two eccentrics: nobody said how they stand to each other about the axis."""
    lines = "od 40 x 30\neccentric 20 x 10 high, throw 2\neccentric 16 x 8 high, throw 3"
    parts = [lettered(one) for one in feature_lines(FeatureLinesInput(text=lines, unit="mm")).features]
    order = order_of_work(parts, stock="bar")
    assert order is not None
    assert not [one for one in order.operations if {"C", "F"} & set(one.operation.letters)]
    assert "a chucking of its own" in next(one.why for one in order.left_out if one.letter == "C")


def test_a_bore_as_large_as_the_eccentric_it_runs_on_cannot_be() -> None:
    above = "od 40 x 20\neccentric od 20 x 12 high, throw 4\n"
    found = feature_lines(FeatureLinesInput(text=f"{above}bore 21 thru the eccentric", unit="mm"))
    assert [one.letters for one in found.contradictions] == [("F", "C")]
    assert not feature_lines(FeatureLinesInput(text=f"{above}bore 12 thru the eccentric", unit="mm")).contradictions
