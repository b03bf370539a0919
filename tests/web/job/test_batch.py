"""A batch through its page: pieces, plan, first off, decisions; and what is decided about a part that is out."""

import re
from collections.abc import Callable

import pytest

from tests.web.conftest import Hand
from tests.web.shop.test_instruments import log, readings, start

MIC = "0–25 mm micrometer"


def batch(hand: Hand, title: str, *, pieces: str = "3", **more: str) -> int:
    """Pins of 12 g6 (11.983 to 11.994), several of them."""
    number = start(hand, title)
    hand.get(f"/jobs/{number}/batch")
    hand.send(f"/jobs/{number}/plan", **{"pieces": pieces, "measuring_plan": "one", "acceptance": "guarded", **more})
    return number


def decide(hand: Hand, number: int, kind: str, reason: str = "it will do", piece: str = "") -> int:
    hand.get(f"/jobs/{number}/decide?piece={piece}")
    response = hand.send(f"/jobs/{number}/dispositions", kind=kind, reason=reason, piece=piece)
    if response.status_code >= 400:
        hand.page = response.text
    return int(response.status_code)


def chosen_piece(hand: Hand, number: int) -> str:
    hand.get(f"/jobs/{number}/measure")
    found = re.search(r'<option value="([^"]+)" selected>\1</option>', hand.page)
    assert found
    return found[1]


def test_the_next_piece_is_proposed_when_one_is_done(orla: Hand) -> None:
    number = batch(orla, "Next piece")
    assert chosen_piece(orla, number) == "1"
    log(orla, number, "11.989", MIC, piece="1")
    assert chosen_piece(orla, number) == "2"
    log(orla, number, "12.100", MIC, piece="2")
    assert chosen_piece(orla, number) == "2"  # metal to go: it is cut again first
    log(orla, number, "11.989", MIC, piece="2", cut_since="cut")
    assert chosen_piece(orla, number) == "3"


def test_every_piece_is_judged_by_its_own_last_cut(orla: Hand) -> None:
    number = batch(orla, "Own cuts")
    log(orla, number, "12.050", MIC, piece="1")
    log(orla, number, "11.989", MIC, piece="1", cut_since="cut")
    log(orla, number, "11.970", MIC, piece="2")
    orla.get(f"/jobs/{number}/batch")
    assert re.search(r"1 of 3", orla.page)
    assert "gone too far" in orla.page
    orla.get("/")
    assert re.search(
        rf"{number}</span>\s*<span class=\"job-title\">Own cuts</span>\s*<span class=\"job-next\">Gone too far",
        orla.page,
    )


def test_a_batch_has_its_chart_and_says_when_it_drifts(orla: Hand) -> None:
    number = batch(orla, "Drifting", pieces="8")
    for piece in range(1, 7):
        log(orla, number, f"11.{985 + piece}", MIC, piece=str(piece))
    orla.get(f"/jobs/{number}/batch?subgroup=2")
    assert 'class="figure run-chart"' in orla.page
    assert "past the upper limit in about" in orla.page
    assert "Cpk" in orla.page


@pytest.mark.parametrize(
    ("fields", "sentence"),
    [
        ({"pieces": "none"}, "is not a number of pieces"),
        ({"pieces": "0"}, "is not a number of pieces"),
        ({"measuring_plan": "by eye"}, "is not one of the choices"),
        ({"pieces": "1"}, "pieces are measured already"),
    ],
)
def test_a_plan_that_cannot_be_is_refused(orla: Hand, fields: dict[str, str], sentence: str) -> None:
    number = batch(orla, f"Refused {sentence}")
    for piece in ("1", "2"):
        log(orla, number, "11.989", MIC, piece=piece)
    orla.get(f"/jobs/{number}/batch")
    plan = {"pieces": "3", "measuring_plan": "one", "acceptance": "guarded", **fields}
    response = orla.send(f"/jobs/{number}/plan", **plan)
    assert response.status_code == 422
    assert sentence in response.text


