"""How each set-up is held: grips that are there, long enough, clear of the cuts, and no further out than they may."""

from decimal import Decimal

from nomisma.core.order.laid_out import StockSaid
from tests.core.planning.sketched import planned

LONG_SHAFT = "od 30 h7 x 200\nbore 10 H7 x 20 deep from the right"


def test_ends_of_long_work_are_made_held_short_before_it_goes_between_centres() -> None:
    order = planned("overall 182\nod 25 k6 from 0 to 28\nod 32 h9 from 28 to 150\nod 25 k6 from 150 to 182")
    ways = [
        (one.set_up.workholding.way, one.set_up.workholding.stands_out_mm)
        for one in order.set_ups
        if one.set_up.workholding
    ]
    assert ways == [("three_jaw", Decimal("3.8")), ("three_jaw", Decimal("3.8")), ("centres", Decimal(182))]
    for one in order.set_ups[:2]:
        assert [each.operation.kind for each in one.operations][:2] == ["face", "centre"]


def test_a_hole_in_the_end_of_long_work_waits_until_no_centre_is_wanted() -> None:
    order = planned(LONG_SHAFT)
    drilled = next(one.number for one in order.operations if one.operation.kind == "drill")
    turned = next(one.number for one in order.operations if one.operation.kind == "turn")
    assert turned < drilled


def test_what_does_not_go_through_the_spindle_runs_in_a_steady() -> None:
    short = planned(LONG_SHAFT)
    thick = planned("od 60 h7 x 400\nbore 20 H7 x 30 deep from the right", StockSaid(spindle_mm=Decimal(40)))
    assert all(
        not one.set_up.workholding.supports
        for one in short.set_ups
        if one.set_up.workholding and one.set_up.worked != "centres"
    )
    last = thick.set_ups[-1].set_up.workholding
    assert last
    assert last.way == "steady"
    assert [one.kind for one in last.supports] == ["steady"]


def test_a_tube_that_stays_as_it_is_runs_in_a_steady_and_is_bored_at_both_ends() -> None:
    stock = StockSaid("tube", across_mm=Decimal(60), bore_mm=Decimal(50))
    order = planned("overall 640 ±0.5\nod 60 as it is\nbore 52 H8 x 30 deep at both ends\ncham 0.5", stock)
    assert [one.set_up.workholding.way for one in order.set_ups if one.set_up.workholding] == ["steady", "steady"]
    assert not [one for one in order.operations if "turn" in one.operation.kind]
    assert not [cut for one in order.operations for cut in one.cuts if cut.kind in ("centre_hole", "part_off")]


def test_a_ring_is_held_in_soft_jaws_on_their_step_or_by_its_bore() -> None:
    thin = planned("od 80 ±0.1 x 24\nbore 62 K7 x 18 deep\nbore 50 ±0.2 thru")
    second = thin.set_ups[1].set_up.workholding
    assert second
    assert second.grip
    assert (second.way, second.grip.against, second.grip.protected) == ("soft_jaws", "step", True)
    flange = planned(
        "od 140 ±0.3 x 18\nregister 90 h7 x 4 high\nbore 45 H7 thru, true to C within 0.02",
        StockSaid("blank", across_mm=Decimal(150), long_mm=Decimal(24)),
    )
    by_bore = flange.set_ups[1].set_up.workholding
    assert by_bore
    assert by_bore.grip
    assert (by_bore.way, by_bore.grip.inside, by_bore.grip.surface) == ("expanding_mandrel", True, "E")


def test_square_stock_is_held_in_four_jaws_and_hexagons_in_three() -> None:
    ways = {
        section: planned("od 20 x 30", StockSaid(section=section)).set_ups[0].set_up.workholding
        for section in ("square", "hexagon")
    }
    assert {section: held.way for section, held in ways.items() if held} == {
        "square": "four_jaw",
        "hexagon": "three_jaw",
    }


def test_jaws_keep_off_threads_where_they_can() -> None:
    order = planned("od 24 ±0.1 x 18\nM20x1.5 6g x 30 ±0.2\nlength 48 ±0.2", StockSaid("blank"))
    assert order.set_ups[1].set_up.held_on == "A"


def test_a_tube_that_is_turned_all_along_runs_on_plugs_and_no_centre_is_drilled_in_it() -> None:
    stock = StockSaid("tube", across_mm=Decimal(34), bore_mm=Decimal(25))
    order = planned("od 33 ±0.1 x 440 ±0.1\nbore 27 +0.1/0 x 45 ±0.5 deep from the right", stock)
    third = order.set_ups[2].set_up.workholding
    assert third
    assert [(one.kind, one.end) for one in third.supports] == [("plug", "left"), ("plug", "right"), ("follow_rest", "")]
    assert not [cut for one in order.operations for cut in one.cuts if cut.kind == "centre_hole"]
    bored = next(one.number for one in order.operations if one.operation.kind == "bore")
    assert bored > next(one.number for one in order.operations if one.operation.kind == "turn")
