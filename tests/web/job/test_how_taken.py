"""How a reading is taken: places in words, temperature, conditions, a gauge that carries, pins, repeats pooled."""

import re
from decimal import Decimal

import pytest

from tests.web.conftest import Hand
from tests.web.parts import mated
from tests.web.shop.test_instruments import log, readings, start

MIC = "0–25 mm micrometer"


def bore_job(hand: Hand, title: str) -> int:
    """A bore to be made to suit a shaft called out in inches."""
    return mated(hand, title, ("shaft", "0.1235/0.1240"), ("turns_slowly", "Shop rule"), unit="in")


def test_a_place_is_said_in_words(orla: Hand) -> None:
    number = start(orla, "In words")
    assert log(orla, number, "11.990", MIC, place_other="12.5 mm 45 deg") == 200
    assert readings(orla, number)[0]["place"] == "12.5 mm 45°"
    assert log(orla, number, "11.990", MIC, place_other="behind the moon") == 422
    assert "is not understood as a place" in orla.page


@pytest.mark.parametrize("temperature", ["40", "104 F", "40,0 °C"])
def test_a_warm_part_is_brought_to_20_degrees(orla: Hand, temperature: str) -> None:
    number = start(orla, f"Warm {temperature}")
    assert log(orla, number, "11.990", MIC, temperature_c=temperature, material="mild_steel") == 200
    row = readings(orla, number)[0]
    assert float(str(row["size_mm"])) == pytest.approx(11.990 * (1 - 11.7e-6 * 20), abs=2e-6)
    assert row["entered"] == "11.990"
    assert float(str(row["temperature_c"])) == pytest.approx(40)


@pytest.mark.parametrize(
    ("fields", "sentence"),
    [
        ({"temperature_c": "warm", "material": "mild_steel"}, "is not a temperature"),
        ({"temperature_c": "400", "material": "mild_steel"}, "is not measured with a hand instrument"),
        ({"temperature_c": "30"}, "but not what the part is made of"),
        ({"temperature_c": "30", "material": "cheese"}, "is not in the table of materials"),
        ({"temperature_c": "NaN", "material": "mild_steel"}, "is not a temperature"),
    ],
)
def test_a_temperature_that_is_none_is_refused(orla: Hand, fields: dict[str, str], sentence: str) -> None:
    number = start(orla, f"Refused {fields}")
    assert log(orla, number, "11.990", MIC, **fields) == 422
    assert sentence in orla.page


def test_a_burr_is_warned_of_before_it_is_accepted(orla: Hand) -> None:
    number = start(orla, "A burr")
    assert log(orla, number, "11.990", MIC, condition_burr="yes") == 422
    assert "deburr first" in orla.page
    found = re.search(r'name="suspect_id" value="([^"]+)"', orla.page)
    assert found
    fields = {"size": "11.990", "place": "near end 0°", "instrument_id": orla.instrument(MIC), "cut_since": "not"}
    assert (
        orla.send(f"/jobs/{number}/measure/readings", suspect_id=found[1], condition_burr="yes", **fields).status_code
        == 200
    )
    row = readings(orla, number)[0]
    assert row["conditions"] == "burr"
    assert "deburr first" in str(row["asked_first"])


def test_a_gauge_that_goes_into_no_hole_so_small_is_not_offered(orla: Hand) -> None:
    number = bore_job(orla, "Carried")
    assert "Telescoping gauge" not in orla.get(f"/jobs/{number}/measure").text, "too small for the gauge itself"
    assert "Pin set" in orla.page


def test_a_carried_size_is_worth_less_than_the_micrometers_own(orla: Hand) -> None:
    orla.get("/")
    orla.send("/jobs", title="Carried well", asked="", unit="in", partner_kind="shaft")
    found = re.search(r"/jobs/(\d+)/mate", orla.page)
    assert found
    number = int(found[1])
    orla.send(f"/jobs/{number}/mate/callout", callout="0.8745/0.8750")
    orla.send(f"/jobs/{number}/limits", function="slides_by_hand", option="Shop rule", based_on_version="0")
    assert log(orla, number, ".8756", "Telescoping gauge → 0–1 in micrometer", place="mouth 0°") == 200
    row = readings(orla, number)[0]
    assert row["transfer"] == "Telescoping gauge"
    assert float(str(row["uncertainty_mm"])) > 2 * 0.0002 * 25.4
    orla.get(f"/jobs/{number}/measure")
    assert "Transfer" in orla.page


def test_pins_give_a_bracket(orla: Hand) -> None:
    number = bore_job(orla, "Pins")
    assert log(orla, number, "0.125", "Pin set", place="mouth 0°") == 422
    assert "the largest that enters and the smallest that does not" in orla.page
    assert log(orla, number, "0.126/0.125", "Pin set", place="mouth 0°") == 422
    assert log(orla, number, "0.125/0.126", "Pin set", place="mouth 0°") == 200
    row = readings(orla, number)[0]
    assert row["entered"] == "0.125/0.126"
    assert float(str(row["uncertainty_mm"])) > 0.0005 * 25.4
    error = float(str(row["uncertainty_mm"])) - 0.0005 * 25.4
    assert error < 0.0003 * 25.4, "half the bracket and the pins' own error, not a coverage factor on top"
    orla.get(f"/jobs/{number}/measure")
    assert "Between the pins" in orla.page


