"""Shorthands of lengths and angles: what each line opens, with its numbers in it."""

import pytest

from nomisma.core.length_shorthands import LENGTH_SHORTHANDS
from nomisma.core.quantity.length import Unit
from nomisma.core.shorthands import understand_shorthand


@pytest.mark.parametrize(
    ("line", "unit", "calculation", "inputs"),
    [
        ("slips 1.3725", "in", "slips", {"target": "1.3725 in", "set": "in81", "unit": "in"}),
        ("taper 1 to 3/4 over 5", "in", "taper", {"large": "1 in", "small": "0.75 in", "length": "5 in", "unit": "in"}),
        ("set taper Morse 3", "in", "taper", {"taper": "Morse 3", "unit": "in"}),
        (
            "set taper 1:20 from 25 over 40",
            "mm",
            "taper",
            {"taper": "1:20", "large": "25 mm", "length": "40 mm", "unit": "mm"},
        ),
        (
            "sine 16.5° on 100",
            "mm",
            "sine_bar",
            {"angle": "16.5°", "rollers_apart": "100 mm", "set": "m88", "unit": "mm"},
        ),
        ("tap M8x1", "mm", "tapping", {"thread": "M8x1", "unit": "mm"}),
        ("6 holes on 4", "in", "hole_circle", {"count": "6", "circle": "4 in", "unit": "in"}),
        ("slip 34.565 mm", "in", "slips", {"target": "34.565 mm", "set": "m88", "unit": "mm"}),
    ],
)
def test_a_line_opens_its_tool_with_its_numbers(
    line: str, unit: Unit, calculation: str, inputs: dict[str, str]
) -> None:
    found = understand_shorthand(line, unit)
    assert found
    assert found[:2] == (calculation, inputs)


def test_every_example_is_of_its_own_pattern_alone() -> None:
    for one in LENGTH_SHORTHANDS:
        assert [other for other in LENGTH_SHORTHANDS if other.pattern.fullmatch(one.example)] == [one]
