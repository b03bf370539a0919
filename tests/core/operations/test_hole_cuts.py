"""From operations to cuts in an end: how deep drills go, where their points are, where a hole's mouth is."""

from math import pi, tan

import pytest

from nomisma.core.metal.cut import CUT_TRAITS
from tests.core.planning.sketched import cuts, planned


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


def test_a_shallow_recess_without_a_hole_is_faced_out() -> None:
    order = planned("od 80 x 40\nface recess 50 x 1 deep on the right")
    assert cuts(order, "drill") == []
    assert [one.tool.kind for one in cuts(order, "bore")] == ["facing"]


def test_a_thread_behind_a_counterbore_begins_at_its_floor() -> None:
    (thread,) = cuts(planned("od 40 x 16\nM24x2 thru\nbore 27 x 3 deep from the right"), "thread")
    assert {thread.from_mm, thread.to_mm} == {0, 13}


def test_a_hole_in_an_end_that_was_centred_needs_no_spot() -> None:
    order = planned("od 12 h7 x 160\nM8 x 20 deep from the right")
    assert cuts(order, "spot") == []
    assert len(cuts(order, "centre_hole")) == 2


@pytest.mark.parametrize("across", [8, 12, 20, 40])
def test_a_centre_hole_is_as_deep_as_its_drill_and_no_deeper_than_its_share(across: int) -> None:
    """Its pilot and half of its 60° cone: 4 + 0.866·3 for A 4 (ISO 866, recalled)."""
    order = planned(f"od {across} x {10 * across}")
    found = cuts(order, "centre_hole")
    assert len(found) == 2
    for one in found:
        assert one.after_mm is not None
        assert one.tool.diameter_mm is not None
        deep = float(one.tool.diameter_mm) + 0.8660254 * float(one.after_mm - one.tool.diameter_mm)
        assert float(one.high_mm - one.low_mm) == pytest.approx(deep, abs=0.006)
        assert one.after_mm <= across / 3 or across == 8  # the smallest centre drill there is


def test_what_opens_a_hole_goes_in_from_an_end() -> None:
    assert all(traits.in_an_end for traits in CUT_TRAITS.values() if traits.takes == "hole")
