"""Plan: what was asked, before the saw, stock, lathe, order; and its steps at the lathe."""

import re
from html import unescape
from typing import Any

from nomisma.core.operations.reamers import COMMON_REAMERS
from tests.web.conftest import Hand
from tests.web.parts import log, number_of, start, steps_of

FLANGED = "od 24 h9 x 30 ±0.1\nod 40 ±0.1 x 10 ±0.1\nbore 12 H7 thru\nlength 40 ±0.1"


def planned(hand: Hand, lines: str = FLANGED) -> int:
    number = number_of(start(hand, lines))
    hand.get(f"/jobs/{number}/plan")
    return number


def test_the_plan_stands_between_part_and_make(orla: Hand) -> None:
    number = planned(orla)
    spine = re.findall(
        r'href="/jobs/\d+/(\w+)[^"]*" ?(?:aria-current="page")?>(?:\w+)</a>',
        orla.page.split('class="spine"')[1].split("</ol>")[0],
    )
    assert spine.index("part") < spine.index("plan") < spine.index("make")
    assert f"/jobs/{number}/make" in orla.page


def test_set_ups_and_operations_are_shown_with_their_reasons(orla: Hand) -> None:
    planned(orla)
    assert "Set-up 1, from the left end" in orla.page
    assert "Set-up 2, from the right end, held on A" in orla.page
    assert "The face first: it is the zero of all lengths." in orla.page


def test_before_the_saw_nothing_that_was_entered_is_in_sight(orla: Hand) -> None:
    number = planned(orla)
    page = orla.get(f"/jobs/{number}/plan/saw").text
    main = page.split("<main")[1]
    assert not re.search(r"\b40\b|\b24\b|39\.9|40\.1", main)


def test_said_alike_it_says_where_to_saw_and_said_otherwise_it_stops(orla: Hand) -> None:
    number = planned(orla)
    orla.get(f"/jobs/{number}/plan/saw")
    orla.send(f"/jobs/{number}/plan/saw", length_again="40", diameter_again="40")
    assert "Saw at 41.6 mm" in orla.page
    orla.get(f"/jobs/{number}/plan/saw")
    orla.send(f"/jobs/{number}/plan/saw", length_again="50", diameter_again="40")
    assert "out by exactly 10 mm" in orla.page
    assert "the drawing and the metal do not agree" in orla.get(f"/jobs/{number}/hold").text


def test_a_size_that_is_none_comes_back_as_it_was_typed(orla: Hand) -> None:
    number = planned(orla)
    orla.get(f"/jobs/{number}/plan/saw")
    refused = orla.send(f"/jobs/{number}/plan/saw", length_again="forty", diameter_again="40")
    assert refused.status_code == 422
    assert 'value="forty"' in refused.text


def test_an_open_question_stands_on_hold_until_it_is_answered(orla: Hand) -> None:
    number = planned(orla)
    orla.send(f"/jobs/{number}/plan/questions", question="which side is seen?")
    for stage in ("hold", "cut", "cut?feature=B", "make"):
        assert "1 open question" in orla.get(f"/jobs/{number}/{stage}").text
    page = orla.get(f"/jobs/{number}/plan").text
    of = re.search(r'name="of" value="([0-9a-f-]+)"', page)
    assert of
    orla.send(f"/jobs/{number}/plan/answers", of=of[1], answer="the flange")
    assert "the flange" in orla.page
    assert "1 open question" not in orla.get(f"/jobs/{number}/hold").text


def test_stock_as_measured_says_blank_and_weight_and_which_lathe(orla: Hand) -> None:
    number = planned(orla)
    orla.send(
        f"/jobs/{number}/plan/stock",
        held="bar",
        shape="round",
        surface="bright",
        across="45",
        length="300",
        parting="3",
        grip="20",
        bore="",
        stock_material="brass",
    )
    assert "64.600 mm" in orla.page
    assert "Bench lathe" in orla.page
    wrong = orla.send(
        f"/jobs/{number}/plan/stock",
        held="bar",
        shape="round",
        surface="bright",
        across="wide",
        length="",
        parting="",
        grip="",
        bore="",
        stock_material="brass",
    )
    assert wrong.status_code == 422
    assert 'value="wide"' in wrong.text


