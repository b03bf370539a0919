"""The pile of the fewest pieces, held against every pile there is."""

from decimal import Decimal
from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import OutOfRange
from nomisma.core.lengths.slip_search import fewest, nearest
from nomisma.core.lengths.slip_shelf import slip_sets

tenths = st.integers(1, 60).map(lambda n: Decimal(n) / 10)
shelves = st.lists(tenths, min_size=1, max_size=9)
heights = st.integers(1, 220).map(lambda n: Decimal(n) / 10)


def piles(shelf: list[Decimal]) -> dict[Decimal, int]:
    """Every height a shelf can make, with the fewest pieces of it, by trying them all."""
    found: dict[Decimal, int] = {}
    for count in range(1, len(shelf) + 1):
        for one in combinations(shelf, count):
            found.setdefault(sum(one, Decimal(0)), count)
    return found


@given(shelves, heights)
def test_no_pile_has_fewer_pieces_and_none_is_overlooked(shelf: list[Decimal], height: Decimal) -> None:
    best = piles(shelf).get(height)
    found = fewest(shelf, height)
    assert (len(found.pieces_mm) if found else None) == best
    assert found is None or found.height_mm == height


@given(shelves, heights)
def test_no_pile_is_nearer(shelf: list[Decimal], height: Decimal) -> None:
    every = piles(shelf)
    found = nearest(shelf, height)
    assert found
    assert abs(found.height_mm - height) == min(abs(one - height) for one in every)
    assert len(found.pieces_mm) == every[found.height_mm]


@given(st.sampled_from(sorted(slip_sets())), st.data())
def test_a_pile_of_a_set_takes_each_piece_once_and_makes_the_height(name: str, data: st.DataObject) -> None:
    shelf = slip_sets()[name].pieces_mm
    chosen = data.draw(st.lists(st.sampled_from(shelf), min_size=1, max_size=5, unique=True))
    found = fewest(shelf, sum(chosen, Decimal(0)))
    assert found
    assert found.height_mm == sum(chosen)
    assert len(set(found.pieces_mm)) == len(found.pieces_mm) <= len(chosen)


@pytest.mark.parametrize("name", ["m112", "m88", "in81"])
def test_two_pieces_are_never_missed_where_two_are_enough(name: str) -> None:
    shelf = slip_sets()[name].pieces_mm
    every = piles_of_two(shelf)
    for height in list(every)[:: max(len(every) // 60, 1)]:
        found = fewest(shelf, height)
        assert found
        assert len(found.pieces_mm) <= 2


def piles_of_two(shelf: tuple[Decimal, ...]) -> dict[Decimal, None]:
    return dict.fromkeys(one + other for one, other in combinations(shelf, 2))


def test_the_whole_shelf_is_a_pile_and_more_is_none() -> None:
    shelf = [Decimal(n) for n in (1, 2, 4, 8)]
    assert fewest(shelf, Decimal(15))
    assert fewest(shelf, Decimal(16)) is None
    assert fewest(shelf, Decimal(0)) is None


def test_a_piece_that_is_there_twice_is_taken_twice() -> None:
    found = fewest([Decimal(2), Decimal(2), Decimal(3)], Decimal(4))
    assert found
    assert found.pieces_mm == (2, 2)


def test_figures_too_fine_to_be_piled_together_are_refused() -> None:
    with pytest.raises(OutOfRange, match="too fine"):
        fewest([Decimal("100.000001"), Decimal("33.3"), Decimal("7")], Decimal("140.300001"))
