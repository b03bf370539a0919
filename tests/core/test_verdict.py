"""The metal-safe verdict."""

from decimal import Decimal
from statistics import NormalDist

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.measuring.verdict import VerdictInput, verdict
from nomisma.core.part.feature import Feature, State
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named

LOW, HIGH, DOUBT = Decimal("24.980"), Decimal("24.993"), Decimal("0.002")

SHAFT = [
    ("25.010", State.METAL_TO_GO),
    ("24.994", State.TOO_CLOSE_TO_CALL),
    ("24.993", State.TOO_CLOSE_TO_CALL),
    ("24.991", State.TOO_CLOSE_TO_CALL),
    ("24.9909", State.IN_LIMITS),
    ("24.985", State.IN_LIMITS),
    ("24.982", State.TOO_CLOSE_TO_CALL),
    ("24.978", State.TOO_CLOSE_TO_CALL),
    ("24.9779", State.GONE_TOO_FAR),
]


@pytest.mark.parametrize(("size", "state"), SHAFT)
def test_a_shaft_over_has_metal_and_under_is_gone(size: str, state: State) -> None:
    assert Feature("shaft", LOW, HIGH).judge(Decimal(size), DOUBT) is state


OPPOSITE = {State.METAL_TO_GO: State.GONE_TOO_FAR, State.GONE_TOO_FAR: State.METAL_TO_GO}
sizes = st.decimals("24.9", "25.1", places=4)
doubts = st.decimals("0", "0.01", places=4)


@given(sizes, doubts)
def test_a_bore_is_the_shaft_turned_over(size: Decimal, doubt: Decimal) -> None:
    shaft, bore = (Feature(kind, LOW, HIGH).judge(size, doubt) for kind in ("shaft", "bore"))
    assert bore is OPPOSITE.get(shaft, shaft)


@given(sizes, doubts)
def test_nothing_outside_the_limits_is_ever_called_in(size: Decimal, doubt: Decimal) -> None:
    state = Feature("bore", LOW, HIGH).judge(size, doubt)
    assert state is not State.IN_LIMITS or LOW + doubt < size < HIGH - doubt


@given(sizes, doubts, doubts)
def test_more_doubt_never_makes_a_verdict_surer(size: Decimal, less: Decimal, more: Decimal) -> None:
    assume(less <= more)
    first, second = (Feature("shaft", LOW, HIGH).judge(size, doubt) for doubt in (less, more))
    assert second in (first, State.TOO_CLOSE_TO_CALL)


@given(sizes)
def test_metal_taken_from_shaft_and_bore_are_opposite(size: Decimal) -> None:
    assert Feature("shaft").metal_to_take(size, LOW) == -Feature("bore").metal_to_take(size, LOW)


def given_reading(reading: str, **changes: str) -> VerdictInput:
    fields = {"kind": "shaft", "reading": reading, "lower": "24.98 mm", "upper": "24.993 mm", "uncertainty": "0.002 mm"}
    return VerdictInput.model_validate({**fields, **changes})


def test_metal_to_go_says_how_much_to_the_aim() -> None:
    result = verdict(given_reading("25.010 mm", aim="24.990 mm"))
    assert (str(result.to_aim), str(result.beyond)) == ("0.02 mm", "0.017 mm")
    assert result.sentence == "Take 0.020 mm on diameter to the aim."


def test_gone_too_far_says_by_how_much_past_the_limit() -> None:
    result = verdict(given_reading("24.970 mm"))
    assert str(result.beyond) == "0.01 mm"
    assert result.sentence.startswith("Past the limit by 0.010 mm on diameter")


def test_too_close_names_the_limit() -> None:
    assert verdict(given_reading("24.992 mm")).near_limit == "upper"


def test_an_instrument_too_coarse_for_the_limits_is_said_to_be() -> None:
    result = verdict(given_reading("24.986 mm", uncertainty="0.02 mm"))
    assert result.near_limit == "both"
    assert result.sentence == "This instrument is too coarse for these limits: use a finer one."


