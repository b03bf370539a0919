"""Set-ups: as few as there can be of those that can be cut, held against every way to share the surfaces out."""

from decimal import Decimal
from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.operations.operations import broken
from nomisma.core.operations.surfaces import Surface
from nomisma.core.order.laid_out import StockKind, StockSaid, Worked
from nomisma.core.order.set_ups import SetUps
from tests.core.planning.sketched import FLANGED, piece, set_ups

SIZES = st.sampled_from((20, 30, 40, 50))
steps = st.lists(st.tuples(SIZES, st.integers(5, 40)), min_size=1, max_size=4)
bores = st.lists(st.tuples(st.sampled_from((8, 12, 16)), st.booleans()), max_size=2)
SKIN = StockSaid("cast", skin_mm=Decimal(2))


def worked_from(found: SetUps) -> list[Worked]:
    return [one.worked for one in found.set_ups]


@pytest.mark.parametrize(
    ("lines", "stock", "as_parted", "expected"),
    [
        (FLANGED, "bar", True, ["left"]),
        (FLANGED, "bar", False, ["left", "right"]),
        ("od 24 x 30\nod 40 x 10\nod 20 x 8", "bar", True, ["right", "left"]),
        ("od 60 x 12\nbore 20 H7 thru", "blank", False, ["right", "left", "mandrel"]),
        ("od 60 x 20\nbore 20 H7 thru", "blank", False, ["right", "left"]),
        ("od 20 h6 x 100", "blank", False, ["right", "left", "centres"]),
        ("od 20 h6 x 100", "bar", False, ["right", "left", "centres"]),
        ("od 60 x 12\nod 30 x 20\nbore 20 x 5 deep", "blank", False, ["right", "left"]),
        ("od 20 x 200\nbore 8 x 10 deep from the right", "bar", False, ["right", "left", "centres", "right"]),
    ],
)
def test_as_few_set_ups_as_the_part_and_its_stock_allow(
    lines: str, stock: StockKind, as_parted: bool, expected: list[Worked]
) -> None:
    found = set_ups(lines, stock, face_as_parted=as_parted)
    assert found.complaints == ()
    assert sorted(worked_from(found)) == sorted(expected)


def fewest_by_trying(parts: tuple[Surface, ...], *, as_parted: bool) -> int:
    """For a bar, by reach alone: one set-up where every surface is reached from one end that may be parted off, else
    two where each is reached from one; what can be held may ask for more.
    """
    shared = [one for one in parts if one.kind not in ("edge", "groove")]
    if as_parted and any(all(end in one.ends for one in shared) for end in ("right", "left")):
        return 1
    length = max(one.to_mm for one in parts)
    for first, second in (("right", "left"), ("left", "right")):
        for way in product((0, 1), repeat=len(shared)):
            reached = all((first, second)[at] in one.ends for at, one in zip(way, shared, strict=True))
            covered = any(
                at == 1 and one.kind == "outside" and (one.from_mm == 0 if second == "right" else one.to_mm == length)
                for at, one in zip(way, shared, strict=True)
            )
            if reached and not covered:
                return 2
    return 3


@settings(max_examples=80, deadline=None)
@given(steps, bores, st.booleans())
def test_no_way_to_share_out_a_parts_surfaces_takes_fewer(
    outsides: list[tuple[int, int]], holes: list[tuple[int, bool]], as_parted: bool
) -> None:
    lines = [f"od {diameter} x {long}" for diameter, long in outsides]
    lines += [f"bore {diameter} {'thru' if through else 'x 4 deep from the right'}" for diameter, through in holes]
    parts = piece("\n".join(lines)).surfaces
    found = set_ups("\n".join(lines), face_as_parted=as_parted)
    if not found.set_ups:
        assert found.complaints
        return
    fewest = fewest_by_trying(parts, as_parted=as_parted)
    assert len(found.set_ups) >= fewest
    if sum(long for _, long in outsides) < 40:  # short enough to stand out whole: reach alone decides
        assert len(found.set_ups) <= max(fewest, 2 if not as_parted else 1) + 1
    cut = [one for set_up in found.set_ups for one in set_up.surfaces if one.kind != "edge"]
    assert sorted(one.letter for one in cut) == sorted(one.letter for one in parts if one.kind != "edge")
    assert all(broken(set_up.operations, parts) == [] for set_up in found.set_ups)


