"""The entry line."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.entry_line import HELP, EntryResult
from nomisma.core.registry import calculation_named

LINES = [
    ("25 H7/g6", "in", "fit", "fit H7/g6 on 25 mm"),
    ("1.229 to 1.125", "in", "amount_to_take", "from 1.229 in to 1.125 in, on diameter"),
    ("29.43 to 28.00 mm", "in", "amount_to_take", "from 29.43 mm to 28 mm, on diameter"),
    ("29.43 mm to 28.00", "in", "amount_to_take", "from 29.43 mm to 28 mm, on diameter"),
    ("1-3/8 to 1.350", "mm", "amount_to_take", "from 1.375 in to 1.35 in, on diameter"),
    ("7/8 slip", "mm", "fit_options", "0.875 in, slides by hand"),
    ("25 mm running fit", "in", "fit_options", "25 mm, turns freely"),
    ("7/8", "mm", "size", "a size: 0.875 in"),
    ("0.3755/0.3760", "in", "size", "a size: 0.3755/0.3760"),
    ("#32", "mm", "size", "a size: 0.116 in"),
]


def understand(text: str, unit: str | None = "in") -> EntryResult:
    result = calculation_named("entry_line").run({"text": text, "unit": unit})
    assert isinstance(result, EntryResult)
    return result


@pytest.mark.parametrize(("text", "unit", "calculation", "understood"), LINES)
def test_a_line_opens_the_tool_that_answers_it(text: str, unit: str, calculation: str, understood: str) -> None:
    result = understand(text, unit)
    assert (result.calculation, result.understood) == (calculation, understood)


@pytest.mark.parametrize(("text", "unit", "calculation"), [line[:3] for line in LINES])
def test_what_it_opens_runs_with_the_numbers_in_it(text: str, unit: str, calculation: str) -> None:
    result = understand(text, unit)
    if calculation != "fit_options":  # the partner is still to be measured there
        assert calculation_named(result.calculation).run(result.inputs)


@pytest.mark.parametrize("text", ["bush 3/8 on 1/4 x 1/2", "hello", "H7/g6"])
def test_what_it_does_not_understand_it_says_plainly(text: str) -> None:
    with pytest.raises(BadInput) as refused:
        understand(text)
    (error,) = refused.value.errors
    assert error.problem == f"“{text.lower()}” is not understood as a size."
    assert error.remedy.endswith(HELP)


def test_a_size_without_a_unit_is_asked_about_where_none_is_in_force() -> None:
    with pytest.raises(BadInput, match="has no unit"):
        understand("1.229 to 1.125", None)


@given(st.text(max_size=200))
def test_any_line_is_answered_or_refused_with_a_sentence(text: str) -> None:
    try:
        assert understand(text).understood
    except BadInput as refused:
        assert all(error.field == "text" and error.sentence for error in refused.errors)
