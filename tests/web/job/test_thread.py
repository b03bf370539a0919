"""A thread from its line to its record: read over wires or with its own micrometer, never over its crests; tapped holes
by gauges.
"""

import re
from decimal import Decimal

import pytest

from tests.web.conftest import Hand
from tests.web.parts import features, number_of, record, start

MIC = "0–25 mm micrometer, 0.001 mm"
SCREW = "M20x1.5 6g x 30 ±0.2, carries the load\ntap M8 x 20 deep from the right\ncham 1.5 x 45 on A"


def log(hand: Hand, number: int, size: str, **fields: str) -> int:
    hand.get(f"/jobs/{number}/measure?feature=C")
    given = {"size": size, "place": "near end 0°", "instrument_id": hand.instrument(MIC), "cut_since": "not", **fields}
    answer = hand.send(f"/jobs/{number}/measure/readings?feature=C", feature="C", **given)
    hand.page = answer.text
    return answer.status_code


def test_a_line_of_a_thread_is_the_diameter_it_is_cut_on_and_the_thread(orla: Hand) -> None:
    found = features(orla, number_of(start(orla, SCREW)))
    assert [(letter, one["title"]) for letter, one in found.items()] == [
        ("A", "outside diameter"),
        ("B", "length"),
        ("C", "thread"),
        ("D", "bore"),
        ("E", "depth"),
        ("F", "inside thread"),
        ("G", "chamfer"),
    ]
    assert (Decimal(found["C"]["lower_mm"]), Decimal(found["C"]["upper_mm"])) == (Decimal("18.854"), Decimal("18.994"))
    assert found["C"]["along"] == "on A"


def test_over_wires_it_is_judged_by_its_pitch_diameter(orla: Hand) -> None:
    """Source: over wires of 0.89 the pitch diameter of M20x1.5 is 1.3714 under (ASME B1.2, worked by hand)."""
    number = number_of(start(orla, SCREW))
    assert log(orla, number, "wires 20.50 on 0.89") == 200
    assert features(orla, number)["C"]["verdict"] == "metal to go"
    assert log(orla, number, "wires 20.24 on 0.89", cut_since="cut") == 200
    row = record(orla, number)["readings"][-1]
    assert row["entered"] == "wires 20.24 on 0.89 for M20x1.5 6g"
    assert Decimal(str(row["size_mm"])) == pytest.approx(Decimal("18.8686"), abs=Decimal("0.0001"))
    assert row["verdict_now"] == "in limits"
    assert "18.869 mm" in orla.get(f"/jobs/{number}/readings?feature=C").text


@pytest.mark.parametrize(
    ("size", "sentence"),
    [("19.85", "it touches the crests"), ("wires 20.24 on 3", "does not measure"), ("wires 20.24", "is not understood"),
     ("wires 1.2 on 0.89", "more than two wires"), ("chord 80 height 20", "That is no way to measure"),
     ("wires 20.24 on 0.89 for M20x2", "read of M20x2, and this is M20x1.5 6g")],
)  # fmt: skip
def test_a_reading_of_something_else_is_refused_and_what_to_use_is_said(orla: Hand, size: str, sentence: str) -> None:
    number = number_of(start(orla, SCREW))
    assert log(orla, number, size) == 422
    assert sentence in orla.page
    assert record(orla, number)["readings"] == []


def test_a_reading_over_wires_is_corrected_by_another(orla: Hand) -> None:
    number = number_of(start(orla, SCREW))
    log(orla, number, "wires 20.24 on 0.89")
    (first,) = record(orla, number)["readings"]
    orla.get(f"/jobs/{number}/readings/{first['id']}/correct?feature=C")
    path = f"/jobs/{number}/readings/{first['id']}/correct?feature=C"
    assert orla.send(path, what="correct", size="wires 20.25 on 0.89", reason="misread", feature="C").status_code == 200
    sizes = [Decimal(str(row["size_mm"])) for row in record(orla, number)["readings"] if row["stands"]]
    assert sizes == [pytest.approx(Decimal("18.8786"), abs=Decimal("0.0001"))]


@pytest.mark.parametrize(
    ("outcome", "verdict"), [("go_refused", "metal to go"), ("go_only", "in limits"), ("no_go_entered", "gone too far")]
)
def test_a_tapped_hole_is_tried_with_its_gauges(orla: Hand, outcome: str, verdict: str) -> None:
    number = number_of(start(orla, SCREW))
    page = orla.get(f"/jobs/{number}/measure?feature=F").text
    assert "the go gauge goes and the no-go does not" in page
    assert "a go and a no-go plug gauge" in page
    sent = orla.send(f"/jobs/{number}/measure/trials?feature=F", feature="F", outcome=outcome, place="mouth")
    assert sent.status_code == 200
    assert features(orla, number)["F"]["verdict"] == verdict