def test_what_must_be_true_to_each_other_is_cut_in_one_chucking_where_one_end_reaches_both() -> None:
    found = set_ups("od 24 x 30\nod 40 x 10 true to E\nod 20 x 8\nbore 12 H7 thru true to A")
    assert found.apart == ()
    where = {one.letter: set_up.worked for set_up in found.set_ups for one in set_up.surfaces}
    assert where["A"] == where["G"]


def test_what_no_end_reaches_together_is_said() -> None:
    found = set_ups("od 24 x 30\nod 40 x 10\nod 20 x 12 true to A")
    assert [(one.letter, one.true_to) for one in found.apart] == [("E", "A")]
    second = found.set_ups[1]
    assert second.workholding
    assert second.held_on in ("A", "E") or second.workholding.trued_on in ("A", "E")


def test_a_circle_of_true_to_is_planned_all_the_same() -> None:
    assert set_ups("od 24 x 30 true to C\nbore 12 H7 thru true to A").apart == ()


def test_an_outside_on_a_mandrel_is_true_to_the_bore_it_sits_in() -> None:
    found = set_ups("od 60 x 14 true to C\nbore 20 H7 thru", "blank")
    assert found.apart == ()
    assert found.set_ups[-1].held_on == "C"


def test_the_second_chucking_holds_on_what_the_first_finished() -> None:
    assert [one.held_on for one in set_ups(FLANGED).set_ups] == ["", "A"]


def test_a_casting_is_held_on_its_skin_to_make_what_the_rest_is_held_by() -> None:
    found = set_ups("od 176 x 21 true to E\nod 44 x 26\nbore 19 H7 thru\nlength 47", SKIN)
    assert found.apart == ()
    assert found.set_ups[0].held_on == ""
    assert found.set_ups[1].held_on in ("C", "E")


@settings(max_examples=40, deadline=None)
@given(steps, bores)
def test_whatever_it_is_made_from_it_is_planned_whole_or_said_why_not(
    outsides: list[tuple[int, int]], holes: list[tuple[int, bool]]
) -> None:
    lines = [f"od {diameter} x {long}" for diameter, long in outsides]
    lines += [f"bore {diameter} {'thru' if through else 'x 4 deep from the right'}" for diameter, through in holes]
    for stock in (StockSaid("blank"), SKIN):
        found = set_ups("\n".join(lines), stock)
        parts = piece("\n".join(lines), stock).surfaces
        cut = [one for set_up in found.set_ups for one in set_up.surfaces if one.kind != "edge"]
        whole = sorted(one.letter for one in cut) == sorted(one.letter for one in parts if one.kind != "edge")
        assert whole if found.set_ups else found.complaints


def edges_of(lines: str, stock: StockKind = "bar") -> dict[str, list[str]]:
    return {
        one.name: [letter for each in one.operations if each.kind == "chamfer" for letter in each.letters]
        for one in set_ups(lines, stock).set_ups
    }


def test_an_edge_is_broken_where_its_outside_is_cut_or_from_the_face_it_is_at() -> None:
    stepped = "od 90 x 12\nod 62 x 38\nbore 30 H7 thru\nlength 50\ncham 1 x 45 on C\ncham 0.5 x 45 on A"
    assert edges_of(stepped) == {"right": ["G"], "left": ["H"]}


def test_an_edge_nobody_placed_is_broken_at_both_ends() -> None:
    assert edges_of("od 90 x 12\nod 62 x 38\nlength 50\ncham 1 x 45") == {"right": ["F"], "left": ["F"]}


def test_an_edge_of_a_plain_pin_is_at_both_its_ends() -> None:
    found = edges_of("od 20 x 40\nlength 40\ncham 1 x 45 on A")
    assert all(letters == ["D"] for letters in found.values())
    assert len(found) == 2


def test_one_that_is_parted_off_for_good_has_its_far_edge_broken_from_the_groove() -> None:
    found = set_ups("od 20 x 40\ncham 1 x 45", "bar", face_as_parted=True)
    only = found.set_ups[0]
    (cuts,) = [cuts for one, cuts in zip(only.operations, only.cuts, strict=True) if one.kind == "chamfer"]
    assert [one.kind for one in cuts] == ["chamfer", "groove", "chamfer"]


def test_an_end_that_is_worked_twice_is_told_apart() -> None:
    found = set_ups("od 20 x 200\nbore 8 x 10 deep from the right")
    assert [one.name for one in found.set_ups][-1] == "right-2"
