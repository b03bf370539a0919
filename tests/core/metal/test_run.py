"""A plan that runs, and every way to spoil it: each rule is found where it is broken, and only there."""

from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.metal.cut import Cut, Grip, Support, Tool, Workholding, is_only_faced
from nomisma.core.metal.drawing import Drawing, HoleDrawn
from nomisma.core.metal.profile import cylinder, profile_of
from nomisma.core.metal.rules import RunRule, widest_held_mm
from nomisma.core.metal.run import run
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import workpiece_of


def mm(number: float | str) -> Decimal:
    return Decimal(str(number))


def turned(kind: Any, letter: str, low: float, high: float, before: float, after: float, **more: Any) -> Cut:
    return Cut(kind, (letter,), mm(low), mm(high), mm(before), mm(after), **more)


BLADE = Tool("parting", width_mm=mm(3), reach_mm=mm(16))
FACE = Cut("face", (), mm(41), mm(40), mm(42), mm(0), end="right")
ROUGH = turned("rough_turn", "A", 10.3, 40, 42, 24.75)
TURN = turned("turn", "A", 10, 40, 24.75, 24)
FLANGE = turned("turn", "C", -4, 10.3, 42, 40)
SPOT = Cut("spot", ("E",), mm(40), mm(37), mm(0), mm(6), end="right")
DRILL = Cut(
    "drill", ("E",), mm(40), mm(-4), mm(0), mm(11), mm("-7.3"), tool=Tool("drill", diameter_mm=mm(11)), end="right"
)
BORE = Cut("bore", ("E",), mm(40), mm(-4), mm(11), mm(12), inside=True, end="right")
GROOVE = turned("groove", "G", 20, 22, 24, 20)
EDGE = turned("chamfer", "H", 39, 40, 24, 22, end="right")
PART = Cut("part_off", (), mm(-4), mm(-1), mm(40), mm(12), tool=BLADE, end="right")
FIRST = (FACE, ROUGH, SPOT, DRILL, FLANGE, BORE, TURN, GROOVE, EDGE, PART)
STOCK = Stock(mm(-29), mm(41), mm(42))
JAWS = Grip("stock", mm(-29), mm(-7), mm(42))
SOFT = Grip("A", mm(24), mm(39), mm(24), protected=True)
RIGHT = Workholding("right", "three_jaw", mm(48), JAWS, FIRST)
LEFT = Workholding("left", "soft_jaws", mm(25), SOFT, (Cut("face", (), mm(-1), mm(0), mm(40), mm(12), end="left"),))
BODY = profile_of([cylinder(mm(0), mm(10), mm(40)), cylinder(mm(10), mm(40), mm(24))])
PIN = Drawing(
    mm(40),
    BODY.turned(cylinder(mm(20), mm(22), mm(20))).turned(replace(cylinder(mm(39), mm(40), mm(24)), at_to_mm=mm(22))),
    (HoleDrawn("E", mm(12), mm(0), mm(40), frozenset({"right", "left"}), True),),
    done_by=frozenset("ACEGH"),
)


def broken(*set_ups: Workholding, drawing: Drawing = PIN, stock: Stock = STOCK) -> set[RunRule]:
    return {one.rule for one in run(workpiece_of(stock), set_ups, drawing).complaints}


def with_cuts(cuts: tuple[Cut, ...]) -> Workholding:
    return replace(RIGHT, cuts=cuts)


def but(which: Cut, **changed: Any) -> Workholding:
    return with_cuts(tuple(replace(one, **changed) if one is which else one for one in FIRST))


def moved(which: Cut, to: int) -> Workholding:
    rest = [one for one in FIRST if one is not which]
    return with_cuts((*rest[:to], which, *rest[to:]))


def test_a_plan_that_can_be_cut_runs_clean_and_comes_to_the_drawing() -> None:
    found = run(workpiece_of(STOCK), [RIGHT, LEFT], PIN)
    assert found.complaints == ()
    assert (found.finished.left_mm, found.finished.right_mm) == (0, 40)


