"""Plan in the real pages: from lines to the first steps made, by keyboard; and on a phone."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.at_the_lathe import LOOKED_MS

pytestmark = pytest.mark.browser


def started(page: Page) -> str:
    page.fill("#field-title", "Cover")
    page.fill("#lines", "od 96 mm ±0.2 x 6 mm ±0.1\nod 70 mm h8 x 9 mm ±0.1\nbore 32 mm H7 thru\nlength 15 mm ±0.1")
    page.click("text=Start >> nth=-1")
    page.wait_for_url(re.compile(r"/jobs/\d+/part"))
    return page.url.rsplit("/", 1)[0]


def test_from_lines_to_the_saw_and_the_first_steps_by_keyboard(bench: Callable[..., Page]) -> None:
    page = bench()
    job = started(page)
    page.goto(f"{job}/plan/saw")
    page.focus("#field-length_again")
    page.keyboard.type("15 mm")
    page.keyboard.press("Tab")
    page.keyboard.type("96 mm")
    page.keyboard.press("Enter")
    expect(page.locator("main .big").first).to_contain_text("Saw at")
    page.click("text=Make it, step by step")
    expect(page.get_by_role("button", name="I looked at all of it: ready to cut")).to_be_focused()
    page.wait_for_timeout(LOOKED_MS)
    page.keyboard.press("Enter")
    expect(page.locator(".now-words")).to_have_text("Face")
    expect(page.get_by_role("button", name="Done", exact=True)).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator(".now-words")).to_contain_text("Rough turn")
    page.keyboard.press("Enter")
    expect(page.locator(".make-head")).to_contain_text("3 of ")


def test_left_and_right_turn_the_steps_and_go_along_the_pictures(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/118/plan/sheet?step=1")
    for key, at in [("ArrowLeft", "S1"), ("ArrowRight", "1"), ("ArrowRight", "2")]:
        page.evaluate("document.activeElement.blur()")
        page.keyboard.press(key)
        expect(page.locator(".steps-strip [aria-current]")).to_have_attribute("title", re.compile(f"^{at}\\. "))
    page.goto("/jobs/118/plan")
    pictures = page.locator(".moment-strip a")
    pictures.first.focus()
    page.keyboard.press("ArrowRight")
    expect(pictures.nth(1)).to_be_focused()
    page.click("text=Anything else that must be known")
    page.focus("#question")
    page.keyboard.press("ArrowRight")
    expect(page.locator("#question")).to_be_focused()


def test_a_set_up_is_read_and_ticked_ready_by_keyboard(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/120/hold")  # no other test of this server holds it
    expect(page.locator(".now-words")).to_have_text("Needle on it")
    expect(page.locator("#runout")).to_be_focused()
    page.keyboard.type("2 thou")
    page.keyboard.press("Enter")
    expect(page.locator(".now-words")).to_have_text("Before the first start")
    page.focus("input[name=step_0]")
    for _ in range(page.locator(".tick input").count()):
        page.keyboard.press("Space")
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.locator(".now-words")).to_have_text("Ready to cut")


def test_an_operation_moved_against_a_rule_asks_why(bench: Callable[..., Page]) -> None:
    page = bench()
    job = started(page)
    page.goto(f"{job}/plan")
    page.get_by_text("Figures, reasons, another order").first.click()
    page.click("button[aria-label='Sooner: Part off']")
    expect(page.locator("p[role=alert]").last).to_contain_text("Part off last")
    expect(page.locator("#order-reason")).to_be_focused()
    page.keyboard.type("the saw takes it off")
    page.keyboard.press("Enter")
    expect(page.locator("text=Done so because: the saw takes it off")).to_be_visible()


@pytest.mark.parametrize(
    "path", ["/jobs/116/plan", "/jobs/118/make", "/jobs/121/hold", "/three-jaw", "/shop/stock", "/cut-list"]
)
def test_on_a_phone_nothing_is_wider_than_the_screen(bench: Callable[..., Page], path: str) -> None:
    page = bench(width=390, height=844)
    page.goto(path)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_way_of_measuring_opened_gets_the_whole_keyboard(bench: Callable[..., Page]) -> None:
    page = bench(width=390, height=844)
    page.goto("/jobs/115/measure?feature=D")
    assert page.evaluate("document.getElementById('size').inputMode") == "decimal"
    page.click("details.ways summary")
    page.wait_for_function("document.getElementById('size').inputMode === 'text'")


def test_a_sheet_on_paper_can_be_given_up_and_asked_for_again(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto(f"{started(page)}/plan/sheet/print")
    link = page.get_by_role("link", name="PDF, A4")
    page.route("**/sheet.pdf", lambda _route: None)  # a server that is slow
    link.click()
    expect(page.locator(".setting-paper [role=status]")).to_contain_text(
        re.compile(r"Setting it: \d+ s; it may take 30")
    )
    page.get_by_role("button", name="Give it up").click()
    expect(page.locator(".setting-paper")).to_have_text(re.compile(r"^Given up\.\s*$"))
    expect(link).to_be_focused()
    page.unroute_all()
    with page.expect_download() as made:
        page.keyboard.press("Enter")
    assert re.fullmatch(r"sheet-\d+\.pdf", made.value.suggested_filename)
    expect(page.locator(".setting-paper")).to_have_count(0)
