"""The lead's gate: what judges a piece that is out, and a job that is closed, changes for nobody by a side door."""

import json
from collections.abc import Callable

from starlette.testclient import TestClient

from tests.web.conftest import Hand
from tests.web.doors import doors_of
from tests.web.job.test_batch import decide
from tests.web.shop.test_instruments import log, readings, start

MIC = "0–25 mm micrometer"
PLAN = {"pieces": "1", "measuring_plan": "one"}


def gone_too_far(hand: Hand, title: str) -> int:
    """A job whose shaft is well under its limits."""
    number = start(hand, title)
    log(hand, number, "11.960", MIC)
    assert verdict_of(hand, number) == "gone too far"
    return number


def verdict_of(hand: Hand, number: int) -> str:
    return str(readings(hand, number)[-1]["verdict_now"])


def choose(hand: Hand, number: int, **more: str) -> int:
    hand.get(f"/jobs/{number}/mate?function=slides_by_hand")
    fields = {"function": "slides_by_hand", "option": "Shop rule", "based_on_version": "1", **more}
    return int(hand.send(f"/jobs/{number}/limits", **fields).status_code)


def plan(hand: Hand, number: int, **more: str) -> int:
    hand.get(f"/jobs/{number}/batch")
    return int(hand.send(f"/jobs/{number}/plan", **{**PLAN, "acceptance": "simple", **more}).status_code)


def test_limits_and_acceptance_wait_for_the_lead_once_a_piece_is_out(hands: Callable[..., Hand]) -> None:
    orla, pim, bram = hands("orla"), hands("pim"), hands("bram")
    number = gone_too_far(orla, "Out of limits")
    for hand in (orla, pim):
        assert choose(hand, number) == 403
        assert plan(hand, number) == 403
        assert choose(hand, number, judge_reason="it is fine") == 403
    assert verdict_of(orla, number) == "gone too far"
    assert choose(bram, number) == 422, "the lead says why"
    assert plan(bram, number) == 422
    assert choose(bram, number, judge_reason="the partner is worn, agreed with who sent it") == 200
    assert plan(bram, number, judge_reason="as agreed") == 200
    record = bram.client.get(f"/jobs/{number}/record.json").json()
    assert record["limits"][-1]["reason"] == "the partner is worn, agreed with who sent it"
    assert ("acceptance", "simple", "as agreed") in [
        (row["name"], row["value"], row["reason"]) for row in record["choices"]
    ]
    assert "agreed with who sent it" in bram.get(f"/jobs/{number}/record").text


def test_pages_offer_no_button_that_would_be_refused(hands: Callable[..., Hand]) -> None:
    orla, bram = hands("orla"), hands("bram")
    number = gone_too_far(orla, "No button")
    assert "Work to these" not in orla.get(f"/jobs/{number}/mate?function=slides_by_hand").text
    assert "Only the lead does that" in orla.page
    assert "Keep it so" not in orla.get(f"/jobs/{number}/batch").text
    assert 'name="judge_reason"' in bram.get(f"/jobs/{number}/mate?function=slides_by_hand").text
    assert 'name="judge_reason"' in bram.get(f"/jobs/{number}/batch").text


def test_what_was_decided_stays_the_leads_after_it(hands: Callable[..., Hand]) -> None:
    orla, bram = hands("orla"), hands("bram")
    number = gone_too_far(orla, "Decided")
    assert decide(bram, number, "use_as_is", reason="a loose fit does here") == 200
    assert choose(orla, number) == 403


def test_a_reading_that_says_gone_too_far_is_not_an_apprentices_to_withdraw(hands: Callable[..., Hand]) -> None:
    orla, pim = hands("orla"), hands("pim")
    number = gone_too_far(orla, "Withdrawn away")
    address = f"/jobs/{number}/readings/{readings(orla, number)[-1]['id']}/correct"
    assert "Write it" not in pim.get(address).text
    assert pim.send(address, what="withdraw", reason="it is fine").status_code == 403
    assert verdict_of(orla, number) == "gone too far"
    orla.get(address)
    assert orla.send(address, what="replace", size="11.990", reason="transposed").status_code == 200
    assert verdict_of(orla, number) == "in limits"


def test_what_the_shop_decides_later_does_not_judge_old_work_anew(hands: Callable[..., Hand]) -> None:
    orla = hands("orla")
    number = start(orla, "Judged by the rule of then")
    log(orla, number, "11.993", MIC)
    assert verdict_of(orla, number) == "too close to call"
    settings = {"fit_system": "make_to_suit", "aim": "middle", "confidence_percent": "95"}
    orla.get("/shop/rules")
    assert orla.send("/shop/settings", **settings, acceptance="simple").status_code == 200
    assert verdict_of(orla, number) == "too close to call"
    younger = start(orla, "By the rule of now")
    log(orla, younger, "11.993", MIC)
    assert verdict_of(orla, younger) == "in limits"
    orla.get("/shop/rules")
    orla.send("/shop/settings", **settings, acceptance="guarded")


def test_a_closed_job_is_closed_for_every_door(hands: Callable[..., Hand], running: TestClient) -> None:
    orla, bram = hands("orla"), hands("bram")
    number = start(orla, "Closed")
    for place in ("near end 0°", "far end 0°"):
        log(orla, number, "11.989", MIC, place=place)
    bram.get(f"/jobs/{number}/record")
    bram.send(f"/jobs/{number}/events", kind="handed_over", note="as it is", short="yes")
    before = bram.client.get(f"/jobs/{number}/record.json").text
    assert json.loads(before)["events"][-1]["kind"] == "handed_over"
    reading = json.loads(before)["readings"][0]["id"]
    doors = [
        path
        for method, path in doors_of(running.app)
        if method == "POST" and path.startswith("/jobs/{number}/") and not path.endswith("/events")
    ]
    assert len(doors) > 15
    for door in doors:
        bram.get(f"/jobs/{number}/record")
        response = bram.send(door.format(number=number, reading_id=reading, set_up="right"))
        assert (door, response.status_code) == (door, 422)
        assert "handed over" in response.text, door
    assert bram.client.get(f"/jobs/{number}/record.json").text == before
