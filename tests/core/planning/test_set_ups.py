"""Set-ups: as few as there can be, held against every way to share the surfaces out."""

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.planning.operations import broken
from nomisma.core.planning.set_ups import SetUps, StockHeld, Worked, set_ups_of
from nomisma.core.planning.surfaces import Surface
from tests.core.planning.sketched import FLANGED, surfaces

SIZES = st.sampled_from((20, 30, 40, 50))
steps = st.lists(st.tuples(SIZES, st.integers(5, 40)), min_size=1, max_size=4)
bores = st.lists(st.tuples(st.sampled_from((8, 12, 16)), st.booleans()), max_size=2)


def worked_from(found: SetUps) -> list[Worked]:
    return [one.worked for one in found.set_ups]


@pytest.mark.parametrize(
    ("lines", "stock", "as_parted", "expected"),
    [
        (FLANGED, "bar", True, ["left"]),
        (FLANGED, "bar", False, ["left", "right"]),
        ("od 24 x 30\nod 40 x 10\nod 20 x 8", "bar", True, ["right", "left"]),
        ("od 60 x 12\nbore 20 H7 thru", "blank", False, ["right", "left", "mandrel"]),
        ("od 20 h6 x 100", "blank", False, ["right", "left", "centres"]),
        ("od 60 x 12\nod 30 x 20\nbore 20 x 5 deep", "blank", False, ["right", "left"]),
    ],
)
def test_as_few_set_ups_as_the_part_and_its_stock_allow(
    lines: str, stock: StockHeld, as_parted: bool, expected: list[Worked]
) -> None:
    found = set_ups_of(surfaces(lines), stock=stock, face_as_parted=as_parted)
    assert len(worked_from(found)) == len(expected)
    assert set(worked_from(found)) == set(expected)


def fewest_by_trying(parts: list[Surface], *, as_parted: bool) -> int:
    """For a bar: one set-up where every surface is reached from one end that may be parted off, else two where each is
    reached from one.
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
    parts = surfaces("\n".join(lines))
    found = set_ups_of(parts, stock="bar", face_as_parted=as_parted)
    assert len(found.set_ups) == fewest_by_trying(parts, as_parted=as_parted)
    cut = [one for set_up in found.set_ups for one in set_up.surfaces if one.kind != "edge"]
    assert sorted(one.letter for one in cut) == sorted(one.letter for one in parts if one.kind != "edge")
    assert all(broken(set_up.operations, parts) == [] for set_up in found.set_ups)


def test_what_must_be_true_to_each_other_is_cut_in_one_chucking_where_one_end_reaches_both() -> None:
    found = set_ups_of(surfaces("od 24 x 30\nod 40 x 10 true to E\nod 20 x 8\nbore 12 H7 thru true to A"), stock="bar")
    assert found.apart == ()
    where = {one.letter: set_up.worked for set_up in found.set_ups for one in set_up.surfaces}
    assert where["A"] == where["G"]


def test_what_no_end_reaches_together_is_said() -> None:
    found = set_ups_of(surfaces("od 24 x 30\nod 40 x 10\nod 20 x 8 true to A"), stock="bar")
    assert [(one.letter, one.true_to) for one in found.apart] == [("E", "A")]


def test_a_circle_of_true_to_is_planned_all_the_same() -> None:
    found = set_ups_of(surfaces("od 24 x 30 true to C\nbore 12 H7 thru true to A"), stock="bar")
    assert found.apart == ()


def test_an_outside_on_a_mandrel_is_true_to_the_bore_it_sits_in() -> None:
    found = set_ups_of(surfaces("od 60 x 12 true to C\nbore 20 H7 thru"), stock="blank")
    assert found.apart == ()
    assert found.set_ups[-1].held_on == "C"


def test_the_second_chucking_holds_on_what_the_first_finished() -> None:
    found = set_ups_of(surfaces(FLANGED), stock="bar")
    assert [one.held_on for one in found.set_ups] == ["", "A"]


@settings(max_examples=60, deadline=None)
@given(steps, bores)
def test_a_blank_is_planned_whatever_its_surfaces(
    outsides: list[tuple[int, int]], holes: list[tuple[int, bool]]
) -> None:
    lines = [f"od {diameter} x {long}" for diameter, long in outsides]
    lines += [f"bore {diameter} {'thru' if through else 'x 4 deep from the right'}" for diameter, through in holes]
    parts = surfaces("\n".join(lines))
    found = set_ups_of(parts, stock="blank")
    cut = [one for set_up in found.set_ups for one in set_up.surfaces if one.kind != "edge"]
    assert sorted(one.letter for one in cut) == sorted(one.letter for one in parts if one.kind != "edge")


def test_a_casting_is_held_on_its_skin_only_to_make_the_boss_the_rest_is_held_by() -> None:
    found = set_ups_of(
        surfaces("od 176 x 21 true to E\nod 44 x 16\nbore 19 H7 thru\nlength 37"), stock="blank", with_skin=True
    )
    assert [[one.letter for one in set_up.surfaces] for set_up in found.set_ups] == [["C"], ["A", "E"]]
    assert found.set_ups[1].held_on == "C"
    assert found.apart == ()


def test_with_nothing_to_hold_it_by_a_casting_is_planned_like_any_blank() -> None:
    lines = "od 60 x 12\nbore 20 H7 thru"
    with_skin, bright = (set_ups_of(surfaces(lines), stock="blank", with_skin=skin) for skin in (True, False))
    assert worked_from(with_skin) == worked_from(bright)


@settings(max_examples=60, deadline=None)
@given(steps, bores)
def test_a_skin_costs_no_set_up_and_takes_nothing_from_what_it_must_be_true_to(
    outsides: list[tuple[int, int]], holes: list[tuple[int, bool]]
) -> None:
    lines = [f"od {size} x {length}" for size, length in outsides] + [f"bore {size} thru" for size, _ in holes[:1]]
    parts = surfaces("\n".join(lines))
    with_skin, bright = (set_ups_of(parts, stock="blank", with_skin=skin) for skin in (True, False))
    assert len(with_skin.set_ups) == len(bright.set_ups)
    assert len(with_skin.apart) == len(bright.apart)
    if len(with_skin.set_ups) == 2:
        assert with_skin.set_ups[1].held_on


def edges_of(lines: str, stock: StockHeld = "bar") -> dict[Worked, list[str]]:
    found = set_ups_of(surfaces(lines), stock=stock)
    return {
        one.worked: [letter for each in one.surfaces if each.kind == "edge" for letter in each.letters]
        for one in found.set_ups
    }


def test_an_edge_is_broken_where_its_outside_is_cut_or_from_the_face_it_is_at() -> None:
    stepped = "od 90 x 12\nod 62 x 28\nbore 30 thru\nlength 40\ncham 1 x 45 on C\ncham 0.5 x 45 on A"
    assert edges_of(stepped) == {"right": ["G"], "left": ["H"]}


def test_an_edge_nobody_placed_is_broken_at_both_ends() -> None:
    assert edges_of("od 90 x 12\nod 62 x 28\nlength 40\ncham 1 x 45") == {"right": ["F"], "left": ["F"]}


def test_an_edge_of_a_plain_pin_is_at_both_its_ends() -> None:
    found = edges_of("od 20 x 60\nlength 60\ncham 1 x 45 on A")
    assert all(letters == ["D"] for letters in found.values())
