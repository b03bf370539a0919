"""A hole drilled and finished: which drills, in which steps, of whose drawer."""

import pytest

from nomisma.core.cutting.hole import HoleResult
from nomisma.core.registry import calculation_named


@pytest.mark.parametrize(
    ("finished", "unit", "drills", "name"),
    [
        ("1.032 in", "in", None, "1-1/64 in"),
        ("27 mm", "mm", None, "26.5 mm"),
        ("0.376 in", "in", None, "23/64 in"),
        ("0.376 in", "in", "metric", "9.2 mm"),
        ("27 mm", "mm", "inch", "1-3/64 in"),
    ],
)
def test_a_hole_gets_the_drills_of_its_unit_or_those_in_the_drawer(
    finished: str, unit: str, drills: str | None, name: str
) -> None:
    found = calculation_named("hole").run({"finished": finished, "method": "ream", "unit": unit, "drills": drills})
    assert isinstance(found, HoleResult)
    assert found.drill.name == name


def test_a_large_hole_is_drilled_in_steps() -> None:
    found = calculation_named("hole").run({"finished": "1.5 in", "method": "bore"})
    assert isinstance(found, HoleResult)
    sizes = [one.size.mm for one in [*found.stepped, found.drill]]
    assert len(sizes) == 3
    assert sizes == sorted(sizes)
    assert any("face it from the hole outwards" in line for line in found.advice)
