"""What a hand at a bench waits for: from Enter to the verdict, and from a gauge to the page of another tablet."""

import time
from collections.abc import Iterator
from decimal import Decimal

from playwright.sync_api import Browser, Page, sync_playwright
from tests.browser.conftest import chromium
from tests.serving import Server, filled_demo

from nomisma.cluster import Cluster
from nomisma.demo.shop import GAUGE_TOKEN
from nomisma.devices.simulated import SimulatedGauge

READINGS, WARM_UP = 40, 10
LOOK_MS, MOST_LOOKS = 60, 200
"""Looking takes of the same processors as what is looked at."""
JOB = 104
"""A job of the demo that is being read."""
_TOLD = """() => {
  window.told = [];
  let began = null, before = null;
  const line = () => document.querySelector(".newest-line");
  addEventListener("keydown", (key) => {
    if (key.key === "Enter") [began, before] = [performance.now(), line()];
  }, true);
  new MutationObserver(() => {
    if (began !== null && line() && line() !== before) {
      window.told.push(performance.now() - began);
      began = null;
    }
  }).observe(document.body, { childList: true, subtree: true });
}"""
_HEARD = """() => {
  window.heard = [];
  const words = document.querySelector("#gauge-words");
  new MutationObserver(() => window.heard.push(Date.now()))
    .observe(words, { childList: true, subtree: true, characterData: true });
}"""


def browser_rows(found: Cluster) -> Iterator[tuple[str, str, float]]:
    """The two budgets of a hand, in Debian's Chromium, on the demo shop."""
    server = Server(found.url(filled_demo(found))).start()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(**chromium())
            told, heard = _enter_to_verdict(browser, server), _gauge_to_tablet(browser, server)
            browser.close()
    finally:
        server.stop()
    yield "From Enter to the verdict, in a browser: p95 / 60 ms", f"{told:.0f} ms", told / 60
    yield "From a gauge to another page: p95 / 200 ms", f"{heard:.0f} ms", heard / 200


def _measuring(browser: Browser, server: Server) -> Page:
    page = browser.new_context(base_url=server.address).new_page()
    page.goto("/sign-in")
    page.fill("[name=sign_in_name]", "orla")
    page.fill("[name=password]", "hilltop-demo")
    page.press("[name=password]", "Enter")
    page.wait_for_url("**/")
    with page.expect_response("**/live?**"):
        page.goto(f"/jobs/{JOB}/measure")
    page.wait_for_timeout(500)
    return page


def _enter_to_verdict(browser: Browser, server: Server) -> float:
    page = _measuring(browser, server)
    page.evaluate(_TOLD)
    for number in range(WARM_UP + READINGS):
        page.fill("#size", f"0.8741{number % 3}")
        page.press("#size", "Enter")
        _until(page, f"window.told.length === {number + 1}")
        _until(page, "document.querySelector('#size').value === ''")
    return _p95(page.evaluate("window.told")[WARM_UP:])


def _gauge_to_tablet(browser: Browser, server: Server) -> float:
    page = _measuring(browser, server)
    page.evaluate(_HEARD)
    taken = []
    with SimulatedGauge("bench-gauge", Decimal("0.8741"), token=GAUGE_TOKEN, job=JOB, port=server.gauge_port) as gauge:
        for _ in range(READINGS):
            page.evaluate("window.heard = []")
            began = time.time() * 1000
            next(gauge.readings(1))
            _until(page, "window.heard.length > 0")
            taken.append(page.evaluate("window.heard[0]") - began)
            time.sleep(0.05)
    return _p95(taken)


def _until(page: Page, is_so: str) -> None:
    """Wait until something is so on a page, looking from outside: the page evaluates nothing it did not bring."""
    for _ in range(MOST_LOOKS):
        if page.evaluate(is_so):
            return
        page.wait_for_timeout(LOOK_MS)
    raise TimeoutError(is_so)


def _p95(times: list[float]) -> float:
    return sorted(times)[int(len(times) * 0.95)]
