"""The main job, from the bench to the record, as forms and pages."""

import csv
import io
import re
from collections.abc import Callable
from typing import Any
from uuid import uuid4

import pytest

from tests.web.conftest import Hand


def start(hand: Hand, **fields: str) -> int:
    given = {
        "title": "Shutter pulley bush",
        "partner_kind": "shaft",
        "unit": "in",
        "asked": "runs on its pin",
        "machine_id": "",
    }
    response = hand.send("/jobs", **{**given, **fields})
    assert response.status_code == 200, response.text
    number = re.search(r"/jobs/(\d+)/mate", str(response.url))
    assert number
    return int(number[1])


def measure_partner(hand: Hand, number: int, *sizes: str) -> None:
    for size, place in zip(sizes, ("near end 0°", "near end 90°", "far end 0°", "far end 90°"), strict=False):
        response = hand.send(
            f"/jobs/{number}/mate/readings", size=size, place=place, instrument_id=hand.instrument("0–1 in micrometer")
        )
        assert response.status_code == 200, response.text


def choose(hand: Hand, number: int, option: str = "Make to suit", **fields: str) -> Any:
    hand.get(f"/jobs/{number}/mate?function=turns_freely")
    return hand.send(
        f"/jobs/{number}/limits", function="turns_freely", option=option, **{"based_on_version": "0", **fields}
    )


def log(hand: Hand, number: int, size: str, place: str = "mouth 0°", **fields: str) -> Any:
    hand.get(f"/jobs/{number}/measure")
    return hand.send(
        f"/jobs/{number}/measure/readings",
        size=size,
        place=place,
        **{"cut_since": "cut", "instrument_id": hand.instrument("Bore gauge"), **fields},
    )


@pytest.fixture
def job(orla: Hand) -> int:
    """A job whose partner is measured and whose limits are set: bore 0.6263 to 0.6270."""
    number = start(orla)
    measure_partner(orla, number, ".6249", ".6249", ".6248")
    assert choose(orla, number).status_code == 200
    return number


def test_a_job_goes_from_the_bench_to_the_record(orla: Hand, job: int) -> None:
    assert "metal to go" in log(orla, job, ".6101").text
    page = log(orla, job, ".6250").text
    assert "to take, on diameter, to the aim" in page
    for place in ("mouth 0°", "mouth 90°", "deep 0°"):
        log(orla, job, ".6266", place, cut_since="cut" if place == "mouth 0°" else "not")
    assert "in limits" in orla.get(f"/jobs/{job}/measure").text
    asked = orla.send(f"/jobs/{job}/events", kind="handed_over", note="")
    assert asked.status_code == 422
    assert "Not all places of the plan were read: middle 0°" in asked.text
    assert orla.send(f"/jobs/{job}/events", kind="handed_over", note="spins by hand").status_code == 200
    record = orla.get(f"/jobs/{job}/record").text
    for seen in (
        "Shutter pulley bush",
        "spins by hand",
        "Orla Quillfeather",
        "Make to suit",
        ".6101 in",
        "How these limits were made",
    ):
        assert seen in record
    assert "Handed over." in orla.get("/").text


def test_the_verdict_comes_in_lines_of_the_jobs_machine(orla: Hand) -> None:
    machine = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Long lathe', orla.page)
    assert machine
    number = start(orla, machine_id=machine[1])
    measure_partner(orla, number, ".6249")
    choose(orla, number)
    page = log(orla, number, ".6201").text
    aim = re.search(r'aim <span class="num"><span class="u-in">([0-9.]+) in', page)
    assert aim
    assert f"{(float(aim[1]) - 0.6201) * 1000:.1f} lines" in page


def test_the_answer_stands_side_by_side_with_its_working_and_picture(orla: Hand) -> None:
    number = start(orla)
    measure_partner(orla, number, ".6249", ".6247")
    page = orla.get(f"/jobs/{number}/mate?function=slides_by_hand").text
    for seen in (
        "Make to suit",
        "Shop rule",
        "ISO H7/g6",
        "H11/c11",
        "H7/u6",
        "common practice, no source",
        "ISO 286-1:2010",
    ):
        assert seen in page
    assert 'role="img"' in page
    assert "<desc" in page


def test_another_fit_is_drawn_and_chosen_by_its_name(orla: Hand) -> None:
    number = start(orla)
    measure_partner(orla, number, ".6249")
    page = orla.get(
        f"/jobs/{number}/mate?function=turns_freely&option=H9/d9", headers={"HX-Request": "true", "HX-Target": "answer"}
    ).text
    assert "<html" not in page
    assert "ISO H9/d9" in page
    assert choose(orla, number, "H9/d9").status_code == 200
    assert "H9/d9" in orla.get(f"/jobs/{number}/measure").text


def test_a_partner_may_be_called_out_instead(orla: Hand) -> None:
    number = start(orla, partner_kind="bore", unit="mm")
    orla.get(f"/jobs/{number}/mate")
    assert orla.send(f"/jobs/{number}/mate/callout", callout="25 H7").status_code == 200
    page = orla.get(f"/jobs/{number}/mate?function=slides_by_hand").text
    assert "24.980" in page
    assert "24.993" in page


