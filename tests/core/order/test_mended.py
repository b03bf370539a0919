"""A part that is mended: nothing is cut but what has metal to come off, and it is held and run as what it is."""

import json
from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.order.laid_out import StockSaid
from nomisma.core.planning.order_answer import OrderInput, order_of_work_of_lines
from tests.core.planning.executor import Workshop
from tests.core.planning.generated import lines_long_mm, repair_input
from tests.core.planning.sketched import planned

SHAFT = "od 1.375 as it is x 4\nod 1.000 ±.0005 x 1.5, now 1.238\nod 1.375 as it is x 3"
MENDED = 40


def answer(lines: str, **given: Any) -> dict[str, Any]:
    said: dict[str, Any] = json.loads(
        order_of_work_of_lines(OrderInput(lines=lines, stock="repair", **given)).model_dump_json()
    )
    return said


def test_a_worn_land_is_turned_between_the_shafts_own_centres_and_nothing_else_is_cut() -> None:
    said = answer(SHAFT, unit="in", centred=True)
    assert [one["way"] for one in said["set_ups"]] == ["centres"]
    cuts = [cut for cut in said["set_ups"][0]["operations"] if cut["kind"] != "deburr"]
    assert {cut["kind"] for cut in cuts} == {"groove"}
    assert [(cut["from"], cut["to"]) for cut in cuts] == [("4 in", "5.5 in")] * 2
    assert (cuts[0]["before"], cuts[-1]["after"]) == ("1.238 in", "1 in")
    assert all(float(cut["tool"]["width"].split()[0]) < 0.25 for cut in cuts)
    assert cuts[0]["title"] == "Plunge and turn C, D"


def test_without_centres_it_runs_in_a_steady_beyond_the_cut_and_the_needle_on_what_is_held() -> None:
    only = answer(SHAFT, unit="in")["set_ups"][0]
    assert (only["way"], only["trued_on"], only["grip"]["protected"]) == ("steady", "A", True)
    rollers = only["supports"][0]
    assert rollers["surface"] == "E"
    assert float(rollers["from"].split()[0]) > 5.5


@pytest.mark.parametrize(
    ("lines", "trued_on"),
    [
        ("od 25 as it is x 60\nod 20 k6 now 20.4 x 18", "A"),
        ("od 40 as it is x 30\nbore 20 as it is thru\nod 30 h7 now 31 x 20, true to C", "C"),
    ],
)
def test_a_short_one_is_held_in_the_four_jaw_by_the_needle(lines: str, trued_on: str) -> None:
    only = answer(lines)["set_ups"]
    assert [(one["way"], one["trued_on"]) for one in only] == [("four_jaw", trued_on)]
    assert only[0]["operations"][0]["kind"] == "turn"


def test_a_bore_that_is_there_is_opened_without_a_drill() -> None:
    kinds = [cut["kind"] for cut in answer("od 40 as it is x 60\nbore 20 H7 now 19 thru")["set_ups"][0]["operations"]]
    assert kinds == ["rough_bore", "bore", "deburr"]


@pytest.mark.parametrize(
    "lines", ["od 30 as it is x 40\nod 20 ±0.01 now 19.8 x 15", "od 40 as it is x 30\nbore 20 H7 now 20.4 thru"]
)
def test_where_nothing_is_left_to_cut_there_is_no_plan(lines: str) -> None:
    said = answer(lines)
    assert said["set_ups"] == []
    assert [one["rule"] for one in said["complaints"]] == ["no_metal"]
    assert "leeve it" in said["complaints"][0]["remedy"]


def test_what_is_not_said_to_measure_anything_has_a_skin_to_come_off() -> None:
    order = planned("od 30 as it is x 40\nod 20 x 15", StockSaid("repair", skin_mm=Decimal(1)))
    assert order.stock is not None
    assert order.stock.outside.smallest_mm(Decimal(41), Decimal(54)) == Decimal(22)


def test_mended_parts_are_cut_by_a_second_executor_or_it_is_said_why_not() -> None:
    wrong = {}
    for number in range(MENDED):
        given = repair_input(number)
        found = json.loads(order_of_work_of_lines(given).model_dump_json())
        bad = Workshop(found, lines_long_mm(given.lines)).run() if found["set_ups"] else []
        if bad or bool(found["set_ups"]) == bool(found["complaints"]):
            wrong[number] = bad
    assert wrong == {}
