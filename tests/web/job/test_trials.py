"""Measure of what is tried or compared: how it went, place by place, shown, judged and on record."""

import re

from tests.web.conftest import Hand
from tests.web.parts import features, number_of, record, start


def words(hand: Hand, path: str) -> str:
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", hand.get(path).text))


def test_a_trial_is_logged_and_the_next_end_is_proposed(orla: Hand) -> None:
    number = number_of(start(orla, "trial axle wrings to slides\n28 ±0.1"))
    assert "Try it, and log how it went." in words(orla, f"/jobs/{number}/part")
    sent = orla.send(f"/jobs/{number}/measure/trials", outcome="slides", place="mouth", orientation="mark up")
    assert sent.status_code == 200
    assert 'name="place" value="far end" checked' in re.sub(r"\s+", " ", sent.text)
    (trial,) = record(orla, number)["trials"]
    assert (trial["outcome"], trial["tried_with"], trial["orientation"], trial["verdict_now"]) == (
        "slides",
        "axle",
        "mark up",
        "in limits",
    )
    assert features(orla, number)["A"]["verdict"] == "in limits"


def test_what_is_wrong_is_said_and_what_was_typed_comes_back(orla: Hand) -> None:
    number = number_of(start(orla, "trial axle slides"))
    refused = orla.send(f"/jobs/{number}/measure/trials", outcome="", place="mouth", note="felt odd")
    assert refused.status_code == 422
    assert "Nothing was entered" in refused.text
    assert "felt odd" in refused.text
    assert orla.send(f"/jobs/{number}/measure/trials", outcome="alike", place="mouth").status_code == 422
    assert record(orla, number)["trials"] == []


def test_a_reading_of_what_is_tried_is_refused(orla: Hand) -> None:
    number = number_of(start(orla, "trial axle slides"))
    orla.get("/verdict")
    instrument = orla.instrument("150 mm caliper")
    refused = orla.send(f"/jobs/{number}/measure/readings", size="25", place="mouth", instrument_id=instrument)
    assert refused.status_code == 422


def test_too_loose_is_decided_about_without_a_size(orla: Hand) -> None:
    number = number_of(start(orla, "trial axle slides"))
    orla.send(f"/jobs/{number}/measure/trials", outcome="drops", place="mouth")
    page = words(orla, f"/jobs/{number}/decide")
    assert "gone too far" in page
    assert "drops in" in page
    assert "what its mate would have" not in page


def test_every_page_of_such_a_job_opens(orla: Hand) -> None:
    number = number_of(start(orla, "trial axle slides\nRa 0.8\nrunout 0.02\ntaper 1:20 over 40 ±0.02"))
    for letter in "ABCD":
        for stage in ("part", "hold", "measure", "batch", "decide", "import", "readings", "record"):
            assert orla.get(f"/jobs/{number}/{stage}?feature={letter}").status_code == 200, (letter, stage)
