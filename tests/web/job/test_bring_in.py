"""Readings brought in from a table, looked at first; and out again as CSV, JSON and a data package, without loss."""

import io
import json
import re
import zipfile
from pathlib import Path

import pytest
from frictionless import Package
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.exchange.readings_in import rows_of
from tests.web.conftest import Hand
from tests.web.shop.test_instruments import log, readings, start

MIC = "0–25 mm micrometer, 0.001 mm"


def look(hand: Hand, number: int, text: str, *, step: str = "look", mark: str = "either", **more: str) -> str:
    hand.get(f"/jobs/{number}/import")
    response = hand.send(f"/jobs/{number}/import", csv=text, step=step, decimal_mark=mark, member="made", **more)
    hand.page = response.text
    return str(response.text)


TABLE = f"""place,size,unit,instrument
near end 0°,11.989,mm,"{MIC}"
far end 0°,11.990,,
middle 0°,11.490,mm,
middle 90°,cheese,mm,
on the moon,11.99,mm,
far end 90°,11.99,mm,Laser
"""


def test_every_row_is_looked_at_and_nothing_is_written_yet(orla: Hand) -> None:
    number = start(orla, "Looked at")
    text = look(orla, number, TABLE)
    assert "<strong>2</strong> taken, <strong>1</strong> doubtful, <strong>3</strong> refused" in text
    for sentence in (
        "is not understood as a size",
        "is not understood as a place",
        "The shop has no “Laser”",
        "one turn of the thimble",
    ):
        assert sentence in text
    assert readings(orla, number) == []


def test_taken_rows_are_written_and_doubtful_ones_only_where_ticked(orla: Hand) -> None:
    number = start(orla, "Written")
    look(orla, number, TABLE, step="take")
    assert [row["entered"] for row in readings(orla, number)] == ["11.989", "11.990"]
    other = start(orla, "Ticked")
    look(orla, other, TABLE, step="take", row_4="yes")
    rows = readings(orla, other)
    assert [row["entered"] for row in rows] == ["11.989", "11.990", "11.490"]
    assert "off by one turn" in str(rows[2]["asked_first"])


def test_the_same_form_twice_writes_its_rows_once(orla: Hand) -> None:
    number = start(orla, "Twice")
    for _ in range(2):
        look(orla, number, TABLE, step="take", client_id="6d0f1c1e-7f0e-4a52-9d11-0e53b8e0b001")
    assert len(readings(orla, number)) == 2


def test_a_decimal_comma_is_asked_about_until_it_is_settled(orla: Hand) -> None:
    number = start(orla, "Comma")
    text = "place;size\nnear end 0°;11,989\n"
    assert "<strong>1</strong> refused" in look(orla, number, text)
    assert "<strong>1</strong> taken" in look(orla, number, text, mark="comma")


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("", "Nothing was entered"),
        ("a,b\n1,2\n", "The heading line has no size column"),
        ("size,place\n" + "1,mouth\n" * 1001, "at most 1000 at once"),
    ],
)
def test_what_is_no_table_is_refused(orla: Hand, text: str, sentence: str) -> None:
    number = start(orla, f"No table {len(text)}")
    assert sentence in look(orla, number, text)


def test_out_as_csv_and_in_again_nothing_is_lost(orla: Hand) -> None:
    number = start(orla, "Out")
    log(orla, number, "11.991", "0–25 mm micrometer", temperature_c="35", material="mild_steel")
    log(orla, number, "11.992", "0–25 mm micrometer", place_other="12.5 mm 45°")
    again = start(orla, "In again")
    look(orla, again, orla.client.get(f"/jobs/{number}/record.csv").text, step="take")
    kept = (
        "place",
        "entered",
        "entered_unit",
        "size_mm",
        "instrument",
        "temperature_c",
        "material",
        "piece",
        "cut_number",
    )
    first, second = ([{key: row[key] for key in kept} for row in readings(orla, one)] for one in (number, again))
    assert first == second


def test_the_data_package_is_valid_and_holds_what_the_record_does(orla: Hand, tmp_path: Path) -> None:
    content = orla.client.get("/jobs/108/record.zip").content
    with zipfile.ZipFile(io.BytesIO(content)) as box:
        box.extractall(tmp_path)
    report = Package(str(tmp_path / "datapackage.json")).validate()
    assert report.valid, report.flatten(["rowNumber", "fieldName", "message"])
    rows = Package(str(tmp_path / "datapackage.json")).get_resource("readings").read_rows()
    record = orla.client.get("/jobs/108/record.json").json()
    assert [str(row["size_mm"]) for row in rows] == [row["size_mm"] for row in record["readings"]]
    assert json.loads((tmp_path / "datapackage.json").read_text())["resources"][0]["schema"]["fields"]


@given(st.text(max_size=300))
def test_any_text_is_rows_or_one_sentence(text: str) -> None:
    try:
        rows = rows_of(text, unit="mm")
    except InputError as error:
        assert error.sentence
    else:
        assert all(row.refused or row.size is not None for row in rows)


@given(st.lists(st.integers(1000, 99999), min_size=1, max_size=20), st.sampled_from([",", ";", "\t"]))
def test_sizes_come_through_any_separator_exactly(thousandths: list[int], separator: str) -> None:
    lines = [separator.join(("place", "size", "unit"))]
    lines += [separator.join(("mouth", f"{value / 1000:.3f}", "mm")) for value in thousandths]
    rows = rows_of("\n".join(lines), unit="in")
    assert [row.size.mm * 1000 for row in rows if row.size] == thousandths


def test_a_row_its_instrument_cannot_reach_is_refused_as_at_the_bench(orla: Hand) -> None:
    number = start(orla, "Out of reach")
    text = look(orla, number, f'place,size,unit,instrument\nnear end 0°,31.990,mm,"{MIC}"\n')
    assert "is outside what" in text
    assert "<strong>0</strong> taken" in text


@pytest.mark.parametrize("cut", ["2147483647", "7", "²"])
def test_a_cut_that_never_was_is_refused_and_poisons_nothing(orla: Hand, cut: str) -> None:
    number = start(orla, f"Poison {cut}")
    text = look(orla, number, f'place,size,unit,instrument,cut\nnear end 0°,11.989,mm,"{MIC}",{cut}\n')
    assert "<strong>1</strong> refused" in text
    assert "There is no cut" in text or "is not the number of a cut" in text
    assert log(orla, number, "11.990", MIC) == 200


def test_a_cell_that_a_spreadsheet_would_run_is_text_in_the_zip_too(orla: Hand) -> None:
    number = start(orla, "=HYPERLINK(1)")
    log(orla, number, "11.990", MIC)
    found = re.search(r'href="(/jobs/\d+/readings/[0-9a-f-]+/correct)"', orla.get(f"/jobs/{number}/measure").text)
    assert found
    orla.get(found[1])
    orla.send(found[1], what="replace", size="11.989", reason="=cmd|' /C calc'!A0")
    with zipfile.ZipFile(io.BytesIO(orla.client.get(f"/jobs/{number}/record.zip").content)) as box:
        table = box.read("readings.csv").decode()
    assert "'=cmd|" in table
    assert ",=cmd" not in table
    assert "'=HYPERLINK" in orla.client.get(f"/jobs/{number}/record.csv").text
