"""A figure of practice is said as people say it, in either unit, and stays near what it is."""

from decimal import Decimal
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.quantity.display import show_usual
from nomisma.core.quantity.length import MM_PER, Unit


@given(st.decimals("0.0001", "50", places=5), st.sampled_from(get_args(Unit)))
def test_it_has_at_most_two_figures_and_is_near_what_it_stands_for(mm: Decimal, unit: Unit) -> None:
    number, word = show_usual(mm, unit).split()
    per = {"in": MM_PER["in"], "thou": MM_PER["in"] / 1000, "mm": Decimal(1), "µm": Decimal("0.001")}[word]
    figures = number.replace(".", "").strip("0")
    assert len(figures) <= 2
    assert abs(Decimal(number) * per - mm) <= mm * Decimal("0.051")


@pytest.mark.parametrize("thou", ["1", "1.5", "2", "5", "10", "15", "20", "50"])
def test_what_is_tidy_in_thou_stays_so_and_has_no_odd_decimals_in_mm(thou: str) -> None:
    mm = Decimal(thou) * Decimal("0.0254")
    assert show_usual(mm, "in") == f"{thou} thou"
    assert len(show_usual(mm, "mm").split()[0].replace(".", "").strip("0")) <= 2