def test_a_reading_is_superseded_with_a_reason_and_both_are_kept(orla: Hand, job: int) -> None:
    log(orla, job, ".5999")
    reading = re.search(rf"/jobs/{job}/readings/([0-9a-f-]+)/correct", orla.get(f"/jobs/{job}/measure").text)
    assert reading
    path = f"/jobs/{job}/readings/{reading[1]}/correct"
    orla.get(path)
    assert orla.send(path, what="replace", size=".6249", reason="misread by one thimble turn").status_code == 200
    record = orla.get(f"/jobs/{job}/record").text
    for seen in (".5999 in", ".6249 in", "misread by one thimble turn", "superseded"):
        assert seen in record


def test_a_correction_needs_a_reason(orla: Hand, job: int) -> None:
    log(orla, job, ".5999")
    reading = re.search(rf"/jobs/{job}/readings/([0-9a-f-]+)/correct", orla.get(f"/jobs/{job}/measure").text)
    assert reading
    path = f"/jobs/{job}/readings/{reading[1]}/correct"
    orla.get(path)
    response = orla.send(path, what="replace", size=".6249", reason="")
    assert response.status_code == 422
    assert "Fill this in" in response.text
    assert 'value=".6249"' in response.text


def test_a_withdrawn_reading_no_longer_speaks(orla: Hand, job: int) -> None:
    log(orla, job, ".6301")
    assert "gone too far" in orla.get("/").text
    reading = re.search(rf"/jobs/{job}/readings/([0-9a-f-]+)/correct", orla.get(f"/jobs/{job}/measure").text)
    assert reading
    path = f"/jobs/{job}/readings/{reading[1]}/correct"
    orla.get(path)
    orla.send(path, what="withdraw", reason="chip in the bore")
    assert f'href="/jobs/{job}/make"' in orla.get("/").text


def test_the_json_record_holds_limits_readings_and_both_verdicts(orla: Hand, job: int) -> None:
    log(orla, job, ".6201")
    response = orla.get(f"/jobs/{job}/record.json")
    assert response.headers["content-disposition"] == f'attachment; filename="nomisma-job-{job}.json"'
    record = response.json()
    made = [row for row in record["readings"] if row["member"] == "made"]
    assert (made[0]["entered"], made[0]["size_mm"], made[0]["verdict_then"], made[0]["limits_version"]) == (
        ".6201",
        "15.750540000000",
        "metal to go",
        1,
    )
    assert record == orla.client.get(f"/api/v1/jobs/{job}").json()


def test_the_csv_record_has_a_line_a_reading(orla: Hand, job: int) -> None:
    log(orla, job, ".6201")
    rows = list(csv.DictReader(io.StringIO(orla.get(f"/jobs/{job}/record.csv").text)))
    assert [row["entered"] for row in rows] == [".6249", ".6249", ".6248", ".6201"]
    assert rows[-1]["verdict_now"] == "metal to go"


def test_a_title_that_looks_like_a_formula_stays_text_in_the_csv(orla: Hand) -> None:
    number = start(orla, title="=1+1")
    measure_partner(orla, number, ".6249")
    assert "'=1+1" in orla.get(f"/jobs/{number}/record.csv").text


def test_new_limits_keep_the_verdict_of_their_time(orla: Hand, job: int) -> None:
    log(orla, job, ".6266")
    assert (
        choose(orla, job, "H11/c11", based_on_version="1", judge_reason="the drawing was read wrong").status_code == 200
    )
    made = orla.get(f"/jobs/{job}/record.json").json()["readings"][-1]
    assert (made["limits_version"], made["verdict_then"], made["verdict_now"]) == (1, "in limits", "in limits")
    assert [row["version"] for row in orla.get(f"/jobs/{job}/record.json").json()["limits"]] == [1, 2]


def test_the_same_form_sent_twice_logs_one_reading(orla: Hand, job: int) -> None:
    client_id = str(uuid4())
    for _ in range(2):
        assert log(orla, job, ".6201", client_id=client_id).status_code == 200
    made = [row for row in orla.get(f"/jobs/{job}/record.json").json()["readings"] if row["member"] == "made"]
    assert len(made) == 1


@pytest.mark.parametrize(
    "other",
    [{"instrument_id": "caliper"}, {"condition_burr": "yes"}, {"temperature_c": "31", "material": "mild_steel"}],
)
def test_the_same_form_with_another_instrument_or_state_is_another_and_refused(
    orla: Hand, job: int, other: dict[str, str]
) -> None:
    client_id = str(uuid4())
    assert log(orla, job, ".6200", client_id=client_id).status_code == 200
    orla.get(f"/jobs/{job}/measure")
    changed = {name: orla.instrument(value) if name == "instrument_id" else value for name, value in other.items()}
    refused = log(orla, job, ".6200", client_id=client_id, **changed)
    assert refused.status_code == 409
    assert "the first one stands" in refused.text


