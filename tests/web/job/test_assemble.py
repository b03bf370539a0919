"""Assemble: planned from a worksheet, done step by step, logged, and the bush measured again."""

import re
from collections.abc import Callable
from uuid import uuid4

import pytest

from nomisma.store.append import append
from nomisma.store.models import AssemblyPlan, Feature, Job, KeptAnswer
from tests.web.conftest import Hand
from tests.web.practice.test_chuck import opened

BUSH = {
    "housing": ".7502 .7503", "shaft": "0.4992/0.4996 in", "housing_outer": "1.75 in", "length": "0.75 in",
    "bush_material": "aluminium_bronze", "housing_material": "carbon_steel", "shaft_material": "carbon_steel",
    "working_c": "40",
}  # fmt: skip


def new_job(hand: Hand, title: str) -> int:
    hand.get("/")
    hand.send("/jobs", title=title, asked="", unit="in", partner_kind="bore")
    found = re.search(r"/jobs/(\d+)/mate", hand.page)
    assert found
    return int(found[1])


def test_a_planned_press_shows_force_steps_and_its_caution(orla: Hand) -> None:
    orla.get("/jobs/105/assemble")
    assert re.search(r"lbf \([\d. to]+ kN\) at the end of the stroke", orla.page)
    assert "Mark both parts at one place" in orla.page
    assert "If the force rises before it should, stop" in orla.page
    assert "It closed in 0.90 thou, as predicted" in orla.page


def test_a_planned_shrink_shows_its_temperature_and_is_next(orla: Hand) -> None:
    orla.get("/jobs/106/assemble")
    assert re.search(r"Hub at \d+ °C", orla.page)
    assert "push the air out of a room" in orla.page
    orla.get("/?q=106")
    assert "In limits: put it together as planned." in orla.page


def test_a_bush_is_planned_pressed_measured_again_and_feeds_the_next(orla: Hand) -> None:
    number = new_job(orla, "Hinge bush")
    orla.get(f"/jobs/{number}/assemble")
    assert "How does it go together?" in orla.page
    orla.get(f"/bush?job={number}&housing=.7502&shaft=0.4992/0.4996+in&housing_outer=1.75&length=.75")
    assert f"Put job {number} together like this" in orla.page
    assert orla.send(f"/jobs/{number}/assemble/plan", tool="bush", **BUSH).status_code == 200
    assert "Stop it with a stepped mandrel" in orla.page
    factor = _factor(orla)
    response = orla.send(
        f"/jobs/{number}/assemble/results",
        felt="as_expected",
        force="1400 lbf",
        size_before=".4980",
        size_after=".4972",
        note="square",
    )
    assert response.status_code == 200
    assert "It closed in 0.80 thou" in orla.page
    assert "1400 lbf" in orla.page
    assert _factor(orla) != factor
    orla.get(f"/jobs/{number}/record")
    assert "square" in orla.page
    saved = orla.client.get(f"/jobs/{number}/record.json").json()
    assert saved["assemblies"][0]["size_after"] == ".4972"
    assert saved["assemblies"][0]["felt"] == "as expected"


def _factor(hand: Hand) -> str:
    page = hand.client.get("/bush").text
    found = re.search(r'name="close_in_factor" (?:value|placeholder)="([\d.]+)"', page)
    assert found
    return found[1]


def test_a_push_by_hand_needs_no_worksheet(orla: Hand) -> None:
    number = new_job(orla, "Cap")
    orla.get(f"/jobs/{number}/assemble")
    orla.send(f"/jobs/{number}/assemble/plan")
    assert "By hand, with a film of oil and a slight twist." in orla.page
    orla.send(f"/jobs/{number}/assemble/results", felt="too_hard", note="burr on the edge")
    assert "too hard" in orla.page


REFUSED = [
    ({"felt": "fine"}, "is not one of the choices"),
    ({"felt": "as_expected", "size_before": "cheese"}, "is not understood as a size"),
    ({"felt": "as_expected", "size_before": ".4980", "size_after": ".2972"}, "is more than any bush closes in"),
    ({"felt": "as_expected", "instrument_id": "nobody"}, "This was not chosen from the list."),
]


