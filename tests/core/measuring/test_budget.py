"""An uncertainty budget: components combined, and how sure the result is."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.measuring.budget import BudgetInput, Component, combine, uncertainty_budget


def test_a_rectangle_counts_its_half_width_over_the_root_of_three() -> None:
    found = combine([Component(name="standard", value=0.3, distribution="rectangular")])
    assert found.standard == pytest.approx(0.3 / 3**0.5)


@given(st.lists(st.floats(0.01, 50), min_size=1, max_size=8))
def test_the_shares_are_the_squares_over_their_sum(values: list[float]) -> None:
    found = combine([Component(name=str(index), value=value) for index, value in enumerate(values)])
    total = sum(value**2 for value in values)
    assert found.standard == pytest.approx(total**0.5)
    assert [row.share_percent for row in found.rows] == pytest.approx([100 * value**2 / total for value in values])


def test_degrees_of_freedom_are_welch_and_satterthwaites() -> None:
    parts = [Component(name="a", value=3, degrees_of_freedom=4), Component(name="b", value=4)]
    assert combine(parts).freedom == pytest.approx(5**4 / (3**4 / 4))


def test_a_budget_of_nothing_is_refused() -> None:
    with pytest.raises(InputError, match="contributes"):
        uncertainty_budget(BudgetInput(components=[Component(name="a", value=0)]))
