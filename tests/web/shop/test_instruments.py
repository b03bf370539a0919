"""Instruments through their pages: entered by kind, checked, corrected for, put in doubt, due."""

import re
from collections.abc import Callable
from decimal import Decimal

import icalendar
import pytest

from nomisma.core.quantity.writing import parse_length
from tests.web.conftest import Hand
from tests.web.parts import mated

FIGURES = {
    "measures": "shaft",
    "unit": "mm",
    "resolution": "0.001",
    "permitted_error": "0.002",
    "repeatability": "0.0005",
}


def enter(hand: Hand, name: str, **more: str) -> str:
    """A micrometer; the address of its page."""
    hand.get("/shop/instruments/new")
    assert hand.send("/shop/instruments", name=name, **{**FIGURES, **more}).status_code == 200
    return address(hand, name)


def address(hand: Hand, name: str) -> str:
    hand.get("/shop")
    found = re.search(rf'href="(/shop/instruments/[0-9a-f-]+)">{re.escape(name)}<', hand.page)
    assert found
    return found[1]


def start(hand: Hand, title: str) -> int:
    """A shaft to be turned to 12 g6 in mm."""
    return mated(hand, title, ("bore", "12 H7"), ("slides_by_hand", "H7/g6"), unit="mm")


def log(hand: Hand, number: int, size: str, instrument: str, **more: str) -> int:
    hand.get(f"/jobs/{number}/measure")
    fields = {
        "size": size,
        "place": "near end 0°",
        "instrument_id": hand.instrument(instrument),
        "cut_since": "not",
        **more,
    }
    response = hand.send(f"/jobs/{number}/measure/readings", **fields)
    if response.status_code == 422:
        hand.page = response.text
    return int(response.status_code)


def readings(hand: Hand, number: int) -> list[dict[str, object]]:
    found: list[dict[str, object]] = hand.client.get(f"/jobs/{number}/record.json").json()["readings"]
    return found


def test_a_kind_brings_its_usual_values_and_says_which_are_recalled(orla: Hand) -> None:
    orla.get("/shop/instruments/new?kind=micrometer_microns")
    assert 'name="permitted_error" value="0.004"' in orla.page
    assert "is recalled from the standard, not looked up" in orla.page
    assert orla.get("/shop/instruments/new?kind=laser").status_code == 422


def test_a_zero_error_is_taken_off_the_readings_after_it(orla: Hand) -> None:
    path = enter(orla, "Zero mic")
    number = start(orla, "Zero job")
    log(orla, number, "11.990", "Zero mic")
    orla.get(path)
    orla.send(f"{path}/checks", standard="0", read="0.001 0.001 0.002")
    assert "is taken off every reading from here on" in orla.page
    log(orla, number, "11.990", "Zero mic", place="far end 0°")
    before, after = readings(orla, number)
    assert before["size_mm"] == "11.990000000000"
    assert str(after["size_mm"]).startswith("11.98866666")
    assert after["entered"] == "11.990"
    orla.get(f"/jobs/{number}/measure")
    assert "Zero check" in orla.page
    assert "taken off" in orla.page


def test_a_failed_check_puts_what_came_before_in_doubt_and_lists_the_jobs(orla: Hand) -> None:
    path = enter(orla, "Dropped mic")
    number = start(orla, "Doubtful job")
    orla.get(path)
    orla.send(f"{path}/checks", standard="0", read="0.000")
    log(orla, number, "11.990", "Dropped mic")
    orla.get(path)
    orla.send(f"{path}/checks", standard="0", read="0.006", note="dropped")
    assert "Every reading since the last good check is in doubt" in orla.page
    assert f'href="/jobs/{number}/measure">Job {number}, Doubtful job</a>: 1 reading' in orla.page
    orla.get(f"/jobs/{number}/measure")
    assert "1 reading here is in doubt" in orla.page
    assert "Failed its check" in orla.page
    refused = orla.send(f"/jobs/{number}/events", kind="handed_over", note="")
    assert refused.status_code == 403
    assert "Readings of this job are in doubt" in refused.text
    assert readings(orla, number)[0]["calibration_failed"] is True