@pytest.mark.parametrize(("wrong", "sentence"), REFUSED)
def test_what_cannot_be_logged_is_refused_and_kept(orla: Hand, wrong: dict[str, str], sentence: str) -> None:
    orla.get("/jobs/105/assemble")
    logged = orla.page.count("UTC")
    response = orla.send("/jobs/105/assemble/results", **{"note": "what I saw", **wrong})
    assert response.status_code == 422
    assert sentence in response.text
    assert 'value="what I saw"' in response.text
    orla.get("/jobs/105/assemble")
    assert orla.page.count("UTC") == logged


def test_an_overstressed_joint_is_not_planned(orla: Hand) -> None:
    number = new_job(orla, "Too tight")
    fields = {"interface_diameter": "1 in", "hub_outer": "1.5 in", "length": "1 in", "fit": "1 FN5"}
    orla.get(f"/jobs/{number}/assemble")
    response = orla.send(f"/jobs/{number}/assemble/plan", tool="interference", **fields)
    assert response.status_code == 422
    assert "overstressed" in response.text


def test_a_shrink_that_no_heat_opens_is_not_planned(orla: Hand) -> None:
    number = new_job(orla, "No way")
    fields = {"interface_diameter": "40 mm", "hub_outer": "80 mm", "length": "50 mm", "interference_max": "0.39 mm"}
    orla.get(f"/jobs/{number}/assemble")
    response = orla.send(f"/jobs/{number}/assemble/plan", tool="shrink", **fields)
    assert response.status_code == 422
    assert "No way opens it far enough" in response.text


def test_the_same_result_sent_twice_is_there_once(orla: Hand) -> None:
    number = new_job(orla, "Twice")
    orla.get(f"/jobs/{number}/assemble")
    orla.send(f"/jobs/{number}/assemble/plan")
    for _ in range(2):
        orla.send(
            f"/jobs/{number}/assemble/results",
            felt="too_easy",
            note="once only",
            client_id="6f1a52be-0c3b-4d50-9d3c-6e2f1e6b8a77",
        )
    assert orla.page.count("once only") == 1


def test_a_job_handed_over_is_not_assembled_again(hands: Callable[..., Hand]) -> None:
    bram = hands("bram")
    bram.get("/jobs/101/assemble")
    assert "It is pushed on by hand" not in bram.page
    bram.get("/")
    assert "This job is handed over." in bram.send("/jobs/101/assemble/plan").text


FIELDS_SINCE = ("press_lead", "interference_warm", "clearance_warm", "working_c", "wall", "flange")
"""Of the bush worksheet's answer: what earlier versions of the program did not answer."""


@pytest.mark.parametrize(
    ("inputs", "gone", "says"),
    [
        ({}, FIELDS_SINCE, "It should close in"),
        ({}, (*FIELDS_SINCE, "bore_after"), "Mark both parts at one place"),
        ({"its_own": 1}, FIELDS_SINCE, "Planned, by an earlier version of this program"),
    ],
)
def test_what_an_earlier_version_planned_and_kept_is_still_shown(
    orla: Hand, shop_url: str, inputs: dict[str, int], gone: tuple[str, ...], says: str
) -> None:
    with opened(shop_url) as db:
        now = next(row for row in db.query(AssemblyPlan).all() if row.tool == "bush" and "bore_after" in row.answer)
        number = next(one for (one,) in db.query(Job.number).filter(Job.id == now.job_id))
        answer = {name: value for name, value in now.answer.items() if name not in gone}
        common = {"job_id": now.job_id, "asked": now.asked, "answer": answer, "by_id": now.by_id}
        joint = {"joint_id": now.joint_id, "method": now.method, "tool": now.tool}
        append(db, AssemblyPlan(id=uuid4(), inputs={**now.inputs, **inputs}, **joint, **common))
        letter = db.query(Feature.id).filter(Feature.job_id == now.job_id).first()
        assert letter
        append(db, KeptAnswer(id=uuid4(), feature_id=letter[0], calculation="bush", unit="in", note="", **common))
        db.commit()
    assert orla.get(f"/jobs/{number}/assemble").status_code == 200
    assert says in orla.page
    assert orla.get(f"/jobs/{number}/record").status_code == 200
    assert "Answered by an earlier version of this program" in orla.page
