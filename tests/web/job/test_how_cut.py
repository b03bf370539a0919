"""How cuts are taken: the shop's choices and a job's, its own surface speeds, what the machine stands, and one end
against the other.
"""

import re
from typing import Any

import pytest

from tests.web.conftest import Hand
from tests.web.job.test_cut import how, machine, measure, set_limits, start
from tests.web.job.test_hold import text, words


@pytest.fixture
def job(long_day: Hand) -> tuple[Hand, str]:
    """A shaft to be turned for a bore of 30 H7, on the metric bench lathe."""
    base = start(long_day, "Spigot, finer")
    set_limits(long_day, base)
    long_day.get(f"{base}/cut")
    return long_day, base


def cuts_here(hand: Hand, **changed: str) -> Any:
    hand.get("/shop/rules")
    fields = {
        "approach": "equal_cuts",
        "dialling_method": "count_in",
        "cut_risk_percent": "0.2",
        "parts_of_line": "1",
        "least_cut": "0.02 mm",
        "finish_cut": "0.2 mm",
        **changed,
    }
    return hand.send("/shop/cuts", **fields)


def test_what_the_shop_chooses_holds_for_every_job_that_chose_nothing(job: tuple[Hand, str]) -> None:
    hand, base = job
    assert cuts_here(hand, approach="creep", parts_of_line="2", least_cut="0.0012 in").status_code == 200
    assert "0.0012 in" in hand.page
    hand.get(f"{base}/cut")
    assert "How it is cut: creep" in text(hand.page)
    how(hand, base, approach="polish")
    hand.get(f"{base}/cut")
    assert "How it is cut: leave a little for stone or cloth" in text(hand.page)
    cuts_here(hand)
    hand.get(f"{base}/cut")
    assert "How it is cut: leave a little" in text(hand.page)


@pytest.mark.parametrize(
    ("changed", "sentence"),
    [
        ({"least_cut": "0.3 mm"}, "A finishing cut of 0.2 mm does not go with a least cut of 0.3 mm."),
        ({"finish_cut": "9 mm"}, "at most 5 mm"),
        ({"least_cut": "a hair"}, "a hair"),
        ({"cut_risk_percent": "50"}, "“50” is no risk to take."),
    ],
)
def test_a_shops_choice_that_is_none_has_its_sentence_and_is_kept(
    long_day: Hand, changed: dict[str, str], sentence: str
) -> None:
    answer = cuts_here(long_day, **changed)
    assert answer.status_code == 422
    assert sentence in text(answer.text)
    assert next(iter(changed.values())) in answer.text


def test_an_apprentice_changes_nothing_of_the_shop(hands: Any) -> None:
    pim = hands("pim")
    assert cuts_here(pim).status_code == 403
    pim.get("/shop/speeds")
    assert "the shop’s own" in pim.page
    assert pim.send("/shop/speeds").status_code == 403


def test_the_shops_own_speed_is_run_on_cut_and_on_the_worksheet(job: tuple[Hand, str]) -> None:
    hand, base = job
    hand.get("/shop/speeds")
    assert hand.send("/shop/speeds", speed_hss_mild_steel="100 ft/min").status_code == 200
    assert 'value="30.5 m/min"' in hand.page
    hand.send("/shop/speeds", speed_hss_mild_steel="15 m/min")
    hand.get(f"{base}/cut")
    measure(hand, base, "32.200")
    how(hand, base, cut_material="mild_steel")
    hand.get(f"{base}/cut")
    assert "Spindle at 148 rpm" in text(hand.page)
    hand.get("/speeds?diameter=32.2+mm&material=mild_steel&tool=hss&operation=turning")
    assert "148 rpm" in text(hand.page)
    hand.get("/shop/speeds")
    hand.send("/shop/speeds", speed_hss_mild_steel="")
    hand.get(f"{base}/cut")
    assert "Spindle at 148 rpm" not in text(hand.page)


def test_a_speed_that_is_none_has_its_sentence_beside_it(long_day: Hand) -> None:
    long_day.get("/shop/speeds")
    answer = long_day.send("/shop/speeds", speed_carbide_brass="fast")
    assert answer.status_code == 422
    assert "“fast” is no surface speed." in text(answer.text)
    assert 'value="fast"' in answer.text