def test_repeats_of_one_place_are_pooled_to_their_mean(orla: Hand) -> None:
    number = start(orla, "Pooled")
    for size in ("11.990", "11.991", "11.992"):
        log(orla, number, size, MIC)
    orla.get(f"/jobs/{number}/measure")
    decided = re.search(r"decided by.*?u-mm\">([0-9.]+) mm", orla.page, re.DOTALL)
    assert decided
    assert decided[1] == "11.991"


def test_a_correction_is_taken_in_the_same_way(orla: Hand) -> None:
    number = start(orla, "Corrected warm")
    log(orla, number, "11.991", MIC, temperature_c="40", material="mild_steel")
    found = re.search(r'href="(/jobs/\d+/readings/[0-9a-f-]+/correct)"', orla.page)
    assert found
    orla.get(found[1])
    orla.send(found[1], what="replace", size="11.990", reason="slipped")
    row = readings(orla, number)[-1]
    assert float(str(row["size_mm"])) == pytest.approx(11.990 * (1 - 11.7e-6 * 20), abs=2e-6)


def test_form_and_fit_say_shape_clearance_and_where_it_binds(orla: Hand) -> None:
    orla.get("/jobs/104/form")
    assert "Will it go together?" in orla.page
    assert "binds first" in orla.page
    assert re.search(r'<svg [^>]*class="figure form-picture"', orla.page)
    assert "A two-point instrument cannot see an odd number of lobes" in orla.page
    assert orla.get("/jobs/104/form?length=cheese").status_code == 200
    assert "is not understood as a size" in orla.page
    orla.get("/jobs/104/form?bore_c=900")
    assert "Working temperatures go from" in orla.page


def test_a_partner_gauged_by_two_pins_takes_the_unit_in_force(orla: Hand) -> None:
    orla.get("/")
    orla.send("/jobs", title="Ring gauges", asked="", unit="in", partner_kind="shaft")
    number = re.search(r"/jobs/(\d+)/mate", orla.page)
    assert number
    assert orla.send(f"/jobs/{number[1]}/mate/callout", callout="go .3735 no-go .3730").status_code == 200
    assert "0.3735 in" in orla.get("/mate?kind=shaft&partner=go .3735 no-go .3730&function=slides_by_hand").text


def test_limits_that_are_two_pins_are_judged_by_what_enters_and_what_refuses(orla: Hand) -> None:
    number = bore_job(orla, "Limit gauges")
    limits = orla.client.get(f"/api/v1/jobs/{number}").json()["limits"][-1]
    go, no_go = (f"{Decimal(str(limits[end])) / Decimal('25.4'):f}" for end in ("lower_mm", "upper_mm"))
    below, above = (f"{Decimal(size) + Decimal(step):f}" for size, step in ((go, "-0.001"), (no_go, "0.001")))

    def verdict_of(tried: str) -> str:
        assert log(orla, number, tried, "Pin set", place="mouth 0°") == 200
        return str(readings(orla, number)[-1]["verdict_now"])

    assert verdict_of(f"{go}/{no_go}") == "in limits"
    assert "by limit gauges it has kept its limits" in orla.get(f"/jobs/{number}/measure").text
    assert "The doubt is what the pins themselves are off, ±" in orla.page
    orla.get(f"/jobs/{number}/batch")
    assert verdict_of(f"go {go} no-go {no_go}") == "in limits"
    assert verdict_of(f"enters {below}, refuses {go}") == "metal to go"
    assert verdict_of(f"{no_go}/{above}") == "gone too far"
    assert verdict_of(f"{below}/{no_go}") == "too close to call", "the go pin itself was not tried"
    assert "try pins at the limits" in orla.get(f"/jobs/{number}/measure").text
    assert "it can never say" not in orla.page


def test_a_burr_that_was_said_is_remembered_until_it_is_read_without_one(orla: Hand) -> None:
    number = start(orla, "Burr remembered")
    assert log(orla, number, "11.990", MIC, condition_burr="yes") == 422
    asked = re.search(r'name="suspect_id" value="([^"]+)"', orla.page)
    assert asked
    assert log(orla, number, "11.990", MIC, condition_burr="yes", suspect_id=asked[1]) == 200
    assert "taken over a burr: deburr, and read again" in orla.get(f"/jobs/{number}/measure").text
    assert log(orla, number, "11.989", MIC) == 200
    assert "taken over a burr: deburr, and read again" not in orla.get(f"/jobs/{number}/measure").text
