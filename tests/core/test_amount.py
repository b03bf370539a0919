"""How much to take, and how far that is on the dial."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.cutting.amount import AmountInput, AmountResult, amount_to_take, dial_lines
from nomisma.core.errors import InputError


def take(measured: str, wanted: str, **dial: str) -> AmountResult:
    return amount_to_take(AmountInput.model_validate({"measured": measured, "wanted": wanted, **dial}))


def test_a_radius_dial_moves_half_as_many_lines() -> None:
    assert (
        dial_lines(Decimal("0.2"), Decimal("0.01"), "radius")
        == dial_lines(Decimal("0.2"), Decimal("0.01"), "diameter") / 2
    )


def test_larger_to_smaller_is_a_shaft_and_the_other_way_a_bore() -> None:
    assert (take("1.2 in", "1.1 in").kind, take("1.1 in", "1.2 in").kind) == ("shaft", "bore")


def test_without_a_dial_no_lines_are_made_up() -> None:
    assert take("1.2 in", "1.1 in").dial_lines is None


@given(
    st.decimals("0.001", "40", places=3),
    st.sampled_from(["0.01 mm", "0.05 mm", "0.001 in"]),
    st.sampled_from(["diameter", "radius"]),
)
def test_whole_lines_never_pass_the_size(amount: Decimal, line: str, reads: str) -> None:
    result = take(f"{50 + amount} mm", "50 mm", dial_line=line, dial_reads=reads)
    assert result.left_after is not None
    assert result.left_after.mm >= 0


def test_half_of_the_diameter_is_the_radius() -> None:
    result = take("29.43 mm", "28 mm")
    assert result.on_radius.mm * 2 == result.on_diameter.mm


@pytest.mark.parametrize(
    ("measured", "wanted", "problem"),
    [
        ("1 in", "1 in", "Both sizes are the same, so there is nothing to take."),
        ("1.229 mm", "1.125 in", "1.229 mm to 1.125 in mixes units and takes most of the work away."),
    ],
)
def test_sizes_that_make_no_cut_are_asked_about(measured: str, wanted: str, problem: str) -> None:
    with pytest.raises(InputError) as refused:
        take(measured, wanted)
    assert refused.value.problem == problem
