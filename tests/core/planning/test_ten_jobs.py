"""Ten jobs of a shop as whole plans that are run: each set-up, hole and support as its machinist would have it."""

import json
from typing import Any

import pytest

from nomisma.core.planning.order_answer import OrderInput, order_of_work_of_lines
from tests.core.planning.executor import Workshop

JOBS: dict[str, tuple[str, float, dict[str, Any]]] = {
    "spindle nut": (
        "od 1.500 ±.005 x .625\nM24x2 thru\nc'bore 1.062 x .093 deep from the right\ncham .030 x 45 both ends\n"
        "knurl medium on A", 15.875, {"unit": "in", "across": "1.5 in"},
    ),
    "gearbox shaft": (
        "overall 182 ±0.2\nod 25 k6 from 0 to 28\nod 32 h9 from 28 to 120\nod 30 g6 from 120 to 150, true to B within"
        " 0.01\nod 25 k6 from 150 to 182, true to B within 0.01\nundercut F 0.6 x 0.3 at 28\nundercut F 0.6 x 0.3 at"
        " 150\nkeyway 8 x 4 x 32 in C\ngroove 1.3 H13 to 23.9 at 176\ncham 1 x 45 both ends",
        182, {"across": "35 mm", "skin": "0.5 mm"},
    ),
    "bearing housing": (
        "od 80 ±0.1 x 24\nbore 62 K7 x 18 deep, sets the position\nbore 50 ±0.2 thru\nfillet 0.4 max in C\n"
        "parallel 0.01 between the faces", 24, {"across": "85 mm"},
    ),
    "spacer": ("od 1.0 as it is x 1.0000 ±.0002\nbore .5005/.5010 thru", 25.4, {"unit": "in", "across": "1 in"}),
    "pulley": (
        "hub 2.000 x .500 high on the left\nod 5.000 ±.010 x 1.250\nbore .8750/.8756 thru, carries the load\n"
        "v 38° .34 deep pitch .625 x 2", 44.45, {"unit": "in", "stock": "cast", "skin": ".125 in"},
    ),
    "conveyor tube": (
        "overall 640 ±0.5\nod 60 as it is\nbore 52 H8 x 30 deep at both ends\ncham 0.5",
        640, {"stock": "tube", "across": "60 mm", "bore": "50 mm"},
    ),
    "worn shaft": (
        "od 1.375 as it is x 2\nod 1.000 ±.002 x 1.5\nod 1.375 as it is x 2",
        139.7, {"unit": "in", "stock": "blank", "across": "1.375 in", "long": "5.5 in"},
    ),
    "taper plug": ("Morse 3 outside\nod 20 x 12\noverall 92.96", 92.9625, {}),
    "eccentric": (
        "od 2.000 ±.002 x .750\neccentric od 1.250 ±.001 x .500 high, throw .187\n"
        "bore .501/.502 thru the eccentric",
        31.75, {"unit": "in"},
    ),
    "flange": (
        "od 140 ±0.3 x 18\nregister 90 h7 x 4 high\nbore 45 H7 thru, true to C within 0.02\n6 holes 9 on 115\n"
        "face recess 50 x 1 deep on the back",
        22, {"stock": "blank", "across": "150 mm", "long": "24 mm", "skin": "1.5 mm"},
    ),
}  # fmt: skip


def plan(name: str) -> dict[str, Any]:
    lines, _, given = JOBS[name]
    said: dict[str, Any] = json.loads(order_of_work_of_lines(OrderInput(lines=lines, **given)).model_dump_json())
    assert said["set_ups"], said["complaints"]
    return said


def cuts(said: dict[str, Any], *kinds: str) -> list[dict[str, Any]]:
    return [cut for one in said["set_ups"] for cut in one["operations"] if cut["kind"] in kinds]


@pytest.mark.parametrize("name", JOBS)
def test_each_is_cut_by_the_second_executor(name: str) -> None:
    assert Workshop(plan(name), JOBS[name][1]).run() == []


def test_the_nut_needs_no_centre_and_is_threaded_last_and_parted_with_room_for_the_blade() -> None:
    said = plan("spindle nut")
    assert cuts(said, "centre_hole") == []
    first = said["set_ups"][0]
    kinds = [cut["kind"] for cut in first["operations"]]
    assert kinds.index("knurl") < kinds.index("bore") < kinds.index("thread") < kinds.index("part_off")
    assert [cut["after"] for cut in cuts(said, "thread")]
    assert (said["set_ups"][1]["way"], said["set_ups"][1]["grip"]["protected"]) == ("soft_jaws", True)
    assert len(said["set_ups"]) == 2


