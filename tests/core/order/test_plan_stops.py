"""The stops of a set-up: a line a cut, counted from its face, that the worksheet of stops reads as they stand."""

import re
from decimal import Decimal
from itertools import pairwise

import pytest

from nomisma.core.lengths.stops import MOST_STATIONS, StopsInput, stops
from nomisma.core.order.order import order_of_work
from nomisma.core.order.plan_stops import stop_lines
from nomisma.core.quantity.length import Unit
from tests.core.planning.generated import part_lines
from tests.core.planning.sketched import features, planned


def lines_of(lines: str, set_up: int = 0, unit: Unit = "mm") -> list[str]:
    order = planned(lines, unit=unit)
    assert order.piece is not None
    said = stop_lines(order.set_ups[set_up], order.piece.length_mm, unit, lambda _: 200)
    return re.sub(r", \d+ rpm", "", said).splitlines()


def test_each_is_counted_from_the_face_the_set_up_works_from() -> None:
    """By hand: of a part 40 long, worked from the right, D ends at 10 and A at 40; the blade 3 wide and 0.8 to face
    end at 43.8; the bar is drawn out with 0.8 to face off.
    """
    assert lines_of("od 30 x 30\nod 20 x 10\nbore 25 x 6 deep from the left") == [
        "Stock out with 0.800 mm to face off, at 0.000 mm",
        "Face, tool 1, at 0.000 mm",
        "Rough turn C D, tool 1, at 10.000 mm, dial 20.750 mm, short",
        "Finish turn C D, tool 1, at 10.000 mm, dial 20.000 mm",
        "Finish turn A B, tool 1, at 43.800 mm, dial 30.000 mm",
        "Part off by its far corner, tool 2, at 43.800 mm",
    ]


def test_a_dial_that_shows_radii_is_said_in_radii() -> None:
    order = planned("od 30 x 30\nod 20 x 10")
    said = stop_lines(order.set_ups[0], Decimal(40), "mm", lambda _: 200, "radius")
    assert "Finish turn C D, tool 1, at 10.000 mm, dial 10.000 mm, 200 rpm" in said


def test_inches_are_said_in_inches_and_a_set_up_that_only_faces_has_none() -> None:
    found = lines_of("od 1.250 x .500\nod .750 x .500", unit="in")
    assert any("at 0.5000 in, dial 0.7500 in" in line for line in found)
    assert lines_of("od 30 x 30\nod 20 x 10", set_up=1) == []


@pytest.mark.parametrize("number", range(60))
def test_what_is_said_is_read_again_and_no_stop_lies_behind_the_work(number: int) -> None:
    order = order_of_work(features(part_lines(number), "mm"))
    assert order is not None
    assert order.piece is not None
    for one in order.set_ups:
        said = stop_lines(one, order.piece.length_mm, "mm", lambda _: 200)
        if not said:
            continue
        read = said.splitlines()
        assert all(first != then for first, then in pairwise(read))
        places = {float(line.split("at ")[1].split(" mm")[0]) for line in read}
        assert min(places) >= 0
        assert max(places) <= float(order.piece.length_mm) + 6
        if len(places) <= MOST_STATIONS:
            found = stops(StopsInput(steps=said, stations=MOST_STATIONS, apart="0.01 mm", unit="mm"))
            assert len(found.in_order) == len(read)
