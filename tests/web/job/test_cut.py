"""Cut: a bore opened to size with the coach, wrong input and all; what is dialled and measured teaches the next cut."""

import csv
import io
import json
import re
import zipfile
from collections.abc import Callable
from typing import Any

import pytest

from tests.web.conftest import Hand
from tests.web.job.test_hold import text, words


def start(hand: Hand, title: str, machine: str = "Bench lathe", *, callout: str = "30 H7", **more: str) -> str:
    """A job for a shaft to go into a bore called out 30 H7, limits set; the address of its Cut page."""
    hand.get("/")
    found = re.search(rf'<option value="([0-9a-f-]+)"[^>]*>{machine}', hand.page) if machine else None
    fields = {
        "title": title,
        "partner_kind": "bore",
        "unit": "mm",
        "asked": "",
        "machine_id": found[1] if found else "",
        **more,
    }
    base = str(hand.send("/jobs", **fields).url.path).removesuffix("/mate")
    assert hand.send(f"{base}/mate/callout", callout=callout).status_code == 200
    return base


def set_limits(hand: Hand, base: str) -> None:
    """A running fit, f7: 29.959 to 29.980 mm."""
    assert hand.send(f"{base}/limits", function="turns_freely", option="H8/f7", based_on_version="0").status_code == 200


@pytest.fixture
def job(long_day: Hand) -> tuple[Hand, str]:
    """A shaft to be turned for a bore of 30 H7."""
    base = start(long_day, "Turned spigot")
    set_limits(long_day, base)
    long_day.get(f"{base}/cut")
    return long_day, base


def measure(hand: Hand, base: str, size: str, *, dialled: str = "", **more: str) -> Any:
    """Type a size on the Cut page."""
    fields = {
        "size": size,
        "place": "near end 0°",
        "instrument_id": hand.instrument("25–50 mm micrometer"),
        "cut_since": "cut" if dialled else "not",
        "dialled": dialled,
        **more,
    }
    return hand.send(f"{base}/cut/readings", **fields)


def dialled(hand: Hand) -> str:
    found = re.search(r'name="as_advised" value="([^"]*)"', hand.page)
    return found[1] if found else ""


def test_a_spigot_is_turned_to_size_by_what_the_coach_says(job: tuple[Hand, str]) -> None:
    hand, base = job
    assert words(hand) == "Measure the stock"
    how(hand, base, parts_of_line="4")
    size = 32.2
    measure(hand, base, f"{size:.3f}")
    assert "It cleans up at" in text(hand.page)
    cuts = 0
    while words(hand).startswith("Wind in") and cuts < 12:
        advised = (
            sum(float(part.split()[0]) for part in dialled(hand).split(" then ")) * 0.05
        )  # a line of the bench lathe
        size -= advised * 1.03  # a lathe that takes three per cent more than its dial says
        answer = measure(hand, base, f"{size:.3f}", dialled=dialled(hand))
        assert answer.status_code == 200, re.findall(
            r"(?s)<(?:p class=.problem|div class=.doubt).*?</(?:p|div)>", answer.text
        )
        cuts += 1
    assert words(hand) in ("In limits: leave it", "Too close to call: measure again")
    assert cuts <= 8
    assert "Cuts taken" in hand.page


def test_the_run_is_there_for_whoever_takes_over(job: tuple[Hand, str], hands: Any) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    measure(hand, base, "31.700", dialled="0.50 mm")
    bram = hands("bram")
    bram.get(f"{base}/cut")
    assert "Orla Quillfeather" in bram.page
    assert words(bram) == words(hand)
    assert dialled(bram) == dialled(hand)


def test_a_dial_that_takes_twice_as_much_is_noticed(job: tuple[Hand, str]) -> None:
    hand, base = job
    assert hand.send(f"{base}/cut/forget").status_code == 200  # what other jobs taught of this lathe
    measure(hand, base, "32.200")
    first = measure(hand, base, "31.400", dialled="0.40 mm")
    if first.status_code == 422:  # asked about before it is believed
        doubt = re.search(r'name="suspect_id" value="([^"]+)"', first.text)
        assert doubt
        measure(hand, base, "31.400", dialled="0.40 mm", suspect_id=doubt[1])
    assert "this dial reads radius" in text(hand.page)


