"""Readings by feature: each kind judged by its own side, and none reaches another."""

import re
from collections.abc import Callable

import pytest

from tests.web.conftest import Hand
from tests.web.parts import features, log, number_of, record, start


def test_a_plain_size_goes_from_start_to_its_verdict_without_a_mate(orla: Hand) -> None:
    started = start(orla, "28 ±0.1")
    number = number_of(started)
    assert str(started.url).endswith(f"/jobs/{number}/make")
    logged = log(orla, number, "A", "28.04")
    assert "in limits" in logged.text
    assert f"/jobs/{number}/mate" not in logged.text
    found = record(orla, number)
    assert (found["partner_kind"], found["verdict"], found["features"][0]["kind"]) == ("", "in limits", "plain_size")


def test_a_length_over_has_metal_to_go_and_a_depth_over_is_gone(orla: Hand) -> None:
    number = number_of(start(orla))
    assert "metal to go" in log(orla, number, "B", "40.90").text
    gone = log(orla, number, "D", "10.20").text
    assert "gone too far" in gone
    assert "metal cannot be put back" in gone
    assert {letter: one["verdict"] for letter, one in features(orla, number).items() if one["verdict"]} == {
        "B": "metal to go",
        "D": "gone too far",
    }


def test_readings_of_one_feature_never_reach_another(orla: Hand) -> None:
    number = number_of(start(orla))
    log(orla, number, "A", "28.02", place="near end 0°")
    assert {letter: one["reading_count"] for letter, one in features(orla, number).items()} == {
        "A": 1,
        "B": 0,
        "C": 0,
        "D": 0,
        "E": 0,
    }
    assert "28.02" not in orla.get(f"/jobs/{number}/measure?feature=B").text


def test_without_a_letter_the_first_feature_is_meant(orla: Hand) -> None:
    number = number_of(start(orla))
    orla.get(f"/jobs/{number}/measure")
    orla.send(
        f"/jobs/{number}/measure/readings",
        size="28.01",
        place="near end 0°",
        instrument_id=orla.instrument("150 mm caliper"),
    )
    assert features(orla, number)["A"]["reading_count"] == 1


def test_an_unknown_letter_is_answered_with_those_there_are(orla: Hand) -> None:
    number = number_of(start(orla))
    refused = orla.get(f"/jobs/{number}/measure?feature=Q")
    assert refused.status_code == 422
    assert "has no feature Q" in refused.text
    assert "A, B, C, D, E" in refused.text


@pytest.mark.parametrize(
    ("lines", "sentence"),
    [
        ("外径 28 ±0.1", "No feature is called"),
        ("od 28.1/27.9\nbore", "names a feature and no size"),
        ("\n".join(["od 28 ±0.1"] * 501), "at most 200"),
        ("", "Nothing was entered"),
        ("od 28 ±30", "lower limit"),
    ],
)
def test_lines_that_are_no_features_start_nothing_and_come_back(orla: Hand, lines: str, sentence: str) -> None:
    refused = start(orla, lines)
    assert refused.status_code == 422
    assert sentence in refused.text
    assert "Adapter" in refused.text
    assert all(line in refused.text for line in lines.splitlines()[:2])


