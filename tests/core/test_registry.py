"""Every calculation keeps the contract: documented, runnable, and strict about its input."""

import inspect
from decimal import Decimal

import pytest

from nomisma.core.calculation import BadInput, Calculation
from nomisma.core.cutting.speeds import SpeedsResult
from nomisma.core.quantity.fields import celsius
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


ABSURD = ("1e300", "-1e300", "nan", "inf", "1e30 °C", "1e-300", "9" * 400, 1e300, float("nan"), float("-inf"))


@pytest.mark.parametrize("name", sorted(calculations()))
def test_an_absurd_number_gets_an_answer_or_a_sentence_and_never_raw_words(name: str) -> None:
    calculation = calculation_named(name)
    for field in calculation.input_model.model_fields:
        for value in (*ABSURD, [], {}, "abc", "", True):
            try:
                text = calculation.run({**calculation.example, field: value}).model_dump_json()
            except BadInput as bad:
                assert all(error.sentence and "Input should" not in error.sentence for error in bad.errors)
            else:
                assert "NaN" not in text
                assert "Infinity" not in text


def test_several_errors_name_their_fields() -> None:
    with pytest.raises(BadInput, match=r"diameter: .* material: "):
        calculation_named("speeds").run({"diameter": "", "material": 7})


@pytest.mark.parametrize(
    ("text", "degrees"), [("68 F", "20"), ("68 °F", "20"), ("20", "20"), ("-4 f", "-20"), ("24,5 °C", "24.5")]
)
def test_a_temperature_is_read_as_it_is_written(text: str, degrees: str) -> None:
    assert celsius(text) == Decimal(degrees)


def test_a_calculation_takes_fahrenheit_and_feet_a_minute() -> None:
    warm = calculation_named("interference")
    hot, same = (warm.run({**warm.example, "temperature_c": degrees}).model_dump()["cases"] for degrees in ("140 F", 60))
    assert hot == same
    speed = calculation_named("speeds").run({"diameter": "1 in", "surface_m_min": "100 ft/min"})
    assert isinstance(speed, SpeedsResult)
    assert speed.wanted_rpm == pytest.approx(30.48 * 1000 / (3.14159265 * 25.4), rel=1e-6)
