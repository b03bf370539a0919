"""A part of many features: started from its lines, measured feature by feature, changed, withdrawn, handed over."""

import re
from collections.abc import Callable
from typing import Any

import pytest

from tests.web.conftest import Hand

LINES = "od 28.00 ±0.10 x 40 ±0.2\nbore 12 +0.05/0 x 10 +0.1/0 deep\n6 max"


@pytest.fixture
def orla(long_day: Hand) -> Hand:
    """The machinist, who stays signed in; each test starts at the bench."""
    long_day.get("/")
    return long_day


def start(hand: Hand, lines: str = LINES, *, unit: str = "mm", **fields: str) -> Any:
    return hand.send("/jobs", title="Adapter", partner_kind="none", lines=lines, unit=unit, **fields)


def number_of(response: Any) -> int:
    assert response.status_code == 200, response.text
    found = re.search(r"/jobs/(\d+)/", str(response.url))
    assert found
    return int(found[1])


def log(
    hand: Hand, number: int, letter: str, size: str, *, instrument: str = "150 mm caliper", place: str = "0°", **fields: str
) -> Any:
    hand.get(f"/jobs/{number}/measure?feature={letter}")
    return hand.send(
        f"/jobs/{number}/measure/readings?feature={letter}", size=size, place=place, instrument_id=hand.instrument(instrument),
        **{"cut_since": "not", **fields},
    )  # fmt: skip


def record(hand: Hand, number: int) -> Any:
    return hand.get(f"/jobs/{number}/record.json").json()


def features(hand: Hand, number: int) -> dict[str, Any]:
    return {one["letter"]: one for one in record(hand, number)["features"]}


def test_a_plain_size_goes_from_start_to_its_verdict_without_a_mate(orla: Hand) -> None:
    started = start(orla, "28 ±0.1")
    number = number_of(started)
    assert str(started.url).endswith(f"/jobs/{number}/measure")
    logged = log(orla, number, "A", "28.04")
    assert "in limits" in logged.text
    assert f"/jobs/{number}/mate" not in logged.text
    found = record(orla, number)
    assert (found["partner_kind"], found["verdict"], found["features"][0]["kind"]) == ("", "in limits", "plain_size")


def test_every_line_becomes_a_feature_with_its_letter_and_limits(orla: Hand) -> None:
    found = features(orla, number_of(start(orla)))
    assert {letter: (one["kind"], one["lower_mm"], one["upper_mm"]) for letter, one in found.items()} == {
        "A": ("outside_diameter", "27.900000000000", "28.100000000000"),
        "B": ("length", "39.800000000000", "40.200000000000"),
        "C": ("bore", "12.000000000000", "12.050000000000"),
        "D": ("depth", "10.000000000000", "10.100000000000"),
        "E": ("plain_size", None, "6.000000000000"),
    }


def test_a_length_over_has_metal_to_go_and_a_depth_over_is_gone(orla: Hand) -> None:
    number = number_of(start(orla))
    assert "metal to go" in log(orla, number, "B", "40.90").text
    gone = log(orla, number, "D", "10.20").text
    assert "gone too far" in gone
    assert "metal cannot be put back" in gone
    assert {letter: one["verdict"] for letter, one in features(orla, number).items() if one["verdict"]} == {
        "B": "metal to go", "D": "gone too far",
    }  # fmt: skip


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
        ("外径 28 ±0.1", "not understood"),
        ("od 28.1/27.9\nbore", "names a feature and no size"),
        ("\n".join(["od 28 ±0.1"] * 501), "at most 500"),
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


def test_lines_with_tabs_and_decimal_commas_are_read(orla: Hand) -> None:
    found = features(orla, number_of(start(orla, "od\t28,00 ±0,10\nlength\t40,5 ±0,2")))
    assert [one["upper_mm"] for one in found.values()] == ["28.100000000000", "40.700000000000"]


