"""Hold: a piece trued round by round in a job, as a machinist would, wrong input and all."""

import csv
import io
import json
import re
import zipfile
from typing import Any

import pytest

from tests.web.conftest import Hand

SET_UP = {
    "surface": "outside",
    "grip": "outside",
    "places": "4",
    "use": "second_operation",
    "keys": "one",
    "unit": "in",
    "needle_turn": "0.1",
}


NO_HABIT = {"chuck_id": "", "screw_lead": "0.125"}
"""A chuck nobody has learned anything of: what other tests taught of the eight-inch one does not matter."""


def start(hand: Hand, title: str, **set_up: str) -> str:
    """A job with a set-up; the address of its Hold page."""
    hand.get("/")
    sent = hand.send("/jobs", title=title, partner_kind="shaft", unit="in", asked="")
    base = str(sent.url.path).replace("/mate", "/hold")
    hand.get(base)
    chuck = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Eight-inch four-jaw', hand.page)
    lever = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Lever indicator', hand.page)
    assert chuck
    assert lever
    fields = {**SET_UP, "chuck_id": chuck[1], "instrument_id": lever[1], **set_up}
    assert hand.send(f"{base}/set-up", **fields).status_code == 200
    return base


def words(hand: Hand) -> str:
    found = re.search(r"now-words[^>]*>\s*(.*?)\s*</p>", hand.page, re.S)
    return re.sub(r"<[^>]+>", "", found[1]) if found else ""


def text(page: str) -> str:
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", page))


def read(hand: Hand, base: str, size: str, place: str = "jaw 1", tightened: str = "snug", **more: str) -> Any:
    number = re.search(r'name="round" value="(\d+)"', hand.page)
    fields = {"size": size, "place": place, "tightened": tightened, "round": number[1] if number else "1", **more}
    return hand.send(f"{base}/readings", **fields)


def test_the_chuck_has_learned_its_habit_in_the_demo(long_day: Hand) -> None:
    long_day.get("/jobs/104/hold")
    assert re.search(
        r"This chuck moves the work 0\.\d+ thou towards jaw 2 when it is tightened \(seen 3 times\)",
        text(long_day.page),
    )
    assert "The advice leaves it off by as much the other way." in text(long_day.page)
    assert "towards jaw 2 when it is tightened" in text(long_day.get("/shop").text)


