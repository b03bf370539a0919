"""Make: one step at a time, what closes it, what is refused and kept, and where the work goes on."""

import re
from typing import Any
from uuid import uuid4

import pytest

from tests.web.conftest import Hand
from tests.web.parts import log, number_of, record, start, steps_of

FLANGED = "od 24 h9 x 30 ±0.1\nod 40 ±0.1 x 10 ±0.1\nbore 12 H7 thru\nlength 40 ±0.1"
TURNED = "od 28 ±0.04 x 40 ±0.2"
STOCK = {"held": "bar", "shape": "round", "surface": "bright", "length": "", "parting": "", "grip": "", "bore": ""}
MICROMETER = "25–50 mm micrometer"


def now(page: str) -> str:
    """What is to be done now."""
    found = re.search(r'class="now-words[^"]*">\s*([^<]+?)\s*<', page)
    assert found, page
    return found[1]


def begun(hand: Hand, lines: str = FLANGED, **stock: str) -> int:
    number = number_of(start(hand, lines))
    hand.get(f"/jobs/{number}/plan")
    hand.send(f"/jobs/{number}/plan/stock", **STOCK, **{"stock_material": "carbon_steel", "across": "", **stock})
    return number


def close(hand: Hand, number: int, key: str, **fields: str) -> Any:
    return hand.send(f"/jobs/{number}/make/close", step=key, **fields)


def read(hand: Hand, number: int, key: str, letter: str, size: str, **fields: str) -> Any:
    hand.get(f"/jobs/{number}/make?step={key}")
    place = re.search(r'name="place" value="([^"]+)"\s+checked', hand.page)
    instrument = re.search(r'<option value="([^"]+)" data-unit="\w+" selected', hand.page)
    given = {"place": place[1] if place else "0°", "instrument_id": instrument[1] if instrument else ""}
    return hand.send(
        f"/jobs/{number}/make/readings?feature={letter}",
        **given | {"step": key, "feature": letter, "size": size, "cut_since": "not", **fields},
    )


def test_a_set_up_is_looked_at_before_its_first_cut_and_then_the_first_step_stands_there(orla: Hand) -> None:
    number = begun(orla)
    page = orla.get(f"/jobs/{number}/make").text
    assert now(page) == "Before the first start"
    assert "I looked at all of it: ready to cut" in page
    orla.send(f"/jobs/{number}/make/ready", step="hold/left")
    assert now(orla.page) == "Face"
    assert [one["lathe"] for one in record(orla, number)["plan"]["set_ups"][0]["ready"]] == [""]


def test_where_the_stock_says_how_true_the_needle_is_asked_first(orla: Hand) -> None:
    number = begun(orla, across="42")
    assert now(orla.get(f"/jobs/{number}/make").text) == "Needle on it"
    refused = orla.send(f"/jobs/{number}/make/swing", step="hold/left", runout="a little")
    assert refused.status_code == 422
    assert 'value="a little"' in refused.text
    orla.send(f"/jobs/{number}/make/swing", step="hold/left", runout="3 mm")
    assert "swings" in orla.page
    refused = orla.send(f"/jobs/{number}/make/ready", step="hold/left")
    assert refused.status_code == 422, "it swings too much, and nobody said why it is started so"
    orla.get(f"/jobs/{number}/make")
    orla.send(f"/jobs/{number}/make/swing", step="hold/left", runout="0.05")
    assert now(orla.page) == "Before the first start"


def test_a_step_without_a_size_is_closed_by_one_key_and_can_be_taken_back(orla: Hand) -> None:
    number = begun(orla)
    orla.get(steps_of(orla, number)["Face"])
    close(orla, number, "1/face:")
    assert now(orla.page) == "Rough turn A, B"
    orla.get(f"/jobs/{number}/make?step=1/face:")
    assert now(orla.page) == "Done"
    close(orla, number, "1/face:", what="back")
    assert now(orla.page) == "Face"


