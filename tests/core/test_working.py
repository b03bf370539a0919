"""The working of a result: steps with their sources."""

import pytest

from nomisma.core.calculation import Calculation
from nomisma.core.registry import calculations

ALL = list(calculations().values())


@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_every_result_carries_working_with_sources(calculation: Calculation) -> None:
    def steps(value: object) -> list[dict[str, str]]:
        if isinstance(value, dict):
            return [*value.get("working", []), *(step for item in value.values() for step in steps(item))]
        return [step for item in value for step in steps(item)] if isinstance(value, list) else []

    found = steps(calculation.run(calculation.example).model_dump(mode="json"))
    assert all(step["source"] and step["result"] for step in found)
    assert found or calculation.name == "entry_line"
