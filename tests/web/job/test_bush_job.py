"""A bush between two measured parts, from its mates to the bore after pressing: led by its worksheet, on the pages."""

import pytest
from starlette.testclient import TestClient

from tests.web.conftest import Hand
from tests.web.job.test_feature_carried import Requests

BEFORE, AFTER = "bush bore before pressing", "bush bore after pressing"


def _start(hand: Hand) -> str:
    hand.get("/")
    answer = hand.send(
        "/jobs", title="Bush of the hatch hinge", asked="", partner_kind="bush", unit="in", machine_id=""
    )
    return str(answer.url.path.split("/")[2])


def _log(hand: Hand, number: str, page: str, letter: str, size: str, place: str, instrument: str, **more: str) -> int:
    hand.get(f"/jobs/{number}/{page}?feature={letter}")
    sent = {"size": size, "place": place, "instrument_id": hand.instrument(instrument), "feature": letter, **more}
    return int(hand.send(f"/jobs/{number}/{page}/readings?feature={letter}", **sent).status_code)


def _work_to(hand: Hand, number: str, **fields: str) -> int:
    typed = {"housing_outer": "1.5 in", "length": "0.5 in", **fields}
    query = "&".join(f"{name}={value}" for name, value in typed.items())
    known = Requests(hand.get(f"/bush?job={number}&feature=A").text).forms
    own = next(fields for form, fields in known if form.get("class") == "worksheet")
    page = hand.get(f"/bush?job={number}&feature=A&housing={own['housing']}&shaft={own['shaft']}&{query}").text
    form, given = next(one for one in Requests(page).forms if one[0].get("class") == "bush-choice")
    return int(
        hand.send(
            form["action"], **{name: text for name, text in given.items() if name not in ("csrf_token", "client_id")}
        ).status_code
    )


@pytest.fixture(scope="module")
def orla(running: TestClient) -> Hand:
    return Hand(running).sign_in()


@pytest.fixture(scope="module")
def number(orla: Hand) -> str:
    """A bush job with its mates measured and its worksheet in force."""
    number = _start(orla)
    assert f'href="/bush?job={number}' in orla.page
    assert "Housing B: not measured yet" in orla.page
    for place in ("mouth 0°", "deep 90°"):
        assert _log(orla, number, "mate", "A", ".7502", place, "Bore gauge") == 200
    assert _log(orla, number, "mate", "D", ".4993", "near end 0°", "tenths") == 200
    assert _work_to(orla, number) == 200
    return number


def test_what_is_at_hand_is_looked_at_with_what_is_made_for_it(orla: Hand) -> None:
    assert orla.get("/jobs/122/mate?feature=E").url.query == b"feature=D"
    assert "The shaft you have" in orla.page
    assert orla.get("/jobs/122/mate?feature=B").url.query == b"feature=A"
    assert "The housing you have" in orla.page


def test_the_worksheet_is_lent_what_was_measured_of_housing_and_shaft(orla: Hand, number: str) -> None:
    found = Requests(orla.get(f"/bush?job={number}&feature=A").text).forms
    fields = next(fields for form, fields in found if form.get("class") == "worksheet")
    assert (fields["housing"], fields["shaft"]) == ("0.7502 in", "0.4993 in")
    assert fields["length"] == "0.5 in"


def test_its_limits_say_before_or_after_pressing_on_part_cut_and_measure(orla: Hand, number: str) -> None:
    part = orla.get(f"/jobs/{number}/part").text
    assert "Bush, bore before pressing" in part
    assert "Bush, bore after pressing" in part
    assert BEFORE in orla.get(f"/jobs/{number}/cut?feature=C").text
    assert BEFORE.capitalize() in orla.get(f"/jobs/{number}/measure?feature=C").text
    assert AFTER.capitalize() in orla.get(f"/jobs/{number}/measure?feature=D").text


def test_before_it_is_pressed_in_the_bore_before_pressing_is_the_one_to_read(orla: Hand, number: str) -> None:
    assert _log(orla, number, "measure", "C", ".4801", "mouth 0°", "Bore gauge") == 200
    orla.get(f"/jobs/{number}/measure?feature=C")
    sent = {"size": ".5001", "place": "mouth 0°", "instrument_id": orla.instrument("Bore gauge"), "feature": "D"}
    answer = orla.send(f"/jobs/{number}/measure/readings?feature=D", **sent)
    assert answer.status_code == 422
    assert "Until then its bore is C" in answer.text


def test_pressed_in_it_is_the_bore_after_pressing_and_neither_counts_for_the_other(orla: Hand, number: str) -> None:
    orla.get(f"/jobs/{number}/assemble?feature=A")
    assert orla.send(f"/jobs/{number}/assemble/results?feature=A", felt="as_expected", feature="A").status_code == 200
    assert _log(orla, number, "measure", "D", ".4987", "mouth 0°", "Bore gauge") == 200
    page = orla.get(f"/jobs/{number}/part").text
    rows = {
        letter: page.split("<tbody>")[1].split(f'<span class="letter">{letter}</span>')[1].split("</tr>")[0]
        for letter in "CD"
    }
    assert ".4801" in rows["C"]
    assert ".4987" not in rows["C"]
    assert ".4987" in rows["D"]
    assert ".4801" not in rows["D"]
    assert "metal to go" in rows["D"]
    answer = orla.send(f"/jobs/{number}/measure/readings?feature=C", size=".4802", place="mouth 0°", feature="C")
    assert answer.status_code == 422
    assert "the bush is in: what is measured now is D" in answer.text


def test_a_worksheet_that_was_seen_before_other_limits_is_refused(orla: Hand) -> None:
    number = _start(orla)
    for letter, size, place, instrument in (
        ("A", ".7502", "mouth 0°", "Bore gauge"),
        ("D", ".4993", "near end 0°", "tenths"),
    ):
        assert _log(orla, number, "mate", letter, size, place, instrument) == 200
    page = orla.get(
        f"/bush?job={number}&feature=A&housing=.7502 in&shaft=.4993 in&housing_outer=1.5 in&length=.5 in"
    ).text
    _, given = next(one for one in Requests(page).forms if one[0].get("class") == "bush-choice")
    sent = {name: text for name, text in given.items() if name not in ("csrf_token", "client_id")}
    assert orla.send(f"/jobs/{number}/bush?feature=A", **sent).status_code == 200
    again = orla.send(f"/jobs/{number}/bush?feature=A", **sent)
    assert again.status_code == 409
    assert "Other limits of this bush were put in force while you were choosing" in again.text


def test_the_outside_that_is_made_keeps_its_limits_when_the_bush_is_worked_out_anew(orla: Hand) -> None:
    number = _start(orla)
    for letter, size, place, instrument in (
        ("A", ".7502", "mouth 0°", "Bore gauge"),
        ("D", ".4993", "near end 0°", "tenths"),
    ):
        assert _log(orla, number, "mate", letter, size, place, instrument) == 200
    assert _work_to(orla, number) == 200
    limits = orla.get(f"/jobs/{number}/part").text.split("<tbody>")[1].split("</td>")[0]
    assert _work_to(orla, number, bush_outside=".7513 in") == 200
    assert orla.get(f"/jobs/{number}/part").text.split("<tbody>")[1].split("</td>")[0] == limits
