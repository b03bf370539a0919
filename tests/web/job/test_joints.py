"""Features that go together: a bush, a bore of another job."""

import re
from collections.abc import Callable

import pytest

from tests.web.conftest import Hand
from tests.web.parts import features, number_of, record, start


def test_a_bush_is_one_job_with_two_joints(orla: Hand) -> None:
    started = orla.send("/jobs", title="Pulley bush", partner_kind="bush", unit="mm", lines="")
    number = number_of(started)
    assert (
        "<strong>D</strong>, bush bore after pressing that goes with E, the shaft"
        in orla.get(f"/jobs/{number}/mate?feature=D").text
    )
    found = features(orla, number)
    assert {letter: (one["kind"], one["made_here"], one["goes_with"]) for letter, one in found.items()} == {
        "A": ("shaft", True, "B"),
        "B": ("bore", False, "A"),
        "C": ("bore", True, ""),
        "D": ("bore", True, "E"),
        "E": ("shaft", False, "D"),
    }
    for letter, callout in (("A", "32 H7"), ("D", "20 g6")):
        orla.get(f"/jobs/{number}/mate?feature={letter}")
        assert orla.send(f"/jobs/{number}/mate/callout?feature={letter}", callout=callout).status_code == 200
    for letter, function in (("A", "pressed_for_good"), ("D", "turns_freely")):
        page = orla.get(f"/jobs/{number}/mate?feature={letter}&function={function}").text
        option = re.search(r'name="option" value="([^"]+)"', page)
        assert option
        sent = orla.send(
            f"/jobs/{number}/limits?feature={letter}", function=function, option=option[1], based_on_version="0"
        )
        assert sent.status_code == 200, sent.text
    found = features(orla, number)
    assert float(found["A"]["lower_mm"]) > 32.025
    assert 20 < float(found["D"]["lower_mm"]) < float(found["D"]["upper_mm"]) < 20.2


def test_mate_of_a_feature_that_goes_with_none_leads_to_the_part(orla: Hand) -> None:
    number = number_of(start(orla, "28 ±0.1"))
    assert str(orla.get(f"/jobs/{number}/mate").url).endswith(f"/jobs/{number}/part")


def test_a_feature_goes_with_the_bore_of_another_job(orla: Hand) -> None:
    bored = number_of(start(orla, "bore 25 H7 thru"))
    number = number_of(start(orla, f"od 25 g6 on bore of job {bored}\nlength 40 ±0.1"))
    found = features(orla, number)
    assert {letter: (one["kind"], one["goes_with"]) for letter, one in found.items()} == {
        "A": ("shaft", "C"),
        "B": ("length", ""),
        "C": ("bore", "A"),
    }
    assert (found["A"]["lower_mm"], found["A"]["upper_mm"]) == ("24.980000000000", "24.993000000000")
    assert found["C"]["written"] == "25.000 mm/25.021 mm"
    assert f"job {bored}, feature A" in orla.get(f"/jobs/{number}/part").text


@pytest.mark.parametrize(
    ("line", "sentence"),
    [
        ("od 25 g6 on bore of job 99999", "There is no job 99999"),
        ("od 25 g6 on bore of job 113", "Job 113 makes no bore"),
        ("od 25 g6 on shaft of job 104", "does not go with a shaft"),
        ("length 40 on bore of job 104", "does not go with a bore"),
        ("od 25 g6 on bore Z of job 104", "has no feature Z"), ("bore 12 H7 on shaft of job 103", "makes no shaft"),
    ],
)  # fmt: skip
def test_a_partner_that_is_not_there_starts_nothing(orla: Hand, line: str, sentence: str) -> None:
    refused = start(orla, line)
    assert refused.status_code == 422
    assert sentence in refused.text
    assert "Adapter" not in re.sub(r"<input[^>]*>", "", refused.text).split("Start a job")[1]


def test_features_added_to_a_bush_are_of_the_bush(orla: Hand) -> None:
    number = number_of(orla.send("/jobs", title="Idler bush", partner_kind="bush", unit="mm", lines=""))
    orla.send(f"/jobs/{number}/features", lines="length 30 ±0.1", general_tolerance="")
    found = features(orla, number)
    assert {found[letter]["part"] for letter in ("A", "C", "D", "F")} == {"bush"}


def test_each_joint_of_a_bush_is_assembled_by_itself(orla: Hand) -> None:
    number = number_of(orla.send("/jobs", title="Idler bush", partner_kind="bush", unit="mm", lines=""))
    page = orla.get(f"/jobs/{number}/assemble?feature=D").text
    assert f"job={number}&amp;feature=D" in page
    orla.send(f"/jobs/{number}/assemble/plan?feature=D")
    assert "Plan" in orla.get(f"/jobs/{number}/assemble?feature=D").text
    orla.send(f"/jobs/{number}/assemble/results?feature=D", felt="as_expected", size_before="", size_after="")
    assert [one["joint"] for one in record(orla, number)["assemblies"]] == ["E in D"]


def test_two_people_may_add_features_that_go_with_the_same_bore(orla: Hand, hands: Callable[..., Hand]) -> None:
    bored = number_of(start(orla, "bore 25 H7 thru"))
    number = number_of(start(orla, f"od 25 g6 on bore of job {bored}"))
    bram = hands("bram")
    bram.get(f"/jobs/{number}/part")
    sent = bram.send(f"/jobs/{number}/features", lines=f"od 25 f7 on bore of job {bored}", general_tolerance="")
    assert sent.status_code == 200, sent.text
    assert [one["goes_with"] for one in features(orla, number).values()] == ["B", "A", "D", "C"]


def test_a_start_sent_twice_is_one_job(orla: Hand) -> None:
    sent_id = "5f0c9c0e-6a55-4f1c-8f5e-1a2b3c4d5e6f"
    first, second = (number_of(start(orla, "28 ±0.1", client_id=sent_id)) for _ in range(2))
    assert first == second
    assert list(features(orla, first)) == ["A"]
