"""Shorthands of the lathe: each example is of its own pattern alone, and its numbers are in what it opens."""

import pytest

from nomisma.core.cutting.speeds import cutting_speeds
from nomisma.core.errors import InputError
from nomisma.core.lathe_shorthands import LATHE_SHORTHANDS
from nomisma.core.shorthands import SHORTHANDS, understand_shorthand


def test_every_example_is_of_its_own_pattern_alone() -> None:
    for one in LATHE_SHORTHANDS:
        assert [other for other in SHORTHANDS if other.pattern.fullmatch(one.example)] == [one]


@pytest.mark.parametrize("material", cutting_speeds())
def test_every_material_with_a_speed_is_known_by_its_name(material: str) -> None:
    found = understand_shorthand(f"speed 1 in {material.replace('_', ' ')}", "in")
    assert found
    assert found[1]["material"] == material


@pytest.mark.parametrize("line", ["speed 1 in cheese", "face 1.030 to", "drill for nothing"])
def test_what_cannot_be_read_is_said(line: str) -> None:
    try:
        assert understand_shorthand(line, "in") is None
    except InputError as error:
        assert error.remedy