def test_the_shaft_is_centred_held_short_and_both_its_seats_are_finished_between_centres() -> None:
    said = plan("gearbox shaft")
    assert [one["way"] for one in said["set_ups"]] == ["three_jaw", "three_jaw", "centres"]
    last = [(cut["kind"], tuple(cut["letters"])) for cut in said["set_ups"][2]["operations"]]
    assert {("turn", ("B",)), ("turn", ("F",))} <= set(last)
    assert last.index(("undercut", ("H",))) < last.index(("turn", ("B",)))
    assert last.index(("turn", ("F",))) < last.index(("groove", ("M", "N", "O")))
    assert [one["reason"] for one in said["left_out"]] == ["it is not turned; it is drilled or milled elsewhere"]


def test_the_housing_is_bored_in_one_chucking_and_its_second_face_stands_on_a_step() -> None:
    said = plan("bearing housing")
    where = [one["number"] for one in said["set_ups"] for cut in one["operations"] if cut["kind"] in ("bore", "turn")]
    assert set(where) == {1}
    second = said["set_ups"][1]
    assert (second["way"], second["grip"]["against"]) == ("soft_jaws", "step")
    nose = [cut["tool"]["nose"] for cut in cuts(said, "bore") if "C" in cut["letters"]]
    assert nose == ["0.4 mm"]


def test_the_spacers_half_thou_bore_is_drilled_under_and_bored_and_its_outside_stays() -> None:
    """A reamer of .500 would give .5000 (common practice)."""
    said = plan("spacer")
    assert [cut["kind"] for cut in cuts(said, "drill", "ream", "bore")][-1] == "bore"
    assert cuts(said, "ream", "turn", "rough_turn") == []
    assert cuts(said, "bore")[0]["after"] == "0.50075 in"


def test_the_pulleys_rim_and_grooves_run_with_its_bore() -> None:
    said = plan("pulley")
    rim = next(one for one in said["set_ups"] if any(cut["kind"] == "v_groove" for cut in one["operations"]))
    bored = next(one for one in said["set_ups"] if any(cut["kind"] == "bore" for cut in one["operations"]))
    assert rim is bored or rim["grip"]["surface"] == "E"
    assert len(cuts(said, "v_groove")) == 2


def test_the_tube_runs_in_a_steady_at_each_end_and_no_centre_goes_into_what_is_bored() -> None:
    said = plan("conveyor tube")
    assert [[each["kind"] for each in one["supports"]] for one in said["set_ups"]] == [["steady"], ["steady"]]
    assert cuts(said, "centre_hole", "part_off", "turn") == []


def test_the_worn_shafts_own_diameters_are_not_cut() -> None:
    said = plan("worn shaft")
    assert {letter for cut in cuts(said, "turn", "rough_turn", "groove") for letter in cut["letters"]} <= {"C", "D"}


def test_the_taper_is_turned_after_its_large_end_and_comes_to_its_small_one() -> None:
    """Morse 3: .938 and .778 in at its ends over 3.1875 (ANSI/ASME B5.10, recalled)."""
    (taper,) = cuts(plan("taper plug"), "taper")
    assert (taper["before"], taper["after"]) == ("23.8252 mm", "19.7612 mm")


def test_the_eccentric_and_its_bore_are_cut_off_centre_in_one_chucking_after_what_runs_true() -> None:
    said = plan("eccentric")
    true, off, back = said["set_ups"]
    assert (true["throw"], off["throw"], back["throw"]) == (None, "0.187 in", None)
    assert (off["way"], off["trued_on"]) == ("four_jaw", "A")
    assert [cut["kind"] for cut in true["operations"]] == ["face", "turn", "deburr"]
    kinds = {tuple(cut["letters"]): cut["kind"] for cut in off["operations"]}
    assert (kinds["C", "D", "E"], kinds["F",]) == ("turn", "bore")
    assert off["operations"][-1]["kind"] == "saw", "a blade would meet it once a turn"
    assert (back["grip"]["surface"], back["operations"][0]["kind"]) == ("A", "face")
    assert said["left_out"] == []


def test_the_flanges_register_bore_and_front_face_are_cut_together_and_the_back_on_the_bore() -> None:
    said = plan("flange")
    first = [cut["kind"] for cut in said["set_ups"][0]["operations"]]
    assert {"face", "bore", "turn"} <= set(first)
    assert said["set_ups"][0]["way"] == "soft_jaws"
    assert said["set_ups"][1]["grip"]["surface"] == "E"
    assert any("elsewhere" in one["reason"] for one in said["left_out"])
