"""What a plan comes to at the lathe: how far stock stands out, its workpiece, which drills, how true a set-up
must run.
"""

from decimal import Decimal
from typing import Any
from uuid import uuid4

from sqlalchemy.orm import Session

from nomisma.core.planning.order import PlannedOperation
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


def test_a_bar_stands_out_by_the_part_its_facing_and_the_parting_tool(db: Session) -> None:
    first, second = stands_out(work(db, CARRIER, across="93.2", parting="3"))
    assert first == Decimal("43.8")  # 40 + 0.8 + 3
    assert second == 12  # all but the 28 that are held


def test_a_blank_stands_out_by_all_but_what_is_gripped(db: Session) -> None:
    assert stands_out(work(db, CARRIER, held="blank", across="93.2", grip="10"))[0] == Decimal(
        "31.6"
    )  # 40 + 2 × 0.8 − 10


def test_bores_are_counted_from_the_last_drill_and_a_cut_off_from_the_bore_that_comes_out_there(db: Session) -> None:
    found = work(db, CARRIER, across="93.2", parting="3")
    drills = [one.name for one in found.drills_of(step(found, "Drill"))]
    assert drills == ["7.2 mm", "17.4 mm", "29 mm"]  # 30 less 1/32 in, its quarter and six tenths
    assert found.workpiece_before(step(found, "Rough bore")).drilled_mm == 29
    assert found.workpiece_before(step(found, "Part off")).hole_in_face_mm == 30
    assert found.workpiece_before(step(found, "Face")).hole_in_face_mm == 0


def test_the_second_face_is_not_cut_across_the_hole_that_is_there(db: Session) -> None:
    found = work(db, CARRIER, across="93.2", parting="3")
    assert found.plan.order is not None
    last_face = [one for one in found.plan.order.operations if one.operation.kind == "face"][-1]
    assert found.workpiece_before(last_face).hole_in_face_mm == 30


def test_a_casting_has_the_parts_own_shape_and_its_skin(db: Session) -> None:
    found = work(db, WHEEL, held="blank", surface="cast", across="182")
    assert found.workpiece_before(step(found, "Face")).faced_mm == 47  # the boss of 44 and 1.5 all round
    assert (
        found.workpiece_before(step(found, "Rough turn A")).diameter_before_mm(step(found, "Rough turn A").operation)
        == 179
    )


def test_a_tube_is_not_drilled(db: Session) -> None:
    found = work(
        db, "od 33 ±0.1 x 60 ±0.1\nbore 27 +0.1/0 x 45 ±0.5 deep from the right", shape="tube", across="34", bore="25"
    )
    assert found.plan.order is not None
    assert all(found.drills_of(one) == () for one in found.plan.order.operations)
    assert found.workpiece_before(step(found, "Rough bore")).drilled_mm == 25
