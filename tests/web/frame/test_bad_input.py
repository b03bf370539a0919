"""What a machinist might type by mistake: a sentence each time, what was typed kept, and never a crash."""

import re
from collections.abc import Callable

import pytest

from tests.web.conftest import Hand
from tests.web.job.test_flow import measure_partner, start

BAD_READINGS = [
    ("", "Nothing was entered."),
    ("abc", "is not understood as a size"),
    ("1,125", "has a comma, and inches take a point"),
    ("7/0", "divides by zero"),
    ("-3", "a size is above zero"),
    ("1e9", "is written with an exponent"),
    ("9" * 10_000, "10 000 characters"),
    ("22.2 furlongs", "is not a unit used here"),
    ("8.75", "is far from the other readings"),
    ("\x00", "a sign that is no text"),
]


@pytest.mark.parametrize(("typed", "sentence"), BAD_READINGS, ids=[typed[:8] or "empty" for typed, _ in BAD_READINGS])
def test_a_wrong_reading_gets_a_sentence_and_stays_in_its_field(orla: Hand, typed: str, sentence: str) -> None:
    orla.get("/jobs/104/measure")
    before = orla.client.get("/jobs/104/record.json").json()
    response = orla.send(
        "/jobs/104/measure/readings", size=typed, place="mouth 0°", instrument_id=orla.instrument("Bore gauge")
    )
    assert response.status_code == 422
    assert sentence in response.text.replace("&#34;", '"')
    if typed.isprintable() and typed:
        assert f'value="{typed[:200]}"' in response.text
    assert orla.client.get("/jobs/104/record.json").json() == before


@pytest.mark.parametrize(
    ("field", "value", "sentence"),
    [
        ("place", "on the moon", "is not understood as a place"),
        ("instrument_id", "", "Nothing was entered"),
        ("instrument_id", "not-an-id", "That instrument is not one for this."),
        ("instrument_id", "00000000-0000-0000-0000-000000000000", "That instrument is not one for this."),
    ],
)
def test_a_field_nobody_could_choose_is_refused(orla: Hand, field: str, value: str, sentence: str) -> None:
    orla.get("/jobs/104/measure")
    form = {"size": ".8741", "place": "mouth 0°", "instrument_id": orla.instrument("Bore gauge"), field: value}
    response = orla.send("/jobs/104/measure/readings", **form)
    assert response.status_code == 422
    assert sentence in response.text


def test_mixed_units_are_each_taken_as_written(orla: Hand) -> None:
    number = start(orla)
    measure_partner(orla, number, ".6249", "15.872 mm")
    page = orla.get(f"/jobs/{number}/mate").text
    assert "15.872 mm" in page
    assert ".6249 in" in page


def test_a_size_in_the_wrong_unit_is_asked_about(orla: Hand) -> None:
    number = start(orla)
    measure_partner(orla, number, ".6249")
    orla.get(f"/jobs/{number}/mate")
    response = orla.send(
        f"/jobs/{number}/mate/readings", size="15.872", place="far end 0°", instrument_id=orla.instrument("0–1 in")
    )
    assert "15.872 in is far from the other readings (near 0.6249 in)." in response.text
    assert "Check the unit and the decimal point." in response.text


def test_the_first_reading_of_a_part_is_held_against_its_limits(orla: Hand) -> None:
    number = start(orla)
    measure_partner(orla, number, ".6249")
    orla.get(f"/jobs/{number}/mate?function=turns_freely")
    orla.send(f"/jobs/{number}/limits", function="turns_freely", option="Make to suit", based_on_version="0")
    orla.get(f"/jobs/{number}/measure")
    response = orla.send(
        f"/jobs/{number}/measure/readings", size="6.201", place="mouth 0°", instrument_id=orla.instrument("Bore gauge")
    )
    assert "nowhere near the limits" in response.text


@pytest.mark.parametrize(
    ("fields", "sentence"),
    [
        ({"title": ""}, "Nothing was entered. Fill this in, then send again."),
        ({"title": "x" * 500}, "at most 120 fit here"),
        ({"unit": "cubit"}, "is not one of the choices"),
        ({"partner_kind": "cog"}, "is not one of the choices"),
        ({"machine_id": "00000000-0000-0000-0000-000000000000"}, "That machine is not in the shop."),
    ],
)
def test_a_job_that_cannot_start_keeps_what_was_typed(orla: Hand, fields: dict[str, str], sentence: str) -> None:
    given = {
        "title": "Shutter pulley",
        "partner_kind": "shaft",
        "unit": "in",
        "asked": "runs true",
        "machine_id": "",
        **fields,
    }
    response = orla.send("/jobs", **given)
    assert response.status_code == 422
    assert re.sub(r"</?strong>", "", sentence) in re.sub(r"</?strong>", "", response.text)
    assert 'value="runs true"' in response.text


