"""The second piece against the first: a stop that moved is told from work that sits otherwise."""

from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.lengths.second_piece import compared

REPEATS = Decimal("0.02")
lengths = st.lists(st.decimals("5", "80", places=2), min_size=3, max_size=8)
within = st.decimals("-0.009", "0.009", places=3)


@given(lengths, st.data())
def test_a_piece_that_repeats_accuses_nothing(first: list[Decimal], data: st.DataObject) -> None:
    second = [one + data.draw(within) for one in first]
    found = compared(first, second, REPEATS)
    assert (found.shared_mm, found.moved) == (0, ())


@given(lengths, st.data(), st.sampled_from([Decimal("0.3"), Decimal("-0.3")]))
def test_one_stop_that_moved_is_the_one_named(first: list[Decimal], data: st.DataObject, moved: Decimal) -> None:
    index = data.draw(st.integers(0, len(first) - 1))
    second = [one + data.draw(within) + (moved if n == index else 0) for n, one in enumerate(first)]
    assert compared(first, second, REPEATS).moved == (index,)


@given(lengths, st.decimals("0.05", "1", places=2))
def test_work_that_sits_otherwise_moves_all_and_no_stop(first: list[Decimal], by: Decimal) -> None:
    found = compared(first, [one + by for one in first], REPEATS)
    assert (found.shared_mm, found.moved) == (by, ())


def test_a_step_that_was_not_measured_on_both_says_nothing() -> None:
    found = compared([Decimal(10), None, Decimal(30)], [Decimal(10), Decimal(20), Decimal("30.5")], REPEATS)
    assert (found.longer_mm, found.moved) == ((0, None, Decimal("0.5")), (2,))
