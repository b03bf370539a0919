"""V-grooves: widths, the compound, and the rod, found again on a drawn V."""

from decimal import Decimal
from math import cos, radians, sin, tan
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.v_groove import VGrooveResult
from nomisma.core.registry import calculation_named


def v(**given: Any) -> VGrooveResult:
    found = calculation_named("v_groove").run({"outside": "200 mm", **given})
    assert isinstance(found, VGrooveResult)
    return found


def rod_height(top: float, included_deg: float, rod: float) -> float:
    """How high a rod's top stands over the outside, lowered into a drawn V until it touches: no formula of the one
    under test.
    """
    a = radians(included_deg / 2)
    low, high = -500.0, 500.0  # of its centre, over the outside
    for _ in range(200):
        y = (low + high) / 2
        flank = abs((top / 2 + y * tan(a)) * cos(a))  # distance of the centre from the flank through (top/2, 0)
        inside = top / 2 + y * tan(a) > 0 and flank >= rod / 2
        low, high = (low, y) if inside else (y, high)
    return low + rod / 2


@given(st.floats(28, 90), st.floats(6, 30), st.floats(0.45, 0.7))
def test_a_rod_in_a_drawn_v_stands_as_high_as_it_is_said_to(included: float, top: float, share: float) -> None:
    rod, depth = top * share, top / 2 / tan(radians(included / 2)) * 0.98
    try:
        found = v(included_deg=round(included, 6), top=f"{top:.9f} mm", depth=f"{depth:.9f} mm", rod=f"{rod:.9f} mm")
    except BadInput as refused:
        assert refused.errors[0].field == "rod"
        return
    assert found.over_rods
    over = (float(found.over_rods.mm) - 200) / 2
    assert over == pytest.approx(rod_height(top, round(included, 6), rod), abs=1e-4)


@given(st.floats(28, 90), st.floats(6, 30), st.floats(0.3, 0.95))
def test_top_floor_and_depth_make_one_v(included: float, top: float, share: float) -> None:
    depth = top / 2 / tan(radians(included / 2)) * share
    by_depth = v(included_deg=round(included, 4), top=f"{top:.6f} mm", depth=f"{depth:.6f} mm")
    by_floor = v(included_deg=round(included, 4), top=f"{top:.6f} mm", floor=str(by_depth.floor))
    assert float(by_floor.depth.mm) == pytest.approx(depth, rel=1e-4)
    assert float(by_depth.travel.mm) * cos(radians(round(included, 4) / 2)) == pytest.approx(depth, rel=1e-4)


def test_what_is_measured_over_rods_says_how_wide_the_v_is() -> None:
    made = v(included_deg=60, top="20 mm", depth="12 mm", rod="11 mm")
    again = v(included_deg=60, top="20 mm", depth="12 mm", rod="11 mm", over_rods=str(made.over_rods))
    assert again.top_measured
    assert float(again.top_measured.mm) == pytest.approx(20, abs=1e-4)


def test_the_compound_stands_at_half_the_angle_each_way_from_across() -> None:
    assert v(included_deg=40, top="12 mm", depth="10 mm").compound_deg == 70


def test_the_last_flank_beside_a_shoulder_is_flagged() -> None:
    given = {"included_deg": 40, "top": "10 mm", "depth": "8 mm", "count": 3, "pitch": "12 mm", "first": "8 mm"}
    assert "a tool of its own" in v(**given, shoulder="39 mm").notes[0]
    assert v(**given, shoulder="60 mm").notes == []


@pytest.mark.parametrize(
    ("given", "field", "sentence"),
    [
        ({"top": "10 mm"}, "depth", "Two of top, floor and depth"),
        ({"top": "10 mm", "depth": "30 mm"}, "depth", "flanks meet before the floor"),
        ({"top": "10 mm", "floor": "12 mm"}, "floor", "as wide as the top"),
        ({"top": "10 mm", "floor": "6 mm", "depth": "12 mm"}, "floor", "do not agree"),
        ({"top": "10 mm", "depth": "8 mm", "count": 3}, "pitch", "need their pitch"),
        ({"top": "10 mm", "depth": "8 mm", "count": 3, "pitch": "9 mm"}, "pitch", "run into one another"),
        ({"top": "10 mm", "depth": "8 mm", "rod": "3 mm"}, "rod", "lies on the floor"),
        ({"top": "10 mm", "depth": "8 mm", "rod": "30 mm"}, "rod", "stands on the edges"),
        ({"top": "10 mm", "depth": "8 mm", "over_rods": "210 mm"}, "rod", "own size is needed"),
        ({"top": "10 mm", "depth": "8 mm", "outside": "12 mm"}, "outside", "no pulley left"),
        ({"top": "10 mm", "depth": "8 mm", "included_deg": 180}, "included_deg", ""),
    ],
)
def test_a_v_that_cannot_be_has_its_sentence(given: dict[str, Any], field: str, sentence: str) -> None:
    with pytest.raises(BadInput) as refused:
        v(**given)
    assert refused.value.errors[0].field == field
    assert sentence in refused.value.errors[0].sentence


def test_sines_of_the_handbook_wire_over_a_sixty_degree_v() -> None:
    """The three-wire sum for a 60° V (recalled): a wire's centre is one diameter above where the flanks meet, for 1/sin
    30° is two.
    """
    found = v(included_deg=60, top="20 mm", depth="12 mm", rod="11 mm")
    assert found.over_rods
    assert float(found.over_rods.mm) == pytest.approx(
        200 - 2 * (10 / tan(radians(30)) - 11 / 2 / sin(radians(30))) + 11, abs=1e-5
    )


@pytest.mark.parametrize("included", [20, 34, 40, 60, 90])
def test_a_v_may_be_sharp_at_its_floor_and_its_travel_is_exact(included: int) -> None:
    top = Decimal("3.6")
    found = v(included_deg=included, top=f"{top} mm", floor="0 mm", outside="80 mm")
    assert found.floor.mm == 0
    assert float(found.travel.mm) == pytest.approx(float(top) / 2 / sin(radians(included / 2)), abs=2e-6)
    assert found.roughing_tool is None


def test_the_top_follows_from_pitch_and_land() -> None:
    found = v(included_deg=40, pitch="3.5 mm", land="0.75 mm", depth="2.5 mm", count=4, outside="80 mm")
    assert (found.top.mm, found.land and found.land.mm) == (Decimal("2.75"), Decimal("0.75"))


def test_the_widest_roughing_tool_and_both_angles_stand_there() -> None:
    found = v(included_deg=40, top="12 mm", depth="10 mm", outside="100 mm")
    assert found.roughing_tool is not None
    assert found.roughing_tool.mm == found.floor.mm
    assert "20.00° from the cross-slide" in found.sentence
    assert found.headline == "70.00°"


@pytest.mark.parametrize(
    ("before", "said"),
    [
        ("0 mm", ""),
        ("4 mm", "The first flank has 1.000 mm to the shoulder"),
        ("6 mm", "The first flank reaches 1.000 mm into the shoulder"),
    ],
)
def test_a_shoulder_on_the_datum_side_counts_too(before: str, said: str) -> None:
    found = v(included_deg=40, top="10 mm", depth="8 mm", outside="100 mm", first="10 mm", shoulder_before=before)
    assert said in " ".join(found.notes)
    assert bool(found.notes) == bool(said)