@pytest.mark.parametrize(
    ("callout", "sentence"),
    [
        ("25 g6", "names no bore"),
        ("25 mm", "gives no limits"),
        ("3200 H7", "outside the ISO 286 ranges"),
        ("25 Q7", "is not a code of ISO 286"),
        ("25 H7/H8", "are both holes"),
        ("1e9", "could be a number with an exponent"),
    ],
)
def test_a_callout_that_cannot_be_is_refused_and_kept(orla: Hand, callout: str, sentence: str) -> None:
    number = start(orla, partner_kind="bore", unit="mm")
    orla.get(f"/jobs/{number}/mate")
    response = orla.send(f"/jobs/{number}/mate/callout", callout=callout)
    assert response.status_code == 422
    assert sentence in response.text
    assert f'value="{callout}"' in response.text


@pytest.mark.parametrize(
    "query",
    ["function=nothing", "function=turns_freely&nominal=x", "function=turns_freely&nominal=7/0",
        "function=turns_freely&clearance_min=1",
     "function=turns_freely&clearance_min=2&clearance_max=1", "function=turns_freely&aim=sideways",
     "function=turns_freely&nominal=600"],
)  # fmt: skip
def test_a_question_that_cannot_be_answered_says_why(orla: Hand, query: str) -> None:
    response = orla.get(f"/jobs/104/mate?{query}")
    assert response.status_code == 200
    assert 'class="problem"' in response.text


@pytest.mark.parametrize(
    "query", ["", "q=", "q=hello", "q=" + "x" * 3000, "q=bushing+three+eighths", "q=1,125", "q=7/0", "q=-3", "q=1e9"]
)
def test_the_entry_line_says_plainly_what_it_does_not_understand(orla: Hand, query: str) -> None:
    response = orla.get(f"/ask?{query}")
    assert response.status_code in (200, 422)
    assert "It understands sizes" in response.text or 'class="problem"' in response.text


@pytest.mark.parametrize(
    ("query", "answer"),
    [
        ("q=1.229+to+1.125&unit=in", "0.1040 in"),
        ("q=29.43+to+28.00+mm&unit=in", "28.6 lines"),
        ("q=25+H7/g6", "24.980 mm"),
        ("q=7/8&unit=mm", "22.225 mm"),
        ("q=0.3755/0.3760&unit=in", "0.3760 in"),
        ("q=1/16+x+45°&unit=in", "chamfer at 45°"),
    ],
)
def test_the_entry_line_answers_at_once(orla: Hand, query: str, answer: str) -> None:
    assert answer in orla.get(f"/ask?{query}").text


def test_the_entry_line_takes_a_size_and_a_purpose_to_mate(orla: Hand) -> None:
    response = orla.get("/ask?q=7/8+slip&unit=in")
    assert response.url.path == "/mate"
    assert "Slides by hand" in response.text


@pytest.mark.parametrize(
    ("query", "seen"),
    [
        ("kind=shaft&partner=.8752+.8751&function=turns_freely&instrument_id={tenths}", "Make to suit"),
        ("kind=bore&partner=25+H7&function=slides_by_hand", "24.993"),
        ("kind=shaft&partner=7/8&function=slides_by_hand", "ISO H7/g6"),
        ("kind=shaft&partner=1+3/8+1.3748&function=slides_by_hand", "1.3750"),
        ("kind=shaft&partner=24.98±0.02&function=slides_by_hand", "too far apart|gives no|has no unit|Make to suit"),
        ("kind=shaft&partner=rubbish&function=slides_by_hand", "is not understood as a size"),
    ],
)
def test_mate_answers_without_a_job(orla: Hand, query: str, seen: str) -> None:
    orla.get("/mate")
    response = orla.get("/mate?" + query.format(tenths=orla.instrument("0–1 in micrometer")))
    assert response.status_code == 200
    assert re.search(seen, response.text)