def test_a_finish_and_a_nose_say_the_feed(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    how(hand, base, nose_radius="0.8 mm", wanted_ra_um="1.6")
    hand.get(f"{base}/cut")
    assert re.search(r"Feed .*0\.2024 mm.* a turn .*for Ra .*1\.6 µm", text(hand.page))


def test_a_roughness_that_is_none_has_its_sentence_and_the_fold_stays_open(job: tuple[Hand, str]) -> None:
    hand, base = job
    answer = how(hand, base, wanted_ra_um="mirror")
    assert answer.status_code == 422
    assert "“mirror” is no roughness." in text(answer.text)
    assert 'value="mirror"' in answer.text
    assert '<details class="how" open>' in answer.text


def test_the_force_a_machine_stands_holds_a_cut_back(long_day: Hand) -> None:
    long_day.get("/shop")
    stands = {"dial_line": "0.02", "dial_turn": "1", "most_force_n": "60", "most_rpm": "400", "speeds": ""}
    assert machine(long_day, name="Watch lathe, weak", **stands).status_code == 200
    base = start(long_day, "Weak spigot", machine="Watch lathe, weak")
    set_limits(long_day, base)
    long_day.get(f"{base}/cut")
    measure(long_day, base, "33.900")
    how(long_day, base, cut_material="mild_steel")
    long_day.get(f"{base}/cut")
    assert "10 lines and cut, 3 times; then 7 lines and cut; then 5 lines and cut. Then measure." in text(long_day.page)
    assert "60 N on Watch lathe, weak" in text(long_day.page)
    how(long_day, base, cut_material="aluminium")
    long_day.get(f"{base}/cut")
    assert "Spindle at 400 rpm" in text(long_day.page)


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [
        ({"most_force_n": "strong"}, "“strong” is no cutting force."),
        ({"most_force_n": "2"}, "is no cutting force."),
        ({"most_rpm": "5"}, "is no speed of a chuck"),
    ],
)
def test_what_a_machine_cannot_stand_has_its_sentence(long_day: Hand, wrong: dict[str, str], sentence: str) -> None:
    long_day.get("/shop")
    answer = machine(long_day, name="Odd lathe", **wrong)
    assert answer.status_code == 422
    assert sentence in text(answer.text)


def test_work_that_does_not_pass_the_cross_slide_is_said(long_day: Hand) -> None:
    long_day.get("/shop")
    machine(long_day, name="Tiny lathe", swing_over_cross_slide="25 mm")
    base = start(long_day, "Large spigot", machine="Tiny lathe")
    set_limits(long_day, base)
    long_day.get(f"{base}/cut")
    measure(long_day, base, "32.200")
    assert "Tiny lathe swings 25 mm over its cross-slide: this work does not pass it." in text(long_day.page)


def test_one_end_against_the_other_says_what_gives(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "30.500")
    measure(hand, base, "30.530", place="far end 0°")
    assert "The far end is 30.0 µm larger" in text(hand.page)
    assert "As it is both ends cannot end in limits." in text(hand.page)
    measure(hand, base, "30.100", dialled="0.40 mm")
    assert "The far end is" not in text(hand.page)


def test_the_place_nearest_its_limit_says_when_metal_is_gone(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "29.990")
    measure(hand, base, "29.950", place="far end 0°")
    if "it is: log it" in text(hand.page):
        doubt = re.search(r'name="suspect_id" value="([^"]+)"', hand.page)
        assert doubt
        measure(hand, base, "29.950", place="far end 0°", suspect_id=doubt[1])
    hand.get(f"{base}/cut")
    assert words(hand) == "Gone too far"


def test_touched_on_anew_the_cut_is_a_new_set_up_and_expected_as_a_first(job: tuple[Hand, str]) -> None:
    hand, base = job
    cuts_here(hand, parts_of_line="4")
    hand.get(f"{base}/cut")
    measure(hand, base, "31.100")
    measure(hand, base, "30.700", dialled="0.40 mm")
    measure(hand, base, "30.300", dialled="8 lines", new_set_up="yes")
    assert "earlier set-up" in text(hand.page)
    assert "1 cut seen" in text(hand.page)
    cuts_here(hand)


def test_a_bore_without_a_hole_leads_to_the_drill_and_one_with_a_hole_to_the_bar(long_day: Hand) -> None:
    base = start(long_day, "Bored link", partner_kind="shaft", callout="30 f7")
    assert (
        long_day.send(f"{base}/limits", function="turns_freely", option="H8/f7", based_on_version="0").status_code
        == 200
    )
    long_day.get(f"{base}/cut")
    assert "Which drill leaves enough" in text(long_day.page)
    link = re.search(r'href="(/hole\?finished=30[^"]+)"', long_day.page)
    assert link
    long_day.get(link[1].replace("&amp;", "&"))
    assert "before 30" in text(long_day.page)


def test_the_same_dial_again_is_advised_logged_and_teaches(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "31.100")
    measure(hand, base, "30.760", dialled="0.35 mm")
    measure(hand, base, "30.376", dialled="0.40 mm")
    measure(hand, base, "30.060", dialled="0.33 mm")
    if words(hand) != "Same dial again":
        measure(hand, base, "30.050", cut_since="not")
    assert words(hand) == "Same dial again"
    assert "Leave the dial where it stands, and take the cut again." in text(hand.page)
    assert measure(hand, base, "30.036", dialled="0 mm").status_code == 200
    assert words(hand) != "Same dial again"
    assert "4 cuts seen" in text(hand.page)


def test_a_dial_wound_back_is_no_cut(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "31.100")
    answer = measure(hand, base, "31.000", dialled="-0.1 mm")
    assert answer.status_code == 422
    assert "-0.1 mm is no cut." in text(answer.text)


def test_a_shops_choice_in_inches_is_said_in_mm_in_a_metric_job_and_saving_it_chooses_nothing(
    job: tuple[Hand, str],
) -> None:
    hand, base = job
    cuts_here(hand, least_cut="0.0012 in", finish_cut="0.008 in")
    hand.get(f"{base}/cut")
    assert 'value="0.03 mm"' in hand.page
    how(hand, base, least_cut="0.030 mm", finish_cut="0.203 mm")  # as the form had it
    cuts_here(hand, least_cut="0.02 mm")
    hand.get(f"{base}/cut")
    assert 'value="0.02 mm"' in hand.page, "the job chose nothing of its own, so the shop's change holds"
    cuts_here(hand)