def test_a_part_too_large_for_a_lathe_says_so_on_plan(orla: Hand) -> None:
    planned(orla, "od 600 ±1 x 80 ±1")
    assert "does not fit" in orla.page
    assert "needed 600.8" in orla.page


def test_an_order_that_breaks_a_rule_asks_for_its_reason_and_keeps_it(orla: Hand) -> None:
    number = planned(orla)
    asked = orla.send(f"/jobs/{number}/plan/order", move="1/part_off:|up", reason="")
    assert asked.status_code == 422
    assert "Part off last: after it nothing is held." in asked.text
    keys = re.search(r'name="keys" value="([^"]+)"', asked.text)
    assert keys
    orla.send(f"/jobs/{number}/plan/order", keys=keys[1], reason="the saw takes it off")
    assert "Done so because: the saw takes it off" in orla.page
    orla.send(f"/jobs/{number}/plan/order", own="yes", reason="")
    assert "Done so because" not in orla.page


def test_the_address_of_a_step_on_the_former_sheet_leads_to_it(orla: Hand) -> None:
    number = planned(orla)
    face = orla.get(f"/jobs/{number}/plan/sheet?step=1")
    assert str(face.url).endswith("/make?step=1%2Fface%3A")
    assert ">Face</p>" in face.text


def test_a_step_closes_by_itself_when_its_features_are_in_limits(orla: Hand) -> None:
    number = planned(orla, "od 28 ±0.04\nlength 40 ±0.2")
    step = steps_of(orla, number)["Finish turn A"]
    for place in ("near end 0°", "near end 90°", "middle 0°", "middle 90°", "far end 0°", "far end 90°"):
        log(orla, number, "A", "28.00", place=place, instrument="25–50 mm micrometer")
    assert '<p class="now-words is-good">Done</p>' in orla.get(step).text


def test_all_set_ups_are_printed_one_a_page(orla: Hand) -> None:
    page = orla.get(f"/jobs/{planned(orla)}/plan/sheet/print").text
    assert page.count('class="set-up-page"') == 2


def test_a_part_without_an_outside_has_a_page_and_no_plan(orla: Hand) -> None:
    number = planned(orla, "bore 12 H7")
    assert "no outside of a known size" in orla.page
    for path in ("make", "plan/sheet/print", "hold"):
        assert orla.get(f"/jobs/{number}/{path}").status_code == 200


def test_hold_shows_the_planned_set_ups_and_how_far_the_tailstock_goes_over(orla: Hand) -> None:
    number = planned(orla, "od 20 ±0.1 x 100 ±0.1\ntaper 1:20 over 50 ±0.1")
    page = orla.get(f"/jobs/{number}/hold").text
    assert page.count(f'href="/jobs/{number}/hold/chucking/') == 3  # each end held short, then between centres
    link = re.search(r'href="(/taper\?[^"]+)"', page)
    assert link
    assert "2.500 mm" in orla.get(link[1].replace("&amp;", "&")).text  # 100 × (1/20) / 2


def test_a_taper_is_turned_from_the_diameter_beside_it(orla: Hand) -> None:
    number = planned(orla, "od 20 ±0.1 x 100 ±0.1\ntaper 1:20 over 50 ±0.1 on A")
    taper = re.sub(r"<[^>]+>", "", orla.get(steps_of(orla, number)["Turn the taper C"]).text)
    assert re.search(r"From [0-9.]+ in20\.000 mm", taper)


def test_a_length_nobody_said_is_not_made_up(orla: Hand) -> None:
    number = planned(orla, "od 20 h6")
    assert "How long A is nobody said: how much stock it takes is not known." in orla.page
    assert " of stock, at least" not in orla.page
    assert "min a piece" not in orla.page
    assert "/plan/saw" not in orla.page
    page = re.sub(r"<[^>]+>", "", orla.get(f"/jobs/{number}/hold").text)
    assert "how far the work stands out is not known: how long A is nobody said" in page
    assert "about " not in page
    orla.get(f"/jobs/{number}/plan/saw")
    refused = orla.send(f"/jobs/{number}/plan/saw", length_again="20", diameter_again="20")
    assert refused.status_code == 422
    assert "How long A is nobody said." in refused.text


