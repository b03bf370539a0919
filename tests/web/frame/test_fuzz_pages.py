"""Hostile values in every form and every address: no answer of 500 or above, and none that keeps a worker for long."""

import random
import re
import time
from collections.abc import Callable

import pytest

from tests.hostile import SENDABLE, PageForm, forms_of, spoilt_form
from tests.test_fuzz import LONGEST_SECONDS
from tests.web.conftest import Hand

PAGES = (
    "/", "/ask?q=25 H7", "/mate", "/verdict", "/find", "/bush", "/press", "/true", "/speeds", "/pins", "/shop",
    "/shop/access", "/shop/rules",
    "/shop/speeds", "/shop/instruments/new", "/practice", "/account", "/jobs/104/mate?function=slides_by_hand",
    "/jobs/104/hold",
    "/jobs/104/cut", "/jobs/104/measure", "/jobs/104/batch", "/jobs/104/form", "/jobs/104/import", "/jobs/104/decide",
    "/jobs/104/record",
    "/jobs/105/assemble", "/jobs/103/mate", "/jobs/110/record", "/jobs/118/part", "/jobs/118/plan",
    "/jobs/118/plan/saw", "/jobs/118/make",
    "/jobs/118/hold/chucking/right", "/jobs/118/hold?by=needle", "/shop/stock", "/three-jaw", "/cut-list",
)  # fmt: skip
ENDS_THE_SIGN_IN = ("/sign-out", "/account/sign-out")
EACH = 6
ADDRESSES = (
    "/jobs/{}/measure", "/shop/instruments/{}", "/shop/rules/{}", "/practice/{}", "/jobs/104/readings?before={}",
    "/?below={}",
    "/jobs/104/batch?subgroup={}", "/jobs/104/readings/{}/correct", "/static/{}", "/jobs/118/hold/chucking/{}",
    "/jobs/118/hold/chucking/right?piece={}", "/jobs/118/hold?by=needle&set_up={}", "/jobs/118/plan/sheet?step={}",
    "/jobs/118/make?step={}", "/jobs/118/make?piece={}", "/jobs/118/plan/sheet.pdf?paper={}",
)  # fmt: skip
QUERY_NAMES = (
    "q", "part", "since", "before", "below", "subgroup", "function", "option", "kind", "limits", "reading", "every",
    "at", "circle", "job",
    "length", "piece",
)  # fmt: skip


def sent(hand: Hand, form: PageForm, fields: dict[str, str]) -> int:
    started = time.process_time()
    client = hand.client
    response = client.get(form.action, params=fields) if form.method == "get" else client.post(form.action, data=fields)
    assert time.process_time() - started < LONGEST_SECONDS, (form.action, fields)
    return int(response.status_code)


@pytest.mark.parametrize("path", PAGES)
def test_hostile_values_in_a_pages_forms_are_answered(long_day: Hand, path: str) -> None:
    chance = random.Random(f"forms of {path}")
    forms = [form for form in forms_of(long_day.get(path).text, path) if form.action not in ENDS_THE_SIGN_IN]
    assert forms
    for form in {(form.method, form.action): form for form in forms}.values():
        for _ in range(EACH):
            fields = spoilt_form(form, chance)
            assert sent(long_day, form, fields) < 500, (form.action, fields)


@pytest.mark.parametrize("path", PAGES)
def test_hostile_values_in_an_address_are_answered(long_day: Hand, path: str) -> None:
    chance = random.Random(f"address {path}")
    form = PageForm(path.split("?")[0], "get", {})
    for _ in range(EACH):
        fields = {name: chance.choice(SENDABLE) for name in chance.sample(QUERY_NAMES, 3)}
        assert sent(long_day, form, fields) < 500, (path, fields)


@pytest.mark.parametrize("part", ["0", "-1", "9" * 20, "abc", "%00", "%ED%A0%80", "..%2f..", "²", "1e9"])
def test_hostile_addresses_are_answered(long_day: Hand, part: str) -> None:
    for address in ADDRESSES:
        assert long_day.client.get(address.format(part)).status_code < 500, address


@pytest.mark.parametrize("body", [b"\xff\xfe", b"a=%ED%A0%80&csrf_token=%00", b"&" * 5000, b"=" * 200, b"a" * 100_000])
@pytest.mark.parametrize(
    "kind", ["application/x-www-form-urlencoded", "multipart/form-data; boundary=x", "text/plain", "application/json"]
)
def test_bodies_that_are_no_form_are_answered(long_day: Hand, body: bytes, kind: str) -> None:
    for path in ("/jobs", "/jobs/104/measure/readings", "/sign-in"):
        assert long_day.client.post(path, content=body, headers={"content-type": kind}).status_code < 500


def test_a_hold_reading_of_nothing_but_signs_has_its_sentence(hands: Callable[..., Hand]) -> None:
    hand = hands("pim")
    hand.get("/practice")
    level = re.search(r'name="level" value="(\w+)"', hand.page)
    assert level
    path = hand.send("/practice", level=level[1]).url.path
    for typed in (";", ";;", "; ;", "²", "/", "1e999999", "-"):
        hand.get(path)
        assert hand.send(f"{path}/readings", size=typed, place="0", circle="near").status_code == 422, typed