CASES: list[tuple[str, RunRule, Callable[[], tuple[Workholding, ...]]]] = [
    ("parted flush with the jaws", "held_is_cut", lambda: (
        replace(RIGHT, grip=replace(JAWS, from_mm=mm(-26), to_mm=mm(-4)), stands_out_mm=mm(45)), LEFT)),
    ("gripped beyond its end", "nothing_gripped", lambda: (replace(RIGHT, grip=replace(JAWS, from_mm=mm(-31))), LEFT)),
    ("gripped on another size", "nothing_gripped", lambda: (
        RIGHT, replace(LEFT, grip=replace(SOFT, diameter_mm=mm(25))))),
    ("gripped across a groove", "nothing_gripped", lambda: (
        RIGHT, replace(LEFT, grip=replace(SOFT, from_mm=mm(15)), stands_out_mm=mm(16)))),
    ("a short grip", "grip_short", lambda: (replace(RIGHT, grip=replace(JAWS, from_mm=mm(-26))), LEFT)),
    ("gripped where jaws do not reach", "jaws_reach", lambda: (
        RIGHT, replace(LEFT, worked="right", grip=replace(SOFT, from_mm=mm(23), to_mm=mm(38)), stands_out_mm=mm(2)))),
    ("a finished surface gripped bare", "grip_marks", lambda: (
        RIGHT, replace(LEFT, way="three_jaw", grip=replace(SOFT, protected=False)))),
    ("standing out more than is there", "stands_out", lambda: (replace(RIGHT, stands_out_mm=mm(50)), LEFT)),
    ("faced with a centre in the end", "end_occupied", lambda: (
        replace(RIGHT, supports=(Support("centre", "right"),)), LEFT)),
    ("a centre in no hole", "no_centre_hole", lambda: (replace(RIGHT, supports=(Support("centre", "right"),)), LEFT)),
    ("between centres without both", "between_both", lambda: (
        RIGHT, Workholding("left", "centres", mm(41), None, LEFT.cuts))),
    ("a steady on nothing", "no_track", lambda: (
        replace(RIGHT, supports=(Support("steady", "", "A", mm(45), mm(60)),)), LEFT)),
    ("cut where the rollers run", "held_is_cut", lambda: (
        replace(RIGHT, supports=(Support("steady", "", "stock", mm(12), mm(25)),)), LEFT)),
    ("parted beyond a steady", "parted_supported", lambda: (
        replace(RIGHT, supports=(Support("steady", "", "stock", mm(-6), mm(-5)),)), LEFT)),
    ("a blade that does not reach", "blade_short", lambda: (but(PART, tool=replace(BLADE, reach_mm=mm(10))), LEFT)),
    ("parted into the part", "metal_gone", lambda: (but(PART, from_mm=mm(-2), to_mm=mm(1)), LEFT)),
    ("bored before it is drilled", "no_bar", lambda: (moved(BORE, 2), LEFT)),
    ("drilled before it is spotted", "not_spotted", lambda: (moved(SPOT, 5), LEFT)),
    ("turned past what is larger", "tool_reach", lambda: (moved(FLANGE, 1), LEFT)),
    ("turned to the same size", "nothing_there", lambda: (with_cuts((*FIRST[:8], TURN, *FIRST[8:])), LEFT)),
    ("another size than is there", "not_as_said", lambda: (but(TURN, before_mm=mm(25)), LEFT)),
    ("a groove before its diameter", "edge_early", lambda: (moved(GROOVE, 1), LEFT)),
    ("an edge before its diameter", "edge_early", lambda: (moved(EDGE, 1), LEFT)),
    ("roughed after finishing", "rough_late", lambda: (moved(ROUGH, 7), LEFT)),
    ("turned too small", "metal_gone", lambda: (but(TURN, after_mm=mm(23)), LEFT)),
    ("turned into a shoulder", "metal_gone", lambda: (but(TURN, from_mm=mm(9)), LEFT)),
    ("bored too large", "metal_gone", lambda: (but(BORE, after_mm=mm(13)), LEFT)),
    ("faced into the part", "metal_gone", lambda: (but(FACE, to_mm=mm(39)), LEFT)),
    ("a face that is not there", "not_as_said", lambda: (but(FACE, from_mm=mm(42)), LEFT)),
    ("its far face left", "metal_left", lambda: (RIGHT,)),
    ("its flange left", "metal_left", lambda: (with_cuts(tuple(one for one in FIRST if one is not FLANGE)), LEFT)),
    ("its bore left", "not_made", lambda: (
        with_cuts(tuple(one for one in FIRST if one.kind not in ("spot", "drill", "bore"))), LEFT)),
]  # fmt: skip


