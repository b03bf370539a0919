"""A turret of stops: an order in which no neighbours clash, held against every order there is."""

from decimal import Decimal
from itertools import permutations
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.stops import StopsResult
from nomisma.core.registry import calculation_named


def stops(steps: str, **given: Any) -> StopsResult:
    found = calculation_named("stops").run({"steps": steps, "apart": "10 mm", **given})
    assert isinstance(found, StopsResult)
    return found


def clash_free(places: list[int], apart: int) -> bool:
    """Whether any ring of all the places keeps neighbours apart."""
    first, *rest = places
    return any(
        all(abs(a - b) >= apart for a, b in zip([first, *order], [*order, first], strict=True))
        for order in permutations(rest)
    )


@given(st.lists(st.integers(0, 60), min_size=3, max_size=6, unique=True), st.integers(4, 25))
def test_an_order_is_found_where_there_is_one_and_only_there(places: list[int], apart: int) -> None:
    text = "\n".join(f"step {chr(97 + n)}, at {at}" for n, at in enumerate(places))
    possible = clash_free(places, apart)
    try:
        ring = [float(one.mm) for one in stops(text, stations=len(places), apart=f"{apart} mm").turret]
    except BadInput as refused:
        assert not possible
        assert refused.errors[0].field == "apart"
    else:
        assert possible
        assert all(abs(a - b) >= apart for a, b in zip(ring, [*ring[1:], ring[0]], strict=True))


def test_every_step_runs_against_the_stop_that_stands_where_it_ends() -> None:
    found = stops(
        "face, tool 1, at 0, 400 rpm\nturn, tool 2, at 30, dial 20.00, 600 rpm, short\ngroove, tool 3, at 15\nturn"
        " again, tool 2, at 30"
    )
    for step in found.in_order:
        assert found.turret[step.stop - 1].mm == step.stands.mm
    assert [step.is_short for step in found.in_order] == [False, True, False, False]
    assert [(step.tool, step.rpm) for step in found.in_order[:2]] == [("1", "400"), ("2", "600")]


def test_steps_at_one_place_share_a_stop_and_are_told() -> None:
    found = stops("face, at 0\nturn, at 30\nturn again, at 30")
    assert len(found.turret) == 2
    assert "share a stop" in found.notes[0]


def test_an_empty_station_keeps_two_apart_that_have_no_other_way() -> None:
    found = stops("a, at 0\nb, at 5\nc, at 30", stations=4)
    assert "with an empty station between 0.000 mm and 5.000 mm" in found.sentence


@pytest.mark.parametrize(
    ("steps", "field", "sentence"),
    [
        ("", "steps", "Nothing was entered"),
        ("face", "steps", "is not said"),
        ("face, at 0\nturn, hello", "steps", "“hello” in “turn” is not understood"),
        ("face, at nowhere", "steps", "not understood as a size"),
        ("\n".join(f"s{n}, at {n * 20}" for n in range(7)), "stations", "7 different stops"),
        ("a, at 0\nb, at 5\nc, at 10\nd, at 15", "apart", "No order keeps these apart"),
        ("\n".join("s, at 1" for _ in range(41)), "steps", "41 steps"),
    ],
)
def test_what_is_no_turret_has_its_sentence(steps: str, field: str, sentence: str) -> None:
    with pytest.raises(BadInput) as refused:
        stops(steps, stations=4 if field == "apart" else 6, apart="12 mm")
    assert refused.value.errors[0].field == field
    assert sentence in refused.value.errors[0].sentence


def test_lengths_may_lie_on_both_sides_of_the_zero() -> None:
    assert [one.mm for one in stops("a, at -5\nb, at 20").turret] == [Decimal(-5), Decimal(20)]


def test_a_needle_at_a_stop_keeps_its_neighbours_further_away() -> None:
    """0, 20, 40, 60: without a needle in their order; a needle at 20 with 30 mm of room cannot stand beside 0 or 40 and
    has but one other.
    """
    four = "a, at 0\nb, at 20{}\nc, at 40\nd, at 60"
    assert [one.mm for one in stops(four.format(""), stations=4).turret] == [0, 20, 40, 60]
    with pytest.raises(
        BadInput, match="No order keeps these apart on 4 stations: 0.000 mm and 20.000 mm; 20.000 mm and 40.000 mm"
    ):
        stops(four.format(", needle"), stations=4, needle_room="30 mm")
    ring = [one.mm for one in stops(four.format(", needle"), stations=5, needle_room="30 mm").turret]
    beside = {ring[ring.index(Decimal(20)) - 1], ring[(ring.index(Decimal(20)) + 1) % 4]}
    assert Decimal(60) in beside


def test_a_step_read_by_a_needle_says_so() -> None:
    found = stops("a, at 0\nb, at 50, needle", stations=4)
    assert found.table
    assert [row[6].words for row in found.table.rows] == ["to the stop", "to the stop, by the needle"]


THREE = "face, at 0\nhead, at 12.5\nstem, at 40"


def test_the_stop_whose_step_came_out_longer_is_named() -> None:
    found = stops(THREE, stations=6, first_piece="- 12.50 40.02", second_piece="- 12.50 40.14", repeats="0.02 mm")
    assert found.notes == ["stem: 120.0 µm longer than on the first piece. Look whether stop 3 is tight."]
    assert [one.second_longer and one.second_longer.mm for one in found.in_order] == [None, 0, Decimal("0.12")]


def test_all_longer_alike_is_the_work_and_no_stop() -> None:
    found = stops(THREE, first_piece="3 12.5 40", second_piece="3.1 12.6 40.1", repeats="0.02 mm")
    assert len(found.notes) == 1
    assert found.notes[0].startswith("Most steps of the second piece are 100.0 µm longer: the work sits otherwise")


def test_a_piece_that_repeats_says_the_stops_hold() -> None:
    assert stops(THREE, first_piece="3 12.5 40", second_piece="3 12.51 40").notes == [
        "The second piece repeats the first: the stops hold."
    ]


@pytest.mark.parametrize(
    ("piece", "sentence"), [("1 2 3 4", "That is 4 lengths, and there are 3 steps"), ("1 x", "is not a unit used here")]
)
def test_lengths_of_a_piece_that_fit_no_steps_are_refused(piece: str, sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        stops(THREE, first_piece="3 12.5 40", second_piece=piece)


def test_two_that_clash_are_neighbours_either_way_round() -> None:
    """On three stations one of the two gaps has no room; on four a station stays empty on both sides, and is
    numbered.
    """
    with pytest.raises(BadInput, match="No order keeps these apart on 3 stations"):
        stops("a, at 0\nb, at 5", stations=3, apart="12 mm")
    found = stops("a, at 0\nb, at 5", stations=4, apart="12 mm")
    assert [one.mm if one else None for one in found.stations] == [0, None, 5, None]
    assert [one.stop for one in found.in_order] == [1, 3]
    assert "neighbours either way round" in found.sentence