def test_a_truing_from_about_central_to_ready(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Idler hub, trued")
    assert words(hand) == "Read jaw 1"
    for place, size in (("jaw 1", "0.0120"), ("jaw 2", "0.0070"), ("jaw 3", "0"), ("jaw 4", "0.0050")):
        assert words(hand) == f"Read {place}"
        assert read(hand, base, size, place).status_code == 200
    assert words(hand) == "Ease jaw 3, drive jaw 1"
    assert "Key out of the chuck" in text(hand.page)
    assert "6.00 thou" in text(hand.page)
    assert "At jaw 1 the needle goes from 0.0120 in to about 0.0060 in." in text(hand.page)
    read(hand, base, "0.0061 0.0060 0.0060 0.0061")
    assert words(hand) == "Tighten pair by pair"
    read(hand, base, "0.0061 0.0062 0.0060 0.0059", tightened="tight")
    assert words(hand) == "Before the first start"
    assert "This time tightening moved the work" in text(hand.page)
    refused = hand.send(f"{base}/ready", key_out="yes")
    assert refused.status_code == 422
    assert "4 of the 5 steps are not ticked." in text(refused.text)
    hand.send(f"{base}/ready", **dict.fromkeys(("key_out", "clear", "tight", "by_hand", "first_start"), "yes"))
    assert words(hand) == "Ready to cut"
    record = json.loads(hand.get(base.replace("hold", "record.json")).text)
    (truing,) = record["truings"]
    assert truing["ready_by"] == "Orla Quillfeather"
    assert truing["moves"] == 1
    assert [one["tightened"] for one in truing["rounds"]] == [False, False, True]
    assert truing["rounds"][0]["readings"] == "0.0120 0.0070 0 0.0050"
    assert "Ready to cut" in text(hand.get(base.replace("hold", "record")).text)


def test_a_missed_jaw_is_asked_for_before_the_round_counts(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Missed jaw")
    read(hand, base, "0.012", "jaw 1")
    read(hand, base, "0.001", "jaw 3")
    assert words(hand) == "Read jaw 2"
    assert "Jaw 2 was passed over: read it before the round counts." in text(hand.page)
    read(hand, base, "0.005", "jaw 2")
    assert words(hand) == "Read jaw 4"


def test_a_place_read_twice_says_whether_it_still_reads_the_same(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Read twice")
    read(hand, base, "0.012", "jaw 1")
    assert "Jaw 1 read again: it still says the same." in text(read(hand, base, "0.0121", "jaw 1").text)
    assert "read 0.0121 first and 0.015 now: something moved" in text(read(hand, base, "0.015", "jaw 1").text)


@pytest.mark.parametrize(
    ("size", "sentence"),
    [
        ("12", "Thou are written “12 thou”"),
        ("0.2", "Millimetres are written “0.2 mm”"),
        ("0.012 0.005 0", "3 readings for 4 places"),
        ("1,125", "1,125"),
        ("round and round", "is not understood as a size"),
        ("", "Nothing was entered"),
    ],
)
def test_a_reading_that_is_none_has_its_sentence_and_is_kept(long_day: Hand, size: str, sentence: str) -> None:
    hand, base = long_day, start(long_day, "Wrong input")
    answer = read(hand, base, size)
    assert answer.status_code == 422
    assert sentence in text(answer.text)
    assert f'value="{size}"' in answer.text


def test_a_place_that_is_none_is_refused(long_day: Hand) -> None:
    base = start(long_day, "No such place")
    assert "is not a place of this round" in text(read(long_day, base, "0.01", "jaw 9").text)


def test_a_whole_swing_past_the_range_sets_the_round_aside(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Past the range")
    answer = read(hand, base, "0.025 0 -0.025 0")
    assert "it has gone round or run out" in text(answer.text)
    assert "This round is kept, and set aside." in text(answer.text)
    assert words(hand) == "Read jaw 1"
    assert "set aside" in text(hand.page)


def test_a_round_in_millimetres_is_asked_about_and_confirmed_or_read_again(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Unit mix-up", range="1")
    read(hand, base, "0.012 0.006 0 0.002")
    read(hand, base, "0.300 0.150 0 0.050")
    assert "This round looks like mm typed as inch." in words(hand)
    hand.send(f"{base}/round", what="set_aside")
    assert "superseded" in hand.page
    read(hand, base, "0.300 0.150 0 0.050")
    hand.send(f"{base}/round", what="confirmed")
    assert words(hand) == "Ease jaw 3, drive jaw 1"


def test_a_needle_gone_round_is_caught_in_the_first_round(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Gone round", range="0.3")
    read(hand, base, "0.012 0.006 0.1 0.006")
    assert "Place 3 is off by one whole turn of the needle" in words(hand)


def test_highest_and_lowest_give_a_first_move(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "By its ends")
    hand.send(f"{base}/readings", highest="0.020", lowest="0", highest_at_deg="90", tightened="snug")
    assert words(hand) == "Ease jaw 4, drive jaw 2"
    assert "do not tell offset from shape" in text(hand.page)
    refused = hand.send(f"{base}/readings", highest="0", lowest="0.020", highest_at_deg="90")
    assert "below the lowest" in text(refused.text)


def test_a_direction_that_is_none_is_refused(long_day: Hand) -> None:
    base = start(long_day, "No direction")
    refused = long_day.send(f"{base}/readings", highest="0.01", lowest="0", highest_at_deg="500")
    assert "is not a direction" in text(refused.text)


def test_a_far_circle_says_where_to_tap(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Long bore", far="3", length="3", surface="outside", **NO_HABIT)
    read(hand, base, "0.006 0.006 0.006 0.006")
    assert words(hand) == "Read jaw 1"
    assert "Now the far one" in text(hand.page)
    read(hand, base, "0.009 0.006 0.003 0.006", circle="far")
    assert words(hand) == "Tap at jaw 1"
    assert "Tap with a soft hammer, spindle stopped" in text(hand.page)


def test_a_bore_is_driven_the_other_way(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "A bore", surface="bore")
    read(hand, base, "0.012 0.006 0 0.006")
    assert words(hand) == "Ease jaw 1, drive jaw 3"


def test_a_hexagon_has_six_places_whatever_was_chosen(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Hexagon", surface="hex", places="4")
    read(hand, base, "0.004 0.002 -0.002 -0.004 -0.002 0.002")
    assert words(hand) == "Ease jaw 3, drive jaw 1"


def test_oval_stock_is_told_to_stop(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Oval bar", **NO_HABIT)
    read(hand, base, "0.004 0 0.004 0")
    assert "Stop: this is the work, not the chuck" in text(hand.page)
    read(hand, base, "0.004 0 0.004 0", tightened="tight")
    assert "no jaw can do better" in text(hand.page)


def test_the_same_reading_sent_twice_is_there_once(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Sent twice")
    fields = {"client_id": "7d1c0b9e-1111-4222-8333-444455556666"}
    read(hand, base, "0.012 0.006 0 0.006", **fields)
    read(hand, base, "0.012 0.006 0 0.006", **fields)
    record = json.loads(hand.get(base.replace("hold", "record.json")).text)
    assert len(record["truings"][0]["rounds"]) == 1


def test_a_drum_held_from_inside_is_told_the_other_jaw_and_its_record_says_so(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Winch drum", grip="inside", surface="rim")
    hand.send(f"{base}/readings", size="0.012 0.006 0 0.006", place="jaw 1", tightened="snug")
    assert words(hand) == "Ease jaw 1, drive jaw 3"
    record = hand.get(base.replace("/hold", "/record.json")).json()
    assert record["truings"][0]["grip"] == "inside"


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [
        ({"surface": "banana"}, "is not one of the choices"),
        ({"grip": ""}, "It was not said how the jaws hold."),
        ({"surface": "pins"}, "The number of teeth says where the pins stand."),
        ({"places": "6"}, "6 places do not go round a round outside"),
        ({"use": "own", "target": ""}, "Nothing was entered"),
        ({"chuck_id": "", "screw_lead": ""}, "travels in one turn of the key is not known"),
        ({"instrument_id": "", "graduation": ""}, "One line of the indicator is not known"),
        ({"length": "2"}, "asks for a far circle"),
        ({"chuck_id": "7d1c0b9e-0000-4222-8333-444455556666"}, "That chuck is not in the shop"),
        ({"instrument_id": "7d1c0b9e-0000-4222-8333-444455556666"}, "That is no indicator of this shop"),
    ],
)
def test_a_set_up_that_is_none_has_its_sentence(long_day: Hand, wrong: dict[str, str], sentence: str) -> None:
    hand, base = long_day, start(long_day, "Set-up")
    hand.get(f"{base}?anew=true")
    chuck = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Eight-inch four-jaw', hand.page)
    lever = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Lever indicator', hand.page)
    assert chuck
    assert lever
    fields = {**SET_UP, "chuck_id": chuck[1], "instrument_id": lever[1], **wrong}
    answer = hand.send(f"{base}/set-up", **fields)
    assert answer.status_code == 422
    assert sentence in text(answer.text)


def test_a_job_handed_over_is_trued_no_more(long_day: Hand) -> None:
    long_day.get("/jobs/101/hold")
    assert "Handed over" in text(long_day.page)
    answer = long_day.send("/jobs/101/hold/readings", size="0.01", place="jaw 1", tightened="snug")
    assert answer.status_code == 422
    assert "This job is handed over." in text(answer.text)


def test_what_a_gauge_sent_is_offered_on_the_hold_page_too(long_day: Hand) -> None:
    assert 'data-gauge="bench-gauge"' in long_day.get("/jobs/104/hold").text
    long_day.send("/jobs/104/gauges", gauge="bench-gauge", stage="hold")
    assert "now-words" in long_day.page


def test_a_chuck_is_entered_and_changed(long_day: Hand) -> None:
    hand = long_day
    hand.get("/shop")
    assert hand.send("/shop/chucks", name="Twelve-inch", unit="in", screw_lead="0.1", most_rpm="900").status_code == 200
    assert "Twelve-inch" in hand.page
    before = re.search(r'<option value="([0-9a-f-]+)">Twelve-inch', hand.page)
    assert before
    hand.send(
        "/shop/chucks",
        name="Twelve-inch, new screws",
        unit="in",
        screw_lead="0.125",
        most_rpm="",
        supersedes_id=before[1],
    )
    assert "Twelve-inch, new screws" in hand.page
    assert "Twelve-inch</th>" not in hand.page
    refused = hand.send("/shop/chucks", name="Fast", unit="in", screw_lead="0.1", most_rpm="fast")
    assert refused.status_code == 422
    assert "is no speed of a chuck" in text(refused.text)


def test_readings_need_a_set_up_first(long_day: Hand) -> None:
    long_day.get("/")
    sent = long_day.send("/jobs", title="Nothing set up", partner_kind="shaft", unit="in", asked="")
    base = str(sent.url.path).replace("/mate", "/hold")
    assert "Nothing is set up to be trued." in text(long_day.send(f"{base}/readings", size="0.01", place="jaw 1").text)


def test_every_round_is_in_the_data_package(long_day: Hand) -> None:
    with zipfile.ZipFile(io.BytesIO(long_day.get("/jobs/110/record.zip").content)) as box:
        rows = list(csv.DictReader(io.StringIO(box.read("truing_rounds.csv").decode())))
        schema = {one["name"]: one for one in json.loads(box.read("datapackage.json"))["resources"]}["truing_rounds"][
            "schema"
        ]
    assert [row["tightened"] for row in rows] == ["false", "false", "false", "true"]
    assert rows[0]["readings"] == "-0.0010 0.0120 0.0170 0.0040"
    assert float(rows[0]["total_indicator_reading_mm"]) > float(rows[-1]["total_indicator_reading_mm"])
    assert {one["name"]: one["type"] for one in schema["fields"]}["round"] == "integer"


def test_a_set_up_anew_starts_from_the_one_before_and_keeps_its_rounds(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Set up twice", use="own", target="0.002", needle_turn="0.1")
    read(hand, base, "0.012 0.006 0 0.006")
    hand.get(f"{base}?anew=true")
    assert 'value="0.002 in"' in hand.page
    assert 'value="0.1 in"' in hand.page
    chuck = re.search(r'<option value="([0-9a-f-]+)" selected>Eight-inch four-jaw', hand.page)
    lever = re.search(r'<option value="([0-9a-f-]+)" selected>Lever indicator', hand.page)
    assert chuck
    assert lever
    hand.send(f"{base}/set-up", **{**SET_UP, "chuck_id": chuck[1], "instrument_id": lever[1], "surface": "bore"})
    assert words(hand) == "Read jaw 1"
    assert "1 earlier set-up of this job" in text(hand.page)
    record = json.loads(hand.get(base.replace("hold", "record.json")).text)
    assert [one["surface"] for one in record["truings"]] == ["a round outside", "a round bore"]
    assert len(record["truings"][0]["rounds"]) == 1


def test_a_reading_after_ready_takes_ready_back(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Ready, then not")
    read(hand, base, "0.0060 0.0060 0.0060 0.0060")
    read(hand, base, "0.0060 0.0061 0.0060 0.0059", tightened="tight")
    hand.send(f"{base}/ready", **dict.fromkeys(("key_out", "clear", "tight", "by_hand", "first_start"), "yes"))
    assert words(hand) == "Ready to cut"
    read(hand, base, "0.0090 0.0060 0.0030 0.0060", tightened="tight")
    assert words(hand) == "Ease jaw 3, drive jaw 1"


def test_the_newest_round_can_be_set_aside_and_read_again(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Bumped")
    read(hand, base, "0.012 0.006 0 0.006")
    hand.send(f"{base}/round", what="set_aside")
    assert words(hand) == "Read jaw 1"
    refused = hand.send(f"{base}/round", what="burnt")
    assert refused.status_code == 422
    read(hand, base, "0.008 0.006 0.004 0.006")
    assert "4.00 thou" in text(hand.page)


def test_two_keys_are_turned_together(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Two keys", keys="two")
    read(hand, base, "0.012 0.006 0 0.006")
    assert "Both keys together: ease jaw 3, drive jaw 1" in text(hand.page)


def test_a_coarse_indicator_is_said_to_be_too_coarse(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Coarse", use="bearing_seat", graduation="0.001")
    read(hand, base, "0.0003 0.0001 0 0.0001")
    assert words(hand) == "Use a finer indicator"


def test_pins_in_tooth_spaces_are_read_where_the_teeth_are(long_day: Hand) -> None:
    hand, base = long_day, start(long_day, "Gear blank", surface="pins", teeth="27")
    read(hand, base, "0.004 0.002 0 0.002")
    assert words(hand).startswith("Ease jaw")
    record = json.loads(hand.get(base.replace("hold", "record.json")).text)
    assert record["truings"][0]["surface"] == "pins in tooth spaces"


def test_only_the_part_that_others_change_is_sent_when_it_is_asked_for(long_day: Hand) -> None:
    seen = long_day.get("/jobs/110/hold?part=seen").text
    assert seen.lstrip().startswith("<section")
    assert "now-words" not in seen
    assert 'id="seen"' in seen


@pytest.mark.parametrize(
    ("path", "words_there"),
    [
        ("/soft-jaws", "Bore the jaws to"), ("/throw", "twice the throw"), ("/clean-up", "cleans up"),
        ("/speeds", "rpm"), ("/hole", "39/64"),
        ("/shoulder", "faces out in one sweep"), ("/deflection", "asks for a centre"),
    ],
)  # fmt: skip
def test_the_new_worksheets_answer_at_once(long_day: Hand, path: str, words_there: str) -> None:
    assert words_there in text(long_day.get(path).text)


@pytest.mark.parametrize(
    ("path", "sentence"),
    [
        ("/soft-jaws?held=round", "is not understood as a size"),
        ("/throw?throw=0.1&diameter=1&more=0.1+at+noon", "is not a throw with its direction"),
        ("/throw?throw=0.1&diameter=1&speed_rpm=900&chuck_rpm=500", "above the 500 rpm marked"),
        ("/speeds?diameter=1&speeds=fast", "is no list of speeds"),
        ("/hole?finished=9", "No twist drill goes before"),
        ("/shoulder?length=1&from_diameter=1&to_diameter=2", "from the larger diameter to the smaller"),
        ("/clean-up?stock=1.388", "Still needed: Size it must give."),
        ("/deflection?diameter=1&overhang=4&bore=2", "The hole is not smaller than the round."),
    ],
)
def test_a_worksheet_asked_for_nonsense_has_its_sentence(long_day: Hand, path: str, sentence: str) -> None:
    assert sentence in text(long_day.get(path).text)


def test_the_swing_of_a_tight_round_is_logged_as_the_runout_of_the_part(long_day: Hand) -> None:
    started = long_day.send(
        "/jobs", title="Trued only", partner_kind="none", unit="in", lines="od 1.000 ±.010\nrunout .002"
    )
    found = re.search(r"/jobs/(\d+)/", str(started.url))
    assert found
    base = f"/jobs/{found[1]}/hold"
    page = long_day.get(f"{base}?by=needle").text
    chuck = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Eight-inch four-jaw', page)
    lever = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Lever indicator', page)
    assert chuck
    assert lever
    set_up = {**SET_UP, "chuck_id": chuck[1], "instrument_id": lever[1], "feature": "A"}
    assert long_day.send(f"{base}/set-up", **set_up).status_code == 200
    assert long_day.send(f"{base}/set-up", **{**set_up, "feature": "Q"}).status_code == 422
    read(long_day, base, "0 .0002 .0003 .0001")
    assert "as runout B" not in words(long_day)
    assert long_day.send(f"{base}/runout").status_code == 422
    page = read(long_day, base, "0 .0002 .0003 .0001", tightened="tight").text
    assert "as runout B" in text(page)
    kept = long_day.send(f"{base}/runout")
    assert kept.status_code == 200
    record = long_day.get(f"/jobs/{found[1]}/record.json").json()
    (reading,) = record["readings"]
    assert (reading["feature"], reading["entered"], record["truings"][0]["feature"]) == ("B", "0.0003 in", "A")
    assert "as runout B" not in text(long_day.get(base).text)
    handed = {"kind": "handed_over", "note": "trued only: one circle is what was asked"}
    read(long_day, base, "0", place="jaw 1")  # what was read after does not matter to the part
    assert (
        long_day.send(f"/jobs/{found[1]}/withdraw?feature=A", what="withdraw", reason="held by its skin").status_code
        == 200
    )
    assert long_day.send(f"/jobs/{found[1]}/events", **handed).status_code == 200
    assert "Handed over" in text(long_day.get(f"/jobs/{found[1]}/record").text)