def test_two_people_choosing_limits_at_once_the_second_is_told(hands: Callable[..., Hand]) -> None:
    orla, bram = hands("orla"), hands("bram")
    number = start(orla)
    measure_partner(orla, number, ".6249")
    assert choose(orla, number).status_code == 200
    response = choose(bram, number, "H8/f7")
    assert response.status_code == 409
    assert "Limits 1 were set by someone else while you were choosing." in response.text


def test_limits_are_not_taken_from_a_page_the_partner_has_outrun(orla: Hand) -> None:
    number = start(orla)
    measure_partner(orla, number, ".6249")
    seen = orla.get(f"/jobs/{number}/mate?function=turns_freely").text
    lower, upper = re.findall(r'name="seen_(?:lower|upper)" value="([^"]+)"', seen)[:2]
    measure_partner(orla, number, ".6247")
    response = choose(orla, number, seen_lower=lower, seen_upper=upper)
    assert response.status_code == 409
    assert "measured again while you were choosing" in response.text


def test_two_people_log_on_one_job_and_both_are_there(hands: Callable[..., Hand]) -> None:
    orla, bram = hands("orla"), hands("bram")
    number = start(orla)
    measure_partner(orla, number, ".6249")
    choose(orla, number)
    log(orla, number, ".6201")
    log(bram, number, ".6202", cut_since="not")
    record = orla.get(f"/jobs/{number}/record").text
    assert "Orla Quillfeather" in record
    assert "Bram Otterholt" in record


def test_an_open_page_is_told_only_of_what_is_new(hands: Callable[..., Hand]) -> None:
    orla, bram = hands("orla"), hands("bram")
    number = start(orla)
    measure_partner(orla, number, ".6249")
    choose(orla, number)
    orla.get(f"/jobs/{number}/measure")
    since = re.search(r"amp;since=([0-9.]+)", orla.page)
    assert since
    address = f"/jobs/{number}/measure?part=seen&since={since[1]}"
    assert orla.client.get(address).status_code == 204
    log(bram, number, ".6202")
    assert ".6202" in orla.client.get(address).text


def test_an_apprentice_does_not_hand_over(hands: Callable[..., Hand]) -> None:
    pim = hands("pim")
    pim.get("/jobs/104/record")
    response = pim.send("/jobs/104/events", kind="handed_over", note="")
    assert response.status_code == 403
    assert "machinist or the lead" in response.text
    assert 'value="handed_over"' not in pim.get("/jobs/104/record").text


def test_a_part_gone_too_far_is_handed_over_only_by_the_lead_with_a_reason(hands: Callable[..., Hand]) -> None:
    orla, bram = hands("orla"), hands("bram")
    orla.get("/jobs/102/record")
    assert "Call the lead" in orla.send("/jobs/102/events", kind="handed_over", note="fine").text
    bram.get("/jobs/102/record")
    assert "Say in the note why" in bram.send("/jobs/102/events", kind="handed_over", note="").text
    assert bram.send("/jobs/102/events", kind="handed_over", note="adapter remade to suit").status_code == 200


def test_a_job_handed_over_takes_no_more_readings_until_taken_up_again(hands: Callable[..., Hand]) -> None:
    bram = hands("bram")
    assert "nothing more is logged" in bram.get("/jobs/101/measure").text
    bram.get("/jobs/101/record")
    assert bram.send("/jobs/101/events", kind="taken_up_again", note="check again").status_code == 200
    assert 'name="size"' in bram.get("/jobs/101/measure").text


def test_an_instrument_that_can_never_call_the_limits_kept_is_warned_of(orla: Hand, job: int) -> None:
    assert "it can never say" not in log(orla, job, ".6201").text
    assert "it can never say" in log(orla, job, ".620", instrument_id=orla.instrument("dial caliper")).text


def test_a_bore_smaller_than_the_shaft_it_must_take_is_said(orla: Hand, job: int) -> None:
    log(orla, job, ".6266")
    assert "smaller than the shaft" not in orla.get(f"/jobs/{job}/measure").text
    orla.get(f"/jobs/{job}/mate")
    tenths = orla.instrument("0–1 in micrometer")
    orla.send(f"/jobs/{job}/mate/readings", size=".6268", place="far end 90°", instrument_id=tenths)
    for page in ("measure", "record"):
        assert "At the worst the bore is smaller than the shaft it must take" in orla.get(f"/jobs/{job}/{page}").text


def test_a_press_fit_comes_with_its_caution_and_a_running_fit_without(orla: Hand, job: int) -> None:
    assert "At the press: guard on" in orla.get(f"/jobs/{job}/mate?function=pressed_for_good").text
    assert "At the press" not in orla.get(f"/jobs/{job}/mate?function=turns_freely").text


def test_an_amount_is_shown_no_finer_than_the_instrument_tells(orla: Hand, job: int) -> None:
    page = log(orla, job, ".620", instrument_id=orla.instrument("dial caliper")).text
    big = re.search(r'<p class="big num"><span class="u-in">([0-9.]+) in', page)
    assert big
    assert re.fullmatch(r"0\.\d{3}", big[1])
