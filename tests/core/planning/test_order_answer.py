"""The answer anyone can run again: its places, its stock, its refusals; a second executor over many made-up parts."""

import json
from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.planning.order_answer import OrderResult, order_of_work_of_lines
from nomisma.core.registry import calculation_named
from tests.core.planning.executor import Workshop, mm
from tests.core.planning.generated import part_long_mm, stock_input
from tests.core.planning.sketched import FLANGED

MADE_UP = 250


def answer(lines: str = FLANGED, **given: Any) -> dict[str, Any]:
    found = calculation_named("order_of_work").run({"lines": lines, **given})
    assert isinstance(found, OrderResult)
    said: dict[str, Any] = json.loads(found.model_dump_json())
    return said


def test_places_are_counted_from_the_left_face_and_the_first_chucking_leaves_room_for_the_blade() -> None:
    """By hand: 40 long, 0.8 to face, a blade of 3 and 3 clear of the jaws: 0.8 + 40 + 0.8 + 3 + 3 stand out."""
    said = answer(across="42 mm")
    first = said["set_ups"][0]
    assert (said["stock"]["from"], said["stock"]["to"], said["stock"]["across"]) == ("-0.8 mm", "67.8 mm", "42 mm")
    assert (first["worked"], first["way"], first["stands_out"]) == ("left", "three_jaw", "47.6 mm")
    assert first["grip"] | {"protected": False} == {
        "surface": "stock",
        "inside": False,
        "from": "46.8 mm",
        "to": "67.8 mm",
        "diameter": "42 mm",
        "protected": False,
        "against": None,
    }
    part = first["operations"][-1]
    assert (part["kind"], part["from"], part["to"], part["tool"]["width"]) == (
        "part_off",
        "40.8 mm",
        "43.8 mm",
        "3 mm",
    )
    assert mm(part["tool"]["reach"]) >= (mm(part["before"]) - mm(part["after"])) / 2


def test_lengths_are_made_by_what_finishes_them_and_deburring_makes_none() -> None:
    cuts = [cut for one in answer()["set_ups"] for cut in one["operations"]]
    assert all(cut["letters"] == [] for cut in cuts if cut["kind"] == "deburr")
    assert all("B" not in cut["letters"] for cut in cuts if cut["kind"] == "rough_turn")
    assert [cut["kind"] for cut in cuts if "B" in cut["letters"]] == ["turn"]
    assert [cut["kind"] for cut in cuts if "F" in cut["letters"]] == ["face"]
    assert [(cut["kind"], cut["to"]) for cut in cuts if "D" in cut["letters"]] == [("face", "40 mm")]  # the flange's


def test_before_a_narrow_limit_roughing_leaves_no_more_than_three_millimetres() -> None:
    for cut in (cut for one in answer()["set_ups"] for cut in one["operations"] if cut["kind"] == "turn"):
        assert 0 < mm(cut["before"]) - mm(cut["after"]) <= 3


def test_by_its_lines_it_answers_with_a_table() -> None:
    found = calculation_named("order_of_work").run({"lines": FLANGED})
    assert isinstance(found, OrderResult)
    assert (found.headline, found.proved) == ("2 set-ups", True)
    assert found.table
    assert len(found.table.rows) == max(cut.number for one in found.set_ups for cut in one.operations)


@pytest.mark.parametrize(
    ("lines", "sentence"), [("od 24 x 30\nhello", "Line 2, “hello”"), ("bore 12 H7 thru", "No outside has a size")]
)
def test_lines_that_make_no_plan_are_refused(lines: str, sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        calculation_named("order_of_work").run({"lines": lines, "unit": "mm"})


@pytest.mark.parametrize(
    ("given", "sentence"),
    [
        ({"stock": "tube", "across": "42 mm"}, "bore of the tube is needed"),
        ({"stock": "tube", "across": "42 mm", "bore": "42 mm"}, "The tube has no wall"),
    ],
)
def test_a_tube_without_its_wall_is_refused(given: dict[str, str], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        calculation_named("order_of_work").run({"lines": FLANGED, **given})


@pytest.mark.parametrize(
    ("given", "rule"),
    [({"across": "39 mm"}, "stock_small"), ({"stock": "blank", "long": "38 mm"}, "stock_small")],
)
def test_stock_that_is_too_small_is_a_complaint_and_no_plan(given: dict[str, str], rule: str) -> None:
    said = answer(**given)
    assert said["set_ups"] == []
    assert [one["rule"] for one in said["complaints"]] == [rule]
    assert said["headline"] == "No plan of it can be cut"


@pytest.mark.parametrize("tens", range(MADE_UP // 10))
def test_what_is_offered_can_be_cut_by_a_second_executor(tens: int) -> None:
    """Slices of a tenth of a millimetre, cut by what the answer says alone (executor.py)."""
    wrong = {number: said for number in range(10 * tens, 10 * tens + 10) if (said := wrong_with(number))}
    assert wrong == {}


def wrong_with(number: int) -> list[str]:
    given = stock_input(number)
    found = json.loads(order_of_work_of_lines(given).model_dump_json())
    if bool(found["set_ups"]) == bool(found["complaints"]):
        return ["a plan with complaints, or none without"]
    if not found["set_ups"]:
        return []
    return Workshop(found, part_long_mm(number)).run()
