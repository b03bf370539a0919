"""A worksheet's answer kept with a job: worked out anew, shown in the record, in its JSON and its package."""

import io
import json
import zipfile

import pytest

from nomisma.web.worksheets.catalog import TOOLS
from nomisma.web.worksheets.tool import Tool
from tests.web.conftest import Hand
from tests.web.parts import number_of, record, start

CLEAN_UP = {
    "keep_tool": "clean_up",
    "keep_unit": "mm",
    "kind": "shaft",
    "stock": "10.6 mm",
    "wanted": "10 mm",
    "runout": "0.1 mm",
}


def test_an_answer_is_kept_with_the_feature_it_was_opened_from(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\n10 h8"))
    page = orla.get(f"/clean-up?job={number}&feature=B&stock=10.6+mm&wanted=10+mm&runout=0.1+mm").text
    assert f"Copy this answer into the record of job {number}, B" in page
    kept = orla.send(
        "/worksheets/keep", **{**CLEAN_UP, "keep_number": str(number), "keep_letter": "B", "keep_note": "rack, 10.6"}
    )
    assert kept.status_code == 200
    (answer,) = record(orla, number)["answers"]
    assert (answer["feature"], answer["calculation"], answer["note"], answer["asked"]["stock"]) == (
        "B",
        "clean_up",
        "rack, 10.6",
        "10.6 mm",
    )
    assert answer["answer"]["clean_diameter"] == "10.5 mm"
    shown = orla.get(f"/jobs/{number}/record").text
    assert "rack, 10.6" in shown
    assert "Open it with these numbers" in shown


def test_any_worksheet_finds_its_job_by_number_and_its_own_tool_field_is_no_other(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    fields = {
        "keep_tool": "speeds",
        "keep_unit": "mm",
        "diameter": "28 mm",
        "material": "mild_steel",
        "tool": "carbide",
    }
    assert orla.send("/worksheets/keep", **{**fields, "keep_number": str(number)}).status_code == 200
    (answer,) = record(orla, number)["answers"]
    assert (answer["calculation"], answer["asked"]["tool"]) == ("speeds", "carbide")


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"keep_number": "99999"}, "There is no job 99999"),
        ({"keep_number": "one hundred"}, "is not a whole number"),
        ({"keep_number": ""}, "Nothing was entered"),
        ({"keep_tool": "horoscope"}, "no worksheet"),
        ({"stock": "round"}, "not understood as a size"),
        ({"keep_letter": "Q"}, "has no feature Q"),
    ],
)
def test_what_cannot_be_kept_is_said_and_nothing_is_kept(orla: Hand, wrong: dict[str, str], says: str) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    refused = orla.send("/worksheets/keep", **{**CLEAN_UP, "keep_number": str(number), **wrong})
    assert refused.status_code in (404, 422)
    assert says in refused.text
    assert record(orla, number)["answers"] == []


@pytest.mark.parametrize("tool", TOOLS.values(), ids=list(TOOLS))
def test_every_worksheet_can_be_kept_and_stands_in_the_record(orla: Hand, tool: Tool) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    asked = {name: text for name, text in tool.examples.items() if text}
    sent = {
        "keep_tool": tool.calculation,
        "keep_unit": "in",
        "keep_number": str(number),
        "keep_note": "from the example",
    }
    kept = orla.send("/worksheets/keep", **{**asked, **sent})
    assert kept.status_code == 200, kept.text
    assert f"{tool.title}: from the example" in kept.text
    assert record(orla, number)["answers"][0]["answer"]["working"]


def test_an_example_is_not_offered_to_be_kept(orla: Hand) -> None:
    assert "/worksheets/keep" not in orla.get("/clean-up").text
    assert "/worksheets/keep" in orla.get("/clean-up?stock=10.6+mm&wanted=10+mm").text


def test_the_data_package_has_the_answers(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    orla.send("/worksheets/keep", **{**CLEAN_UP, "keep_number": str(number)})
    with zipfile.ZipFile(io.BytesIO(orla.get(f"/jobs/{number}/record.zip").content)) as box:
        rows = box.read("answers.csv").decode().splitlines()
        names = [one["name"] for one in json.loads(box.read("datapackage.json"))["resources"]]
    assert len(rows) == 2
    assert '""clean_diameter"": ""10.5 mm""' in rows[1]
    assert {"answers", "trials"} <= set(names)
