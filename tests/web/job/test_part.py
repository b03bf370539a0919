"""A part of many features: started from its lines, seen, changed, withdrawn."""

import re

import pytest

from tests.web.conftest import Hand
from tests.web.parts import features, log, number_of, record, start


def test_every_line_becomes_a_feature_with_its_letter_and_limits(orla: Hand) -> None:
    found = features(orla, number_of(start(orla)))
    assert {letter: (one["kind"], one["lower_mm"], one["upper_mm"]) for letter, one in found.items()} == {
        "A": ("outside_diameter", "27.900000000000", "28.100000000000"),
        "B": ("length", "39.800000000000", "40.200000000000"),
        "C": ("bore", "12.000000000000", "12.050000000000"),
        "D": ("depth", "10.000000000000", "10.100000000000"),
        "E": ("plain_size", None, "6.000000000000"),
    }


def test_lines_with_tabs_and_decimal_commas_are_read(orla: Hand) -> None:
    found = features(orla, number_of(start(orla, "od\t28,00 ±0,10\nlength\t40,5 ±0,2")))
    assert [one["upper_mm"] for one in found.values()] == ["28.100000000000", "40.700000000000"]


def test_lines_are_shown_as_understood_before_they_count(orla: Hand) -> None:
    looked = orla.send("/sketch-lines", lines="od 1.375 ±.005 x 3.625\nbush", unit="in", general_tolerance="")
    assert "outside diameter from 1.370 in to 1.380 in" in looked.text
    assert "Line 2" in looked.text