def test_the_sheet_names_the_drills_and_what_they_leave(orla: Hand) -> None:
    number = planned(orla)
    steps = steps_of(orla, number)
    drilling = orla.get(next(address for title, address in steps.items() if title.startswith("Drill"))).text
    assert re.search(r"11\.[0-9] mm: it leaves at least", re.sub(r"<[^>]+>", "", drilling))
    assert "full diameter" in drilling
    assert not any("Rough bore" in title for title in steps)


def test_what_was_worked_out_for_a_feature_stands_in_its_step_and_in_no_other(orla: Hand) -> None:
    """Job 115 keeps a groove of 4 mm 20 mm from the next: the far corner of a tool of 3 stands 0.05 off by the feeler
    (docs of the groove).
    """
    pages = {title: orla.get(address).text for title, address in steps_of(orla, 115).items()}
    assert [title for title, page in pages.items() if 'class="worked-out"' in page] == ["Groove D, E, F"]
    table = re.sub(r"<[^>]+>", " ", pages["Groove D, E, F"].split('class="worked-out"')[1].split("</table>")[0])
    assert "29.000 mm" in table


def test_each_set_up_says_how_it_is_held_and_what_that_costs(orla: Hand) -> None:
    planned(orla)
    assert "<strong>Three-jaw chuck</strong>" in orla.page
    assert "by the needle" in orla.page


def test_an_octagon_is_not_held_in_three_jaws(orla: Hand) -> None:
    number = planned(orla)
    orla.send(
        f"/jobs/{number}/plan/stock",
        held="bar",
        shape="octagon",
        surface="rolled",
        across="46",
        length="",
        parting="",
        grip="",
        bore="",
        stock_material="brass",
    )
    assert "three jaws do not hold such stock" in orla.page


def test_a_part_that_is_mended_is_neither_sawn_nor_faced(orla: Hand) -> None:
    number = planned(orla, "od 30 as it is x 40\nod 20 k6 x 15, now 20.6")
    assert "The drawing against the metal" in orla.page
    stock = {"shape": "round", "surface": "bright", "stock_material": "brass", "across": "", "length": "", "bore": ""}
    orla.send(f"/jobs/{number}/plan/stock", held="repair", centred="yes", parting="", grip="", **stock)
    assert "The drawing against the metal" not in orla.page
    assert "<span>four-jaw chuck, by the needle, which usually runs out by" in orla.page
    assert "Finish turn C" in orla.page
    assert not re.search(r"\bFace\b", orla.page.split("Set-up 1")[1])


def test_the_whole_part_is_held_otherwise_by_choice_and_the_plan_follows(orla: Hand) -> None:
    number = planned(orla)
    assert f"/jobs/{number}/plan/otherwise" in orla.page
    page = orla.get(f"/jobs/{number}/plan/otherwise").text
    assert "As it is planned now." in page
    assert 'value="mandrel"' in page
    orla.send(f"/jobs/{number}/plan/mounting", mounting="mandrel")
    assert "held on a mandrel in its bore." in orla.get(f"/jobs/{number}/record").text
    orla.get(f"/jobs/{number}/plan")
    assert "on a mandrel in its bore, by choice" in orla.page
    assert re.search(r"<strong>(Expanding|Plain) mandrel</strong>", orla.page)
    stock = {"held": "bar", "shape": "round", "surface": "bright", "stock_material": "brass", "across": "45"}
    orla.send(f"/jobs/{number}/plan/stock", **stock, **dict.fromkeys(("length", "bore", "parting", "grip"), ""))
    assert "on a mandrel in its bore, by choice" in orla.page
    assert orla.send(f"/jobs/{number}/plan/mounting", mounting="a crane").status_code == 422


