"""A batch counted by the ways through it."""

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.planning.batch_order import batch_ways

TOOLS = st.sampled_from(("turning tool", "drill", "boring bar", "parting tool"))
set_ups = st.lists(st.lists(TOOLS, min_size=1, max_size=4), min_size=1, max_size=3)


def test_two_set_ups_of_twelve_pieces_by_hand() -> None:
    """Turning tool, drill; then turning tool. By tool: 2 changes, 36 chuckings. By set-up: 12 + 11 + 1 changes, 24
    chuckings, 2 set-ups.

    By piece: 2 a piece (turning, drill, turning), none between, for the last tool is the first: 24 changes, 24
    chuckings, 24 set-ups.
    """
    by_tool, by_set_up, by_piece = batch_ways([["turning tool", "drill"], ["turning tool"]], 12)
    assert (by_tool.tool_changes, by_tool.chuckings, by_tool.set_up_changes) == (2, 36, 2)
    assert (by_set_up.tool_changes, by_set_up.chuckings, by_set_up.set_up_changes) == (24, 24, 2)
    assert (by_piece.tool_changes, by_piece.chuckings, by_piece.set_up_changes) == (24, 24, 24)


@given(set_ups, st.integers(1, 30))
def test_tool_by_tool_changes_tools_least_and_chucks_most(tools: list[list[str]], pieces: int) -> None:
    by_tool, by_set_up, by_piece = batch_ways(tools, pieces)
    assert by_tool.tool_changes <= min(by_set_up.tool_changes, by_piece.tool_changes)
    assert by_tool.chuckings >= by_set_up.chuckings == by_piece.chuckings == len(tools) * pieces
    assert by_set_up.set_up_changes == len(tools)


@given(set_ups)
def test_of_one_piece_all_ways_are_one(tools: list[list[str]]) -> None:
    assert len({(one.tool_changes, one.chuckings, one.set_up_changes) for one in batch_ways(tools, 1)[1:]}) == 1