def test_a_reading_is_judged_in_place_and_what_is_read_enough_goes_on(orla: Hand) -> None:
    number = begun(orla, TURNED)
    key = "1/turn:A"
    read(orla, number, key, "A", "28.9")
    assert "then it says how many lines" in re.sub(r"\s+", " ", orla.page)
    read(orla, number, key, "A", "28.02", cut_since="cut")
    assert now(orla.page) == "In limits: next near end 90°"
    read(orla, number, key, "A", "")
    assert "Finish turn A</strong>" not in orla.page, "what was read is enough, and the step is closed"
    (done,) = [one for one in record(orla, number)["plan"]["set_ups"][0]["operations"] if one["finds"] == ["A"]]
    assert [one["closed"] for one in done["done"]] == ["by its reading"]


def test_nothing_typed_closes_nothing_that_is_not_in_limits(orla: Hand) -> None:
    number = begun(orla, TURNED)
    refused = read(orla, number, "1/turn:A", "A", "")
    assert refused.status_code == 422
    assert "A is not in limits yet" in refused.text


def test_an_apprentice_closes_no_step_without_the_reading_it_asks_for(hands: Any) -> None:
    orla, pim = hands("orla"), hands("pim")
    number = begun(orla, TURNED)
    assert "Close it" not in pim.get(f"/jobs/{number}/make?step=1/turn:A").text
    refused = close(pim, number, "1/turn:A", what="without_reading")
    assert refused.status_code == 403
    assert "by a machinist or the lead" in refused.text
    orla.get(f"/jobs/{number}/make?step=1/turn:A")
    close(orla, number, "1/turn:A", what="without_reading")
    (done,) = [one for one in record(orla, number)["plan"]["set_ups"][0]["operations"] if one["finds"] == ["A"]]
    assert [one["closed"] for one in done["done"]] == ["without its reading"]
    assert "without its reading" in orla.get(f"/jobs/{number}/record").text


def test_a_reading_for_a_step_closed_meanwhile_is_kept_and_logged_on_purpose(orla: Hand) -> None:
    number = begun(orla, TURNED)
    orla.get(f"/jobs/{number}/make?step=1/turn:A")
    close(orla, number, "1/turn:A", what="without_reading")
    refused = read(orla, number, "1/turn:A", "A", "28.01", place="middle 0°", instrument_id=instrument(orla, number))
    assert refused.status_code == 422
    assert "is closed already, by Orla" in refused.text
    assert 'value="28.01"' in refused.text
    assert "Log it to A all the" in refused.text
    answer = read(
        orla, number, "1/turn:A", "A", "28.01", anyway="yes", place="middle 0°", instrument_id=instrument(orla, number)
    )
    assert answer.status_code == 200
    assert "28.01" in orla.get(f"/jobs/{number}/measure?feature=A").text


def instrument(hand: Hand, number: int) -> str:
    hand.get(f"/jobs/{number}/measure?feature=A")
    return hand.instrument(MICROMETER)


def test_the_same_reading_delivered_twice_is_one_and_asks_nothing(orla: Hand) -> None:
    number = begun(orla, TURNED)
    for place in ("near end 0°", "near end 90°", "middle 0°", "middle 90°", "far end 0°"):
        log(orla, number, "A", "28.01", place=place, instrument=MICROMETER)
    sent = {"client_id": str(uuid4()), "place": "far end 90°", "instrument_id": instrument(orla, number)}
    answers = [read(orla, number, "1/turn:A", "A", "28.01", **sent).status_code for _ in range(2)]
    assert answers == [200, 200]
    assert sum(one["place"] == "far end 90°" for one in record(orla, number)["readings"]) == 1


def test_a_step_of_a_plan_that_was_changed_says_so_and_keeps_what_was_typed(orla: Hand) -> None:
    number = begun(orla, TURNED)
    with_ = instrument(orla, number)
    refused = read(orla, number, "1/bore:Z", "A", "28.01", place="middle 0°", instrument_id=with_)
    assert refused.status_code == 422
    assert "not in the plan any more" in refused.text
    assert 'value="28.01"' in refused.text
    assert "That step is not in the plan any more" in orla.get(f"/jobs/{number}/make?step=1/bore:Z").text