def try_rings(orla: Hand, number: int, outcome: str) -> None:
    path = f"/jobs/{number}/measure/trials?feature=C"
    orla.get(path)
    assert orla.send(path, feature="C", outcome=outcome, place="all along").status_code == 200


def test_rings_are_tried_on_a_thread_as_well_as_a_size_read(orla: Hand) -> None:
    """The worse of the two speaks: a lead that is off is refused by the ring while the pitch diameter is right."""
    number = number_of(start(orla, SCREW))
    assert "a go and a no-go ring gauge" in orla.get(f"/jobs/{number}/measure?feature=C").text
    try_rings(orla, number, "go_refused")
    assert features(orla, number)["C"]["verdict"] == "metal to go"
    try_rings(orla, number, "go_only")
    assert features(orla, number)["C"]["verdict"] == "in limits"
    assert log(orla, number, "wires 20.24 on 0.89") == 200
    assert features(orla, number)["C"]["verdict"] == "in limits"
    try_rings(orla, number, "no_go_entered")
    found = features(orla, number)["C"]
    assert found["verdict"] == "gone too far"
    assert found["places"].endswith("all along")
    assert [row["outcome"] for row in record(orla, number)["trials"] if row["counts"]] == [
        "the no-go gauge goes in by more than two turns"
    ]
    assert "the no-go gauge goes in" in orla.get(f"/jobs/{number}/decide?feature=C").text


def test_a_thread_may_be_judged_by_its_rings_alone(orla: Hand) -> None:
    number = number_of(start(orla, SCREW))
    try_rings(orla, number, "go_only")
    assert "C, " not in orla.get(f"/jobs/{number}/record").text.split("Not measured yet")[-1][:200]
    assert "Log a reading" in orla.get(f"/jobs/{number}/measure/trials?feature=A").text


def test_another_class_is_put_in_force_on_part(orla: Hand) -> None:
    number = number_of(start(orla, SCREW))
    orla.get(f"/jobs/{number}/part?feature=C")
    given = {"line": "M20x1.5 4h", "why": "drawing B", "based_on_version": "1", "feature": "C"}
    assert orla.send(f"/jobs/{number}/requirement?feature=C", **given).status_code == 200
    assert Decimal(features(orla, number)["C"]["upper_mm"]) == Decimal("19.026")
    orla.get(f"/jobs/{number}/part?feature=C")
    refused = orla.send(
        f"/jobs/{number}/requirement?feature=C", **{**given, "line": "M20x1.5 6H", "based_on_version": "2"}
    )
    assert refused.status_code == 422
    assert "6H is a class of inside threads" in refused.text


def test_its_own_sheet_opens_with_what_the_job_knows(orla: Hand) -> None:
    number = number_of(start(orla, SCREW))
    (link,) = set(re.findall(r'href="(/thread\?[^"]+)"', orla.get(f"/jobs/{number}/cut?feature=C").text))
    page = orla.get(link.replace("&amp;", "&")).text
    assert "over three wires of 0.8660 mm" in page
    assert "20.1535" in page
    assert "Cut the thread C, M20x1.5 6g" in orla.get(f"/jobs/{number}/plan").text


def test_a_free_inch_thread_is_measured_in_an_inch_job(orla: Hand) -> None:
    """Source: M = E + 3·W − 0.86603·P over wires of a 60° thread (handbooks, recalled), worked by hand: .7633 over .036
    is .7094.
    """
    number = number_of(start(orla, "thread .75 x 16 tpi x 1", unit="in"))
    orla.get(f"/jobs/{number}/measure?feature=C")
    given = {
        "size": "wires .7633 on .036",
        "place": "near end 0°",
        "instrument_id": orla.instrument("0–1 in micrometer, tenths"),
        "cut_since": "not",
    }
    sent = orla.send(f"/jobs/{number}/measure/readings?feature=C", feature="C", **given)
    assert sent.status_code == 200, sent.text
    (row,) = record(orla, number)["readings"]
    assert float(row["size_mm"]) / 25.4 == pytest.approx(0.7633 + 0.866025 / 16 - 3 * 0.036, abs=0.0003)
    assert "Cut the thread C" in orla.get(f"/jobs/{number}/plan").text