def test_jobs_that_are_made_together_know_each_other(orla: Hand) -> None:
    lines = "od 25 h7\nbore 12 H7 thru\nlength {} ±0.05"
    short, long = planned(orla, lines.format(20)), planned(orla, lines.format(35))
    orla.get(f"/jobs/{short}/plan/family")
    for wrong, says in (("cheese", "is no job"), ("999999", "There is no job"), (str(short), "is this one")):
        refused = orla.send(f"/jobs/{short}/plan/family", jobs=wrong)
        assert (refused.status_code, says in refused.text, f'value="{wrong}"' in refused.text) == (422, True, True)
        orla.get(f"/jobs/{short}/plan/family")
    orla.send(f"/jobs/{short}/plan/family", jobs=str(long))
    assert "steps the same" in orla.page
    assert f"step 1 of {long}" in orla.page
    assert f"Made together with job {short}" in orla.get(f"/jobs/{long}/plan").text
    assert f"Made together with job {short}." in orla.get(f"/jobs/{long}/record").text
    orla.get(f"/jobs/{long}/plan/family")
    orla.send(f"/jobs/{long}/plan/family", jobs="")
    assert "Made together with others" in re.sub(r"\s+", " ", orla.get(f"/jobs/{short}/plan").text)


def test_a_part_that_is_roughed_first_rests_before_it_is_finished(orla: Hand) -> None:
    number = planned(orla)
    asked = {"held": "bar", "shape": "round", "surface": "bright", "stock_material": "brass"}
    asked |= dict.fromkeys(("across", "length", "bore", "parting", "grip"), "")
    orla.send(f"/jobs/{number}/plan/stock", rough_first="yes", **asked)
    before, after = orla.page.split("Roughed all over: take it out")
    assert "from the right end, roughing" in before
    assert "Finish" not in before.split("Set-up 1")[1]
    assert "Finish turn A" in after
    assert "43.1" in orla.page.split('id="stock"')[1]  # 40 and 1.5 left on, and two faces of 0.8


def test_stock_that_does_not_clean_up_names_what_may_give(orla: Hand) -> None:
    number = planned(orla, "od 40 ±0.1 x 10 ±0.1, only seen\nbore 12 H7 thru, carries the load")
    orla.send(
        f"/jobs/{number}/plan/stock",
        held="bar",
        shape="round",
        surface="rolled",
        across="40.5",
        length="",
        parting="",
        grip="",
        bore="",
        stock_material="brass",
    )
    assert "The stock does not clean up. What may give: A." in orla.page


def test_the_sheet_says_how_far_it_stands_out_and_what_was_worked_out(orla: Hand) -> None:
    number = planned(orla)
    orla.send(
        "/worksheets/keep",
        keep_tool="stops",
        keep_unit="mm",
        keep_number=str(number),
        keep_letter="A",
        keep_note="the table by the lathe",
        steps="face, at 0\nturn A, at 30",
        stations="6",
        apart="10",
        short="0.1",
        needle_room="38",
        first_piece="",
        second_piece="",
        repeats="0.02",
    )
    page = orla.get(f"/jobs/{number}/make").text
    assert "stands out" in page
    assert "A turret of carriage stops</a>: the table by the lathe" in page
    assert "Stop 2, carriage at" in orla.get(steps_of(orla, number)["Rough turn A, B"]).text


def test_what_bends_is_said_as_stock_and_as_finished(orla: Hand) -> None:
    planned(orla, "od 12 ±0.05 x 35 ±0.2\nod 20 ±0.05 x 10 ±0.2")
    assert "under a light cut it comes out" in orla.page


def test_stock_that_does_not_give_the_part_makes_no_plan_and_says_why(orla: Hand) -> None:
    number = planned(orla, "od 40 ±0.1 x 30 ±0.1")
    stock = {"held": "bar", "shape": "round", "surface": "bright", "length": "", "parting": "", "grip": "", "bore": ""}
    orla.send(f"/jobs/{number}/plan/stock", across="38", stock_material="brass", **stock)
    said = " ".join(re.sub(r"<[^>]+>", "", orla.page).split())
    assert "No plan of it can be cut. A is 40.000 mm, the stock is sound to 38.000 mm" in said
    assert "No plan of it can be cut." in orla.get(f"/jobs/{number}/make").text
    orla.get(f"/jobs/{number}/plan")
    orla.send(f"/jobs/{number}/plan/stock", across="42", stock_material="brass", **stock)
    assert "No plan of it can be cut." not in orla.page


