"""Errors say what is wrong, what to do, and where."""

import pytest

from nomisma.core.errors import InputError, OutOfRange, UnreadableLength, needed, refused_as


def test_an_error_is_one_sentence_of_problem_and_remedy() -> None:
    error = InputError("The bore is larger than the hub.", "Give the hub's outside.", field="hub")
    assert (error.sentence, error.field) == ("The bore is larger than the hub. Give the hub's outside.", "hub")


def test_the_same_error_may_be_said_of_another_field() -> None:
    error = UnreadableLength("“x” is not understood as a size.", "Write it like 7/8.", value="x")
    moved = error.at("shaft")
    assert (moved.field, moved.problem, moved.value) == ("shaft", error.problem, "x")


def test_an_empty_text_that_is_needed_is_refused_at_its_field() -> None:
    with pytest.raises(InputError, match="Nothing was entered") as refused:
        needed("", "reason")
    assert refused.value.field == "reason"


def test_other_failures_pass_through_what_only_rewords_refusals() -> None:
    with pytest.raises(ZeroDivisionError), refused_as("“0” is no speed.", "Give one above 0."):
        raise ZeroDivisionError
    with (
        pytest.raises(OutOfRange, match="“0” is no speed. Give one above 0."),
        refused_as("“0” is no speed.", "Give one above 0."),
    ):
        raise InputError("Not a number.", "Write it out.")
