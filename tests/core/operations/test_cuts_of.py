"""From operations to cuts outside: passes, what roughing leaves, noses, threads, edges."""

from decimal import Decimal

import pytest

from nomisma.core.metal.cut import Cut
from nomisma.core.operations.cuts_of import lowest_mm
from nomisma.core.operations.task import LEFT_ROUGH
from tests.core.planning.sketched import cuts, planned


@pytest.mark.parametrize(("across", "passes"), [(25, 2), (30, 4), (40, 7)])
def test_roughing_takes_three_millimetres_a_pass_and_leaves_what_finishing_takes(across: int, passes: int) -> None:
    order = planned(f"od 20 h7 x 30\nod {across} x 10")
    rough = next(one for one in cuts(order, "rough_turn") if one.letters == ("A",))
    finish = next(one for one in cuts(order, "turn") if "A" in one.letters)
    assert rough.passes == passes
    assert finish.before_mm == rough.after_mm
    assert finish.before_mm is not None
    assert finish.after_mm is not None
    assert finish.before_mm - finish.after_mm == LEFT_ROUGH["mm"].mm


def test_a_fillet_gives_the_tool_its_nose() -> None:
    order = planned("od 24 h9 x 30\nod 40 x 10\nfillet 0.2 max on A")
    assert {one.tool.nose_mm for one in cuts(order, "turn") if "A" in one.letters} == {Decimal("0.2")}


def test_v_grooves_of_a_row_are_cut_one_by_one() -> None:
    order = planned("od 80 x 40\nv 38° 8 deep pitch 15 x 2")
    grooves = cuts(order, "v_groove")
    assert len(grooves) == 2
    assert grooves[0].to_mm < grooves[1].from_mm


@pytest.mark.parametrize(("end", "begins", "ends"), [("left", 0, 12), ("right", 40, 28)])
def test_a_thread_inside_goes_in_from_its_mouth_at_either_end(end: str, begins: int, ends: int) -> None:
    (thread,) = cuts(planned(f"od 25 x 40\ntap M6 x 12 deep from the {end}"), "thread")
    assert (thread.from_mm, thread.to_mm, thread.tool.kind) == (begins, ends, "tap")


def test_the_lowest_cut_is_what_the_jaws_must_clear() -> None:
    inside = Cut("bore", ("A",), Decimal(40), Decimal(-3), inside=True)
    outside = Cut("turn", ("B",), Decimal(5), Decimal(40))
    assert lowest_mm([inside, outside], inside=False) == 5
    assert lowest_mm([inside, outside], inside=True) == -3
    assert lowest_mm([inside], inside=False) is None


@pytest.mark.parametrize(("angle", "deep"), [(90, "2"), (60, "3.464"), (82, "2.301")])
def test_a_countersink_is_a_cut_in_its_holes_mouth(angle: int, deep: str) -> None:
    """From 10 to 14: 2 on the radius over tan of half the angle."""
    order = planned(f"od 40 x 20\nbore 10 ±0.002 thru\ncsk 14 x {angle} on C")
    (mouth,) = cuts(order, "chamfer")
    assert mouth.inside
    assert (mouth.to_mm, mouth.before_mm, mouth.after_mm) == (20, 10, 14)
    assert mouth.to_mm - mouth.from_mm == Decimal(deep)
    assert order.left_out == ()


def test_a_blind_holes_countersink_is_where_it_comes_in_and_a_radius_is_no_chamfer() -> None:
    order = planned("od 40 x 20\nbore 10 H7 x 8 deep from the left\ncsk 14 x 90 on C\nrad 2 on A")
    (mouth,) = cuts(order, "chamfer")
    assert (mouth.from_mm, mouth.end) == (0, "left")
    assert {one.end for one in cuts(order, "radius")} == {"left", "right"}
