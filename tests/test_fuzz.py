"""Hostile values at every door: each is answered with a sentence, none with a failure, and none holds a worker."""

import json
import random
import time
from typing import Any

import pytest

from nomisma.core.calculation import BadInput, Calculation
from nomisma.core.registry import calculation_named, calculations
from tests.hostile import spoilt

EACH = 60
LONGEST_SECONDS = 2.0
"""The promise of docs/SECURITY.md; the slowest honest answer takes a tenth of it."""


def answer(calculation: Calculation, values: dict[str, Any]) -> str:
    """What the calculation's door says: an answer as JSON, or the sentences."""
    try:
        return calculation.run(values).model_dump_json()
    except BadInput as error:
        return json.dumps(error.as_dicts())


@pytest.mark.parametrize("name", calculations())
def test_hostile_values_are_answered_by_every_calculation(name: str) -> None:
    calculation = calculation_named(name)
    chance = random.Random(f"hostile {name}")
    for _ in range(EACH):
        values = spoilt(calculation.example, list(calculation.input_model.model_fields), chance)
        started = time.process_time()
        assert answer(calculation, values)
        assert time.process_time() - started < LONGEST_SECONDS, values
