"""A feature by its letter: how small and large it may be, and what says how long it is."""

from decimal import Decimal

import pytest

from nomisma.core.part.feature import Feature
from nomisma.core.part.lettered import LetteredFeature, length_behind, lengths_behind, whole_length
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered


def part(lines: str) -> list[LetteredFeature]:
    return [
        lettered(one)
        for one in feature_lines(FeatureLinesInput(text=lines, unit="mm", general_tolerance="none")).features
    ]


def test_without_limits_its_nominal_is_what_it_may_be_and_with_one_limit_only_that() -> None:
    bare = LetteredFeature("A", Feature("length"), nominal_mm=Decimal(30))
    most = LetteredFeature("B", Feature("width", upper_mm=Decimal(6)), nominal_mm=Decimal(6))
    assert ((bare.least_mm, bare.most_mm), (most.least_mm, most.most_mm)) == ((30, 30), (None, 6))


@pytest.mark.parametrize(
    ("lines", "pairs", "whole"),
    [
        ("od 24 x 18\nboss 20 x 4 high\nlength 22", ["AB", "CD"], "E"),
        ("od 24\nod 20 x 4\nlength 22", ["A", "BC"], "D"),
        ("od 24 from 0 to 18\nlength 22", ["A"], "B"),
        ("od 24 x 18 from 0 to 18\nlength 22", ["AB"], "C"),
        ("bore 8\nlength 22", [], "B"),
    ],
)
def test_a_length_right_behind_a_step_is_its_own_and_another_is_the_whole(
    lines: str, pairs: list[str], whole: str
) -> None:
    features = part(lines)
    found = lengths_behind(features, "outside_diameter")
    assert ["".join(one.letter for one in pair if one) for pair in found] == pairs
    total = whole_length(features)
    assert total
    assert total.letter == whole


def test_a_bore_has_a_depth_and_no_length() -> None:
    features = part("bore 8 x 5 deep\nbore 6\nlength 22")
    assert [behind.letter if (behind := length_behind(features, index)) else "" for index in (0, 2)] == ["B", ""]