@pytest.mark.parametrize(("name", "rule", "plan"), CASES, ids=[name for name, _, _ in CASES])
def test_what_cannot_be_cut_is_refused_by_its_rule(
    name: str, rule: RunRule, plan: Callable[[], tuple[Workholding, ...]]
) -> None:
    assert rule in broken(*plan()), name


def test_what_stands_out_more_than_three_diameters_is_not_cut_free() -> None:
    long = Drawing(mm(130), profile_of([cylinder(mm(0), mm(130), mm(20))]), ())
    bar = Stock(mm(-20), mm(131), mm(20))
    held = Workholding("right", "three_jaw", mm(136), Grip("stock", mm(-20), mm(-5), mm(20)))
    assert "overhang" in broken(held, drawing=long, stock=bar)
    steady = Support("steady", "", "stock", mm(100), mm(120))
    assert "overhang" not in broken(replace(held, supports=(steady,)), drawing=long, stock=bar)


def test_a_long_piece_is_sawn_and_a_surface_that_stays_is_not_cut() -> None:
    stays = (cylinder(mm(0), mm(40), mm(24)),)
    assert "as_it_is" in broken(RIGHT, LEFT, drawing=replace(PIN, left=stays))
    cut = Cut("part_off", (), mm(-4), mm(-1), mm(10), mm(0), tool=BLADE, end="right")
    held = Workholding("right", "three_jaw", mm(48), Grip("stock", mm(-29), mm(-7), mm(10)), (cut,))
    assert "parted_long" in broken(held, stock=Stock(mm(-29), mm(41), mm(10)))


def test_a_wide_disc_is_not_held_by_a_short_boss() -> None:
    disc = profile_of([cylinder(mm(0), mm(20), mm(100)), cylinder(mm(20), mm(26), mm(30))])
    grip = Grip("B", mm(21), mm(26), mm(30), protected=True, against="step")
    held = Workholding("left", "soft_jaws", mm(21), grip)
    stock = Stock(mm(0), mm(26), mm(100), shape=disc)
    assert "grip_small" in broken(held, drawing=Drawing(mm(26), disc, ()), stock=stock)


def test_nothing_is_trued_in_three_jaws() -> None:
    held = with_cuts(())
    assert "not_trued" in broken(replace(held, way="three_jaw", trued_on="A"))
    assert "not_trued" not in broken(replace(held, way="four_jaw", trued_on="A"))
    assert "not_trued" not in broken(replace(held, way="three_jaw"))


def test_a_lighter_hand_holds_a_wider_disc_where_it_is_only_faced() -> None:
    """By hand: a boss of 12, 8 long against a step holds a disc of 24 while it is turned, of 36 while it is faced."""
    assert [widest_held_mm(mm(12), is_only_faced=faced) for faced in (False, True)] == [mm(24), pytest.approx(mm(36))]
    assert is_only_faced([Cut("face"), Cut("chamfer"), Cut("deburr")])
    assert not is_only_faced([Cut("face"), Cut("turn")])


