"""Every calculation keeps the contract: documented, runnable, and strict about its input."""

import inspect

import pytest

from nomisma.core.calculation import BadInput, Calculation
from nomisma.core.registry import calculation_named, calculations

ALL = list(calculations().values())


@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_its_example_runs_and_survives_json(calculation: Calculation) -> None:
    result = calculation.run(calculation.example)
    written = result.model_dump_json()
    assert type(result).model_validate_json(written).model_dump_json() == written


@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_its_docstring_names_a_source_and_what_it_raises(calculation: Calculation) -> None:
    text = inspect.getdoc(calculation.function) or ""
    assert "Source:" in text
    assert "Raises" in text or calculation.name == "measuring_uncertainty"


@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_every_result_carries_working_with_sources(calculation: Calculation) -> None:
    def steps(value: object) -> list[dict[str, str]]:
        if isinstance(value, dict):
            return [*value.get("working", []), *(step for item in value.values() for step in steps(item))]
        return [step for item in value for step in steps(item)] if isinstance(value, list) else []

    found = steps(calculation.run(calculation.example).model_dump(mode="json"))
    assert all(step["source"] and step["result"] for step in found)
    assert found or calculation.name == "entry_line"


@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_a_field_it_does_not_have_is_named(calculation: Calculation) -> None:
    with pytest.raises(BadInput) as refused:
        calculation.run({**calculation.example, "colour": "blue"})
    assert ("colour", "There is no such field. Check its spelling.") in [
        (error.field, error.sentence) for error in refused.value.errors
    ]


@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_nothing_at_all_gives_a_sentence_for_each_needed_field(calculation: Calculation) -> None:
    needed = {name for name, info in calculation.input_model.model_fields.items() if info.is_required()}
    with pytest.raises(BadInput) as refused:
        calculation.run({})
    assert {error.field for error in refused.value.errors} == needed


@pytest.mark.parametrize("wrong", [None, 7, [], {}, "", "x" * 10_000, "NaN mm", "1e9 mm", "-3 mm", "\x00"])
@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_nonsense_in_any_field_is_refused_never_a_crash(calculation: Calculation, wrong: object) -> None:
    for field in calculation.example:
        try:
            calculation.run({**calculation.example, field: wrong})
        except BadInput as refused:
            assert all(error.sentence for error in refused.errors)


def test_an_unknown_name_lists_the_known_ones() -> None:
    with pytest.raises(BadInput, match="amount_to_take, assembly, batch, boring_bar, bush, clean_up, close_in_found"):
        calculation_named("fitt")
