"""Make on the real pages: a whole job by Enter and digits; two at once; a gauge; on a tablet and a phone."""

import re
from collections.abc import Callable
from decimal import Decimal

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, Route, expect

from nomisma.demo.shop import GAUGE_TOKEN
from nomisma.devices.simulated import SimulatedGauge
from tests.browser.at_the_lathe import LOOKED_MS, made
from tests.serving import Server

pytestmark = pytest.mark.browser


def test_a_job_of_eleven_features_is_made_by_enter_and_digits_on_one_page(bench: Callable[..., Page]) -> None:
    page = bench()
    took = made(page, 125)
    assert took.loads == 0
    assert took.enters <= took.readings + took.steps, "one a reading, and one a step"
    expect(page.get_by_role("link", name="Record", exact=True).last).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("main")).to_contain_text("by its reading")


@pytest.mark.parametrize(
    ("path", "width"),
    [
        ("/jobs/123/make?step=1/turn:C,D", 1280),
        ("/jobs/104/make", 1280),
        ("/jobs/123/make?step=1/groove:F,G,H", 1280),
        ("/jobs/118/make", 1280),
        ("/jobs/123/make?step=1/groove:F,G,H", 390),
        ("/jobs/108/make", 390),
    ],
)
def test_what_to_do_its_field_and_the_picture_are_on_one_screen(
    bench: Callable[..., Page], path: str, width: int
) -> None:
    page = bench(width=width)
    page.goto(path)
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    if width == 1280:
        for part in (".now-words", ".make-now form button[type=submit] >> nth=0", ".make-picture svg >> nth=0"):
            box = page.locator(part).first.bounding_box()
            assert box is not None, part
            assert box["y"] + box["height"] <= 800, part
    assert Axe().run(page).violations_count == 0
    small = page.evaluate(
        "[...document.querySelectorAll('#work button, #work summary, #work nav a')].filter(e => e.offsetParent &&"
        " e.getBoundingClientRect().height < 43.5).map(e => e.outerHTML.slice(0, 80))"
    )
    assert small == []


def test_two_at_once_see_each_others_steps_and_what_is_typed_stays(bench: Callable[..., Page]) -> None:
    orla, bram = bench(), bench("bram")
    for page in (orla, bram):
        with page.expect_response("**/live?**"):
            page.goto("/jobs/126/make")
    first = orla.locator(".now-words").inner_text()
    orla.wait_for_timeout(LOOKED_MS)
    orla.keyboard.press("Enter")
    expect(orla.locator(".now-words")).not_to_have_text(first)
    expect(bram.locator(".steps-strip .is-done")).to_have_count(1)
    for page in (orla, bram):
        page.goto("/jobs/126/make?step=1/turn:A,B")
        page.wait_for_timeout(300)
    bram.keyboard.type("47.1")
    orla.get_by_role("button", name="Close it without a reading").click()
    expect(orla.locator(".make-head")).not_to_contain_text("Finish turn A, B")
    expect(bram.locator("#size")).to_have_value("47.1")
    bram.keyboard.press("Enter")
    expect(bram.locator("#work .problem").first).to_contain_text("is closed already, by Orla")
    expect(bram.locator("#work")).to_contain_text("47.1 is not logged yet")
    expect(bram.locator("#size")).to_have_value("47.1")


def test_what_a_gauge_says_is_logged_and_judged_without_a_touch(bench: Callable[..., Page], server: Server) -> None:
    page = bench()
    page.goto("/jobs/124/make")
    step = page.locator(".steps-strip a[title*='Finish turn']").first.get_attribute("href")
    assert step is not None
    waiting: list[Route] = []
    page.route("**/live?**", lambda route: waiting.append(route))  # the page stands there, and does not listen yet
    page.goto(step)
    letter = page.locator("#work").get_attribute("data-in-hand")
    limits = page.locator(".limits-now").first.inner_text()
    aim = Decimal(limits.split("aim ")[1].split()[0])
    with SimulatedGauge("bench-gauge", aim, unit="mm", token=GAUGE_TOKEN, job=124, port=server.gauge_port) as gauge:
        list(gauge.readings(1))
    waiting[0].continue_()
    expect(page.locator(f"#feature-{letter}")).to_have_attribute("title", re.compile("in limits"))


def test_by_touch_the_field_is_written_with_keys_on_the_page(
    bench: Callable[..., Page], browser: Browser, address: str
) -> None:
    state = bench().context.storage_state()
    context = browser.new_context(
        base_url=address, storage_state=state, has_touch=True, is_mobile=True, viewport={"width": 390, "height": 844}
    )
    page = context.new_page()
    page.goto("/jobs/104/make")
    for key in ("0", "point", "8", "7", "5", "9", "take the last back", "8"):
        page.get_by_role("button", name=key, exact=True).tap()
    assert page.input_value("#size") == "0.8758"
    assert page.evaluate("document.getElementById('size').inputMode") == "none", "no second keyboard comes up"
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    small = [
        one for one in page.locator(".keypad button").all() if (one.bounding_box() or {"height": 0})["height"] < 43.5
    ]
    assert small == []
    context.close()


def test_a_key_held_down_closes_one_step_and_one_that_bounced_looks_at_nothing(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/127/make")
    done = page.locator(".steps-strip .is-done")
    page.keyboard.type("0")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="I looked at all of it: ready to cut")).to_be_focused()
    page.keyboard.press("Enter")  # in the time a key bounces
    page.wait_for_timeout(300)
    expect(done).to_have_count(0)
    page.wait_for_timeout(LOOKED_MS)
    page.keyboard.press("Enter")
    expect(done).to_have_count(1)
    for _ in range(4):
        page.keyboard.down("Enter")  # held: all but the first repeat
        page.wait_for_timeout(150)
    page.keyboard.up("Enter")
    expect(done).to_have_count(2)
