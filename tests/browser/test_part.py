"""A plain size and a part of several features, by keyboard and on a phone."""

import re
from collections.abc import Callable
from decimal import Decimal

import pytest
from playwright.sync_api import Page, expect

from nomisma.demo.shop import GAUGE_TOKEN
from nomisma.devices.simulated import SimulatedGauge
from tests.browser.conftest import log_reading
from tests.serving import Server

pytestmark = pytest.mark.browser
MOST_KEYSTROKES = 15


def press(page: Page, key: str, times: int = 1) -> int:
    """Press a key so many times; how many that were."""
    for _ in range(times):
        page.keyboard.press(key)
    return times


def to_field(page: Page, selector: str) -> int:
    """Tab until a field has the focus; how many presses it took."""
    for pressed in range(1, 20):
        page.keyboard.press("Tab")
        if page.evaluate("s => document.activeElement.matches(s)", selector):
            return pressed
    raise AssertionError(f"Tab never came to {selector}")


def test_a_plain_size_takes_few_keystrokes_from_start_to_its_first_reading(bench: Callable[..., Page]) -> None:
    page = bench()
    page.focus("#field-title")
    page.keyboard.type("Clamp spacer")
    strokes = to_field(page, "#lines")
    page.keyboard.type("28 ±0.1 mm")
    strokes += to_field(page, "form [type=submit]") + press(page, "Enter")
    page.wait_for_url(re.compile(r"/jobs/\d+/make"))
    expect(page.locator("#size")).to_be_focused()
    page.keyboard.type("28.04 mm")
    strokes += press(page, "Enter")
    expect(page.locator("#work")).to_contain_text("In limits: check the record and hand over.")
    assert strokes <= MOST_KEYSTROKES


def test_lines_are_understood_while_they_are_typed(bench: Callable[..., Page]) -> None:
    page = bench()
    page.fill("#lines", "od 1.375 ±.005 x 3.625\nbush")
    page.press("#lines", "End")
    page.type("#lines", " ")
    expect(page.locator(".understood")).to_contain_text("outside diameter from 1.370 in to 1.380 in")
    expect(page.locator(".understood .is-bad")).to_contain_text("Line 2")


def test_brackets_go_from_feature_to_feature(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/111/measure")
    expect(page.locator(".feature-strip [aria-current]")).to_contain_text("A")
    page.press("#size", "]")
    page.wait_for_url(re.compile(r"feature=B"))
    expect(page.locator(".job-makes")).to_contain_text("length")
    page.press("#size", "[")
    page.wait_for_url(re.compile(r"/jobs/111/measure\?feature=A"))


def test_a_length_is_logged_beside_a_diameter_of_the_same_part(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/112/measure?feature=B")
    log_reading(page, "1.377")
    expect(page.locator("div.newest")).to_contain_text("in limits")
    expect(page.locator("svg.strip .reading")).to_have_count(3)
    expect(page.locator(".reading-form [name=dialled]")).to_have_count(0)


@pytest.mark.parametrize("path", ["/jobs/111/part?feature=D", "/jobs/111/measure?feature=B", "/jobs/111/record", "/"])
def test_a_phone_shows_every_feature_without_scrolling_sideways(bench: Callable[..., Page], path: str) -> None:
    page = bench(width=390)
    page.goto(path)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_reading_that_waits_is_delivered_to_its_own_feature(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/111/measure?feature=E")
    page.route("**/readings*", lambda route: route.abort())
    page.fill("#size", "4.53 mm")
    page.press("#size", "Enter")
    expect(page.locator("#waiting")).to_contain_text("1 reading waits")
    page.unroute("**/readings*")
    page.goto("/jobs/111/record")
    expect(page.locator("#waiting")).to_be_hidden(timeout=15_000)
    page.reload()
    expect(page.locator("table.features tbody tr", has_text="height")).to_contain_text("4.530 mm")


def test_a_gauge_of_another_feature_does_not_fill_the_field(bench: Callable[..., Page], server: Server) -> None:
    page = bench()
    with page.expect_response("**/live?**"):
        page.goto("/jobs/112/measure?feature=B")
    page.wait_for_timeout(500)
    with SimulatedGauge("bench-gauge", Decimal("2.2480"), token=GAUGE_TOKEN, job=112, port=server.gauge_port) as gauge:
        list(gauge.readings(1))
    expect(page.locator("#gauge-words")).to_contain_text("of feature A", timeout=2000)
    expect(page.locator("#size")).to_have_value("")
