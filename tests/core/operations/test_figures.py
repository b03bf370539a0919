"""The figures of a step, counted from the face it is worked from."""

from dataclasses import replace
from decimal import Decimal
from typing import Any, get_args

import pytest

from nomisma.core.metal.cut import Cut, CutKind, Tool, Workholding
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import workpiece_of
from nomisma.core.operations.figures import figures
from tests.core.planning.sketched import planned

RIGHT = Workholding("right", "three_jaw", Decimal(48), None)
LONG = Decimal(40)


def said(kind: CutKind, low: float, high: float, before: float, after: float, **more: Any) -> str:
    places = [Decimal(str(mm)) for mm in (low, high, before, after)]
    return figures([Cut(kind, ("A",), *places, **more)], RIGHT, LONG, "mm")[0]


@pytest.mark.parametrize(
    ("words", "given"),
    [
        ("0.800 mm off, 2 passes", ("face", 40.8, 40, 42, 0, 2)),
        ("from ⌀42.000 mm to ⌀24.750 mm in 6 passes, back to 29.700 mm from the face",
         ("rough_turn", 10.3, 40, 42, 24.75, 6)),
        ("to ⌀24.000 mm, 30.000 mm from the face", ("turn", 10, 40, 24.75, 24, 1)),
        ("from ⌀24.000 mm to ⌀20.000 mm, its near corner 8.000 mm and its far corner 10.000 mm from the face",
         ("groove", 30, 32, 24, 20, 1)),
        ("the right edge: 1.000 mm along, 1.000 mm in", ("chamfer", 39, 40, 24, 22, 1)),
        # by hand: atan(1/20) is 2.862°
        ("⌀24.000 mm to ⌀22.000 mm between 0.000 mm and 20.000 mm from the face, the compound at 2.862°",
         ("taper", 20, 40, 24, 22, 1)),
    ],
)  # fmt: skip
def test_a_cut_says_its_sizes_and_its_places(words: str, given: tuple[Any, ...]) -> None:
    kind, low, high, before, after, passes = given
    end = "right" if kind == "chamfer" else ""
    assert said(kind, low, high, before, after, passes=passes, end=end) == words


def test_parting_says_both_corners_of_the_blade_and_its_reach() -> None:
    tool = Tool("parting", width_mm=Decimal(3), reach_mm=Decimal("15.1"))
    found = said("part_off", -3.8, -0.8, 40, 12, tool=tool)
    assert found == "blade 3 mm wide: near corner 40.800 mm, far corner 43.800 mm from the face; it must reach 15.1 mm"


def test_a_drill_says_its_full_diameter_and_its_point() -> None:
    found = figures(
        [Cut("drill", ("E",), LONG, Decimal(10), Decimal(0), Decimal(11), Decimal("6.7"), end="right")],
        RIGHT,
        LONG,
        "mm",
    )
    assert found == ["⌀11.000 mm: full diameter 30 mm deep, its point at 33.3 mm"]


def test_a_hole_deeper_than_a_common_drills_flutes_says_so_and_a_reamed_one_is_tried_with_pins() -> None:
    """By hand: eight diameters of 5 mm are 40; the hole goes through 60 and its facing."""
    words = {
        one.operation.kind: " ".join(figures(one.cuts, held, Decimal(deep), "mm", one.before))
        for deep in (30, 60)
        for set_up in planned(f"od 30 x {deep}\nream 5 H7 thru").set_ups
        if (held := set_up.set_up.workholding) is not None
        for one in set_up.operations
        if one.operation.kind == "ream" or (one.operation.kind == "drill" and deep == 60)
    }
    assert "no common drill's flutes are so long" in words["drill"]
    assert "pins afterwards" in words["ream"]
    assert "flutes" not in said("drill", 30, 0, 0, 5, point_mm=Decimal(-1))


def test_every_step_of_a_plan_but_deburring_says_figures() -> None:
    lines = (
        "od 24 h9 x 30\nod 40 x 10\nbore 12 H7 thru\nbore 20 x 4 deep from the left\ngroove 2 wide to 20 at 12\n"
        "cham 1 x 45\nknurl medium on C\nface groove 28 to 34 x 2 deep from the right"
    )
    order = planned(lines)
    for set_up in order.set_ups:
        assert set_up.set_up.workholding
        for one in set_up.operations:
            words = figures(one.cuts, set_up.set_up.workholding, LONG, "mm")
            assert bool(words) == (one.operation.kind != "deburr"), one.operation.title
    kinds = {cut.kind for one in order.operations for cut in one.cuts}
    assert kinds >= {"face", "drill", "bore", "turn", "groove", "chamfer", "part_off", "knurl"}
    assert kinds <= set(get_args(CutKind))


def test_a_morse_tapers_compound_is_set_as_the_table_has_it() -> None:
    """Morse 3: .60235 in a foot, half angle 1° 26' 16", 1.438° (ANSI/ASME B5.10, recalled)."""
    order = planned("Morse 3 outside\nod 20 x 12\noverall 92.96")
    (words,) = [
        word
        for set_up in order.set_ups
        for one in set_up.operations
        if one.operation.kind == "taper" and set_up.set_up.workholding
        for word in figures(one.cuts, set_up.set_up.workholding, LONG, "mm")
    ]
    assert words.endswith("the compound at 1.438°")


def test_stock_with_corners_says_where_it_is_round() -> None:
    """A square of 30 is round at 30, whatever its corners; set over by 4 a round of 42 is, below 34."""
    square = workpiece_of(Stock(Decimal(0), LONG, Decimal(30), "square"))
    corner = square.outside.largest_mm(Decimal(0), LONG)
    cut = Cut("rough_turn", ("A",), Decimal(0), LONG, corner, Decimal(20))
    (_, words) = figures([cut], RIGHT, LONG, "mm", square)
    assert words.startswith("the cut is broken down to ⌀30.000 mm")
    round_bar = workpiece_of(Stock(Decimal(0), LONG, Decimal(42)))
    cut = Cut("rough_turn", ("A",), Decimal(0), LONG, Decimal(42), Decimal(30), throw_mm=Decimal(4))
    assert figures([cut], RIGHT, LONG, "mm", round_bar)[1].startswith("the cut is broken down to ⌀34.000 mm")
    assert len(figures([replace(cut, throw_mm=Decimal(0))], RIGHT, LONG, "mm", round_bar)) == 1
