"""Every kind of page of the filled demo, opened in Chromium by the machinist: nothing complains in the console."""

import re
from collections import Counter, deque
from collections.abc import Callable
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Page

from tests.web.frame.test_links import links_of

pytestmark = pytest.mark.browser

FEWEST_PAGES = 90
MOST_ALIKE = 3  # addresses that differ only in the numbers in them


def test_no_page_complains_in_the_console(bench: Callable[..., Page], address: str) -> None:
    """The console itself is looked at by the `bench` fixture; a 404 of a script or a picture is one here."""
    page = bench()
    missing: list[str] = []
    page.on("response", lambda answer: missing.append(answer.url) if answer.status >= 400 else None)
    seen: set[str] = set()
    alike: Counter[str] = Counter()
    waiting = deque(["/"])
    while waiting:
        path = urlsplit(waiting.popleft()).path
        if path in seen or "." in path or path.startswith("/static"):
            continue
        seen.add(path)
        alike[re.sub(r"\d+", "0", path)] += 1
        if alike[re.sub(r"\d+", "0", path)] > MOST_ALIKE:
            continue
        page.goto(path, wait_until="load")
        waiting.extend(link.removeprefix(address) for link in links_of(path, page.content()))
    assert sum(min(count, MOST_ALIKE) for count in alike.values()) > FEWEST_PAGES
    assert missing == []
