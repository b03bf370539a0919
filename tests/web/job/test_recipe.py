"""A job begun from a former one: its lines, its plan, what was worked out; and what no longer holds is asked about."""

import re
from html import unescape

import pytest

from tests.web.conftest import Hand
from tests.web.parts import number_of, record, start

LINES = "od 24 h9 x 30 ±0.1\nod 40 ±0.1 x 10 ±0.1\nbore 12 H7 thru, carries the load\nlength 40 ±0.1"


def begun(hand: Hand, lines: str = LINES) -> int:
    """A job with a stock, and a sum of its bore kept."""
    number = number_of(start(hand, lines))
    hand.get(f"/jobs/{number}/plan")
    hand.send(
        f"/jobs/{number}/plan/stock",
        held="bar",
        shape="round",
        surface="bright",
        across="45",
        length="300",
        parting="3",
        grip="20",
        bore="",
        stock_material="brass",
    )
    hand.send(
        "/worksheets/keep",
        keep_tool="keyseat",
        keep_unit="mm",
        keep_number=str(number),
        keep_letter="E",
        keep_note="the key of the drive",
        shaft="12",
        width="4",
        height="4",
        in_shaft="",
        clearance="",
    )
    return number


def filled_in(hand: Hand, number: int) -> str:
    page = hand.get(f"/?like={number}").text
    found = re.search(r'<textarea[^>]*name="lines"[^>]*>(.*?)</textarea>', page, re.DOTALL)
    assert found
    return unescape(found[1]).strip()


def test_the_form_is_filled_in_with_the_lines_of_the_former_job(orla: Hand) -> None:
    assert (
        filled_in(orla, begun(orla))
        == "od 24 h9 x 30 ±0.1\nod 40 ±0.1 x 10 ±0.1\nbore 12 H7 thru, carries the load\nlength 40 ±0.1"
    )


def test_begun_alike_it_has_the_plan_and_what_was_worked_out(orla: Hand) -> None:
    former = begun(orla)
    number = number_of(start(orla, filled_in(orla, former), like=str(former)))
    assert f"/jobs/{number}/plan" in orla.page
    assert "64.600 mm" in orla.page
    assert [one["note"] for one in record(orla, number)["answers"]] == [f"the key of the drive (from job {former})"]


def test_of_another_size_what_no_longer_holds_is_an_open_question(orla: Hand) -> None:
    former = begun(orla)
    lines = filled_in(orla, former).replace("bore 12 H7", "bore 14 H7")
    number = number_of(start(orla, lines, like=str(former)))
    asked = f"Job {former} kept “Depth of a keyseat” (the key of the drive); E is another size here: what is it now?"
    assert asked in unescape(orla.page)
    assert record(orla, number)["answers"] == []


def test_a_refused_start_keeps_the_former_job(orla: Hand) -> None:
    former = begun(orla)
    orla.get(f"/?like={former}")
    refused = start(orla, "od 24 h9\nhello", like=str(former))
    assert refused.status_code == 422
    assert f'name="like" value="{former}"' in refused.text


def test_a_job_that_is_not_there_cannot_be_begun_from(orla: Hand) -> None:
    assert orla.get("/?like=99999").status_code == 404


@pytest.mark.parametrize("number", [101, 104, 105, 111, 112, 114, 115, 117, 118, 119, 121])
def test_every_job_of_the_demo_can_be_begun_again(orla: Hand, number: int) -> None:
    unit = record(orla, number)["unit"]
    again = number_of(start(orla, filled_in(orla, number), unit=unit, like=str(number)))
    assert orla.get(f"/jobs/{again}/plan").status_code == 200


def test_a_feature_with_no_size_yet_is_no_line(orla: Hand) -> None:
    assert filled_in(orla, 103) == ""


def test_a_long_note_of_what_no_longer_holds_is_asked_about_shortened(orla: Hand) -> None:
    former = begun(orla)
    orla.send(
        "/worksheets/keep",
        keep_tool="keyseat",
        keep_unit="mm",
        keep_number=str(former),
        keep_letter="E",
        keep_note="long " * 60,
        shaft="12",
        width="4",
        height="4",
        in_shaft="",
        clearance="",
    )
    lines = filled_in(orla, former).replace("bore 12 H7", "bore 14 H7")
    sent = start(orla, lines, like=str(former))
    assert sent.status_code == 200
    assert "long long" in sent.text