def test_what_a_machine_taught_is_said_used_and_can_be_forgotten(job: tuple[Hand, str]) -> None:
    hand, base = job
    hand.send(f"{base}/cut/forget")
    measure(hand, base, "33.000")
    for size in ("32.440", "31.880", "31.320"):
        measure(hand, base, size, dialled="0.50 mm")
    other = start(hand, "Second spigot")
    set_limits(hand, other)
    hand.get(f"{other}/cut")
    measure(hand, other, "32.300")
    assert "This dial takes 1.1" in text(hand.page)
    assert "seen in 1 set-up on this machine" in text(hand.page)
    known = sum(float(part.split()[0]) for part in dialled(hand).split(" then "))
    hand.send(f"{other}/cut/forget")
    assert "This dial takes" not in text(hand.page)
    assert sum(float(part.split()[0]) for part in dialled(hand).split(" then ")) < known


def test_if_i_dial_says_size_interval_and_chances(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "31.000")
    measure(hand, base, "30.500", dialled="0.50 mm")
    answer = hand.get(f"{base}/cut?if_dialled=4+lines")
    assert re.search(r"It should measure .*? 30\.\d+ mm", text(answer.text))
    assert "Chance of going past the limit below 0.01 %" in text(answer.text)
    assert "Chance of going past the limit above 9" in text(hand.get(f"{base}/cut?if_dialled=0.9").text)
    assert "“much” is not understood" in text(hand.get(f"{base}/cut?if_dialled=much").text)


@pytest.mark.parametrize("typed", ["10 lines", "0.5", "0.50 mm", "0 turns + 10"])
def test_what_is_dialled_may_be_lines_turns_or_an_amount(job: tuple[Hand, str], typed: str) -> None:
    hand, base = job
    measure(hand, base, "31.000")
    assert measure(hand, base, "30.500", dialled=typed).status_code == 200
    assert hand.get(f"{base}/record.json").json()["cuts"][0]["dialled_mm"] == "0.500000000000"


def test_lines_typed_as_an_amount_are_asked_about(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "31.000")
    answer = measure(hand, base, "30.500", dialled="10")
    assert answer.status_code == 422
    assert "0.494 mm came off, and 10 was dialled: that fits if it is lines typed as an amount in mm." in text(
        answer.text
    )


def test_a_finished_size_is_not_judged_as_stock_and_cut_says_what_measure_says(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "29.970")
    assert words(hand) == "In limits: leave it"
    assert "Will it clean up?" not in text(hand.page)
    assert "in limits" in text(hand.get(f"{base}/measure").text)
    close = start(hand, "Close spigot")
    set_limits(hand, close)
    hand.get(f"{close}/cut")
    measure(hand, close, "29.986")  # the micrometer reads 6 µm over
    assert words(hand) == "Too close to call: measure again"
    assert "too close to call" in text(hand.get(f"{close}/measure").text)


def test_stone_or_cloth_is_logged_and_learned(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "30.400")
    measure(hand, base, "30.000", dialled="0.40 mm")
    measure(hand, base, "29.992", cut_since="stoned")
    record = hand.get(f"{base}/record.json").json()
    assert [one["means"] for one in record["cuts"]] == ["tool", "stone"]
    assert record["cuts"][1]["expected_mm"] is None
    hand.get(f"{base}/cut")
    assert "stone or cloth" in text(hand.page)