def test_simple_acceptance_takes_what_guarded_finds_too_close(orla: Hand) -> None:
    number = start(orla, "Simple")
    log(orla, number, "11.993", MIC)
    assert readings(orla, number)[0]["verdict_now"] == "too close to call"
    orla.get(f"/jobs/{number}/measure")
    assert "% in limits, from this reading alone" in re.sub(r"<[^>]+>", "", orla.page)
    orla.get(f"/jobs/{number}/batch")
    orla.send(f"/jobs/{number}/plan", pieces="1", measuring_plan="full", acceptance="simple")
    assert readings(orla, number)[0]["verdict_now"] == "in limits"


def test_the_lead_approves_the_first_off(orla: Hand, hands: Callable[..., Hand]) -> None:
    number = batch(orla, "First off")
    log(orla, number, "11.989", MIC, piece="1")
    orla.get(f"/jobs/{number}/batch")
    assert "The first off is not approved yet" in orla.page
    assert decide(orla, number, "approve_first_off", piece="1") == 403
    bram = hands("bram")
    assert decide(bram, number, "approve_first_off", reason="", piece="1") == 200
    orla.get(f"/jobs/{number}/batch")
    assert "First off, piece 1, approved by Bram Otterholt" in orla.page


def test_only_the_lead_uses_it_as_is_and_it_is_tied_to_its_readings(orla: Hand, hands: Callable[..., Hand]) -> None:
    number = start(orla, "Used as is")
    log(orla, number, "11.975", MIC)
    assert decide(orla, number, "use_as_is") == 403
    assert "is decided by the lead" in orla.page
    bram = hands("bram")
    assert decide(bram, number, "use_as_is", reason="oil film takes it up") == 200
    record = orla.client.get(f"/jobs/{number}/record.json").json()
    assert record["dispositions"][0]["readings"] == record["readings"][0]["id"]
    orla.get("/")
    assert "Decided: use as is (Bram Otterholt)." in orla.page
    orla.get(f"/jobs/{number}/record")
    assert orla.send(f"/jobs/{number}/events", kind="handed_over", note="as decided").status_code == 200
    assert "Handed over by" in re.sub(r"<[^>]+>", "", orla.page)


def test_a_new_reading_ends_a_decision(orla: Hand, hands: Callable[..., Hand]) -> None:
    number = start(orla, "Measured again")
    log(orla, number, "11.975", MIC)
    decide(hands("bram"), number, "use_as_is")
    log(orla, number, "11.974", MIC)
    orla.get("/")
    assert re.search(r"Measured again</span>\s*<span class=\"job-next\">Gone too far: someone has to decide", orla.page)


def test_remaking_the_partner_opens_make_to_suit_with_the_numbers(orla: Hand) -> None:
    number = start(orla, "Remake")
    log(orla, number, "11.975", MIC)
    assert decide(orla, number, "remake_partner") == 200
    assert 'value="11.975 mm"' in orla.page
    assert "Make to suit" in orla.page


@pytest.mark.parametrize(
    ("kind", "reason", "sentence"),
    [("cut_again", "why not", "is no way on for a piece that is gone too far"),
     ("sleeve", "", "Nothing was entered"), ("pray", "x", "is not one of the choices")],
)  # fmt: skip
def test_a_way_that_is_none_is_refused(orla: Hand, kind: str, reason: str, sentence: str) -> None:
    number = start(orla, f"No way {kind}")
    log(orla, number, "11.975", MIC)
    assert decide(orla, number, kind, reason=reason) == 422
    assert sentence in orla.page


def test_nothing_measured_is_nothing_to_decide(orla: Hand) -> None:
    number = start(orla, "Nothing yet")
    orla.get(f"/jobs/{number}/decide")
    assert "there is nothing to decide" in orla.page
    assert decide(orla, number, "scrap") == 422
