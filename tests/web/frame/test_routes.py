"""What every door does for whom, held against the table in doors.csv."""

import csv
import re
from collections.abc import Callable
from pathlib import Path
from urllib.parse import parse_qsl

import pytest
from starlette.testclient import TestClient

from nomisma.core.registry import calculations
from tests.hostile import forms_of
from tests.web.conftest import Hand
from tests.web.doors import doors_of
from tests.web.frame.test_fuzz_pages import PAGES
from tests.web.job.test_permissions import gone_too_far
from tests.web.shop.test_instruments import readings

ROLES = {"nobody": "", "apprentice": "pim", "machinist": "orla", "lead": "bram"}
MEANS = {"opens": (200, 204), "takes": (200, 303, 404, 409, 422), "signs in": (401,), "refuses": (403,)}


def table() -> list[dict[str, str]]:
    text = (Path(__file__).parent / "doors.csv").read_text(encoding="utf-8")
    return list(csv.DictReader(line for line in text.splitlines() if not line.startswith("#")))


def test_every_door_is_in_the_table_and_no_other(running: TestClient) -> None:
    doors = {
        (method, re.sub(r"^/api/v1/calc/.+", "/api/v1/calc/{name}", path)) for method, path in doors_of(running.app)
    }
    doors = {(method, "/static" if path == "" else path) for method, path in doors}
    assert doors == {(row["method"], row["path"]) for row in table()}


@pytest.fixture(scope="module")
def people(running: TestClient) -> dict[str, Callable[[], Hand]]:
    """A fresh browser of each role; signed in once and its cookies copied, for signing in is meant to be slow."""
    from tests.web.conftest import client_of

    first = {role: Hand(client_of(running)) for role in ROLES}
    for role, name in ROLES.items():
        if name:
            first[role].sign_in(name)

    def browser(role: str) -> Callable[[], Hand]:
        def new() -> Hand:
            hand = Hand(client_of(running))
            hand.client.cookies = first[role].client.cookies
            return hand

        return new

    return {role: browser(role) for role in ROLES}


@pytest.fixture(scope="module")
def places(people: dict[str, Callable[[], Hand]]) -> dict[str, str]:
    """What stands in the addresses: a job with a piece gone too far, its reading, an instrument, a rule."""
    orla = people["machinist"]()
    orla.get("/")
    number = gone_too_far(orla, "Every door")
    instrument = re.search(r"/shop/instruments/([0-9a-f-]{36})\"", orla.get("/shop").text)
    rule = re.search(r"/shop/rules/(\w+)", orla.get("/shop/rules").text)
    assert instrument
    assert rule
    return {
        "number": str(number),
        "set_up": "right",
        "reading_id": str(readings(orla, number)[-1]["id"]),
        "first_id": instrument[1],
        "name": rule[1],
    }


def practice_of(hand: Hand) -> dict[str, str]:
    """A practice of one's own, for nobody else may see it."""
    if hand.get("/practice").status_code != 200:
        return {"truing_id": "0" * 32, "part_id": "0" * 32}
    level = re.search(r'name="level" value="(\w+)"', hand.page.split('action="/practice/lathe"')[0])
    lathe = re.search(r'name="level" value="(\w+)"', hand.page.split('action="/practice/lathe"')[1])
    assert level
    assert lathe
    truing = hand.send("/practice", level=level[1])
    hand.get("/practice")
    part = hand.send("/practice/lathe", level=lathe[1])
    return {"truing_id": truing.url.path.split("/")[-1], "part_id": part.url.path.split("/")[-1]}


# These end the sign-in or never end themselves; each has tests of its own.
ALONE = {"/account/sign-out", "/sign-out", "/jobs/{number}/live"}


@pytest.mark.parametrize("role", ROLES)
def test_every_door_does_for_a_role_what_the_table_says(
    people: dict[str, Callable[[], Hand]], places: dict[str, str], role: str
) -> None:
    hand = people[role]()
    own = {**places, **practice_of(hand)}
    for row in table():
        if row["path"] in ALONE and role != "nobody":
            continue
        path = row["path"].format(**({**own, "name": "fit"} if "/calc/" in row["path"] else own))
        if row["method"] == "GET":
            response = hand.client.get(path)
        elif path.startswith("/api/"):
            response = hand.client.post(path, json=calculations()["fit"].example)
        else:
            hand.get("/shop/rules")
            response = hand.send(path, **dict(parse_qsl(row["fields"])))
        assert response.status_code in MEANS[row[role]], (
            f"{row['method']} {path}: {response.status_code} is not “{row[role]}”"
        )


def row_of(method: str, path: str, rows: list[dict[str, str]]) -> dict[str, str]:
    """The table's row for an address as a page has it."""
    for row in rows:
        pattern = re.sub(r"\{\w+\}", "[^/]+", row["path"])
        if row["method"] == method and re.fullmatch(pattern, path):
            return row
    raise AssertionError(f"no door {method} {path}")


@pytest.mark.parametrize("role", ["apprentice", "machinist", "lead"])
def test_no_page_shows_a_role_a_button_that_is_refused(
    people: dict[str, Callable[[], Hand]], places: dict[str, str], role: str
) -> None:
    hand, rows = people[role](), table()
    here = f"/jobs/{places['number']}/"
    of_job = [path.replace("/jobs/104/", here) for path in PAGES if path.startswith("/jobs/104/")]
    shown = set()
    for page in (*PAGES, *of_job, f"/shop/instruments/{places['first_id']}", f"/shop/rules/{places['name']}"):
        for form in forms_of(hand.get(page).text, page):
            row = row_of(form.method.upper(), re.split(r"[?#]", form.action)[0], rows)
            counts = row["path"] not in DEPENDS_ON_THE_JOB or (here in form.action and row["path"] != CHOSEN_FROM)
            if row[role] == "refuses" and counts:
                shown.add(f"{page}: {row['method']} {row['path']}")
    assert shown == set()


DEPENDS_ON_THE_JOB = {
    "/jobs/{number}/limits",
    "/jobs/{number}/plan",
    "/jobs/{number}/events",
    "/jobs/{number}/dispositions",
}
"""What these do for a role hangs on the piece; the table has them for a job with one gone too far."""
CHOSEN_FROM = "/jobs/{number}/dispositions"
"""Who may decide what is said on each of the choices of its page."""