def test_a_good_check_ends_the_doubt_for_what_follows(orla: Hand) -> None:
    path = enter(orla, "Mended mic")
    number = start(orla, "After the mending")
    for read in ("0.009", "0.000"):
        orla.get(path)
        orla.send(f"{path}/checks", standard="0", read=read)
    log(orla, number, "11.990", "Mended mic")
    assert readings(orla, number)[0]["calibration_failed"] is False


@pytest.mark.parametrize(
    ("fields", "sentence"),
    [
        ({"standard": "0", "read": ""}, "Nothing was entered"),
        ({"standard": "0", "read": "cheese"}, "is not understood as a size"),
        ({"standard": "25", "read": "0.001"}, "misread turn or another standard"),
        ({"standard": "", "read": "0.001"}, "Nothing was entered"),
    ],
)
def test_a_check_that_is_none_is_refused(orla: Hand, fields: dict[str, str], sentence: str) -> None:
    path = enter(orla, f"Refused {len(sentence)} {len(str(fields))}")
    orla.get(path)
    response = orla.send(f"{path}/checks", **fields)
    assert response.status_code == 422
    assert sentence in response.text


def test_a_change_supersedes_and_keeps_what_was_true_of_readings(orla: Hand) -> None:
    path = enter(orla, "Changed mic")
    number = start(orla, "Before the change")
    log(orla, number, "11.990", "Changed mic")
    worth = readings(orla, number)[0]["uncertainty_mm"]
    orla.get(f"{path}/change")
    orla.send(f"{path}/change", name="Changed mic", **{**FIGURES, "permitted_error": "0.006"})
    assert "How it was before" in orla.page
    assert readings(orla, number)[0]["uncertainty_mm"] == worth
    log(orla, number, "11.991", "Changed mic")
    assert float(str(readings(orla, number)[1]["uncertainty_mm"])) > float(str(worth))


def test_a_reading_sent_from_a_page_older_than_the_change_is_taken_with_the_instrument_as_it_is_now(orla: Hand) -> None:
    path = enter(orla, "Old page mic")
    number = start(orla, "Old page")
    orla.get(f"/jobs/{number}/measure")
    before = orla.instrument("Old page mic")
    orla.get(f"{path}/change")
    orla.send(f"{path}/change", name="Old page mic", **{**FIGURES, "permitted_error": "0.006"})
    fields = {"size": "11.990", "place": "near end 0°", "instrument_id": before, "cut_since": "not"}
    assert orla.send(f"/jobs/{number}/measure/readings", **fields).status_code == 200
    assert float(str(readings(orla, number)[0]["uncertainty_mm"])) > 0.006


@pytest.mark.parametrize(
    ("more", "sentence"),
    [
        ({"range_from": "25", "range_to": "0"}, "The range ends before it begins"),
        ({"due_on": "tomorrow"}, "is not a day"),
        ({"kind": "laser"}, "is not a kind of instrument here"),
        ({"repeatability": "-1"}, "A spread is never below zero"),
        ({"measures": "angles"}, "is not one of the choices"),
    ],
)
def test_an_instrument_that_cannot_be_is_refused(orla: Hand, more: dict[str, str], sentence: str) -> None:
    orla.get("/shop/instruments/new")
    response = orla.send("/shop/instruments", name="No such", **{**FIGURES, **more})
    assert response.status_code == 422
    assert sentence in response.text


def test_a_size_outside_its_range_is_not_one_it_read(orla: Hand) -> None:
    enter(orla, "Short mic", range_from="0", range_to="12.5")
    number = start(orla, "Out of range")
    assert log(orla, number, "12.990", "Short mic") == 422
    assert "is outside what Short mic reads (0 to 12.5 mm)" in orla.page
    enter(orla, "Shorter mic", range_from="0", range_to="10")
    assert "Shorter mic" not in orla.get(f"/jobs/{number}/measure").text