def test_every_step_is_drawn_with_its_figures_and_the_plan_at_a_glance(orla: Hand) -> None:
    number = planned(orla)
    page = orla.get(f"/jobs/{number}/plan").text
    assert page.count('class="figure moment"') >= 8
    assert "from ⌀" in page
    step = orla.get(steps_of(orla, number)["Rough turn A, B"]).text
    assert step.count('class="figure moment"') == 1
    assert 'class="taken"' in step
    assert "from the face" in step
    assert 'class="figure moment"' in orla.get(f"/jobs/{number}/hold").text


def test_a_job_started_on_a_lathe_without_room_is_shown_that_first(orla: Hand) -> None:
    orla.get("/")
    machine = orla.instrument("Bench lathe")
    turned = start(orla, "od 30 x 30\nod 20 x 10", machine_id=machine)
    assert "carriage 100 lines, 0 at the face" in orla.get(f"/jobs/{number_of(turned)}/plan").text
    start(orla, "od 400 ±1 x 30 ±1", machine_id=machine)
    assert "/plan" in orla.page.split("aria-current")[0]
    assert "Swing over the bed 280 mm, needed" in orla.page


def test_the_shop_says_its_own_weight_and_minutes(orla: Hand) -> None:
    orla.get("/shop/rules")
    said = {
        "lift_kg": "2",
        "set_up_minutes": "40",
        "tool_minutes": "1",
        "measuring_minutes": "1.5",
        "least_bored": "6 mm",
    }
    orla.send("/shop/planning", **said)
    number = planned(orla, "od 80 ±0.1 x 60 ±0.1")
    assert "it is lifted by two, or by a hoist" in orla.page
    assert int(orla.page.split("about ")[1].split(" min a piece")[0].strip()) > 80
    orla.get("/shop/rules")
    wrong = orla.send("/shop/planning", **{**said, "tool_minutes": "soon"})
    assert wrong.status_code == 422
    assert 'value="soon"' in wrong.text
    orla.send("/shop/planning", lift_kg="20", set_up_minutes="10", tool_minutes="1", measuring_minutes="1.5")
    assert f"/jobs/{number}/" in orla.get(f"/jobs/{number}/plan").text


def test_the_stops_of_a_set_up_are_filled_in_and_kept_stand_in_its_steps(orla: Hand) -> None:
    number = planned(orla, "od 30 ±0.1 x 30 ±0.1\nod 20 ±0.1 x 10 ±0.1")
    page = orla.get(f"/jobs/{number}/plan").text
    (address,) = {unescape(one) for one in re.findall(r'href="(/stops\?[^"]+)"', page)}
    stops = orla.get(address).text
    assert "Part off by its far corner, tool 2, at 43.800 mm" in stops
    assert "Stop 1" in stops
    face = orla.get(steps_of(orla, number)["Face"]).text
    (rpm,) = re.findall(r'<span class="num">(\d+) rpm</span>', face)
    assert f"Face, tool 1, at 0.000 mm, {rpm} rpm" in stops, "as the step says"
    assert unescape(address) in unescape(face)


def test_the_shop_says_which_reamers_are_at_hand(orla: Hand) -> None:
    said = {"lift_kg": "20", "set_up_minutes": "10", "tool_minutes": "1", "measuring_minutes": "1.5"}
    said |= {"drills": "", "least_bored": "6 mm"}
    number = planned(orla, "od 40 ±0.1 x 20 ±0.1\nbore 14 H7 thru")
    assert "Ream C" not in orla.page
    orla.get("/shop/rules")
    wrong = orla.send("/shop/planning", **said, reamers="14 cheese mm")
    assert wrong.status_code == 422
    assert "14 cheese mm</textarea>" in wrong.text
    orla.get("/shop/rules")
    orla.send("/shop/planning", **said, reamers="14 mm")
    assert "Ream C" in orla.get(f"/jobs/{number}/plan").text
    orla.get("/shop/rules")
    wrong = orla.send("/shop/planning", **said | {"drills": "13 to 14"}, reamers=COMMON_REAMERS)
    assert (wrong.status_code, "does not say its unit" in wrong.text) == (422, True)
    orla.get("/shop/rules")
    orla.send("/shop/planning", **said | {"drills": "4 13 mm", "least_bored": "5 mm"}, reamers=COMMON_REAMERS)
    assert "13 mm" in orla.get(f"/jobs/{number}/plan").text.split("<strong>Drill C</strong>")[1][:200]
    orla.get("/shop/rules")
    orla.send("/shop/planning", **said, reamers=COMMON_REAMERS)


