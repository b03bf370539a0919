"""The order of one chucking: no rule broken, and no order with fewer changes of tool."""

from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.operations.operations import (
    RULES,
    Operation,
    OperationKind,
    RuleName,
    broken,
    fewest_changes,
    must_precede,
    operations_of,
    tool_changes,
)
from tests.core.planning.sketched import FLANGED, surfaces

PART = surfaces(
    "od 40 x 30\nod 30 x 10\nbore 12 H7 thru true to A\ngroove 2 wide to 36 at 10 from the left\ncham 1 x 45"
)
ALL = operations_of(PART, from_solid=True, part_off=True)
some = st.lists(st.sampled_from(ALL), unique=True, min_size=1, max_size=6)


@settings(max_examples=60, deadline=None)
@given(some)
def test_no_order_that_keeps_the_rules_changes_the_tool_less(operations: list[Operation]) -> None:
    found = fewest_changes(operations, PART)
    assert sorted(one.key for one in found) == sorted(one.key for one in operations)
    assert broken(found, PART) == []
    assert tool_changes(found) == min(
        tool_changes(order) for order in permutations(operations) if not broken(order, PART)
    )


def test_the_whole_of_a_part_keeps_every_rule() -> None:
    assert broken(fewest_changes(ALL, PART), PART) == []


@pytest.mark.parametrize("lines", [FLANGED, "od 60 x 12\nbore 20 H7 thru", "od 20 x 40", "od 40 x 30\nbore 4 thru"])
def test_a_hole_is_spotted_then_drilled_then_bored(lines: str) -> None:
    kinds: list[OperationKind] = [
        one.kind
        for one in fewest_changes(operations_of(surfaces(lines), from_solid=True, part_off=False), surfaces(lines))
    ]
    along = [kind for kind in kinds if kind in ("centre_drill", "drill", "rough_bore", "bore")]
    assert along == [kind for kind in ("centre_drill", "drill", "rough_bore", "bore") if kind in along]
    assert ("drill" in kinds) == ("bore" in lines)


def test_a_hole_too_small_for_a_bar_is_only_drilled() -> None:
    assert "bore" not in [
        one.kind for one in operations_of(surfaces("od 40 x 30\nbore 4 thru"), from_solid=True, part_off=False)
    ]


@pytest.mark.parametrize(
    ("first", "then", "rule"),
    [
        ("turn:A,B", "face:", "face_first"),
        ("drill:E", "centre_drill:E", "spot_before_drill"),
        ("bore:E", "drill:E", "drill_before_bore"),
        ("turn:C,D", "rough_turn:A,B", "rough_before_finish"),
        ("turn:A,B", "bore:E", "bore_before_outside"),
        ("groove:F,G,H", "turn:A,B", "diameter_first"),
        ("chamfer:I", "turn:A,B", "edges_after_finish"),
        ("deburr:", "groove:F,G,H", "deburr_before_measuring"),
        ("part_off:", "deburr:", "part_off_last"),
    ],
)
def test_each_rule_is_named_where_it_is_broken(first: str, then: str, rule: RuleName) -> None:
    by_key = {one.key: one for one in ALL}
    order = [by_key[first], by_key[then]]
    assert rule in [one.rule for one in broken(order, PART)]
    assert broken(order[::-1], PART) == []


def test_every_rule_is_used_and_none_goes_round_in_a_circle() -> None:
    part = surfaces(
        "od 40 x 30\nM30x2 6g x 10\nbore 12 H7 thru true to A\ngroove 2 wide to 36 at 10 from the left\ncham 1 x"
        " 45\ntap M8 x 9 deep\nundercut F 0.6 x 0.3 on A"
    )
    knob = surfaces("od 30 x 20\nM12 6g x 15\nbore 8 H7 thru\nknurl medium on A")
    pairs = must_precede(operations_of(part, from_solid=True, part_off=True), part)
    of_knob = must_precede(operations_of(knob, from_solid=True, part_off=True), knob)
    at_centre = must_precede(operations_of(knob, from_solid=True, part_off=True, centred=True), knob)
    assert {one.rule for one in (*pairs, *of_knob, *at_centre)} == set(RULES)
    assert broken(fewest_changes(operations_of(knob, from_solid=True, part_off=True), knob), knob) == []
    assert all((one.then, one.first) not in {(other.first, other.then) for other in pairs} for one in pairs)


def test_the_hand_is_no_tool_in_the_post() -> None:
    assert tool_changes([Operation("turn"), Operation("deburr"), Operation("turn")]) == 0


def test_a_bar_roughs_only_what_the_drill_did_not() -> None:
    parts = surfaces("od 60 x 30\nbore 20 H7 thru\nbore 32 x 10 deep from the right")
    roughed = [
        one.letters[0] for one in operations_of(parts, from_solid=True, part_off=True) if one.kind == "rough_bore"
    ]
    assert roughed == [one.letter for one in parts if one.diameter_mm == 32]
    cored = [one for one in operations_of(parts, from_solid=False, part_off=True) if one.kind == "rough_bore"]
    assert len(cored) == 2


def test_a_bore_no_drill_goes_up_to_is_roughed() -> None:
    parts = surfaces("od 120 x 30\nbore 70 H7 thru")
    assert "rough_bore" in [one.kind for one in operations_of(parts, from_solid=True, part_off=True)]