def test_due_days_go_to_a_calendar(orla: Hand) -> None:
    enter(orla, "Due mic", due_on="2027-03-01")
    text = orla.client.get("/shop/instruments/due.ics").text
    events = [event for event in icalendar.Calendar.from_ical(text).walk("VEVENT") if "Due mic" in event["summary"]]
    assert len(events) == 1
    assert str(events[0]["dtstart"].dt) == "2027-03-01"


def test_an_apprentice_checks_but_does_not_change(orla: Hand, hands: Callable[..., Hand]) -> None:
    path = enter(orla, "Apprentice mic")
    pim = hands("pim")
    assert pim.get(f"{path}/change").status_code == 403
    pim.get(path)
    assert pim.send(f"{path}/checks", standard="0", read="0.000").status_code == 200
    assert pim.get("/shop/instruments/00000000-0000-0000-0000-000000000000").status_code == 404


def test_a_job_in_doubt_says_so_on_the_bench(orla: Hand) -> None:
    orla.get("/?q=drawtube")
    assert "Camera drawtube" in orla.page
    assert "In doubt: an instrument failed its check." in orla.page


def test_an_old_reading_is_worth_what_the_check_of_then_made_it(orla: Hand) -> None:
    path = enter(orla, "Twice checked mic")
    number = start(orla, "Check of then")
    orla.get(path)
    orla.send(f"{path}/checks", standard="0", read="0.000")
    log(orla, number, "11.990", "Twice checked mic")
    orla.get(path)
    orla.send(f"{path}/checks", standard="0", read="0.001")
    orla.get(f"/jobs/{number}/measure")
    found = re.search(r'href="(/jobs/\d+/readings/[0-9a-f-]+/correct)"', orla.page)
    assert found
    orla.get(found[1])
    orla.send(found[1], what="replace", size="11.991", reason="slipped")
    first, corrected = readings(orla, number)
    assert corrected["uncertainty_mm"] == first["uncertainty_mm"]
    assert str(corrected["size_mm"]).startswith("11.991")


@pytest.mark.parametrize(
    ("kind", "unit", "range_from", "range_to", "standard", "hint"),
    [
        ("micrometer_thou", "in", "1", "2", "1.0000 in", "the size of its standard"),
        ("micrometer_microns", "mm", "0", "25", "0", "0 where its faces close"),
        ("bore_gauge", "in", "0.7", "1.5", "", "marked on its setting ring"),
    ],
)
def test_a_check_is_offered_on_the_standard_of_its_kind(
    orla: Hand, kind: str, unit: str, range_from: str, range_to: str, standard: str, hint: str
) -> None:
    orla.get(f"/shop/instruments/new?kind={kind}")
    orla.send(
        "/shop/instruments",
        kind=kind,
        name=f"Offered {kind}",
        measures="bore" if "bore" in kind else "shaft",
        unit=unit,
        resolution="0.001",
        permitted_error="0.001",
        repeatability="0.0005",
        range_from=range_from,
        range_to=range_to,
        standard="",
        due_on="1 Mar 2027",
    )
    orla.get(address(orla, f"Offered {kind}"))
    assert "2027-03-01" in orla.page
    offered = re.search(r'<input id="field-standard"[^>]*value="([^"]*)"', orla.page)
    assert offered
    assert offered[1] == standard
    assert hint in orla.page


def test_a_jaw_screw_may_be_said_in_threads_per_inch(orla: Hand) -> None:
    orla.send("/shop/chucks", name="Eight to the inch", unit="in", screw_lead="8 tpi", most_rpm="")
    assert "8 tpi" in orla.get("/shop").text
    assert parse_length("8 tpi").mm == Decimal("3.175")
