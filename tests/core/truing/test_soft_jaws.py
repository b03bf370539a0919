"""Soft jaws: cut to the work's own size, and what to do when they come out wrong."""

from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.errors import InputError
from nomisma.core.truing.soft_jaws import SoftJawsInput, SoftJawsResult, soft_jaws


def jaws(**given: Any) -> SoftJawsResult:
    return soft_jaws(SoftJawsInput(**given))


@pytest.mark.parametrize(
    ("grip", "bored", "state"),
    [
        ("outside", "2.2505 in", "good"), ("outside", "2.24 in", "more_to_cut"), ("outside", "2.26 in", "start_again"),
        ("inside", "2.2495 in", "good"), ("inside", "2.26 in", "more_to_cut"), ("inside", "2.24 in", "start_again"),
    ],
)  # fmt: skip
def test_jaws_cut_too_far_start_again_and_those_with_metal_go_on(grip: str, bored: str, state: str) -> None:
    assert jaws(held="2.25 in", grip=grip, bored=bored).state == state


def test_the_next_ring_is_smaller_by_what_was_cut_too_far_and_twice_the_clean_up() -> None:
    found = jaws(held="50 mm", bored="50.3 mm", preload="40 mm", clean_up="0.2 mm", unit="mm")
    assert found.next_preload
    assert found.next_preload.mm == 40 - (Decimal("0.3") + Decimal("0.4"))


def test_held_from_inside_the_next_ring_is_larger() -> None:
    found = jaws(held="50 mm", grip="inside", bored="49.7 mm", preload="60 mm", clean_up="0.2 mm", unit="mm")
    assert found.next_preload
    assert found.next_preload.mm == Decimal("60.7")


def test_a_ring_that_would_vanish_is_refused() -> None:
    with pytest.raises(InputError, match="no ring that small"):
        jaws(held="50 mm", bored="52 mm", preload="1 mm", unit="mm")
