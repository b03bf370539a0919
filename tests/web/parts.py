"""A part started from its lines, and a reading logged of one of its features: what tests of parts share."""

import re
from html import unescape
from typing import Any
from urllib.parse import urlencode

from tests.web.conftest import Hand

LINES = "od 28.00 ±0.10 x 40 ±0.2\nbore 12 +0.05/0 x 10 +0.1/0 deep\n6 max"


def start(hand: Hand, lines: str = LINES, *, unit: str = "mm", **fields: str) -> Any:
    return hand.send("/jobs", title="Adapter", partner_kind="none", lines=lines, unit=unit, **fields)


def mated(hand: Hand, title: str, partner: tuple[str, str], fit: tuple[str, str], *, unit: str) -> int:
    """A job whose partner (kind, callout) is known and whose limits are chosen (function, option); its number."""
    hand.get("/")
    hand.send("/jobs", title=title, asked="", unit=unit, partner_kind=partner[0])
    found = re.search(r"/jobs/(\d+)/mate", hand.page)
    assert found
    number = int(found[1])
    hand.send(f"/jobs/{number}/mate/callout", callout=partner[1])
    hand.send(f"/jobs/{number}/limits", function=fit[0], option=fit[1], based_on_version="0")
    return number


def number_of(response: Any) -> int:
    assert response.status_code == 200, response.text
    found = re.search(r"/jobs/(\d+)/", str(response.url))
    assert found
    return int(found[1])


def log(
    hand: Hand,
    number: int,
    letter: str,
    size: str,
    *,
    instrument: str = "150 mm caliper",
    place: str = "0°",
    **fields: str,
) -> Any:
    hand.get(f"/jobs/{number}/measure?feature={letter}")
    return hand.send(
        f"/jobs/{number}/measure/readings?feature={letter}",
        size=size,
        place=place,
        instrument_id=hand.instrument(instrument),
        **{"cut_since": "not", **fields},
    )


def steps_of(hand: Hand, number: int, **asked: str) -> dict[str, str]:
    """The address of every step on Make by its title; of two alike the first."""
    page = hand.get(f"/jobs/{number}/make?{urlencode(asked)}").text
    found = re.findall(
        r'<a href="([^"]+)" class="step-\w+[^>]*?title="\w+\. ([^"]+?)(?:, done)?"', page.split('class="steps-strip')[1]
    )
    return {unescape(title): unescape(address) for address, title in reversed(found)}


def record(hand: Hand, number: int) -> Any:
    return hand.get(f"/jobs/{number}/record.json").json()


def features(hand: Hand, number: int) -> dict[str, Any]:
    return {one["letter"]: one for one in record(hand, number)["features"]}


def lathe(hand: Hand) -> str:
    """The bench lathe, whose carriage has lines of 0.1 mm and its compound of 0.02 mm."""
    found = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Bench lathe<', hand.get("/").text)
    assert found
    return found[1]
