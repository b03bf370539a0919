"""A reading that is not what was to be expected is asked about; confirmed or typed again, both are kept."""

import re

import pytest

from tests.web.conftest import Hand
from tests.web.parts import mated


def start(hand: Hand, title: str) -> int:
    """A shaft to be turned to 0.8744/0.8750 in, its bore called out."""
    return mated(hand, title, ("bore", "0.8755/0.8760"), ("slides_by_hand", "Shop rule"), unit="in")


def log(hand: Hand, number: int, size: str, cut: str = "not", **more: str) -> int:
    hand.get(f"/jobs/{number}/measure")
    return again(hand, number, size, cut, **more)


def again(hand: Hand, number: int, size: str, cut: str = "not", **more: str) -> int:
    fields = {
        "size": size,
        "place": "near end 0°",
        "instrument_id": hand.instrument("0–1 in micrometer"),
        "cut_since": cut,
        **more,
    }
    response = hand.send(f"/jobs/{number}/measure/readings", **fields)
    if response.status_code == 422:
        hand.page = response.text
    return int(response.status_code)


def suspect_id(hand: Hand) -> str:
    found = re.search(r'name="suspect_id" value="([^"]+)"', hand.page)
    assert found
    return found[1]


def sizes(hand: Hand, number: int) -> list[str]:
    return [row["entered"] for row in hand.client.get(f"/jobs/{number}/record.json").json()["readings"]]


def test_one_turn_of_the_thimble_is_asked_about_and_the_true_reading_logged(orla: Hand) -> None:
    number = start(orla, "One turn")
    assert log(orla, number, ".9012") == 200
    assert log(orla, number, ".9262") == 422
    assert "off by one turn of the thimble" in orla.page
    assert ".9262 it is: log it" in orla.page
    assert sizes(orla, number) == [".9012"]
    assert again(orla, number, ".9013", suspect_id=suspect_id(orla)) == 200
    saved = orla.client.get(f"/jobs/{number}/record.json").json()["readings"][-1]
    assert saved["entered"] == ".9013"
    assert saved["asked_first"].startswith(".9262: Read again")


def test_the_same_reading_again_is_believed(orla: Hand) -> None:
    number = start(orla, "It is so")
    log(orla, number, ".9012")
    assert log(orla, number, ".9512") == 422
    assert again(orla, number, ".9512", suspect_id=suspect_id(orla)) == 200
    assert sizes(orla, number) == [".9012", ".9512"]


def test_another_doubtful_size_is_asked_about_anew(orla: Hand) -> None:
    number = start(orla, "Twice wrong")
    log(orla, number, ".9012")
    assert log(orla, number, ".9512") == 422
    assert again(orla, number, ".8012", suspect_id=suspect_id(orla)) == 422
    assert sizes(orla, number) == [".9012"]


def test_after_a_cut_the_dial_says_what_to_expect(orla: Hand) -> None:
    number = start(orla, "By the dial")
    log(orla, number, ".9750")
    assert log(orla, number, ".9510", "cut", dialled=".050") == 422
    assert "it would be 0.9250 in" in orla.page or "off by one turn" in orla.page
    assert log(orla, number, ".9262", "cut", dialled=".050") == 200


def test_a_shaft_larger_after_a_cut_than_before_is_asked_about(orla: Hand) -> None:
    number = start(orla, "It grew")
    log(orla, number, ".9012")
    assert log(orla, number, ".9112", "cut") == 422
    assert "a cut only takes metal off" in orla.page


@pytest.mark.parametrize("size", [".8990", ".8760", ".8747"])
def test_an_ordinary_cut_is_not_asked_about(orla: Hand, size: str) -> None:
    number = start(orla, f"Ordinary {size}")
    log(orla, number, ".9012")
    assert log(orla, number, size, "cut") == 200


def test_the_partners_places_are_held_against_each_other(orla: Hand) -> None:
    orla.get("/")
    orla.send("/jobs", title="Partner misread", asked="", unit="in", partner_kind="shaft")
    found = re.search(r"/jobs/(\d+)/mate", orla.page)
    assert found
    path = f"/jobs/{found[1]}/mate"
    for size, status in ((".8742", 200), (".8743", 200), (".8472", 422)):
        orla.get(path)
        fields = {"size": size, "place": "near end 0°", "instrument_id": orla.instrument("0–1 in micrometer")}
        response = orla.send(f"{path}/readings", **fields)
        assert response.status_code == status
    assert "off by two digits exchanged" in response.text


def test_a_dial_that_would_leave_nothing_is_refused(orla: Hand) -> None:
    number = start(orla, "Too deep")
    log(orla, number, ".9012")
    assert log(orla, number, ".8900", "cut", dialled="2") == 422
    assert "would leave nothing" in orla.page


def test_oval_work_is_asked_about_once_and_not_after_every_cut(orla: Hand) -> None:
    number = start(orla, "Oval bar")
    assert log(orla, number, ".9012") == 200
    assert log(orla, number, ".9092", place="near end 90°") == 422
    assert again(orla, number, ".9092", place="near end 90°", suspect_id=suspect_id(orla)) == 200
    assert log(orla, number, ".8902", "cut") == 200
    assert log(orla, number, ".8981", place="near end 90°") == 200
