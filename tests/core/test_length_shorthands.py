"""Shorthands of lengths and angles: what each line opens, with its numbers in it."""

import pytest

from nomisma.core.length_shorthands import LENGTH_SHORTHANDS
from nomisma.core.quantity.length import Unit
from nomisma.core.shorthands import understand_shorthand


@pytest.mark.parametrize(
    ("line", "unit", "calculation", "inputs"),
    [
        ("slips 1.3725", "in", "slips", {"target": "1.3725 in", "set": "in81", "unit": "in"}),
        ("slip 34.565 mm", "in", "slips", {"target": "34.565 mm", "set": "m88", "unit": "mm"}),
    ],
)
def test_a_line_opens_its_tool_with_its_numbers(line: str, unit: Unit, calculation: str, inputs: dict[str, str]) -> None:
    found = understand_shorthand(line, unit)
    assert found
    assert found[:2] == (calculation, inputs)


def test_every_example_is_of_its_own_pattern_alone() -> None:
    for one in LENGTH_SHORTHANDS:
        assert [other for other in LENGTH_SHORTHANDS if other.pattern.fullmatch(one.example)] == [one]
