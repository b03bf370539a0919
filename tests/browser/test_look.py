"""How every page looks: on a phone, to a finger, and to somebody who sees badly, by day and by night."""

from collections.abc import Callable, Iterator

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page

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
    "/jobs/118/part",
    "/jobs/118/cut",
    "/jobs/122/record",
    "/jobs/118/plan/sheet/print",
    "/order-of-work",
    "/taper-found",
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
    "/three-jaw",
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
TARGETS = (
    "button, summary, select, input:not([type=hidden]):not([type=radio]):not([type=checkbox]), .choice span, .function"
    " > span"
)
SMALL_TARGETS = """targets => [...document.querySelectorAll(targets)]
  .filter(e => e.offsetParent && e.getBoundingClientRect().height < 43.5).map(e => e.outerHTML.slice(0, 80))"""


WIDER = "document.documentElement.scrollWidth - document.documentElement.clientWidth"


SAME_PARTS = {
    "/jobs/109/measure",
    "/shop/rules",
    "/three-jaw",
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
BY_NIGHT = [path for path in PAGES if path not in SAME_PARTS]
Look = Callable[[str, str], Page]


UNFOLD = "document.querySelectorAll('main details').forEach((fold) => { fold.open = true })"
NO_STOP = """() => [...document.querySelectorAll(".table-scroll, .figure-scroll")]
    .filter((box) => box.scrollWidth > box.clientWidth + 1 && box.tabIndex !== 0)
    .map((box) => box.textContent.trim().slice(0, 60))"""
"""What scrolls sideways and cannot be reached by keyboard."""
CUT_OFF = """() => [...document.querySelectorAll(".table-scroll, .figure-scroll")]
    .filter((box) => box.scrollWidth > box.clientWidth + 1).map((box) => box.textContent.trim().slice(0, 60))"""
"""Tables and figures that are wider than their place on a desk; on a phone they scroll in a box of their own."""


def complaints_of(page: Page) -> list[str]:
    """What axe finds on a page, of whatever weight."""
    return [f"{v['id']}: {v['nodes'][0]['html'][:120]}" for v in Axe().run(page).response["violations"]]


@pytest.fixture(scope="module")
def look(browser: Browser, address: str) -> Iterator[Look]:
    """One browser, signed in once, that goes from page to page by day or by night; what a page complains of fails the
    test.
    """
    context = browser.new_context(base_url=address, viewport={"width": 390, "height": 844})
    page = context.new_page()
    page.set_default_timeout(15_000)
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.goto("/sign-in")
    page.fill("[name=sign_in_name]", "orla")
    page.fill("[name=password]", "hilltop-demo")
    page.press("[name=password]", "Enter")
    page.wait_for_url("**/")

    def at(path: str, theme: str) -> Page:
        context.add_cookies([{"name": "nomisma_theme", "value": theme, "url": address}])
        page.set_viewport_size({"width": 390, "height": 844})
        page.goto(path)
        assert complaints == []
        return page

    yield at
    context.close()


@pytest.mark.parametrize("path", PAGES)
def test_every_page_fits_a_phone_and_a_finger_and_axe_finds_nothing(look: Look, path: str) -> None:
    page = look(path, "light")
    assert page.evaluate(WIDER) <= 0
    page.evaluate(UNFOLD)
    assert page.evaluate(WIDER) <= 0, "with everything unfolded"
    page.evaluate(UNFOLD.replace("true", "false"))
    assert page.evaluate(NO_STOP) == []
    page.set_viewport_size({"width": 1280, "height": 800})
    page.evaluate(UNFOLD)
    assert page.evaluate(CUT_OFF) == []
    page.evaluate(UNFOLD.replace("true", "false"))
    assert page.evaluate(SMALL_TARGETS, TARGETS) == []
    assert complaints_of(page) == []


@pytest.mark.parametrize("path", BY_NIGHT)
def test_by_night_axe_finds_nothing(look: Look, path: str) -> None:
    page = look(path, "dark")
    page.set_viewport_size({"width": 1280, "height": 800})
    assert complaints_of(page) == []


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_axe_finds_nothing_before_anybody_signs_in(bench: Callable[..., Page], address: str, theme: str) -> None:
    page = bench()
    page.context.clear_cookies()
    page.context.add_cookies([{"name": "nomisma_theme", "value": theme, "url": address}])
    page.goto("/sign-in")
    assert complaints_of(page) == []
