"""Every link of the filled demo, followed by each of the three roles: none leads to a failure, none to nothing."""

import re
from collections import Counter, deque
from collections.abc import Callable
from html import unescape
from urllib.parse import parse_qsl, urldefrag, urljoin, urlsplit

import pytest

from tests.web.conftest import Hand

HOST = "http://bench.test"
NEVER_FOLLOWED = ("/jobs/live", "/live", "/events")  # a stream that does not end
ON_PAPER = (".pdf",)  # set for each role alike, and slow: of a few jobs, once, for the first of them
FEWEST_PAGES = 150
MOST_ALIKE = 2  # addresses that differ only in the values behind the question mark


_LEADS_TO = re.compile(r'\s(?:href|hx-get|src)="([^"]*)"')
"""An address that a page leads to: attributes stand in double quotes, which a text never has unescaped."""


def links_of(path: str, html: str) -> list[str]:
    """Where a page leads to inside the application, without what is behind a #."""
    found = (unescape(link) for link in _LEADS_TO.findall(html))
    whole = [urlsplit(urldefrag(urljoin(f"{HOST}{path}", link)).url) for link in found]
    return [
        f"{link.path}{'?' + link.query if link.query else ''}"
        for link in whole
        if f"{link.scheme}://{link.netloc}" == HOST
    ]


def crawl(hand: Hand, *, whole: bool) -> dict[str, tuple[int, str]]:
    """Every address reached from the bench: its status, and the page that led to it. `whole`: of every job, and the
    PDFs too.
    """
    seen: dict[str, tuple[int, str]] = {}
    alike: Counter[tuple[str, tuple[str, ...]]] = Counter()
    waiting = deque([("/", "")])
    while waiting:
        path, led_by = waiting.popleft()
        if (
            path in seen
            or path.endswith(NEVER_FOLLOWED)
            or (
                path.partition("?")[0].endswith(ON_PAPER)
                and not (whole and path.endswith(ON_PAPER) and is_enough(path))
            )
            or not (whole or is_enough(path))
        ):
            continue
        asked = urlsplit(path)
        shape = (asked.path, tuple(sorted(name for name, _ in parse_qsl(asked.query))))
        alike[shape] += 1
        if shape[1] and alike[shape] > MOST_ALIKE:
            continue
        response = hand.client.get(path)
        seen[path] = (response.status_code, led_by)
        if response.headers.get("content-type", "").startswith("text/html"):
            waiting.extend((link, path) for link in links_of(path, response.text) if link not in seen)
    return seen


OF_A_JOB = re.compile(r"/jobs/(\d+)(?:/|$)")
FOR_EVERY_ROLE = (
    "104",
    "118",
    "122",
)  # a bush, a part of many features, a bush with both joints: a role sees all jobs alike


def is_enough(path: str) -> bool:
    """Whether a page is looked at by each role: all but those of the other jobs."""
    found = OF_A_JOB.match(path)
    return found is None or found[1] in FOR_EVERY_ROLE


STAGES = (
    "part",
    "mate",
    "make",
    "hold",
    "cut",
    "measure",
    "batch",
    "form",
    "decide",
    "import",
    "readings",
    "assemble",
    "record",
)
LAST_JOB = 129


def stages_of_features(hand: Hand) -> set[str]:
    """Every stage of a feature of each kind, in the job that has it last, whether a link leads there or not."""
    of_kind = {
        feature["kind"]: (number, feature["letter"])
        for number in range(101, LAST_JOB + 1)
        for feature in hand.client.get(f"/jobs/{number}/record.json").json()["features"]
    }
    return {f"/jobs/{number}/{stage}?feature={letter}" for number, letter in of_kind.values() for stage in STAGES}


@pytest.mark.parametrize("name", ["orla", "bram", "pim"])
def test_every_link_leads_to_a_page(hands: Callable[..., Hand], name: str) -> None:
    """A machinist follows every link of every job, and opens every stage of a feature of each kind besides; the others
    a few jobs.
    """
    hand = hands(name)
    seen = crawl(hand, whole=name == "orla")
    assert len(seen) > FEWEST_PAGES
    if name == "orla":
        asked = stages_of_features(hand)
        assert len(asked) > 250
        seen |= {path: (hand.client.get(path).status_code, "by hand") for path in sorted(asked - set(seen))}
    # 204: a part of a page that has nothing new.
    assert {path: found for path, found in seen.items() if found[0] not in (200, 204)} == {}
