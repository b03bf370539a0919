"""Gauges and lost servers, on the real pages: a reading lands in every open page; what waits survives a
closed browser.
"""

import time
from collections.abc import Callable, Iterator
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import BrowserContext, Page, Playwright, expect

from nomisma.cluster import Cluster
from nomisma.demo.shop import GAUGE_TOKEN
from nomisma.devices.simulated import SimulatedGauge
from nomisma.devices.simulated_readout import SimulatedReadout
from tests.browser.conftest import log_reading
from tests.conftest import as_served, copy_database
from tests.serving import Server

pytestmark = pytest.mark.browser


@pytest.fixture
def two_servers(cluster: Cluster, template: str) -> Iterator[tuple[Server, Server]]:
    """Two server processes on one database."""
    url = as_served(copy_database(cluster, template))
    pair = (Server(url).start(), Server(url).start())
    yield pair
    for server in pair:
        server.stop()


def sign_in(page: Page, address: str) -> None:
    page.goto(f"{address}/sign-in")
    page.fill("[name=sign_in_name]", "orla")
    page.fill("[name=password]", "hilltop-demo")
    page.press("[name=password]", "Enter")
    page.wait_for_url(f"{address}/")


@pytest.fixture
def reopened(
    playwright: Playwright, browser_type_launch_args: dict[str, Any], tmp_path: Path
) -> Iterator[Callable[[], BrowserContext]]:
    """A browser that is closed and opened again with what it kept on its disk."""
    contexts: list[BrowserContext] = []

    def open_again() -> BrowserContext:
        for context in contexts:
            context.close()
        contexts[:] = [
            playwright.chromium.launch_persistent_context(str(tmp_path / "profile"), **browser_type_launch_args)
        ]
        return contexts[0]

    yield open_again
    for context in contexts:
        context.close()


def test_a_gauges_reading_lands_in_the_field_of_every_open_page_across_servers(
    reopened: Callable[[], BrowserContext], two_servers: tuple[Server, Server]
) -> None:
    context = reopened()
    pages = []
    sign_in(context.new_page(), two_servers[0].address)  # a cookie does not mind the port
    for server in two_servers:
        page = context.new_page()
        with page.expect_response("**/live?**"):
            page.goto(f"{server.address}/jobs/104/measure")
        page.wait_for_timeout(500)
        pages.append(page)
    with SimulatedGauge(
        "bench-gauge", Decimal("0.87415"), token=GAUGE_TOKEN, job=104, port=two_servers[0].gauge_port
    ) as gauge:
        list(gauge.readings(1))
    for page in pages:
        expect(page.locator("#size")).to_have_value("0.87415 in", timeout=2000)
        expect(page.locator("#gauge-words")).to_contain_text("0.87415 in from bench-gauge. Enter logs it.")
    log_reading(pages[1], "0.87415 in")
    expect(pages[0].locator("#seen .log").last).to_contain_text("0.87415 in", timeout=2000)
    # The same reading is still in the other page's field: Enter there is harmless.
    pages[0].press("#size", "Enter")
    expect(pages[0].locator("#size")).to_have_value("")
    expect(pages[0].locator("#seen .log").last.locator("td", has_text="0.87415 in")).to_have_count(1)


def test_a_page_hears_of_others_after_it_sent_readings_itself_and_not_of_its_own(
    bench: Callable[..., Page],
) -> None:
    pages = [bench(), bench("bram")]
    looked: list[str] = []
    pages[0].fill("#field-title", "Read by two")
    pages[0].fill("textarea[name=lines]", "od .8740 ±.001 x 1\nbore .5 ±.01 thru")
    pages[0].locator("form:has(textarea[name=lines]) button[type=submit]").last.click()
    pages[0].wait_for_url("**/part")
    address = pages[0].url.replace("/part", "/measure")
    for page in pages:
        with page.expect_response("**/live?**"):
            page.goto(address)
        page.wait_for_timeout(500)
    pages[0].on("request", lambda asked: looked.append(asked.method) if asked.resource_type == "xhr" else None)
    for size in (".87405", ".87406"):
        log_reading(pages[0], size)
        expect(pages[1].locator("#seen .log").last).to_contain_text(size, timeout=2000)
    assert looked == ["POST", "POST"]
    log_reading(pages[1], ".87407")
    expect(pages[0].locator("#seen .log").last).to_contain_text(".87407", timeout=2000)
    for page in pages:
        expect(page.locator("#feature-A")).to_contain_text("in limits")
    log_reading(pages[0], ".87408")
    expect(pages[1].locator("#seen .log").last).to_contain_text(".87408", timeout=2000)


