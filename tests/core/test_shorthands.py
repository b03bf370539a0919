"""Shorthands of the entry line: each is understood by its own example."""

import pytest

from nomisma.core.entry_line import HELP, EntryResult
from nomisma.core.registry import calculation_named
from nomisma.core.shorthand import Shorthand
from nomisma.core.shorthands import SHORTHANDS


@pytest.mark.parametrize("shorthand", SHORTHANDS, ids=lambda shorthand: shorthand.example)
def test_every_shorthands_own_example_is_understood_and_runs(shorthand: Shorthand) -> None:
    result = understand(shorthand.example)
    assert calculation_named(result.calculation).run(result.inputs)
    assert shorthand.example in HELP


def understand(text: str, unit: str | None = "in") -> EntryResult:
    result = calculation_named("entry_line").run({"text": text, "unit": unit})
    assert isinstance(result, EntryResult)
    return result