@pytest.mark.parametrize(
    ("query", "seen"),
    [
        ("kind=shaft&limits=25+g6&reading=25.010+mm", "metal to go"),
        ("kind=bore&limits=0.3755/0.3760&reading=.3770", "gone too far"),
        ("kind=bore&limits=25+g6&reading=25", "names no bore"),
        ("kind=bore&limits=x&reading=25", "is not understood as a size"),
        ("kind=bore&limits=0.3755/0.3760&reading=7/0", "divides by zero"),
    ],
)
def test_a_verdict_is_given_without_a_job(orla: Hand, query: str, seen: str) -> None:
    orla.get("/verdict")
    instrument = orla.instrument("Bore gauge")
    assert seen in orla.get(f"/verdict?{query}&instrument_id={instrument}").text


def test_a_verdict_without_an_instrument_asks_for_it(orla: Hand) -> None:
    assert "No instrument is chosen" in orla.get("/verdict?kind=shaft&limits=25+g6&reading=25").text


@pytest.mark.parametrize("path", ["/no-such-page", "/jobs/99999/mate", "/jobs/104/nowhere"])
def test_a_page_that_is_not_there_is_a_calm_page(orla: Hand, path: str) -> None:
    response = orla.get(path)
    assert response.status_code == 404
    assert "Not here" in response.text
    assert re.search(r"Reference <span class=\"num\">[0-9a-f]{8}", response.text)


@pytest.mark.parametrize(
    "path", ["/jobs/abc/mate", "/jobs/104/readings/abc/correct", "/?below=x", "/jobs/99999999999999999999/mate"]
)
def test_an_address_that_cannot_be_is_a_calm_page(orla: Hand, path: str) -> None:
    response = orla.get(path)
    assert response.status_code in (404, 422)
    assert "Reference" in response.text


def test_an_unexpected_failure_is_calm_and_loses_nothing_typed(orla: Hand, monkeypatch: pytest.MonkeyPatch) -> None:
    def fails(*_: object, **__: object) -> None:
        raise RuntimeError("a fault of ours")

    orla.get("/jobs/104/measure")
    form = {"size": ".8741", "place": "mouth 0°", "instrument_id": orla.instrument("Bore gauge")}
    monkeypatch.setattr("nomisma.web.job.reading_form.log_reading", fails)
    response = orla.send("/jobs/104/measure/readings", **form)
    assert response.status_code == 500
    for seen in ("what you typed is below", ".8741", "Send it now", "Reference"):
        assert seen in response.text
    assert "a fault of ours" not in response.text
    monkeypatch.undo()
    fields = dict(re.findall(r'type="hidden" name="([^"]+)" value="([^"]*)"', response.text))
    assert orla.client.post("/jobs/104/measure/readings", data=fields).status_code == 200


def test_a_new_instrument_and_machine_are_entered_and_bad_ones_refused(hands: Callable[..., Hand]) -> None:
    bram, pim = hands("bram"), hands("pim")
    instrument = {
        "name": "Plug micrometer",
        "measures": "bore",
        "unit": "mm",
        "resolution": "0.001",
        "permitted_error": "2 um",
        "repeatability": "0",
    }
    bram.get("/shop")
    refused = bram.send("/shop/instruments", **instrument)
    assert "a size is above zero" not in refused.text, "a repeatability of nought is allowed"
    assert "Plug micrometer" in bram.get("/shop").text
    for field, value in (("resolution", "0"), ("permitted_error", "x"), ("repeatability", "-1"), ("name", "")):
        assert bram.send("/shop/instruments", **{**instrument, field: value}).status_code == 422
    machine = {"name": "Watch lathe", "unit": "mm", "dial_line": "0.01", "dial_reads": "radius"}
    assert "Watch lathe" in bram.send("/shop/machines", **machine).text
    assert bram.send("/shop/machines", **{**machine, "dial_line": "7/0"}).status_code == 422
    pim.get("/")
    assert pim.send("/shop/machines", **machine).status_code == 403


def test_asking_for_a_metric_fit_does_not_change_the_unit_the_next_line_is_read_in(orla: Hand) -> None:
    page = orla.get("/ask?q=25+H7/g6&unit=in").text
    assert 'data-unit="mm"' in page
    assert 'name="unit" value="in"' in page


def test_a_verdicts_bare_reading_is_in_the_instruments_unit_and_in_its_range(orla: Hand) -> None:
    orla.get("/verdict")
    metric = orla.instrument("0–25 mm micrometer")
    asked = f"/verdict?kind=shaft&limits=0.4718/0.4724&instrument_id={metric}"
    assert "metal to go" in orla.get(f"{asked}&reading=12.010").text
    assert "30 mm is outside what" in orla.get(f"{asked}&reading=30").text