@pytest.mark.parametrize("what", ["close", "now", "swing", "ready"])
def test_whatever_is_done_to_a_step_that_is_gone_is_refused_in_words(orla: Hand, what: str) -> None:
    number = begun(orla, TURNED)
    orla.get(f"/jobs/{number}/make")
    refused = orla.send(f"/jobs/{number}/make/{what}", step="1/bore:Z", anyway="yes", runout="0.01")
    assert refused.status_code == 422
    assert "not in the plan any more" in refused.text


def test_taken_out_of_order_it_asks_why_and_stands_there_with_its_reason(orla: Hand) -> None:
    number = begun(orla)
    orla.get(f"/jobs/{number}/make?step=1/turn:A,B")
    assert "Taken now it comes before" in orla.page
    refused = orla.send(f"/jobs/{number}/make/now", step="1/turn:A,B", now_reason="")
    assert refused.status_code == 422
    assert 'id="problem-now_reason"' in refused.text
    orla.send(f"/jobs/{number}/make/now", step="1/turn:A,B", now_reason="the face stays as it is")
    assert "Done so because: the face stays as it is" in re.sub(r"\s+", " ", orla.page)


def test_on_another_lathe_nothing_is_logged_until_the_step_was_looked_at_again(orla: Hand) -> None:
    number = begun(orla, TURNED)
    with_ = instrument(orla, number)
    shown = {"lathe": str(uuid4()), "place": "middle 0°", "instrument_id": with_}
    refused = read(orla, number, "1/turn:A", "A", "28.01", **shown)
    assert refused.status_code == 422
    assert "lines and speeds are others" in refused.text
    assert record(orla, number)["readings"] == []


