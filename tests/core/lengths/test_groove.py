"""A groove by the tool's own corner: every plunge lies inside it, and the sides are where they should be."""

from decimal import Decimal
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.dial import turns_and_lines
from nomisma.core.lengths.groove import GrooveResult
from nomisma.core.registry import calculation_named


def groove(**given: Any) -> GrooveResult:
    found = calculation_named("groove").run(
        {"position": "20 mm", "width": "5 mm", "tool": "3 mm", "finish": "0.1 mm", **given}
    )
    assert isinstance(found, GrooveResult)
    return found


@pytest.mark.parametrize(("corner", "near", "far"), [("far", "23 mm", "25 mm"), ("near", "20 mm", "22 mm")])
def test_the_corner_that_was_touched_stands_where_its_side_is(corner: str, near: str, far: str) -> None:
    found = groove(corner=corner)
    assert (str(found.near_side), str(found.far_side)) == (near, far)


def test_a_feeler_at_the_touch_is_counted_back() -> None:
    assert str(groove(feeler="0.05 mm").set_to) == "-0.05 mm"


@given(st.integers(20, 300), st.integers(10, 60), st.sampled_from(["far", "near"]))
def test_no_plunge_cuts_into_a_side_and_none_leaves_a_ridge(width_tenths: int, tool_tenths: int, corner: str) -> None:
    width, tool = Decimal(width_tenths) / 10, Decimal(tool_tenths) / 10
    if width < tool + Decimal("0.2"):
        return
    found = groove(width=f"{width} mm", tool=f"{tool} mm", corner=corner)
    near_edges = [one.mm - (tool if corner == "far" else 0) for one in found.plunges]
    assert min(near_edges) >= 20 + Decimal("0.1") - Decimal("1e-9")
    assert max(near_edges) + tool <= 20 + width - Decimal("0.1") + Decimal("1e-9")
    assert all(second - first <= tool for first, second in pairwise(near_edges))


def test_a_row_goes_on_by_its_pitch() -> None:
    found = groove(count=3, pitch="12 mm")
    assert found.table
    assert [str(row[-2].length) for row in found.table.rows] == ["23 mm", "35 mm", "47 mm"]


def test_a_tool_as_wide_as_the_groove_says_what_comes_of_it() -> None:
    assert "comes out as wide as the tool cuts" in groove(tool="5 mm").notes[0]


def test_the_floor_is_so_far_in() -> None:
    assert str(groove(outside="30 mm", floor="24 mm").infeed) == "6 mm"


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"tool": "6 mm"}, "tool"), ({"finish": "1.2 mm"}, "finish"), ({"finish": "-0.1 mm"}, "finish"),
        ({"count": 2}, "pitch"),
        ({"count": 2, "pitch": "4 mm"}, "pitch"), ({"outside": "20 mm", "floor": "20 mm"}, "floor"),
        ({"position": "-1 mm"}, "position"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_told_at_its_field(given: dict[str, Any], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        groove(**given)
    assert refused.value.errors[0].field == field


def test_a_neck_of_very_many_tools_is_turned_not_plunged() -> None:
    with pytest.raises(BadInput, match="more than 30 tools wide"):
        groove(width="50 mm", tool="0.001 mm")


def test_a_handwheel_is_counted_in_turns_from_the_touch() -> None:
    """By hand: 23 mm and the feeler's 0.05 from the touch are 922 lines of 0.025 mm, nine turns of 100 and 22."""
    found = groove(feeler="0.05 mm", line="0.025 mm", lines_a_turn=100)
    assert found.table
    assert [cell.words for cell in found.table.rows[0][-2:]] == ["9 turns + 22 lines", "10 turns + 2 lines"]
    assert "9 turns + 22 lines" in [fact.words for fact in found.facts]


@given(st.integers(1, 20_000), st.integers(2, 400))
def test_lines_beyond_whole_turns_are_always_fewer_than_a_turn(hundredths: int, around: int) -> None:
    words = turns_and_lines(Decimal(hundredths) / 100, Decimal(around))
    rest = Decimal(words.split("+")[-1].split()[0])
    assert rest < around


def test_with_a_feeler_it_says_from_where_is_counted() -> None:
    assert any(
        "from the touch with the feeler between" in note for note in groove(feeler="0.05 mm", line="0.05 mm").notes
    )
    assert groove().notes == []