def test_a_job_is_handed_over_when_every_feature_is_good(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nlength 40 ±0.1"))
    log(orla, number, "A", "28.02")
    log(orla, number, "A", "28.02", place="90°")
    refused = orla.send(f"/jobs/{number}/events", kind="handed_over", note="")
    assert refused.status_code == 403
    for place in ("0°", "120°", "240°"):
        log(orla, number, "B", "40.01", place=place)
    assert orla.send(f"/jobs/{number}/events", kind="handed_over", note="").status_code == 200
    closed = orla.send(f"/jobs/{number}/features", lines="length 41 ±0.1", general_tolerance="")
    assert closed.status_code == 422
    assert "handed over" in closed.text


def test_limits_of_a_feature_that_is_out_are_the_leads_and_the_others_stay_free(
    orla: Hand, hands: Callable[..., Hand]
) -> None:
    number = number_of(start(orla))
    log(orla, number, "D", "10.20")
    assert orla.send(f"/jobs/{number}/requirement?feature=D", line="10.4 ±0.2", based_on_version="1").status_code == 403
    assert orla.send(f"/jobs/{number}/requirement?feature=B", line="40 ±0.5", based_on_version="1").status_code == 200
    bram = hands("bram")
    bram.get(f"/jobs/{number}/part?feature=D")
    sent = bram.send(
        f"/jobs/{number}/requirement?feature=D", line="10.3 ±0.2", based_on_version="1", judge_reason="agreed"
    )
    assert sent.status_code == 200
    assert features(orla, number)["D"]["verdict"] == "in limits"


def test_a_size_for_reference_is_measured_and_not_judged(orla: Hand) -> None:
    number = number_of(start(orla, "length 40", general_tolerance="none"))
    assert "For reference" in orla.get(f"/jobs/{number}/measure").text
    log(orla, number, "A", "40.7")
    found = record(orla, number)["features"][0]
    assert (found["verdict"], found["said"]) == ("", "measured, for reference")


def test_a_size_nowhere_near_its_nominal_is_asked_about(orla: Hand) -> None:
    number = number_of(start(orla, "length 40", general_tolerance="none"))
    refused = log(orla, number, "A", "4.07")
    assert refused.status_code == 422
    assert "nowhere near its size" in refused.text


def test_a_readings_file_is_brought_in_for_the_feature_in_hand(orla: Hand) -> None:
    number = number_of(start(orla))
    orla.get(f"/jobs/{number}/import?feature=B")
    table = "feature,place,size,unit\nB,0°,40.02,mm\nA,near end 0°,28.01,mm"
    looked = orla.send(f"/jobs/{number}/import?feature=B", csv=table, step="take", decimal_mark="either")
    assert looked.status_code == 200
    assert {letter: one["reading_count"] for letter, one in features(orla, number).items() if one["reading_count"]} == {
        "B": 1
    }


def test_the_batch_is_of_the_feature_in_hand(orla: Hand) -> None:
    number = number_of(start(orla))
    orla.get(f"/jobs/{number}/batch?feature=B")
    orla.send(f"/jobs/{number}/plan?feature=B", pieces="3", measuring_plan="one", acceptance="simple")
    for piece, size in (("1", "40.01"), ("2", "40.05"), ("3", "39.95")):
        log(orla, number, "B", size, piece=piece)
    page = orla.get(f"/jobs/{number}/batch?feature=B").text
    assert page.count("in limits") >= 3
    assert "No piece is measured yet" in orla.get(f"/jobs/{number}/batch").text
    matrix = orla.get(f"/jobs/{number}/batch").text
    row = re.search(r'<th scope="row">2</th>(.*?)</tr>', matrix, re.DOTALL)
    assert row
    assert re.findall(r"in limits|not measured", row[1]) == [
        "not measured",
        "in limits",
        "not measured",
        "not measured",
        "not measured",
    ]


def test_in_limits_is_said_of_the_whole_only_when_all_of_it_is_measured(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nlength 40 ±0.1"))
    log(orla, number, "A", "28.02")
    assert record(orla, number)["verdict"] == ""
    assert "1 of 2 features are measured" in orla.get(f"/jobs/{number}/record").text
    log(orla, number, "B", "40.02")
    assert record(orla, number)["verdict"] == "in limits"


def test_a_surface_finish_is_compared_by_eye_and_holds_nothing_up(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nra 1.6"))
    assert "compared by eye" in orla.get(f"/jobs/{number}/measure?feature=B").text
    for place in ("0°", "90°"):
        log(orla, number, "A", "28.02", place=place)
    assert record(orla, number)["verdict"] == "in limits"
    orla.get(f"/jobs/{number}/record")
    assert orla.send(f"/jobs/{number}/events", kind="handed_over", note="").status_code == 200


def test_a_reading_kept_when_the_sign_in_ran_out_goes_to_its_own_feature(hands: Callable[..., Hand]) -> None:
    hand = hands("orla")
    number = number_of(start(hand, "28 ±0.1\nlength 40 ±0.1"))
    hand.get(f"/jobs/{number}/measure?feature=B")
    instrument = hand.instrument("150 mm caliper")
    hand.client.cookies.clear()
    refused = hand.send(
        f"/jobs/{number}/measure/readings?feature=B", size="40.02", place="0°", instrument_id=instrument
    )
    assert refused.status_code == 401
    kept = re.search(r'name="kept" value="([^"]+)"', refused.text)
    token = re.search(r'name="page_token" value="([^"]+)"', refused.text)
    assert kept
    assert token
    again = hand.client.post(
        "/sign-in", data={"sign_in_name": "orla", "password": "hilltop-demo", "kept": kept[1], "page_token": token[1]}
    )
    assert f'action="/jobs/{number}/measure/readings?feature=B"' in again.text


def test_a_page_of_a_feature_is_come_back_to_after_signing_in(hands: Callable[..., Hand]) -> None:
    refused = hands("").get("/jobs/111/measure?feature=B")
    assert 'name="next" value="/jobs/111/measure?feature=B"' in refused.text


def test_nothing_is_logged_of_a_withdrawn_feature(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nlength 40 ±0.1"))
    orla.get(f"/jobs/{number}/measure?feature=B")
    instrument = orla.instrument("150 mm caliper")
    orla.send(f"/jobs/{number}/withdraw?feature=B", reason="free", what="withdraw")
    refused = orla.send(
        f"/jobs/{number}/measure/readings?feature=B", size="40.02", place="0°", instrument_id=instrument
    )
    assert refused.status_code == 422
    assert "Feature B is withdrawn" in refused.text
    for page in ("measure", "cut"):
        assert "Put it back on the Part page" in orla.get(f"/jobs/{number}/{page}?feature=B").text
