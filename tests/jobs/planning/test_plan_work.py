"""What a plan comes to at the lathe: how far stock stands out, its workpiece, which drills, how true a set-up
must run.
"""

from decimal import Decimal
from typing import Any
from uuid import uuid4

from sqlalchemy.orm import Session

from nomisma.core.order.order import PlannedOperation
from nomisma.jobs.planning.plan_entries import StockChosen
from nomisma.jobs.planning.plan_log import choose_stock
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.planning.plan_work import PlannedWork
from tests.jobs.shop_floor import now, opened, person

CARRIER = (
    "od 90 ±0.1 x 12 ±0.1\nod 62 h6 x 28 ±0.1\nbore 47 K7 x 15 ±0.1 deep from the right\nbore 30 ±0.1 thru\nlength 40"
    " ±0.1"
)
WHEEL = "od 176 ±0.2 x 21 ±0.2 true to E\nod 44 ±0.2 x 16 ±0.2\nbore 19 H7 thru\nlength 37 ±0.2"


def work(db: Session, lines: str, **stock: Any) -> PlannedWork:
    plan = plan_of(db, opened(db, lines))
    choose_stock(db, plan, StockChosen(unit="mm", **stock), by=person(db, "orla"), sent_id=uuid4())
    return PlannedWork(plan_of(db, now(db, plan.state)))


def step(found: PlannedWork, title: str) -> PlannedOperation:
    assert found.plan.order is not None
    return next(one for one in found.plan.order.operations if one.operation.title.startswith(title))


def stands_out(found: PlannedWork) -> list[Decimal]:
    assert found.plan.order is not None
    return [found.stands_out_mm(one) for one in found.plan.order.set_ups]


def test_a_bar_stands_out_by_the_part_its_facing_the_blade_and_its_room(db: Session) -> None:
    first, second = stands_out(work(db, CARRIER, across="93.2", parting="3"))
    assert first == Decimal("47.6")  # 40 + 0.8 at either face + the blade of 3 + 3 clear
    assert second == Decimal("12.8")  # all but the 28 that are held, facing still on


def test_a_blank_that_is_only_faced_and_bored_stands_out_by_its_room_before_the_jaws(db: Session) -> None:
    first = stands_out(work(db, CARRIER, held="blank", across="93.2"))[0]
    assert first == Decimal("3.8")  # 0.8 to face and 3 clear


def test_a_large_hole_is_drilled_by_steps_and_bored_on(db: Session) -> None:
    found = work(db, CARRIER, across="93.2", parting="3")
    assert [one.name for one in found.drills_of(step(found, "Drill"))] == ["6 mm", "25 mm"]
    assert step(found, "Rough bore").cuts[0].before_mm == 25
    assert step(found, "Part off").cuts[0].after_mm == 30


def test_the_second_face_is_not_cut_across_the_hole_that_is_there(db: Session) -> None:
    found = work(db, CARRIER, across="93.2", parting="3")
    assert found.plan.order is not None
    last_face = [one for one in found.plan.order.operations if one.operation.kind == "face"][-1]
    assert last_face.cuts[0].after_mm == 30


def test_a_casting_has_the_parts_own_shape_and_its_skin(db: Session) -> None:
    """The wheel is 176, its casting 182: 3 all round."""
    found = work(db, WHEEL, held="blank", surface="cast", across="182")
    assert found.plan.order is not None
    assert found.plan.order.stock is not None
    shape = found.plan.order.stock.outside
    assert [(one.from_mm, one.at_from_mm) for one in shape.stretches] == [(-3, 182), (24, 50)]
    faced = [one.cuts[0].before_mm for one in found.plan.order.operations if one.operation.kind == "face"]
    assert set(faced) == {182, 50}


def test_a_tube_is_not_drilled(db: Session) -> None:
    found = work(
        db, "od 33 ±0.1 x 60 ±0.1\nbore 27 +0.1/0 x 45 ±0.5 deep from the right", shape="tube", across="34", bore="25"
    )
    assert found.plan.order is not None
    assert found.plan.order.set_ups
    assert all(found.drills_of(one) == () for one in found.plan.order.operations)
    assert step(found, "Finish bore").cuts[0].before_mm in (25, Decimal("26.3"))


def test_every_step_but_deburring_says_its_figures(db: Session) -> None:
    found = work(db, CARRIER, across="93.2", parting="3")
    assert found.plan.order is not None
    said = {one.operation.kind: found.figures(one) for one in found.plan.order.operations}
    assert said["face"] == ["0.800 mm off, down to the hole ⌀30.000 mm"]
    assert [kind for kind, words in said.items() if not words] == ["deburr"]
