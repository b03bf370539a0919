"""Thin work in a chuck: a centre comes up once its hole is drilled, and goes before the end is worked again."""

from dataclasses import replace
from decimal import Decimal

import pytest

from nomisma.core.metal.cut import Support
from nomisma.core.metal.run import run
from nomisma.core.order.order import order_of_work
from nomisma.core.order.order_notes import notes_of
from tests.core.planning.sketched import features, planned

STUB = "od 50 x 20\nod 12 h7 x 80"
KINDS = ("rough_turn", "centre")
STANDING = (Support("centre", "right"),)


def test_a_centre_holds_a_thin_stub_while_it_is_turned_and_is_gone_when_it_is_parted_off() -> None:
    order = planned(STUB)
    free, at_the_centre = (
        [one.operation.kind for one in order.set_ups[0].operations if bool(one.supports) is stands]
        for stands in (False, True)
    )
    assert free == ["face", "centre", "part_off"]
    assert at_the_centre == ["rough_turn", "turn", "turn", "deburr"]
    cuts = [cut for one in order.set_ups[0].operations for cut in one.cuts]
    assert [cut.supports for cut in cuts if cut.supports is not None] == [STANDING, ()]


@pytest.mark.parametrize("end", ["right", "left"])
def test_the_centre_stands_in_the_end_that_is_worked(end: str) -> None:
    lines = STUB if end == "right" else "\n".join(reversed(STUB.splitlines()))
    assert {each.end for one in planned(lines).operations for each in one.supports} == {end}


@pytest.mark.parametrize(
    ("lines", "why"),
    [
        ("od 50 x 20\nod 12 h7 x 30", "short for its thickness"),
        ("od 50 x 20\nod 12 h7 x 80\nbore 6 H7 x 10 deep from the right", "a hole is to come in that end"),
        ("od 30 x 20\nod 5 h7 x 30", "too thin for a centre"),
    ],
)
def test_no_centre_comes_up_where_it_has_no_place(lines: str, why: str) -> None:
    assert not any(one.supports for one in planned(lines).operations), why


def test_a_centre_that_comes_up_before_its_hole_breaks_where_it_does() -> None:
    order = planned(STUB)
    turned, centred = (next(one.key for one in order.operations if one.operation.kind == kind) for kind in KINDS)
    keys = [one.key for one in order.operations if one.key != turned]
    keys.insert(keys.index(centred), turned)
    moved = order_of_work(features(STUB), kept=keys)
    assert moved is not None
    assert [one.operation.kind for one in moved.operations if one.breaks] == ["rough_turn"]


def test_the_hole_of_a_centre_is_in_proportion_to_the_end_it_is_in() -> None:
    hole = next(cut for one in planned(STUB).operations for cut in one.cuts if cut.kind == "centre_hole")
    assert hole.after_mm is not None
    assert hole.after_mm <= Decimal(12) / 3


def test_a_centre_with_no_hole_is_refused_when_it_comes_up() -> None:
    order = planned(STUB)
    held = order.set_ups[0].set_up.workholding
    before = order.set_ups[0].set_up.before
    assert held is not None
    assert before is not None
    assert order.drawing is not None
    without = [cut for cut in held.cuts if cut.kind != "centre_hole"]
    broken = run(before, [replace(held, cuts=tuple(without))], order.drawing).complaints
    assert broken[0].rule == "no_centre_hole"


def test_a_disc_too_thin_for_its_second_face_is_parted_at_its_length_and_that_is_said() -> None:
    order = planned("od 30 ±0.1 x 3\nbore 16.2 ±0.1 thru\ncham 0.5 x 45 both ends")
    assert len(order.set_ups) == 1
    parted = order.operations[-1].cuts[-1]
    assert (parted.kind, parted.to_mm) == ("part_off", Decimal(0))
    assert any("stays as the blade leaves it" in one for one in notes_of(order))
    assert not any("blade leaves it" in one for one in notes_of(planned("od 30 ±0.1 x 12")))
