"""From operations to cuts: depths and points of drills, passes, and what roughing leaves."""

from decimal import Decimal
from math import pi, tan

import pytest

from nomisma.core.metal.cut import Cut
from nomisma.core.planning.cuts_of import LEFT_ROUGH, blade_mm, lowest_mm
from nomisma.core.planning.order import OrderOfWork
from tests.core.planning.sketched import planned


def cuts(order: OrderOfWork, *kinds: str) -> list[Cut]:
    return [cut for one in order.operations for cut in one.cuts if cut.kind in kinds]


def test_no_point_goes_beyond_a_bored_floor_and_the_full_diameter_stops_short_of_it() -> None:
    """A point of 118° is half its diameter over tan 59° long."""
    order = planned("od 60 x 40\nbore 20 H7 x 25 deep from the right")
    for drill in cuts(order, "drill"):
        assert drill.point_mm is not None
        assert drill.point_mm >= 15
        assert drill.tool.diameter_mm
        point = float(drill.tool.diameter_mm) / 2 / tan(59 * pi / 180)
        assert float(drill.to_mm - drill.point_mm) >= point - 0.01
    (bore,) = cuts(order, "bore")
    assert (bore.from_mm, bore.to_mm) == (40, 15)


def test_a_through_hole_is_drilled_past_where_it_is_parted() -> None:
    order = planned("od 60 x 40\nbore 20 H7 thru")
    (part,) = cuts(order, "part_off")
    beyond = part.from_mm if part.end == "right" else part.to_mm
    assert {one.to_mm for one in cuts(order, "drill", "bore")} == {beyond}


def test_the_wider_hole_is_bored_first_and_the_narrower_begins_at_its_floor() -> None:
    order = planned("od 80 x 24\nbore 62 K7 x 18 deep\nbore 50 ±0.2 thru")
    wide, narrow = cuts(order, "bore")
    assert (wide.from_mm, wide.to_mm, narrow.from_mm) == (0, 18, 18)


@pytest.mark.parametrize(("across", "passes"), [(25, 2), (30, 4), (40, 7)])
def test_roughing_takes_three_millimetres_a_pass_and_leaves_what_finishing_takes(across: int, passes: int) -> None:
    order = planned(f"od 20 h7 x 30\nod {across} x 10")
    rough = next(one for one in cuts(order, "rough_turn") if one.letters == ("A",))
    finish = next(one for one in cuts(order, "turn") if "A" in one.letters)
    assert rough.passes == passes
    assert finish.before_mm == rough.after_mm
    assert finish.before_mm - finish.after_mm == LEFT_ROUGH["mm"].mm  # type: ignore[operator]


def test_a_fillet_gives_the_tool_its_nose() -> None:
    order = planned("od 24 h9 x 30\nod 40 x 10\nfillet 0.2 max on A")
    assert {one.tool.nose_mm for one in cuts(order, "turn") if "A" in one.letters} == {Decimal("0.2")}


def test_v_grooves_of_a_row_are_cut_one_by_one() -> None:
    order = planned("od 80 x 40\nv 38° 8 deep pitch 15 x 2")
    grooves = cuts(order, "v_groove")
    assert len(grooves) == 2
    assert grooves[0].to_mm < grooves[1].from_mm


def test_a_shallow_recess_without_a_hole_is_faced_out() -> None:
    order = planned("od 80 x 40\nface recess 50 x 1 deep on the right")
    assert cuts(order, "drill") == []
    assert [one.tool.kind for one in cuts(order, "bore")] == ["facing"]


def test_blades_grow_with_the_diameter_and_the_lowest_cut_is_what_the_jaws_must_clear() -> None:
    assert [blade_mm(Decimal(mm), "mm") for mm in (12, 40, 80)] == [2, 3, 4]
    inside = Cut("bore", ("A",), Decimal(40), Decimal(-3), inside=True)
    outside = Cut("turn", ("B",), Decimal(5), Decimal(40))
    assert lowest_mm([inside, outside], inside=False) == 5
    assert lowest_mm([inside, outside], inside=True) == -3
    assert lowest_mm([inside], inside=False) is None


@pytest.mark.parametrize(("end", "begins", "ends"), [("left", 0, 12), ("right", 40, 28)])
def test_a_thread_inside_goes_in_from_its_mouth_at_either_end(end: str, begins: int, ends: int) -> None:
    (thread,) = cuts(planned(f"od 25 x 40\ntap M6 x 12 deep from the {end}"), "thread")
    assert (thread.from_mm, thread.to_mm, thread.tool.kind) == (begins, ends, "tap")


def test_a_thread_behind_a_counterbore_begins_at_its_floor() -> None:
    (thread,) = cuts(planned("od 40 x 16\nM24x2 thru\nbore 27 x 3 deep from the right"), "thread")
    assert {thread.from_mm, thread.to_mm} == {0, 13}


def test_a_hole_in_an_end_that_was_centred_needs_no_spot() -> None:
    order = planned("od 12 h7 x 160\nM8 x 20 deep from the right")
    assert cuts(order, "spot") == []
    assert len(cuts(order, "centre_hole")) == 2