def test_a_misread_is_asked_about_by_what_the_coach_expected(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    measure(hand, base, "31.690", dialled="0.50 mm")
    measure(hand, base, "31.180", dialled="0.50 mm")
    answer = measure(hand, base, "30.170", dialled="0.50 mm")
    assert answer.status_code == 422
    assert "off by one turn of the thimble" in text(answer.text)


def test_a_new_tool_forgets_what_was_learned(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    measure(hand, base, "31.690", dialled="0.50 mm")
    assert "1 cut seen" in text(hand.page)
    measure(hand, base, "31.180", dialled="0.50 mm", new_set_up="yes")
    assert "earlier set-up" in hand.page
    assert "1 cut seen" in text(hand.page)


def test_a_corrected_size_changes_what_the_coach_goes_by(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    measure(hand, base, "31.690", dialled="0.50 mm")
    before = text(hand.page)
    link = re.search(rf'href="({base}/readings/[0-9a-f-]+/correct)"', hand.get(f"{base}/measure").text)
    assert link
    hand.get(link[1])
    hand.send(link[1], what="correct", size="31.640 mm", reason="read the thimble wrong")
    hand.get(f"{base}/cut")
    assert "31.634" in text(hand.page)
    assert text(hand.page) != before


def test_gone_too_far_says_so_and_who_decides(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "30.100")
    answer = measure(hand, base, "29.900", dialled="0.20 mm")
    if answer.status_code == 422:
        doubt = re.search(r'name="suspect_id" value="([^"]+)"', answer.text)
        measure(hand, base, "29.900", dialled="0.20 mm", suspect_id=doubt[1] if doubt else "")
    hand.get(f"{base}/cut")
    assert "gone too far" in words(hand).lower() or "Measure it again" in words(hand)


def how(hand: Hand, base: str, **changed: str) -> Any:
    fields = {
        "approach": "equal_cuts",
        "dialling_method": "count_in",
        "cut_risk_percent": "0.2",
        "parts_of_line": "1",
        "cut_machine": "",
        **changed,
    }
    return hand.send(f"{base}/cut/how", **fields)


def test_how_it_is_cut_can_be_chosen_for_the_job(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    how(hand, base, approach="creep", dialling_method="readout", parts_of_line="2", cut_risk_percent="0.1 %")
    # The micrometer reads 6 µm high, and that is taken off.
    assert "Enter 32.194 mm in the readout" in text(hand.page)
    assert "creep" in text(hand.page)


def test_the_spindle_speed_is_said_where_the_material_is(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    assert "Spindle at" not in hand.page
    how(hand, base, cut_material="brass", cut_tool="hss")
    assert re.search(r"Spindle at 69\d rpm", text(hand.page))  # 70 m/min on 32.2 mm


@pytest.mark.parametrize(
    ("changed", "sentence"),
    [
        ({"cut_risk_percent": "often"}, "is no risk to take"),
        ({"cut_risk_percent": "50"}, "is no risk to take"),
        ({"cut_machine": "7d1c0b9e-0000-4222-8333-444455556666"}, "That machine is not in the shop"),
        ({"approach": "guess"}, "is not one of the choices"),
    ],
)
def test_how_that_is_none_has_its_sentence(job: tuple[Hand, str], changed: dict[str, str], sentence: str) -> None:
    hand, base = job
    answer = how(hand, base, **changed)
    assert answer.status_code == 422
    assert sentence in text(answer.text)


def test_without_limits_or_a_machine_it_says_what_is_missing(long_day: Hand) -> None:
    base = start(long_day, "No limits yet")
    assert "Choose the fit on Mate first." in text(long_day.get(f"{base}/cut").text)
    base = start(long_day, "No machine", machine="")
    set_limits(long_day, base)
    long_day.get(f"{base}/cut")
    assert words(long_day) == "Which machine?"


def test_the_stock_is_held_against_its_truing_and_scale(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "30.010")
    hand.get(f"{base}/cut?scale=0.05&ovality=0.01")
    assert "It is clean only at" in text(hand.page)
    assert "Take larger stock." in text(hand.page)
    hand.get(f"{base}/cut?scale=lots")
    assert "It cleans up" in text(hand.page)


def test_a_tapered_shaft_leads_to_how_far_the_tailstock_goes(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "30.400")
    measure(hand, base, "30.360", place="far end 0°")  # the micrometer reads 0.006 too much: its zero is taken off
    hand.get(f"{base}/cut")
    link = re.search(r'href="(/taper-found[^"]+)"', hand.page)
    assert link
    hand.get(link[1].replace("&amp;", "&"))
    assert 'value="30.394 mm"' in hand.page
    assert 'value="30.354 mm"' in hand.page
    assert "Still needed: So far apart." in text(hand.page)


def test_the_demo_roller_says_where_to_wind_the_dial(long_day: Hand) -> None:
    long_day.get("/jobs/104/cut")
    assert re.match(r"Wind in \d+ lines?", words(long_day))
    assert "The handwheel: where to stop" in long_day.page
    assert "The run: what stands to the aim" in long_day.page


def test_the_cuts_are_in_the_record_and_its_data_package(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    measure(hand, base, "31.690", dialled="0.50 mm")
    (cut,) = json.loads(hand.get(f"{base}/record.json").text)["cuts"]
    assert (cut["dialled"], cut["cut_number"], cut["by"]) == ("0.50 mm", 1, "Orla Quillfeather")
    assert float(cut["before_mm"]) - float(cut["after_mm"]) == pytest.approx(0.51)
    assert float(cut["expected_low_mm"]) < float(cut["expected_mm"]) < float(cut["expected_high_mm"])
    assert "Cut" in text(hand.get(f"{base}/record").text)
    with zipfile.ZipFile(io.BytesIO(hand.get(f"{base}/record.zip").content)) as box:
        rows = list(csv.DictReader(io.StringIO(box.read("cuts.csv").decode())))
        assert {"cuts.csv", "truing_rounds.csv", "readings.csv"} <= set(box.namelist())
    assert [row["dialled"] for row in rows] == ["0.50 mm"]


def test_the_bench_sends_a_part_with_metal_to_go_to_the_dial(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    assert f'href="{base}/make"' in hand.get("/").text
    assert re.search(r"Wind in \d+ lines", hand.get(f"{base}/make").text)


def test_a_dial_typed_without_its_size_is_refused_and_kept(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    answer = measure(hand, base, "", dialled="0.50 mm")
    assert answer.status_code == 422
    assert 'value="0.50 mm"' in answer.text
    answer = measure(hand, base, "31.7", dialled="half a turn")
    assert answer.status_code == 422
    assert "is not understood as a size" in text(answer.text)


def test_the_same_form_sent_twice_is_one_cut(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    for _ in range(2):
        measure(hand, base, "31.690", dialled="0.50 mm", client_id="3c1d0b9e-1111-4222-8333-444455556666")
    assert len(json.loads(hand.get(f"{base}/record.json").text)["cuts"]) == 1


def test_the_next_piece_of_a_batch_starts_from_what_the_first_taught(job: tuple[Hand, str]) -> None:
    hand, base = job
    assert hand.send(f"{base}/plan", pieces="3", measuring_plan="one", acceptance="guarded").status_code == 200
    hand.get(f"{base}/cut")
    measure(hand, base, "32.200", piece="1")
    measure(hand, base, "31.690", dialled="0.50 mm", piece="1")
    measure(hand, base, "29.976", dialled="1.68 mm", piece="1", suspect_id="")
    measure(hand, base, "32.150", piece="2")
    assert "piece 2" in text(hand.page)
    assert re.search(r"[12] cuts? seen", text(hand.page))


def test_a_job_handed_over_is_cut_no_more(long_day: Hand) -> None:
    assert "Handed over" in text(long_day.get("/jobs/101/cut").text)


def machine(hand: Hand, **more: str) -> Any:
    fields = {"name": "Toolroom lathe", "unit": "mm", "dial_line": "0.02", "dial_reads": "radius", **more}
    return hand.send("/shop/machines", **fields)


def test_a_machine_is_entered_with_what_the_coach_needs_and_changed(long_day: Hand) -> None:
    hand = long_day
    hand.get("/shop")
    assert (
        machine(
            hand,
            dial_turn="4",
            backlash="0.1",
            most_cut="2",
            speeds="60 90 140",
            readout="yes",
            swing_over_bed="300 mm",
        ).status_code
        == 200
    )
    assert "Toolroom lathe" in hand.page
    assert "300 mm" in hand.page
    before = re.search(r'name="supersedes_id".*?<option value="([0-9a-f-]+)"[^>]*>Toolroom lathe', hand.page, re.S)
    assert before
    machine(hand, name="Toolroom lathe, new screw", supersedes_id=before[1])
    assert "Toolroom lathe, new screw" in hand.page
    assert "Toolroom lathe</th>" not in hand.page


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [
        ({"speeds": "fast"}, "is no list of speeds"),
        ({"dial_turn": "0.01"}, "One turn shows less than one line."),
        ({"backlash": "much"}, "is not understood as a size"),
        ({"spindle_bore": "wide"}, "is not understood as a size"),
    ],
)
def test_a_machine_that_is_none_has_its_sentence(long_day: Hand, wrong: dict[str, str], sentence: str) -> None:
    long_day.get("/shop")
    answer = machine(long_day, name="Wrong lathe", **wrong)
    assert answer.status_code == 422
    assert sentence in text(answer.text)


def test_a_phone_offers_letters_where_lines_are_written(hands: Callable[..., Hand]) -> None:
    field = re.search(r'<input[^>]*name="dialled"[^>]*>', hands("orla").get("/jobs/104/cut").text)
    assert field
    assert "inputmode" not in field[0]


def test_what_was_dialled_is_asked_and_not_taken_from_the_advice(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    assert re.search(r'name="dialled" value=""', hand.page)
    box = re.search(r'<input type="checkbox" name="as_advised"[^>]*>', hand.page)
    assert box
    assert "checked" not in box[0]


def test_a_size_that_fits_the_advice_badly_asks_whether_it_was_dialled(job: tuple[Hand, str]) -> None:
    hand, base = job
    measure(hand, base, "32.200")
    said = dialled(hand)
    lines = sum(float(part.split()[0]) for part in said.split(" then ")) * 0.05
    answer = measure(hand, base, f"{32.2 - lines * 0.3:.3f}", as_advised=said, cut_since="cut")
    assert answer.status_code == 422
    assert f"{said} was advised: did you dial that?" in text(answer.text)


def test_a_hazard_of_the_spindle_stands_above_the_amounts_and_not_in_their_place(orla: Hand) -> None:
    orla.get("/jobs/110/cut")
    how(orla, "/jobs/110", cut_material="brass", cut_tool="hss")
    advised = words(orla)
    how(orla, "/jobs/110", cut_material="brass", cut_tool="hss", largest_outside="60 in", work_balanced="no")
    assert "that is not balanced" in text(orla.page)
    assert "Spindle at" not in orla.page
    assert words(orla) == advised
    assert advised.startswith("Wind in")


def test_what_is_more_than_a_turn_is_said_in_turns_and_lines_everywhere(job: tuple[Hand, str]) -> None:
    """A hand does not count 420 lines: no number of lines on the page reaches a turn of this dial."""
    hand, base = job
    measure(hand, base, "38.200")
    hand.get(f"{base}/cut")
    page = re.sub(r"\([0-9.]+ lines in all\)", "", text(hand.page))
    assert re.match(r"Wind in [0-9]+ turns? \+ [0-9.]+ lines?", words(hand))
    assert (
        max(float(one) for one in re.findall(r"([0-9.]+) lines?\b", page)) < 60
    )  # a turn of the bench lathe: 3 mm of 0.05
    hand.get(f"{base}/measure")
    assert re.search(r"[0-9]+ turns? \+ [0-9.]+ lines? on", text(hand.page))
