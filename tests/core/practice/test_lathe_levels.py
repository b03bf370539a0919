"""The levels of the simulated lathe."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import NotDefined
from nomisma.core.practice.lathe_levels import lathe_level_named, lathe_levels
from nomisma.core.practice.part import PracticePart

names = st.sampled_from(sorted(lathe_levels()))


def part(name: str = "plain_pin", seed: int = 5) -> PracticePart:
    return PracticePart(lathe_level_named(name), seed)


@given(names, st.integers(0, 10**6))
def test_the_stock_has_metal_to_go(name: str, seed: int) -> None:
    held = part(name, seed)
    assert held.to_go(Decimal(repr(held.true_mm))) > 0.5


def test_a_level_that_is_none_has_its_sentence() -> None:
    with pytest.raises(NotDefined, match="no level “anvil”"):
        lathe_level_named("anvil")
