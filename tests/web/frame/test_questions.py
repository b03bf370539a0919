"""How many questions a page asks the database: few when nothing changed, hardly more when something did. No clock."""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from uuid import uuid4

import pytest
from sqlalchemy import event
from sqlalchemy.engine import Engine

from tests.web.conftest import Hand
from tests.web.parts import number_of, start

PAGES = (
    "/",
    "/jobs/{n}/part",
    "/jobs/{n}/plan",
    "/jobs/{n}/make",
    "/jobs/{n}/hold",
    "/jobs/{n}/cut?feature=A",
    "/jobs/{n}/measure?feature=A",
    "/jobs/{n}/batch?feature=A",
    "/jobs/{n}/decide?feature=A",
    "/jobs/{n}/record",
    "/jobs/104/mate",
    "/jobs/105/assemble",
    "/slips?target=30.5+mm",
)
NOTHING_CHANGED, SOMETHING_DID = 3, 6
A_READING = 3
BENCH_WORKS_OUT = 13
"""The Bench works out how a job stands that was written to, whichever, with its plan and who worked on it
last, and keeps that.
"""
LINES = "od 30 ±0.05 x 40 ±0.2\nbore 12 H7 x 20 deep\nM24x2 6g x 15\ncham 1 x 45\ngroove 2 wide to 26 at 20"


@contextmanager
def asked() -> Iterator[list[str]]:
    """The questions that are asked meanwhile."""
    found: list[str] = []

    def note(_: Any, __: Any, statement: str, *___: Any) -> None:
        found.append(" ".join(statement.split())[:90])

    event.listen(Engine, "before_cursor_execute", note)
    try:
        yield found
    finally:
        event.remove(Engine, "before_cursor_execute", note)


@pytest.fixture(scope="module")
def number(long_day: Hand) -> int:
    return number_of(start(long_day, LINES))


def read(hand: Hand, number: int, size: str) -> list[str]:
    """Log a reading; what that asked for, without the page behind it."""
    hand.get(f"/jobs/{number}/measure?feature=A")
    given = {"size": size, "place": "near end 0°", "instrument_id": hand.instrument("25–50 mm"), "cut_since": "not"}
    token = re.search(r'name="csrf_token" value="([^"]+)"', hand.page)
    assert token
    form = {"csrf_token": token[1], "client_id": str(uuid4()), "feature": "A", **given}
    with asked() as found:
        path = f"/jobs/{number}/measure/readings?feature=A"
        answer = hand.client.post(path, data=form, follow_redirects=False)
    assert answer.status_code == 303, answer.text[:300]
    return found


@pytest.mark.parametrize("path", PAGES)
def test_a_page_that_was_shown_before_asks_next_to_nothing(long_day: Hand, number: int, path: str) -> None:
    address = path.format(n=number)
    assert long_day.get(address).status_code == 200
    with asked() as found:
        long_day.get(address)
    assert len(found) <= NOTHING_CHANGED, found


@pytest.mark.parametrize("path", PAGES)
def test_after_a_reading_a_page_asks_for_what_changed(long_day: Hand, number: int, path: str) -> None:
    address = path.format(n=number)
    long_day.get(address)
    read(long_day, number, "30.01")
    with asked() as found:
        long_day.get(address)
    assert len(found) <= (SOMETHING_DID if path != "/" else BENCH_WORKS_OUT), found


def test_a_reading_is_logged_with_few_questions(long_day: Hand, number: int) -> None:
    """Who asks and the versions; the standing readings; the row with its notice. Nothing opens a transaction for
    itself.
    """
    read(long_day, number, "30.02")
    found = read(long_day, number, "30.021")
    assert len(found) <= A_READING, found


def test_what_another_hand_writes_is_on_the_next_page(long_day: Hand, number: int) -> None:
    """Of every size one after the other: nothing is shown that is older than what was answered."""
    for size in ("30.012", "30.013", "30.014", "30.015"):
        read(long_day, number, size)
        for page in ("measure", "record"):
            assert size in long_day.get(f"/jobs/{number}/{page}?feature=A").text
