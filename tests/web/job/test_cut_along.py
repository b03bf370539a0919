"""Lengths and depths cut along the axis, in whole lines and never past."""

import re

from tests.web.conftest import Hand
from tests.web.parts import features, lathe, log, number_of, start


def test_a_depth_is_offered_a_depth_micrometer_first(orla: Hand) -> None:
    number = number_of(start(orla, "bore .800 +.004/-0 x .125 +.010/-0 deep", unit="in"))
    page = orla.get(f"/jobs/{number}/measure?feature=B").text
    chosen = re.search(r"<option [^>]*selected>([^<]*)", page)
    assert chosen
    assert "depth micrometer" in chosen[1]
    assert "dialled" not in page


def test_a_job_in_millimetres_is_offered_what_reads_millimetres(orla: Hand) -> None:
    number = number_of(start(orla, "boss 20 ±0.1 x 4.5 +0.05/0 high"))
    chosen = re.search(r"<option [^>]*selected>([^<]*)", orla.get(f"/jobs/{number}/measure?feature=B").text)
    assert chosen
    assert "150 mm caliper" in chosen[1]


def test_a_length_is_faced_in_whole_lines_and_never_past(orla: Hand) -> None:
    number = number_of(start(orla, "length 40 ±0.1", machine_id=lathe(orla)))
    assert "Measure it first" in orla.get(f"/jobs/{number}/cut").text
    log(orla, number, "A", "41.27")
    page = orla.get(f"/jobs/{number}/cut").text
    assert "1.270 mm to face off" in page
    assert "12 lines of the carriage in all, and 70.0 µm is left" in page
    page = orla.get(f"/jobs/{number}/cut", params={"by": "compound", "compound_deg": "60"}).text
    assert "127 lines of the compound in all" in page


def test_a_depth_goes_deeper_until_it_is_deep_enough(orla: Hand) -> None:
    number = number_of(start(orla, "depth 10 +0.2/0", machine_id=lathe(orla)))
    log(orla, number, "A", "9.42")
    assert "0.680 mm to go deeper" in orla.get(f"/jobs/{number}/cut?by=readout").text
    log(orla, number, "A", "10.10", cut_since="cut")
    page = orla.get(f"/jobs/{number}/cut").text
    assert "No pass is advised now" in page
    assert "to go deeper" not in page


def test_the_reading_after_a_pass_is_logged_on_the_cut_page(orla: Hand) -> None:
    number = number_of(start(orla, "od 28 ±0.1 x 40 ±0.1", machine_id=lathe(orla)))
    log(orla, number, "B", "41.00")
    orla.get(f"/jobs/{number}/cut?feature=B")
    sent = orla.send(
        f"/jobs/{number}/cut/readings?feature=B",
        size="40.03",
        place="0°",
        cut_since="cut",
        instrument_id=orla.instrument("150 mm caliper"),
    )
    assert "in limits" in sent.text
    assert features(orla, number)["B"]["smallest_mm"] == "40.030000000000"


def test_a_pass_that_is_no_number_is_answered(orla: Hand) -> None:
    number = number_of(start(orla, "length 40 ±0.1"))
    log(orla, number, "A", "41.00")
    page = orla.get(f"/jobs/{number}/cut", params={"depth": "deep"})
    assert page.status_code == 200
    assert "not understood" in page.text
    assert "The machine’s compound and carriage dials are not known" in page.text


def test_a_step_that_is_short_goes_deeper_and_one_that_is_long_has_gone_too_far(orla: Hand) -> None:
    """The carriage cuts the shoulder deeper: 29.40 of 30 has 0.60 to go; 30.20 cannot be made shorter there."""
    too_long = number_of(start(orla, "od 20 ±0.1 x 30 ±0.1\nod 40 ±0.1 x 10"))
    log(orla, too_long, "B", "30.20")
    assert features(orla, too_long)["B"]["verdict"] == "gone too far"
    number = number_of(start(orla, "od 20 ±0.1 x 30 ±0.1\nod 40 ±0.1 x 10", machine_id=lathe(orla)))
    log(orla, number, "B", "29.40")
    assert features(orla, number)["B"]["verdict"] == "metal to go"
    assert "0.600 mm to go deeper" in orla.get(f"/jobs/{number}/cut?feature=B&by=readout").text


def test_a_boss_that_is_low_has_metal_to_go(orla: Hand) -> None:
    number = number_of(start(orla, "boss 20 ±0.1 x 4.5 +0.05/0 high", machine_id=lathe(orla)))
    log(orla, number, "B", "4.20")
    assert features(orla, number)["B"]["verdict"] == "metal to go"
