"""Cut lists held against every way of cutting there is."""

from decimal import Decimal
from itertools import combinations, product
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.planning.cut_list import CutListResult
from nomisma.core.registry import calculation_named

SAW = 2


def cut_list(pieces: str, bars: str, **given: Any) -> CutListResult:
    found = calculation_named("cut_list").run({"pieces": pieces, "bars": bars, "saw": f"{SAW} mm", **given})
    assert isinstance(found, CutListResult)
    return found


def least_by_trying(pieces: list[int], bars: list[int]) -> int | None:
    """The least length of bars that holds all pieces, by trying every set of bars and every place of every piece."""
    best = None
    for count in range(1, len(bars) + 1):
        for some in combinations(bars, count):
            if best is not None and sum(some) >= best:
                continue
            for places in product(range(count), repeat=len(pieces)):
                used = [
                    sum(piece + SAW for piece, at in zip(pieces, places, strict=True) if at == n) for n in range(count)
                ]
                if all(use <= bar + SAW for use, bar in zip(used, some, strict=True)):
                    best = sum(some)
                    break
    return best


@settings(max_examples=60, deadline=None)
@given(st.lists(st.integers(20, 120), min_size=1, max_size=5), st.lists(st.integers(60, 260), min_size=1, max_size=3))
def test_no_way_of_cutting_takes_less_stock(pieces: list[int], bars: list[int]) -> None:
    least = least_by_trying(pieces, bars)
    try:
        found = cut_list("\n".join(map(str, pieces)), "\n".join(map(str, bars)))
    except BadInput:
        assert max(pieces) > max(bars)
        return
    if least is None:
        assert found.without_place
    else:
        assert found.proved_least
        assert sum(one.bar.mm for one in found.bars) == least


@given(
    st.lists(st.integers(20, 190), min_size=1, max_size=30), st.lists(st.integers(200, 900), min_size=13, max_size=20)
)
@settings(max_examples=40, deadline=None)
def test_of_many_bars_every_piece_is_cut_once_and_no_bar_is_overdrawn(pieces: list[int], bars: list[int]) -> None:
    found = cut_list("\n".join(map(str, pieces)), "\n".join(map(str, bars)))
    cut = [one.mm for bar in found.bars for one in bar.pieces] + [one.mm for one in found.without_place]
    assert sorted(cut) == sorted(Decimal(piece) for piece in pieces)
    for bar in found.bars:
        assert sum(one.mm for one in bar.pieces) + SAW * (len(bar.pieces) - 1) <= bar.bar.mm
    assert found.proved_least is False


def test_pieces_without_a_place_are_named() -> None:
    found = cut_list("3 x 90", "100; 100")
    assert ([str(one) for one in found.without_place], found.proved_least) == (["90 mm"], False)
    assert "No place for 90 mm." in found.notes


@pytest.mark.parametrize(
    ("pieces", "bars", "field", "sentence"),
    [("", "100", "pieces", "Nothing was entered"), ("60", "50", "bars", "No bar is as long"),
        ("six", "100", "pieces", "not understood"),
     ("0 x 60", "100", "pieces", ""), ("300 x 6", "1000", "pieces", ""), ("60", "50 x 100", "bars", "")],
)  # fmt: skip
def test_a_list_that_cannot_be_is_refused_at_its_field(pieces: str, bars: str, field: str, sentence: str) -> None:
    with pytest.raises(BadInput) as refused:
        cut_list(pieces, bars)
    assert refused.value.errors[0].field == field
    assert sentence in refused.value.errors[0].sentence


def most_by_trying(pieces: list[int], bars: list[int], saw: int = SAW) -> int:
    """The most pieces that find a place, by trying every place of every piece, none included."""
    best = 0
    for places in product(range(len(bars) + 1), repeat=len(pieces)):
        used = [sum(piece + saw for piece, at in zip(pieces, places, strict=True) if at == n) for n in range(len(bars))]
        if all(use <= bar + saw for use, bar in zip(used, bars, strict=True)):
            best = max(best, sum(at < len(bars) for at in places))
    return best


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.integers(20, 60), min_size=3, max_size=6),
    st.lists(st.integers(60, 130), min_size=1, max_size=2),
    st.integers(0, 3),
)
def test_of_pieces_that_do_not_all_go_as_many_do_as_can(pieces: list[int], bars: list[int], saw: int) -> None:
    found = cut_list("\n".join(map(str, pieces)), "\n".join(map(str, bars)), saw=f"{saw} mm")
    placed = len(pieces) - len(found.without_place)
    assert placed == most_by_trying(pieces, bars, saw)
    assert found.proved_most == (placed < len(pieces))


def test_sheared_nothing_is_lost_to_the_saw() -> None:
    found = cut_list("3 x 50", "150", saw="0 mm")
    assert str(found.bars[0].left) == "0 mm"
    assert found.cautions == []


def test_beyond_what_is_proved_it_is_called_the_best_that_was_found() -> None:
    found = cut_list("30 x 61", "20 x 64")
    assert len(found.without_place) == 10
    assert not found.proved_most
    assert "the best that was found" in found.sentence