def test_the_working_can_be_followed_by_hand() -> None:
    step = verdict(given_reading("25.010 mm", aim="24.990 mm")).working[0]
    assert (step.formula, step.values) == ("reading − aim", "25.0100 mm − 24.9900 mm")


def test_the_middle_is_the_aim_where_none_is_given() -> None:
    assert str(verdict(given_reading("25.0065 mm")).to_aim) == "0.02 mm"


@pytest.mark.parametrize(
    ("changes", "field", "sentence"),
    [
        (
            {"lower": "25 mm"},
            "lower",
            "The lower limit 25 mm is not below the upper limit 24.993 mm. Exchange them or correct one.",
        ),
        ({"uncertainty": "-1 um"}, "uncertainty", "An uncertainty is never below zero. Leave out the sign."),
        (
            {"reading": "x"},
            "reading",
            "“x” is not understood as a size. Write it like 7/8, 1-3/8, .8752, 22.225 mm or 3 thou.",
        ),
    ],
)
def test_wrong_input_gets_a_sentence_for_its_field(changes: dict[str, str], field: str, sentence: str) -> None:
    fields = {"kind": "shaft", "reading": "25 mm", "lower": "24.98 mm", "upper": "24.993 mm", "uncertainty": "0.002 mm"}
    with pytest.raises(BadInput) as refused:
        calculation_named("verdict").run({**fields, **changes})
    assert [(error.field, error.sentence) for error in refused.value.errors] == [(field, sentence)]


def test_an_aim_outside_the_limits_is_refused() -> None:
    example = calculation_named("verdict").example
    with pytest.raises(BadInput, match="lies outside the limits") as caught:
        calculation_named("verdict").run({**example, "aim": "0.8760 in"})
    assert caught.value.errors[0].field == "aim"


def test_a_kind_that_is_none_is_answered_with_the_list() -> None:
    with pytest.raises(BadInput) as caught:
        calculation_named("verdict").run({**calculation_named("verdict").example, "kind": "bush"})
    assert str(caught.value.errors[0]).startswith(
        "“bush” is not a kind of feature here. Choose one of across_flats, blunt_start"
    )


def test_a_depth_with_one_limit_is_judged_by_that_one() -> None:
    found = verdict(
        VerdictInput(
            kind="depth",
            reading=Length.of("3.10", "mm"),
            lower=Length.of("3.00", "mm"),
            uncertainty=Length.of("0.02", "mm"),
        )
    )
    assert (found.state, found.sentence, found.conformity_percent) == (State.IN_LIMITS, "Leave it.", Decimal("100.0"))


def test_a_position_that_is_out_has_no_metal_to_take() -> None:
    found = verdict(
        VerdictInput(
            kind="position",
            reading=Length.of("9.8", "mm"),
            lower=Length.of("9.9", "mm"),
            upper=Length.of("10.1", "mm"),
            uncertainty=Length.of("0.02", "mm"),
        )
    )
    assert found.state is State.GONE_TOO_FAR
    assert (
        found.sentence
        == "Past the limit by 0.100 mm: out of limits, and a position has no side where more can simply be taken; ask"
        " who decides."
    )


def test_a_runout_of_nothing_is_in_limits() -> None:
    found = verdict(
        VerdictInput(
            kind="runout",
            reading=Length(Decimal(0)),
            upper=Length.of("0.02", "mm"),
            uncertainty=Length.of("0.002", "mm"),
        )
    )
    assert found.state is State.IN_LIMITS


def test_a_chance_is_not_rounded_up_to_certainty() -> None:
    """14.011 in 14 H7, worth 3.9 µm (k = 2): 7 µm to the upper limit are 3.59 standard uncertainties. Source: Python's
    NormalDist.
    """
    asked = {"kind": "bore", "reading": "14.011 mm", "lower": "14 mm", "upper": "14.018 mm", "uncertainty": "0.0039 mm"}
    found = calculation_named("verdict").run(asked).model_dump()["conformity_percent"]
    true = NormalDist(14.011, 0.00195)
    assert float(found) == pytest.approx(100 * (true.cdf(14.018) - true.cdf(14)), abs=1e-4)
    assert found < Decimal("99.99")