def test_what_a_hand_typed_is_not_overwritten_by_a_gauge(bench: Callable[..., Page], server: Server) -> None:
    page = bench()
    with page.expect_response("**/live?**"):
        page.goto("/jobs/104/measure")
    page.wait_for_timeout(500)
    page.fill("#size", ".87")
    with SimulatedGauge("bench-gauge", Decimal("0.8744"), token=GAUGE_TOKEN, job=104, port=server.gauge_port) as gauge:
        list(gauge.readings(1))
    expect(page.locator("#gauge-words")).to_contain_text("your typing stays")
    expect(page.locator("#size")).to_have_value(".87")


def test_a_readout_shows_what_is_left_to_go_and_what_was_wound_in_is_taken(
    bench: Callable[..., Page], server: Server
) -> None:
    page = bench()
    with page.expect_response("**/live?**"):
        page.goto("/jobs/104/cut")
    page.wait_for_timeout(500)
    box = page.locator("[data-readout-axis=x]")
    expect(box).to_be_hidden()
    names = ("from-mm", "stop-mm", "cut-direction")
    begins, stop, way = (Decimal(box.get_attribute(f"data-{name}") or "") for name in names)
    with SimulatedReadout(
        "bench-readout", Decimal(0), "mm", token=GAUGE_TOKEN, job=104, port=server.gauge_port
    ) as readout:
        readout.slides_mm["x"] = stop + way * Decimal("0.0254")
        readout.tell()
        expect(box).to_contain_text("0.0010 in to go", timeout=2000)
        readout.slides_mm["x"] = stop - way * Decimal("0.0508")
        readout.tell()
        expect(box).to_contain_text("0.0020 in past where to stop", timeout=2000)
        expect(box.locator("[data-readout-set-anew]")).to_be_hidden()
    box.get_by_role("button", name="Take this as dialled").click()
    wound = abs(stop - way * Decimal("0.0508") - begins) / Decimal("25.4")
    expect(page.locator('.reading-form [name="dialled"]')).to_have_value(f"{wound:.4f} in")
    with SimulatedReadout(
        "bench-readout", Decimal(0), "mm", token=GAUGE_TOKEN, job=104, port=server.gauge_port
    ) as readout:
        readout.tell()  # switched on anew, its zero is another
        expect(box.locator("[data-readout-set-anew]")).to_be_visible(timeout=2000)


def test_readings_wait_through_a_killed_server_and_a_closed_browser_and_arrive_once(
    reopened: Callable[[], BrowserContext], two_servers: tuple[Server, Server]
) -> None:
    server, _ = two_servers
    page = reopened().new_page()
    sign_in(page, server.address)
    page.goto(f"{server.address}/jobs/104/measure")
    server.kill()
    for size in (".87411", ".87412", ".87413"):
        page.fill("#size", size)
        page.press("#size", "Enter")
        expect(page.locator("#size")).to_have_value("")
    expect(page.locator("#waiting")).to_contain_text("3 readings wait on this device")
    context = reopened()
    server.start()
    page = context.new_page()
    page.goto(f"{server.address}/jobs/104/measure")
    expect(page.locator("#waiting")).to_be_hidden(timeout=20_000)
    time.sleep(0.5)
    sizes = [row["entered"] for row in page.request.get(f"{server.address}/jobs/104/record.json").json()["readings"]]
    assert sizes[-3:] == [".87411", ".87412", ".87413"]
    assert [sizes.count(size) for size in (".87411", ".87412", ".87413")] == [1, 1, 1]


def test_a_waiting_reading_that_is_asked_about_goes_back_into_the_field(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/103/mate")
    page.route("**/readings", lambda route: route.abort())
    page.fill("#size", "11.488")
    page.press("#size", "Enter")
    expect(page.locator("#waiting")).to_contain_text("1 reading waits")
    page.unroute("**/readings")
    expect(page.locator("#waiting")).to_contain_text("off by one turn of the thimble", timeout=15_000)
    page.click("text=Put it in the field")
    expect(page.locator("#size")).to_have_value("11.488")
    expect(page.locator("#waiting")).to_be_hidden()


def test_a_waiting_reading_is_thrown_away_only_on_purpose(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/103/mate")
    page.route("**/readings", lambda route: route.abort())
    page.fill("#size", "cheese")
    page.press("#size", "Enter")
    expect(page.locator("#waiting")).to_contain_text("1 reading waits")
    page.unroute("**/readings")
    expect(page.locator("#waiting")).to_contain_text("is not understood as a size", timeout=15_000)
    page.click("text=Throw it away")
    page.click("text=Yes, throw it away")
    expect(page.locator("#waiting")).to_be_hidden()