def test_each_piece_of_a_batch_has_its_own_ticks(orla: Hand) -> None:
    number = planned(orla)
    orla.get(f"/jobs/{number}/batch")
    orla.send(f"/jobs/{number}/plan", pieces="3", measuring_plan="one", acceptance="guarded")
    orla.get(steps_of(orla, number, piece="2")["Face"])
    orla.send(f"/jobs/{number}/make/close", step="1/face:", piece="2")
    assert re.search(r"\b1 of \d+ done", orla.get(f"/jobs/{number}/make?piece=2").text)
    assert re.search(r"\b0 of \d+ done", orla.get(f"/jobs/{number}/make?piece=1").text)


def test_a_saw_that_may_start_shows_its_hazard(orla: Hand) -> None:
    number = planned(orla)
    orla.get(f"/jobs/{number}/plan/saw")
    orla.send(f"/jobs/{number}/plan/saw", length_again="40", diameter_again="40")
    assert "no hand near the blade" in orla.page


def waits(hand: Hand, number: int) -> str:
    """What the bench says of a job."""
    shown = hand.get("/", params={"q": str(number)}).text
    found = re.search(rf'job-number">{number}<.*?class="job-next">(.*?)</span>', shown, re.DOTALL)
    return found[1].strip() if found else ""


def test_the_bench_says_what_a_job_waits_for_step_by_step(orla: Hand) -> None:
    number = planned(orla)
    assert waits(orla, number) == "Choose the stock."
    orla.get(f"/jobs/{number}/plan")
    orla.send(f"/jobs/{number}/plan/questions", question="which side is seen?")
    assert waits(orla, number) == "1 open question before metal is cut."
    of = re.search(r'name="of" value="([0-9a-f-]+)"', orla.get(f"/jobs/{number}/plan").text)
    assert of
    orla.send(f"/jobs/{number}/plan/answers", of=of[1], answer="the flange")
    orla.send(
        f"/jobs/{number}/plan/stock",
        held="bar",
        shape="round",
        surface="bright",
        across="45",
        length="300",
        parting="3",
        grip="20",
        bore="",
        stock_material="brass",
    )
    assert waits(orla, number) == "Look at drawing and metal before the saw."
    for again, said in (
        ("50", "The drawing and the metal do not agree"),
        ("40", "Set-up 1, from the left end: hold it"),
    ):
        orla.get(f"/jobs/{number}/plan/saw")
        orla.send(f"/jobs/{number}/plan/saw", length_again=again, diameter_again="40")
        assert waits(orla, number).startswith(said)
    orla.get(f"/jobs/{number}/hold")
    orla.get(f"/jobs/{number}/hold/chucking/left")
    orla.send(f"/jobs/{number}/hold/chucking/left/ready", **{f"step_{n}": "yes" for n in range(20)})
    assert waits(orla, number) == "Set-up 1: face is next (1 of 14 steps done)."
    log(orla, number, "A", "28.00")
    assert waits(orla, number) == "Set-up 1: face is next (1 of 14 steps done)."  # read, it stands at the same step


def test_what_the_clock_says_of_the_shops_figures_is_accepted_on_the_plan(hands: Any) -> None:
    hand = hands("bram")
    page = hand.get("/jobs/129/plan")
    assert "A set-up took 4 min here (5 timed); the shop reckons 10." in page.text
    hand.send("/jobs/129/plan/reckon", figure="set_up_minutes", minutes="4")
    assert 'name="set_up_minutes" value="4"' in hand.get("/shop/rules").text
    assert "A set-up took" not in hand.get("/jobs/129/plan").text
    refused = hand.send("/jobs/129/plan/reckon", figure="set_up_minutes", minutes="31")
    assert (refused.status_code, "The clock says otherwise by now." in refused.text) == (422, True)


def test_drill_rod_that_stays_as_it_came_is_not_said_to_clean_up_badly(orla: Hand) -> None:
    page = orla.get("/jobs/129/plan").text
    assert "of stock, at least" in page
    assert "does not clean up" not in page
