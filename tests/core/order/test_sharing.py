"""The ways to share surfaces out: what each end reaches, what a jaw covers, and what is least among them."""

from itertools import product

import pytest

from nomisma.core.order.laid_out import StockSaid, Worked
from nomisma.core.order.sharing import Sharing, sharings, through_bore
from tests.core.planning.sketched import FLANGED, piece


def sharing(lines: str, *chuckings: Worked, parts: bool = True) -> Sharing:
    return Sharing(piece(lines), chuckings, parts)


def choices(lines: str, *chuckings: Worked, parts: bool = True) -> dict[str, tuple[int, ...]]:
    found = sharing(lines, *chuckings, parts=parts)
    return {one.letter: these for one, these in zip(found.shared, found.choices, strict=True)}


def test_each_surface_goes_where_its_end_is_worked() -> None:
    assert choices("od 24 x 30\nod 40 x 10\nod 20 x 12", "right", "left") == {
        "A": (1,),
        "C": (0, 1),
        "E": (0,),
    }


def test_stock_to_spare_or_a_bore_lets_a_jaw_keep_off_the_far_end() -> None:
    assert choices("od 20 x 30", "right", "left") == {"A": (0,)}
    assert choices("od 20 x 30", "right", "left", parts=False) == {"A": ()}
    by_bore = choices("od 60 x 30\nbore 20 H7 thru", "right", "left", parts=False)
    assert by_bore == {"A": (1,), "C": (0, 1)}


def test_between_centres_everything_outside_is_turned_there_and_holes_wait() -> None:
    found = choices("od 20 x 200\nbore 8 x 10 deep from the right", "right", "left", "centres", "right", parts=False)
    assert found == {"A": (2,), "C": (3,)}


def test_of_all_ways_the_least_has_nothing_apart_and_most_diameters_together() -> None:
    found = sharing(FLANGED, "left", "right")
    ways = list(found.ways())
    assert ways == list(product(*found.choices))
    least = min(ways, key=lambda way: found.cost(way, with_skin=False))
    assert set(least) == {0}
    assert list(found.apart(least)) == []


def test_what_must_be_true_to_each_other_in_two_chuckings_is_said_unless_one_holds_the_other() -> None:
    ring = sharing("od 60 x 30 true to C\nbore 20 H7 thru", "right", "left", parts=False)
    assert [list(ring.apart(way)) for way in ring.ways() if way == (1, 0)] == [[]]
    shaft = sharing("od 24 x 30\nod 40 x 10\nod 20 x 12 true to A", "right", "left")
    assert {(one.letter, one.true_to) for way in shaft.ways() for one in shaft.apart(way)} == {("E", "A")}


@pytest.mark.parametrize(
    ("lines", "last"),
    [
        ("od 20 x 30", ("left", "right", "centres")),
        ("od 60 x 30\nbore 20 H7 thru", ("right", "left", "centres", "right", "left")),
        ("od 60 x 30\nbore 20 x 10 deep", ("right", "left", "centres", "right", "left")),
    ],
)
def test_the_orders_of_set_ups_come_fewest_first(lines: str, last: tuple[str, ...]) -> None:
    found = [one.chuckings for one in sharings(piece(lines), StockSaid("bar"), face_as_parted=True)]
    assert found[:2] == [("right",), ("left",)]
    assert [len(one) for one in found] == sorted(len(one) for one in found)
    assert found[-1] == last


def test_only_what_is_bored_or_reamed_through_takes_a_mandrel() -> None:
    assert through_bore(piece("od 60 x 30\nbore 9 ±0.2 thru").surfaces) is None
    found = through_bore(piece("od 60 x 30\nbore 20 H7 thru\nbore 30 x 5 deep").surfaces)
    assert found
    assert found.letter == "C"


def test_a_piece_too_long_to_stand_out_is_sawn_and_not_parted() -> None:
    long = [one.parts for one in sharings(piece("od 20 x 70"), StockSaid("bar"), face_as_parted=False)]
    short = [one.parts for one in sharings(piece("od 20 x 30"), StockSaid("bar"), face_as_parted=False)]
    assert not any(long)
    assert short[:2] == [True, True]


def test_of_too_many_ways_those_that_cut_most_together_are_tried() -> None:
    rings = "\n".join(f"od {100 - 2 * at} x 4" for at in range(14))
    found = sharing(f"{rings}\nbore 20 H7 thru", "right", "left", "mandrel", parts=False)
    assert not found.every
    ways = list(found.ways())
    assert len(ways) < 400
    assert any(len(set(way)) <= 2 for way in ways)


def test_no_mandrel_goes_into_a_threaded_bore() -> None:
    assert through_bore(piece("od 40 x 16\nbore 20 H7 thru").surfaces) is not None
    assert through_bore(piece("od 40 x 16\nM24x2 thru").surfaces) is None
