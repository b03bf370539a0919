"""Truing beside the machine: by keys alone, from a gauge, and a piece of practice."""

from collections.abc import Callable
from decimal import Decimal

from playwright.sync_api import Page, expect

from nomisma.demo.shop import GAUGE_TOKEN
from nomisma.devices.simulated import SimulatedGauge
from tests.serving import Server


def set_up(page: Page, title: str) -> str:
    """A job of its own, set up in the eight-inch chuck with the first indicator; its Hold page."""
    page.goto("/")
    page.fill("[name=title]", title)
    page.check("[name=partner_kind][value=shaft]", force=True)
    page.click("text=Start >> nth=-1")
    page.wait_for_url("**/mate")
    address = page.url.replace("/mate", "/hold")
    page.goto(address)
    page.select_option("[name=chuck_id]", label="Eight-inch four-jaw")
    page.select_option("[name=instrument_id]", label="Lever indicator, tenths · reads in")
    page.check("[name=grip][value=outside]", force=True)
    page.click("text=Begin reading")
    expect(page.locator(".now-words")).to_have_text("Read jaw 1")
    return address


def test_a_piece_is_trued_with_the_keyboard_alone(bench: Callable[..., Page]) -> None:
    page = bench()
    set_up(page, "Keyed idler")
    for place, reading in ((1, "0.0120"), (2, "0.0070"), (3, "0"), (4, "0.0050")):
        expect(page.locator(".now-words")).to_have_text(f"Read jaw {place}")
        expect(page.locator("#size")).to_be_focused()
        page.keyboard.type(reading)
        page.keyboard.press("Enter")
    expect(page.locator(".now-words")).to_have_text("Ease jaw 3, drive jaw 1")
    page.keyboard.type("0.0061 0.0060 0.0060 0.0061")
    page.keyboard.press("Enter")
    expect(page.locator(".now-words")).to_have_text("Tighten pair by pair")
    expect(page.locator("[type=radio][name=tightened][value=tight]")).to_be_checked()
    page.keyboard.type("0.0061 0.0062 0.0060 0.0059")
    page.keyboard.press("Enter")
    expect(page.locator(".now-words")).to_have_text("Before the first start")
    for box in page.locator(".tick input").all():
        box.focus()
        page.keyboard.press("Space")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.locator(".now-words")).to_have_text("Ready to cut")
    expect(page.locator(".path-picture")).to_be_visible()
    page.reload()
    expect(page.locator(".now-words")).to_have_text("Ready to cut")


def test_the_next_jaw_can_be_read_from_across_the_machine(bench: Callable[..., Page]) -> None:
    page = bench()
    set_up(page, "Seen from afar")
    height = page.locator(".now-words").evaluate("(words) => parseFloat(getComputedStyle(words).fontSize)")
    assert height >= 80
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.locator(".now-words").evaluate("(words) => parseFloat(getComputedStyle(words).fontSize)") >= 40


def test_a_number_pad_has_its_minus(bench: Callable[..., Page]) -> None:
    page = bench()
    set_up(page, "Below zero")
    page.fill("#size", "0.003")
    page.click("[data-flip-sign]")
    expect(page.locator("#size")).to_have_value("-0.003")
    page.click("[data-flip-sign]")
    expect(page.locator("#size")).to_have_value("0.003")
    page.click("text=jaw 3")
    expect(page.locator("[data-place-now]")).to_have_text("jaw 3")


def test_an_indicator_that_speaks_fills_one_place_after_the_other(bench: Callable[..., Page], server: Server) -> None:
    page = bench()
    number = int(set_up(page, "Spoken round").split("/")[-2])
    with page.expect_response("**/live?**"):  # a gauge that speaks before the page listens is found under “Gauges”
        page.reload()
    page.wait_for_timeout(1500)  # the answer begins before the page is on the server's list of listeners
    round_of_four = tuple(Decimal(size) for size in ("0.012", "-0.0005", "0", "0.005"))
    with SimulatedGauge(
        "bench-indicator", Decimal(0), around=round_of_four, token=GAUGE_TOKEN, job=number, port=server.gauge_port
    ) as gauge:
        for place, (_, size) in enumerate(gauge.readings(4), start=1):
            expect(page.locator(".now-words")).to_have_text(f"Read jaw {place}")
            expect(page.locator("#size")).not_to_have_value("")
            assert Decimal(page.input_value("#size").split()[0]) == Decimal(size.split()[0])
            page.press("#size", "Enter")
            expect(page.locator("#size")).to_have_value("")
    expect(page.locator(".now-words")).to_have_text("Ease jaw 3, drive jaw 1")


def test_a_key_is_turned_and_the_needle_moves(bench: Callable[..., Page]) -> None:
    page = bench("pim")
    page.goto("/practice")
    page.click("li:has-text('Round bar') button")
    before = page.locator(".dial desc").text_content()
    page.click("[aria-label='ease jaw 3 by 1/8 turn']")
    expect(page.locator("[role=status]", has_text="without touching the work")).to_be_visible()
    page.click("[aria-label='drive jaw 1 by 1/32 turn']")
    expect(page.locator("[role=status]", has_text="The jaw pushes the work.")).to_be_visible()
    assert page.locator(".dial desc").text_content() != before
    page.click(".spindle >> text=jaw 2")
    expect(page.locator(".spindle [aria-current]")).to_have_text("jaw 2")


def test_the_coach_is_followed_by_keys_alone(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/110/cut")  # no other test of this server logs there
    expect(page.locator(".now-words")).to_contain_text("Wind in")
    expect(page.locator("svg.dial")).to_be_visible()
    expect(page.locator("#size")).to_be_focused()
    after = page.locator(".now-amount .num .u-in").first.text_content() or ""
    page.keyboard.type(after.split()[0])
    for _ in range(10):
        page.keyboard.press("Tab")
        if page.evaluate("document.activeElement.name") == "as_advised":
            break
    page.keyboard.press("Space")
    page.keyboard.press("Enter")
    expect(page.locator(".log", has_text="Expected").first).to_contain_text(after.split()[0])
    expect(page.locator("#size")).to_have_value("")