def test_the_same_form_sent_twice_adds_its_features_once(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    for _ in range(2):
        orla.send(
            f"/jobs/{number}/features",
            lines="length 40 ±0.1",
            general_tolerance="",
            client_id="7d3f1c1e-3a51-4a55-9c53-2f31a1f1a001",
        )
    assert list(features(orla, number)) == ["A", "B"]


def test_new_limits_are_a_new_version_and_the_reading_keeps_its_verdict(orla: Hand) -> None:
    number = number_of(start(orla))
    log(orla, number, "B", "40.30")
    changed = orla.send(f"/jobs/{number}/requirement?feature=B", line="40 ±0.5", based_on_version="1", why="drawing B")
    assert changed.status_code == 200
    found = record(orla, number)
    reading = next(one for one in found["readings"] if one["feature"] == "B")
    assert (reading["verdict_then"], reading["verdict_now"]) == ("metal to go", "in limits")
    assert [(one["version"], one["reason"]) for one in found["limits"] if one["feature"] == "B"] == [
        (1, ""),
        (2, "drawing B"),
    ]


def test_limits_changed_from_a_page_that_is_old_are_refused(orla: Hand) -> None:
    number = number_of(start(orla))
    orla.send(f"/jobs/{number}/requirement?feature=B", line="40 ±0.5", based_on_version="1")
    late = orla.send(f"/jobs/{number}/requirement?feature=B", line="40 ±0.1", based_on_version="1")
    assert late.status_code == 409
    assert features(orla, number)["B"]["upper_mm"] == "40.500000000000"


def test_a_length_is_not_changed_into_a_bore(orla: Hand) -> None:
    number = number_of(start(orla))
    refused = orla.send(f"/jobs/{number}/requirement?feature=B", line="bore 12 H7", based_on_version="1")
    assert refused.status_code == 422
    assert "says something else than a length" in refused.text


def test_a_withdrawn_feature_counts_no_longer_and_keeps_its_readings(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nlength 40 ±0.1"))
    log(orla, number, "A", "28.02")
    log(orla, number, "B", "41.00")
    orla.send(f"/jobs/{number}/withdraw?feature=B", reason="the drawing leaves it free", what="withdraw")
    found = record(orla, number)
    assert (found["verdict"], found["features"][1]["withdrawn"], found["features"][1]["reading_count"]) == (
        "in limits",
        True,
        1,
    )
    orla.get(f"/jobs/{number}/part?feature=B")
    orla.send(f"/jobs/{number}/withdraw?feature=B", reason="it is not free", what="put_back")
    assert record(orla, number)["verdict"] == "metal to go"


def test_the_last_feature_is_not_withdrawn(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    refused = orla.send(f"/jobs/{number}/withdraw?feature=A", reason="no longer wanted", what="withdraw")
    assert refused.status_code == 422
    assert "the only feature" in refused.text


def test_a_letter_is_never_given_again(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1\nlength 40 ±0.1"))
    orla.send(f"/jobs/{number}/withdraw?feature=B", reason="free", what="withdraw")
    orla.send(f"/jobs/{number}/features", lines="length 41 ±0.1", general_tolerance="")
    assert list(features(orla, number)) == ["A", "B", "C"]


@pytest.mark.parametrize(
    ("line", "kind"),
    [
        ("od 1.375 ±.005 x 3.625", "outside diameter"),
        ("28±0.1", "27.9"),
        ("25 h7", "24.979"),
        ("bore .800 +.004/-0", "bore"),
    ],
)
def test_a_line_asked_can_start_a_job(orla: Hand, line: str, kind: str) -> None:
    asked = orla.get("/ask", params={"q": line})
    assert asked.status_code == 200
    assert kind in asked.text
    link = re.search(r'href="(/\?lines=[^"]+)"', asked.text)
    assert link
    begun = orla.get(link[1].replace("&amp;", "&")).text
    assert f">{line}</textarea>" in begun


@pytest.mark.parametrize("line", ["7/8", "25 H7/g6", "bush"])
def test_a_line_that_is_no_feature_starts_none(orla: Hand, line: str) -> None:
    assert "Start a job with this" not in orla.get("/ask", params={"q": line}).text


def test_what_cannot_be_true_of_the_part_is_said_on_its_page(orla: Hand) -> None:
    number = number_of(start(orla, "od 20 ±0.1\nhole 22 ±0.1 thru"))
    assert "there would be no wall" in orla.get(f"/jobs/{number}/part").text
    orla.send(f"/jobs/{number}/requirement?feature=B", line="12 ±0.1", based_on_version="1")
    assert "there would be no wall" not in orla.get(f"/jobs/{number}/part").text


def test_the_section_leads_from_each_letter_to_its_feature(orla: Hand) -> None:
    number = number_of(start(orla))
    page = orla.get(f"/jobs/{number}/part").text
    assert 'class="figure section dimensioned"' in page
    assert f'href="/jobs/{number}/measure?feature=D"' in page
    assert "that C comes in from the left" in page
    plain = number_of(start(orla, "28 ±0.1"))
    assert 'class="figure section' not in orla.get(f"/jobs/{plain}/part").text


@pytest.mark.parametrize(
    ("lines", "letter", "line", "upper"),
    [
        ("groove 2.2 +0.1/0 wide to 22 ±0.1 at 2 ±0.1 from the left", "A", "2.4 +0.1/0", "2.500000000000"),
        ("groove 2.2 +0.1/0 wide to 22 ±0.1 at 2 ±0.1 from the left", "B", "21 ±0.1", "21.100000000000"),
        ("groove 2.2 +0.1/0 wide to 22 ±0.1 at 2 ±0.1 from the left", "C", "3 ±0.1", "3.100000000000"),
        ("od 25 h7", "A", "od 25 g6", "24.993000000000"), ("28 ±0.1", "A", "29 ±0.1", "29.100000000000"),
        ("runout 0.02", "A", "0.05", "0.050000000000"), ("cham 0.5 x 45", "A", "1 x 45", "1.200000000000"),
    ],
)  # fmt: skip
def test_the_limits_of_any_kind_are_changed_by_its_size_alone(
    orla: Hand, lines: str, letter: str, line: str, upper: str
) -> None:
    number = number_of(start(orla, lines))
    changed = orla.send(f"/jobs/{number}/requirement?feature={letter}", line=line, based_on_version="1")
    assert changed.status_code == 200, changed.text
    assert features(orla, number)[letter]["upper_mm"] == upper


def test_sizes_that_no_lathe_here_holds_are_asked_about_before_anything_begins(orla: Hand) -> None:
    orla.get("/")
    typed = {"title": "Hub in the wrong unit", "partner_kind": "none", "unit": "in", "lines": "od 30 x 160"}
    asked = orla.send("/jobs", **typed)
    assert asked.status_code == 422
    assert "All of it in mm?" in asked.text
    assert 'name="unit" value="mm"' in asked.text
    orla.get("/")
    assert "Hub in the wrong unit" not in orla.page
    begun = orla.send("/jobs", **typed | {"unit": "mm"})
    assert begun.status_code == 200
    assert "worked in <strong>mm</strong>" in orla.page


def test_sizes_that_are_meant_are_taken_as_they_are_written(orla: Hand) -> None:
    orla.get("/")
    typed = {
        "title": "Seat for a metric bearing",
        "partner_kind": "none",
        "unit": "in",
        "lines": "od 1.250 ±.005\nbore 12 mm ±0.02",
    }
    assert "Is that meant so?" in orla.send("/jobs", **typed).text
    assert orla.send("/jobs", **typed, sizes_meant="yes").status_code == 200


def test_what_nobody_measured_is_said_to_be_unmeasured_and_not_out(orla: Hand) -> None:
    orla.get("/")
    orla.send("/jobs", title="Spacer", partner_kind="none", unit="mm", lines="od 20 ±0.1\nlength 12 ±0.1")
    found = re.search(r"/jobs/(\d+)/", orla.page)
    assert found
    refused = orla.send(f"/jobs/{found[1]}/events", kind="handed_over", note="")
    assert refused.status_code >= 400
    assert "Not measured yet: A, B." in refused.text
    assert "not in limits" not in refused.text


def test_the_part_is_drawn_while_its_lines_are_typed(orla: Hand) -> None:
    orla.get("/")
    lines = "od 1.5 x .625\nM24x2 thru\ncham .03 x 45\nknurl medium on A\n6 holes 1/8 on 1.2"
    drawn = orla.send("/sketch-lines", lines=lines, unit="in", general_tolerance="", draws="yes").text
    assert "The part in half section" in drawn
    assert 'class="thread-line"' in drawn
    assert "<a " not in drawn
    assert re.findall(r"Not in the drawing: ([^<]+)", drawn) == ["F, knurl; G, hole off the axis; H, hole circle."]
    assert (
        "The part in half section" not in orla.send("/sketch-lines", lines=lines, unit="in", general_tolerance="").text
    )
    assert (
        "The part in half section"
        not in orla.send("/sketch-lines", lines="bush", unit="in", general_tolerance="", draws="yes").text
    )


def test_lines_added_to_a_part_name_its_letters_as_it_has_them(orla: Hand) -> None:
    """A thread lies on the diameter of its own line, and what names a letter means that of the part."""
    number = number_of(start(orla, "od 40 ±0.1 x 20\nbore 12 H7 thru"))
    orla.get(f"/jobs/{number}/part")
    assert f'"after": "3", "job": "{number}"' in orla.page
    lines = "M20x1.5 6g x 30\nrunout 0.02 true to C\nod 24 h7 x 9, true to A within 0.01\nsquare 0.02 to B"
    looked = orla.send("/sketch-lines", lines=lines, unit="mm", general_tolerance="", after="3").text
    assert "is-bad" not in looked
    orla.get(f"/jobs/{number}/part")
    assert orla.send(f"/jobs/{number}/features", lines=lines, general_tolerance="").status_code == 200
    found = features(orla, number)
    assert [(letter, one["along"], one["duty"]) for letter, one in found.items() if letter > "C"] == [
        ("D", "", ""),
        ("E", "", ""),
        ("F", "on D", ""),
        ("G", "", "must be true to C"),
        ("H", "", "must be true to A"),
        ("I", "", ""),
        ("J", "on H", "must be true to A"),
        ("K", "", "must be true to B"),
    ]