def test_lines_are_shown_as_understood_before_they_count(orla: Hand) -> None:
    looked = orla.send("/sketch-lines", lines="od 1.375 ±.005 x 3.625\nbush", unit="in", general_tolerance="")
    assert "outside diameter from 1.370 in to 1.380 in" in looked.text
    assert "Line 2" in looked.text


def test_the_same_form_sent_twice_adds_its_features_once(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    for _ in range(2):
        orla.send(
            f"/jobs/{number}/features",
            lines="length 40 ±0.1",
            general_tolerance="",
            client_id="7d3f1c1e-3a51-4a55-9c53-2f31a1f1a001",
        )
    assert list(features(orla, number)) == ["A", "B"]


def test_new_limits_are_a_new_version_and_the_reading_keeps_its_verdict(orla: Hand) -> None:
    number = number_of(start(orla))
    log(orla, number, "B", "40.30")
    changed = orla.send(f"/jobs/{number}/requirement?feature=B", line="40 ±0.5", based_on_version="1", why="drawing B")
    assert changed.status_code == 200
    found = record(orla, number)
    reading = next(one for one in found["readings"] if one["feature"] == "B")
    assert (reading["verdict_then"], reading["verdict_now"]) == ("metal to go", "in limits")
    assert [(one["version"], one["reason"]) for one in found["limits"] if one["feature"] == "B"] == [
        (1, ""),
        (2, "drawing B"),
    ]


def test_limits_changed_from_a_page_that_is_old_are_refused(orla: Hand) -> None:
    number = number_of(start(orla))
    orla.send(f"/jobs/{number}/requirement?feature=B", line="40 ±0.5", based_on_version="1")
    late = orla.send(f"/jobs/{number}/requirement?feature=B", line="40 ±0.1", based_on_version="1")
    assert late.status_code == 409
    assert features(orla, number)["B"]["upper_mm"] == "40.500000000000"


def test_a_length_is_not_changed_into_a_bore(orla: Hand) -> None:
    number = number_of(start(orla))
    refused = orla.send(f"/jobs/{number}/requirement?feature=B", line="bore 12 H7", based_on_version="1")
    assert refused.status_code == 422
    assert "says something else than a length" in refused.text


def test_a_withdrawn_feature_counts_no_longer_and_keeps_its_readings(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nlength 40 ±0.1"))
    log(orla, number, "A", "28.02")
    log(orla, number, "B", "41.00")
    orla.send(f"/jobs/{number}/withdraw?feature=B", reason="the drawing leaves it free", what="withdraw")
    found = record(orla, number)
    assert (found["verdict"], found["features"][1]["withdrawn"], found["features"][1]["reading_count"]) == (
        "in limits",
        True,
        1,
    )
    orla.get(f"/jobs/{number}/part?feature=B")
    orla.send(f"/jobs/{number}/withdraw?feature=B", reason="it is not free", what="put_back")
    assert record(orla, number)["verdict"] == "metal to go"


def test_the_last_feature_is_not_withdrawn(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    refused = orla.send(f"/jobs/{number}/withdraw?feature=A", reason="no longer wanted", what="withdraw")
    assert refused.status_code == 422
    assert "the only feature" in refused.text


def test_a_letter_is_never_given_again(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nlength 40 ±0.1"))
    orla.send(f"/jobs/{number}/withdraw?feature=B", reason="free", what="withdraw")
    orla.send(f"/jobs/{number}/features", lines="length 41 ±0.1", general_tolerance="")
    assert list(features(orla, number)) == ["A", "B", "C"]


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
    sent = bram.send(f"/jobs/{number}/requirement?feature=D", line="10.3 ±0.2", based_on_version="1", judge_reason="agreed")
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


def test_a_depth_is_offered_a_depth_micrometer_first(orla: Hand) -> None:
    number = number_of(start(orla, "bore .800 +.004/-0 x .125 +.010/-0 deep", unit="in"))
    page = orla.get(f"/jobs/{number}/measure?feature=B").text
    chosen = re.search(r"<option [^>]*selected>([^<]*)", page)
    assert chosen
    assert "depth micrometer" in chosen[1]
    assert "dialled" not in page


def test_a_job_in_millimetres_is_offered_what_reads_millimetres(orla: Hand) -> None:
    number = number_of(start(orla, "boss 20 ±0.1 x 4.5 +0.05/0 high"))
    chosen = re.search(r"<option [^>]*selected>([^<]*)", orla.get(f"/jobs/{number}/measure?feature=B").text)
    assert chosen
    assert "150 mm caliper" in chosen[1]


def lathe(hand: Hand) -> str:
    """The bench lathe, whose carriage has lines of 0.1 mm and its compound of 0.02 mm."""
    found = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Bench lathe<', hand.get("/").text)
    assert found
    return found[1]


def test_a_length_is_faced_in_whole_lines_and_never_past(orla: Hand) -> None:
    number = number_of(start(orla, "length 40 ±0.1", machine_id=lathe(orla)))
    assert "Measure it first" in orla.get(f"/jobs/{number}/cut").text
    log(orla, number, "A", "41.27")
    page = orla.get(f"/jobs/{number}/cut").text
    assert "1.270 mm to face off" in page
    assert "12 lines of the carriage in all, and 70.0 µm is left" in page
    page = orla.get(f"/jobs/{number}/cut", params={"by": "compound", "compound_deg": "60"}).text
    assert "127 lines of the compound in all" in page


def test_a_depth_goes_deeper_until_it_is_deep_enough(orla: Hand) -> None:
    number = number_of(start(orla, "depth 10 +0.2/0", machine_id=lathe(orla)))
    log(orla, number, "A", "9.42")
    assert "0.680 mm to go deeper" in orla.get(f"/jobs/{number}/cut?by=readout").text
    log(orla, number, "A", "10.10", cut_since="cut")
    page = orla.get(f"/jobs/{number}/cut").text
    assert "No pass is advised now" in page
    assert "to go deeper" not in page


def test_the_reading_after_a_pass_is_logged_on_the_cut_page(orla: Hand) -> None:
    number = number_of(start(orla, "od 28 ±0.1 x 40 ±0.1", machine_id=lathe(orla)))
    log(orla, number, "B", "41.00")
    orla.get(f"/jobs/{number}/cut?feature=B")
    sent = orla.send(
        f"/jobs/{number}/cut/readings?feature=B",
        size="40.03",
        place="0°",
        cut_since="cut",
        instrument_id=orla.instrument("150 mm caliper"),
    )
    assert "in limits" in sent.text
    assert features(orla, number)["B"]["smallest_mm"] == "40.030000000000"


def test_a_pass_that_is_no_number_is_answered(orla: Hand) -> None:
    number = number_of(start(orla, "length 40 ±0.1"))
    log(orla, number, "A", "41.00")
    page = orla.get(f"/jobs/{number}/cut", params={"depth": "deep"})
    assert page.status_code == 200
    assert "not understood" in page.text
    assert "The machine’s compound and carriage dials are not known" in page.text


def test_a_bush_is_one_job_with_two_joints(orla: Hand) -> None:
    started = orla.send("/jobs", title="Pulley bush", partner_kind="bush", unit="mm", lines="")
    number = number_of(started)
    assert "<strong>C</strong>, the bore that goes with D, the shaft" in orla.get(f"/jobs/{number}/mate?feature=C").text
    found = features(orla, number)
    assert {letter: (one["kind"], one["made_here"], one["goes_with"]) for letter, one in found.items()} == {
        "A": ("shaft", True, "B"), "B": ("bore", False, "A"), "C": ("bore", True, "D"), "D": ("shaft", False, "C"),
    }  # fmt: skip
    for letter, callout in (("A", "32 H7"), ("C", "20 g6")):
        orla.get(f"/jobs/{number}/mate?feature={letter}")
        assert orla.send(f"/jobs/{number}/mate/callout?feature={letter}", callout=callout).status_code == 200
    for letter, function in (("A", "pressed_for_good"), ("C", "turns_freely")):
        page = orla.get(f"/jobs/{number}/mate?feature={letter}&function={function}").text
        option = re.search(r'name="option" value="([^"]+)"', page)
        assert option
        sent = orla.send(
            f"/jobs/{number}/limits?feature={letter}", function=function, option=option[1], based_on_version="0"
        )
        assert sent.status_code == 200, sent.text
    found = features(orla, number)
    assert float(found["A"]["lower_mm"]) > 32.025
    assert 20 < float(found["C"]["lower_mm"]) < float(found["C"]["upper_mm"]) < 20.2


def test_mate_of_a_feature_that_goes_with_none_leads_to_the_part(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    assert str(orla.get(f"/jobs/{number}/mate").url).endswith(f"/jobs/{number}/part")


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


@pytest.mark.parametrize(
    ("line", "kind"),
    [
        ("od 1.375 ±.005 x 3.625", "outside diameter"),
        ("28±0.1", "27.9"),
        ("25 h7", "24.979"),
        ("bore .800 +.004/-0", "bore"),
    ],
)
def test_a_line_asked_can_start_a_job(orla: Hand, line: str, kind: str) -> None:
    asked = orla.get("/ask", params={"q": line})
    assert asked.status_code == 200
    assert kind in asked.text
    link = re.search(r'href="(/\?lines=[^"]+)"', asked.text)
    assert link
    begun = orla.get(link[1].replace("&amp;", "&")).text
    assert f">{line}</textarea>" in begun


@pytest.mark.parametrize("line", ["7/8", "25 H7/g6", "bush"])
def test_a_line_that_is_no_feature_starts_none(orla: Hand, line: str) -> None:
    assert "Start a job with this" not in orla.get("/ask", params={"q": line}).text


def test_what_cannot_be_true_of_the_part_is_said_on_its_page(orla: Hand) -> None:
    number = number_of(start(orla, "od 20 ±0.1\nhole 22 ±0.1 thru"))
    assert "there would be no wall" in orla.get(f"/jobs/{number}/part").text
    orla.send(f"/jobs/{number}/requirement?feature=B", line="12 ±0.1", based_on_version="1")
    assert "there would be no wall" not in orla.get(f"/jobs/{number}/part").text


def test_in_limits_is_said_of_the_whole_only_when_all_of_it_is_measured(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nlength 40 ±0.1"))
    log(orla, number, "A", "28.02")
    assert record(orla, number)["verdict"] == ""
    assert "1 of 2 features are measured" in orla.get(f"/jobs/{number}/record").text
    log(orla, number, "B", "40.02")
    assert record(orla, number)["verdict"] == "in limits"


def test_the_section_leads_from_each_letter_to_its_feature(orla: Hand) -> None:
    number = number_of(start(orla))
    page = orla.get(f"/jobs/{number}/part").text
    assert 'class="figure section"' in page
    assert f'href="/jobs/{number}/measure?feature=D"' in page
    assert "that C comes in from the left" in page
    plain = number_of(start(orla, "28 ±0.1"))
    assert 'class="figure section"' not in orla.get(f"/jobs/{plain}/part").text


def test_a_feature_goes_with_the_bore_of_another_job(orla: Hand) -> None:
    bored = number_of(start(orla, "bore 25 H7 thru"))
    number = number_of(start(orla, f"od 25 g6 on bore of job {bored}\nlength 40 ±0.1"))
    found = features(orla, number)
    assert {letter: (one["kind"], one["goes_with"]) for letter, one in found.items()} == {
        "A": ("shaft", "C"), "B": ("length", ""), "C": ("bore", "A"),
    }  # fmt: skip
    assert (found["A"]["lower_mm"], found["A"]["upper_mm"]) == ("24.980000000000", "24.993000000000")
    assert found["C"]["written"] == "25.000 mm/25.021 mm"
    assert f"job {bored}, feature A" in orla.get(f"/jobs/{number}/part").text


@pytest.mark.parametrize(
    ("line", "sentence"),
    [
        ("od 25 g6 on bore of job 99999", "There is no job 99999"), ("od 25 g6 on bore of job 113", "Job 113 makes no bore"),
        ("od 25 g6 on shaft of job 104", "does not go with a shaft"), ("length 40 on bore of job 104", "does not go with a bore"),
        ("od 25 g6 on bore Z of job 104", "has no feature Z"), ("bore 12 H7 on shaft of job 103", "makes no shaft"),
    ],
)  # fmt: skip
def test_a_partner_that_is_not_there_starts_nothing(orla: Hand, line: str, sentence: str) -> None:
    refused = start(orla, line)
    assert refused.status_code == 422
    assert sentence in refused.text
    assert "Adapter" not in re.sub(r"<input[^>]*>", "", refused.text).split("Start a job")[1]


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
    refused = hand.send(f"/jobs/{number}/measure/readings?feature=B", size="40.02", place="0°", instrument_id=instrument)
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
    refused = orla.send(f"/jobs/{number}/measure/readings?feature=B", size="40.02", place="0°", instrument_id=instrument)
    assert refused.status_code == 422
    assert "Feature B is withdrawn" in refused.text
    for page in ("measure", "cut"):
        assert "Put it back on Part" in orla.get(f"/jobs/{number}/{page}?feature=B").text


@pytest.mark.parametrize(
    ("lines", "letter", "line", "upper"),
    [
        ("groove 2.2 +0.1/0 wide to 22 ±0.1 at 2 ±0.1 from A", "A", "2.4 +0.1/0", "2.500000000000"),
        ("groove 2.2 +0.1/0 wide to 22 ±0.1 at 2 ±0.1 from A", "B", "21 ±0.1", "21.100000000000"),
        ("groove 2.2 +0.1/0 wide to 22 ±0.1 at 2 ±0.1 from A", "C", "3 ±0.1", "3.100000000000"),
        ("od 25 h7", "A", "od 25 g6", "24.993000000000"), ("28 ±0.1", "A", "29 ±0.1", "29.100000000000"),
        ("runout 0.02", "A", "0.05", "0.050000000000"), ("cham 0.5 x 45", "A", "1 x 45", "1.200000000000"),
    ],
)  # fmt: skip
def test_the_limits_of_any_kind_are_changed_by_its_size_alone(
    orla: Hand, lines: str, letter: str, line: str, upper: str
) -> None:
    number = number_of(start(orla, lines))
    changed = orla.send(f"/jobs/{number}/requirement?feature={letter}", line=line, based_on_version="1")
    assert changed.status_code == 200, changed.text
    assert features(orla, number)[letter]["upper_mm"] == upper


def test_features_added_to_a_bush_are_of_the_bush(orla: Hand) -> None:
    number = number_of(orla.send("/jobs", title="Idler bush", partner_kind="bush", unit="mm", lines=""))
    orla.send(f"/jobs/{number}/features", lines="length 30 ±0.1", general_tolerance="")
    found = features(orla, number)
    assert {found[letter]["part"] for letter in ("A", "C", "E")} == {"bush"}


def test_each_joint_of_a_bush_is_assembled_by_itself(orla: Hand) -> None:
    number = number_of(orla.send("/jobs", title="Idler bush", partner_kind="bush", unit="mm", lines=""))
    page = orla.get(f"/jobs/{number}/assemble?feature=C").text
    assert f"job={number}&amp;feature=C" in page
    orla.send(f"/jobs/{number}/assemble/plan?feature=C")
    assert "Plan" in orla.get(f"/jobs/{number}/assemble?feature=C").text
    orla.send(f"/jobs/{number}/assemble/results?feature=C", felt="as_expected", size_before="", size_after="")
    assert [one["joint"] for one in record(orla, number)["assemblies"]] == ["D in C"]
