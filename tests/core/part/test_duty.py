"""What a feature is there for: as a line says it, and what may give."""

import pytest

from nomisma.core.errors import NotDefined, UnreadableLength
from nomisma.core.part.duty import (
    NO_DUTY,
    WITH_TRUE_TO,
    DutyName,
    FeatureDuty,
    duties,
    duty_in_line,
    duty_said,
    may_give,
)


@pytest.mark.parametrize(
    ("line", "rest", "duty"),
    [
        ("od 25 h6 x 40, carries the load", "od 25 h6 x 40", FeatureDuty("carries_load")),
        ("bore 30 H7; locates", "bore 30 H7", FeatureDuty("sets_position")),
        ("28 ±0.1 seen only", "28 ±0.1", FeatureDuty("seen")),
        ("cham 1/16 x 45 free", "cham 1/16 x 45", FeatureDuty("free")),
        ("runout .002 true to b", "runout .002", FeatureDuty("true_to", "B")),
        ("bore 47 K7, sets the position, true to C", "bore 47 K7", FeatureDuty("sets_position", "C")),
        ("bore 47 K7, true to c, carries the load", "bore 47 K7", FeatureDuty("carries_load", "C")),
        ("od 25,4 h6", "od 25,4 h6", NO_DUTY),
        ("free", "free", NO_DUTY),
    ],
)
def test_a_line_ends_with_what_matters(line: str, rest: str, duty: FeatureDuty) -> None:
    assert duty_in_line(line) == (rest, duty)


def test_every_way_of_saying_it_is_understood() -> None:
    for name, one in duties().items():
        for said in one.said:
            assert duty_in_line(f"28 ±0.1, {said.format(letter='C')}") == (
                "28 ±0.1",
                FeatureDuty(name, "C" if "{" in said else ""),
            )


def test_true_to_needs_a_letter_and_what_is_seen_or_free_has_none() -> None:
    with pytest.raises(NotDefined, match="which feature"):
        duty_said("true_to")
    with pytest.raises(NotDefined, match="is only seen is not held true to A"):
        duty_said("seen", "A")
    with pytest.raises(NotDefined, match="has no duty is not held true to A"):
        duty_said("", "A")
    with pytest.raises(NotDefined, match="no duty"):
        duty_said("looks_nice")


def test_what_matters_least_gives_first_and_what_carries_never() -> None:
    said = [("A", "carries_load"), ("B", "seen"), ("C", ""), ("D", "free"), ("E", "sets_position")]
    assert may_give((letter, FeatureDuty(name)) for letter, name in said) == ["D", "B"]


@pytest.mark.parametrize(
    "line", ["28 ±0.1, only seen, carries the load", "28 ±0.1, free, true to A", "28 ±0.1, true to A, true to B"]
)
def test_two_duties_that_do_not_go_together_are_refused_with_both_named(line: str) -> None:
    with pytest.raises(UnreadableLength, match=r"Two things are said of what matters: .+, and .+\."):
        duty_in_line(line)


@pytest.mark.parametrize("name", WITH_TRUE_TO)
def test_what_carries_or_locates_may_have_to_be_true_to_another_besides(name: DutyName) -> None:
    found = duty_said(name, "A")
    assert found.words == f"{duties()[name].title} and must be true to A"
    assert (found.least_places, found.may_give) == (duty_said(name).least_places, 0)