def test_one_diameter_is_made_at_once(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    assert str(orla.get(f"/jobs/{number}/make").url).endswith("/make")
    assert now(orla.page).startswith("Measure the size")
    assert "steps-strip" not in orla.page
    log(orla, number, "A", "28.04")
    log(orla, number, "A", "28.04", place="90°")
    assert now(orla.get(f"/jobs/{number}/make").text) == "Done"


def test_a_gauge_that_goes_closes_its_step_and_one_that_does_not_asks_to_cut_on(orla: Hand) -> None:
    number = begun(orla, "od 30 ±0.1 x 60 ±0.2\nod 12 x 20 ±0.1\nM12x1.75 x 18 deep")
    address = next(address for title, address in steps_of(orla, number).items() if "M12" in title)
    orla.get(address)
    letter = re.search(r'name="feature" value="(\w+)"', orla.page)
    outcomes = re.findall(r'name="outcome" value="(\w+)"', orla.page)
    key = re.search(r'name="step" value="([^"]+)"', orla.page)
    assert letter
    assert key
    sent = {"step": key[1], "feature": letter[1], "place": "mouth", "tried_with": ""}
    orla.send(f"/jobs/{number}/make/trials?feature={letter[1]}", outcome=outcomes[0], **sent)
    assert now(orla.page) == "Cut on, and try again"
    for place in ("mouth", "far end"):
        orla.send(f"/jobs/{number}/make/trials?feature={letter[1]}", outcome=outcomes[1], **sent | {"place": place})
    assert now(orla.get(address).text) == "Done"


def test_what_is_out_leads_to_its_decision_from_the_step(orla: Hand) -> None:
    number = begun(orla, TURNED)
    read(orla, number, "1/turn:A", "A", "27.9", place="near end 0°", instrument_id=instrument(orla, number))
    assert f"/jobs/{number}/decide" in orla.page


def test_an_instrument_that_failed_its_check_is_said_where_it_is_read(orla: Hand) -> None:
    """Job 109 was measured with a micrometer that has failed since."""
    page = re.sub(r"\s+", " ", orla.get("/jobs/109/make").text)
    assert "failed its check: what it reads is in doubt" in page


def test_handed_over_nothing_more_is_logged_on_make(hands: Any) -> None:
    orla = hands("orla")
    page = orla.get("/jobs/101/make").text
    assert "Handed over: nothing more is logged." in page
    assert 'name="size"' not in page


def test_in_a_four_jaw_the_rounds_are_on_the_page(orla: Hand) -> None:
    number = begun(orla, TURNED)
    (base,) = set(re.findall(rf"/jobs/{number}/hold/chucking/right", orla.get(f"/jobs/{number}/make").text))
    orla.get(base)
    orla.send(f"{base}/way", way="four_jaw", reason="it must run true")
    orla.get(f"/jobs/{number}/make")
    hidden = dict(re.findall(r'<input type="hidden" name="(\w+)" value="([^"]*)"', orla.page.split("truing/begin")[2]))
    orla.send(f"/jobs/{number}/make/truing/begin", **{**hidden, "client_id": str(uuid4())})
    assert now(orla.page) == "Read jaw 1"
    for place, size in (("jaw 1", "0.10"), ("jaw 2", "0.00"), ("jaw 3", "-0.10"), ("jaw 4", "0.00")):
        orla.send(
            f"/jobs/{number}/make/truing/readings", size=size, place=place, round="1", circle="near", tightened="snug"
        )
    assert re.search(r"jaw \d", now(orla.page))
    assert "rounds so far" in orla.page.lower()


def test_a_batch_is_gone_through_step_by_step_by_choice(orla: Hand) -> None:
    page = orla.get("/jobs/129/make")
    assert "<strong>4. Face B</strong>" in page.text
    assert "Each step through all pieces" in page.text
    sent = {"step": "2/face:B", "piece": "3"}
    changed = orla.send("/jobs/129/make/goes-by", goes_by="step", **sent)
    assert "Each piece through the set-up" in changed.text
    logged = orla.send("/jobs/129/make/close", what="without_reading", **sent)
    assert 'aria-current="true">4' in logged.text  # the next piece, the same step
    assert "<strong>4. Face B</strong>" in logged.text
    orla.send("/jobs/129/make/goes-by", goes_by="piece", step="2/face:B", piece="4")


def test_the_next_piece_is_told_what_the_one_before_came_to(orla: Hand) -> None:
    page = orla.get("/jobs/129/make", params={"step": "2/bore:C", "piece": "3"})
    assert re.search(r'Piece 2 came to <span class="num"><span class="u-in">0\.6261 in<', page.text)


def test_a_step_of_another_set_up_taken_next_plans_the_rest_anew(orla: Hand) -> None:
    number = number_of(start(orla, "od 20 h7 x 30\nod 26 ±0.1 x 40 ±0.1\nod 16 h8 x 26 ±0.1\nlength 96 ±0.2"))
    there = {"step": "2/rough_turn:A,B"}
    page = orla.get(f"/jobs/{number}/make", params=there)
    assert "What if it is taken next?" in page.text
    asked = orla.get(f"/jobs/{number}/make", params={**there, "next": "yes"})
    assert "the rest is planned anew from the piece as it is" in asked.text
    assert "<li>Set-up 1, from the left end: face, rough turn A, B, " in asked.text
    answer = orla.send(f"/jobs/{number}/make/go-on", now_reason="the left end is wanted first", **there)
    assert "step=hold%2Fleft-2" in str(answer.url)
    record = orla.get(f"/jobs/{number}/record").text
    assert "planned anew from the piece as it was by Orla Quillfeather" in record
    assert "the left end is wanted first" in record
    assert orla.get(f"/jobs/{number}/plan").status_code == 200
    assert orla.get(f"/jobs/{number}/plan/sheet/print").status_code == 200
    gone = orla.get(f"/jobs/{number}/make", params=there)
    assert "That step is not in the plan any more" in gone.text


def test_what_cannot_be_taken_next_says_why(orla: Hand) -> None:
    number = number_of(start(orla, "od 60 x 10\nod 30 h7 x 25\nbore 15 H7 thru\ncham 1 x 45 both ends"))
    asked = orla.get(f"/jobs/{number}/make", params={"step": "2/face:", "next": "yes"})
    assert "It cannot be taken next." in asked.text
    assert "Part it off first" in asked.text