def test_no_bar_goes_into_a_small_hole_and_no_centre_into_a_wide_one() -> None:
    small = replace(BORE, before_mm=mm(4), after_mm=mm(5))
    drill = replace(DRILL, after_mm=mm(4), tool=Tool("drill", diameter_mm=mm(4)))
    assert "no_bar" in broken(with_cuts((FACE, SPOT, drill, small)))
    centre = Cut("centre_hole", (), mm(40), mm(32), mm(0), mm(6), end="right")
    assert "no_centre_hole" in broken(with_cuts((FACE, SPOT, DRILL, centre)))
    assert "not_faced" in broken(with_cuts((centre, FACE)))


def test_a_bar_is_not_longer_than_six_of_its_diameters() -> None:
    """By hand: 6 times 0.8 of a hole of 6 is 28.8; the bore here goes 44 deep. Of 11 it is 52.8."""
    thin = replace(DRILL, after_mm=mm(6), tool=Tool("drill", diameter_mm=mm(6)))
    bored = replace(BORE, before_mm=mm(6), after_mm=mm(7))
    assert "bar_long" in broken(with_cuts((FACE, SPOT, thin, bored)))
    assert "bar_long" not in broken(RIGHT, LEFT)


def off_centre(**changed: Any) -> set[RunRule]:
    """A pin of 30 turned off centre by 4 on the end of a body of 42, held in the four-jaw, with something changed."""
    crank = Drawing(
        mm(40),
        profile_of([cylinder(mm(0), mm(25), mm(42)), cylinder(mm(25), mm(40), mm(30))]),
        (),
        throws=(("P", mm(4)), ("Q", mm(4))),
    )
    cut = replace(turned("turn", "P", 25, 40, 42, 30, throw_mm=mm(4)), **changed.pop("cut", {}))
    held = Workholding("right", "four_jaw", mm(18), Grip("stock", mm(0), mm(22), mm(42)), (cut,), throw_mm=mm(4))
    return broken(replace(held, **changed), drawing=crank, stock=Stock(mm(0), mm(40), mm(42)))


def test_what_lies_off_centre_is_cut_off_centre_in_metal_that_is_there() -> None:
    assert off_centre() == set()
    assert "off_centre_held" in off_centre(way="three_jaw")
    assert "off_axis" in off_centre(cut={"throw_mm": mm(0)}, throw_mm=mm(0))
    assert "off_axis" in off_centre(cut={"letters": ("A",)})
    assert "off_axis" in off_centre(grip=Grip("Q", mm(0), mm(22), mm(42), protected=True))
    assert "off_centre_air" in off_centre(cut={"throw_mm": mm(7)}, throw_mm=mm(7))
    blade = Cut("part_off", (), mm(-4), mm(-1), mm(42), mm(0), tool=BLADE, end="right", throw_mm=mm(4))
    assert "parted_off_centre" in off_centre(cuts=(blade,))
    assert "parted_off_centre" not in off_centre(cuts=(replace(blade, kind="saw"),))


def test_a_plug_goes_into_a_hollow_end_alone() -> None:
    tube = Stock(mm(0), mm(40), mm(42), bore_mm=mm(20))
    plugs = (Support("plug", "left"), Support("plug", "right"))
    held = Workholding("right", "centres", mm(40), None, supports=plugs)
    assert broken(held, stock=tube) & {"between_both", "no_centre_hole"} == set()
    assert "no_centre_hole" in broken(held, stock=replace(tube, bore_mm=mm(0)))
    assert "between_both" in broken(replace(held, supports=plugs[:1]), stock=tube)


def test_a_centre_hole_does_not_go_through_a_thin_disc() -> None:
    disc = Drawing(mm(6), profile_of([cylinder(mm(0), mm(6), mm(42))]), ())
    deep = Cut("centre_hole", (), mm(6), mm(-5), mm(0), mm(7), end="right")
    held = Workholding("right", "soft_jaws", mm(3), Grip("stock", mm(0), mm(3), mm(42), against="step"), (deep,))
    assert "metal_gone" in broken(held, drawing=disc, stock=Stock(mm(0), mm(6), mm(42)))
