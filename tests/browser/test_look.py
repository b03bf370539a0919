"""How every page looks: on a phone, to a finger, and to somebody who sees badly, by day and by night."""

from collections.abc import Callable

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

pytestmark = pytest.mark.browser

PAGES = [
    "/",
    "/jobs/103/mate?function=slides_by_hand",
    "/jobs/104/mate",
    "/jobs/104/measure",
    "/jobs/102/measure",
    "/jobs/101/record",
    "/ask?q=1.229+to+1.125",
    "/ask?q=25+H7/g6",
    "/ask?q=hello",
    "/mate?kind=shaft&partner=7/8&function=turns_freely",
    "/verdict?kind=shaft&limits=25+g6&reading=25.010+mm",
    "/jobs/104/form",
    "/jobs/108/measure",
    "/jobs/108/batch",
    "/jobs/108/decide",
    "/jobs/109/measure",
    "/jobs/104/import",
    "/shop/instruments/new?kind=micrometer_tenths",
    "/shop",
    "/shop/rules",
    "/shop/rules/slip",
    "/worksheets",
    "/bush",
    "/press",
    "/shrink",
    "/bond",
    "/expansion",
    "/find",
    "/aim",
    "/together",
    "/depths",
    "/corner",
    "/true",
    "/tilt",
    "/throw",
    "/pins",
    "/soft-jaws",
    "/jobs/104/hold",
    "/jobs/103/hold",
    "/practice",
    "/jobs/104/cut",
    "/clean-up",
    "/speeds",
    "/hole",
    "/shoulder",
    "/deflection",
    "/boring-bar",
    "/facing",
    "/drills",
    "/shop/speeds",
    "/jobs/105/assemble",
    "/jobs/103/assemble",
    "/styleguide",
    "/no-such-page",
]
TARGETS = "button, summary, select, input:not([type=hidden]):not([type=radio]):not([type=checkbox]), .choice span, .function > span"
SMALL_TARGETS = """targets => [...document.querySelectorAll(targets)]
  .filter(e => e.offsetParent && e.getBoundingClientRect().height < 43.5).map(e => e.outerHTML.slice(0, 80))"""


WIDER = "document.documentElement.scrollWidth - document.documentElement.clientWidth"


@pytest.mark.parametrize("path", PAGES)
def test_every_page_fits_a_phone_and_everything_to_press_fits_a_finger(bench: Callable[..., Page], path: str) -> None:
    page = bench(width=390, height=844)
    page.goto(path)
    assert page.evaluate(WIDER) <= 0
    page.set_viewport_size({"width": 1280, "height": 800})
    assert page.evaluate(SMALL_TARGETS, TARGETS) == []


SAME_PARTS = {
    "/jobs/109/measure",
    "/shop/rules",
    "/tilt",
    "/throw",
    "/pins",
    "/soft-jaws",
    "/practice",
    "/clean-up",
    "/speeds",
    "/hole",
    "/shoulder",
    "/deflection",
    "/boring-bar",
    "/facing",
    "/drills",
    "/jobs/108/measure",
    "/jobs/108/decide",
    "/jobs/104/import",
    "/shop/instruments/new?kind=micrometer_tenths",
    "/find",
    "/aim",
    "/together",
    "/depths",
    "/corner",
    "/bond",
    "/expansion",
    "/shrink",
    "/shop/rules/slip",
    "/jobs/103/assemble",
}
"""Pages made of parts that another page here shows at night too: by day is enough."""
LIT = [
    (path, theme)
    for path in [*PAGES, "/sign-in"]
    for theme in ("light", "dark")
    if theme == "light" or path not in SAME_PARTS
]


def serious(page: Page) -> list[str]:
    """What axe finds serious or worse on a page."""
    found = [v for v in Axe().run(page).response["violations"] if v["impact"] in ("serious", "critical")]
    return [f"{v['id']}: {v['nodes'][0]['html'][:120]}" for v in found]


@pytest.mark.parametrize(("path", "theme"), LIT)
def test_axe_finds_nothing_serious(bench: Callable[..., Page], address: str, path: str, theme: str) -> None:
    page = bench()
    if path == "/sign-in":
        page.context.clear_cookies()
    page.context.add_cookies([{"name": "nomisma_theme", "value": theme, "url": address}])
    page.goto(path)
    assert serious(page) == []
