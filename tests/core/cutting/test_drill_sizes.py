"""The drill nearest to a size, among numbers, letters, fractions and millimetres."""

from typing import Any

import pytest

from nomisma.core.registry import calculation_named


def near(size: str) -> dict[str, Any]:
    return calculation_named("drill_sizes").run({"size": size}).model_dump(mode="json")


@pytest.mark.parametrize(
    ("size", "name"), [("0.2031 in", "13/64 in"), ("0.2010 in", "#7"), ("0.332 in", "letter Q"), ("5.1 mm", "5.1 mm")]
)
def test_the_nearest_drill_by_name(size: str, name: str) -> None:
    assert near(size)["nearest"]["name"] == name


def test_its_row_rises_and_says_how_far_each_is_over() -> None:
    row = near("0.2031 in")["row"]
    over = [float(one["over"].removesuffix(" in")) for one in row]
    assert over == sorted(over)
    assert min(over) < 0 < max(over)
