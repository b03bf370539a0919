"""The one shape of a calculation: fields named, wrong ones refused with a sentence each."""

import pytest

from nomisma.core.calculation import BadInput, Calculation
from nomisma.core.registry import calculation_named, calculations

ALL = list(calculations().values())


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
    told = {error.field for error in refused.value.errors}
    assert told >= needed
    assert told <= set(calculation.input_model.model_fields) | ({"input"} if not needed else set())


@pytest.mark.parametrize("wrong", [None, 7, [], {}, "", "x" * 10_000, "NaN mm", "1e9 mm", "-3 mm", "\x00"])
@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_nonsense_in_any_field_is_refused_never_a_crash(calculation: Calculation, wrong: object) -> None:
    for field in calculation.example:
        try:
            calculation.run({**calculation.example, field: wrong})
        except BadInput as refused:
            assert all(error.sentence for error in refused.errors)


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
