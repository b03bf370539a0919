"""Practice at the lathe in Chromium: by the keyboard alone, from the stock to the score; and without the coach."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_look import SMALL_TARGETS, TARGETS, WIDER, complaints_of

pytestmark = pytest.mark.browser


def begin(page: Page, level: str) -> None:
    page.goto("/practice")
    page.locator(f'form:has(input[value="{level}"]) button').click()
    page.wait_for_url("**/practice/lathe/*")


def stood(page: Page) -> str:
    found = re.search(r"It says ([\d.]+)", page.locator("svg.micrometer").inner_html())
    assert found
    return found[1]


def test_a_pin_is_turned_with_the_keyboard_alone(bench: Callable[..., Page]) -> None:
    page = bench("pim")
    begin(page, "plain_pin")
    expect(page.locator("#size")).to_be_focused()
    for _ in range(20):
        page.keyboard.type(stood(page))
        page.keyboard.press("Enter")
        expect(page.locator("#lines")).to_be_focused()
        if not page.locator(".now-words").inner_text().startswith(("Wind in", "Same dial")):
            break
        page.keyboard.press("Enter")
        expect(page.locator(".now-words")).to_have_text("Measure it")
        expect(page.locator("#size")).to_be_focused()
    assert page.locator(".now-words").inner_text() in (
        "In limits: leave it",
        "Stone or cloth takes the rest",
        "Too little to cut safely",
        "Between the lines",
        "Touch the tool on anew",
    )
    assert page.locator("table.log tbody tr").count() >= 2
    page.click("button:has-text('Take it out')")
    expect(page.locator("[aria-label=Score]")).to_contain_text("The coach’s own advice on this part")


def test_without_the_coach_its_advice_is_away_and_comes_back(bench: Callable[..., Page]) -> None:
    page = bench("pim")
    begin(page, "springy_bore")
    page.fill("#size", stood(page))
    page.press("#size", "Enter")
    expect(page.locator(".now-words")).to_contain_text("Wind in")
    page.click("text=Without the coach")
    expect(page.locator(".now-words")).to_have_text("Your cut")
    page.fill("#lines", "12")
    page.press("#lines", "Enter")
    expect(page.locator(".now-words")).to_have_text("Measure it")
    page.fill("#size", stood(page))
    page.press("#size", "Enter")
    expect(page.locator(".now-words")).to_have_text("Your cut")
    page.click("text=Ask the coach")
    expect(page.locator(".now-words")).to_contain_text("Wind in")


def test_a_wrong_number_of_lines_stays_with_its_sentence(bench: Callable[..., Page]) -> None:
    page = bench("pim")
    begin(page, "plain_pin")
    page.fill("#size", stood(page))
    page.press("#size", "Enter")
    expect(page.locator("#lines")).to_be_focused()
    page.fill("#lines", "a few")
    page.press("#lines", "Enter")
    expect(page.locator("#problem-lines")).to_contain_text("“a few” is no number of lines.")
    expect(page.locator("#lines")).to_have_value("a few")


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_the_part_fits_a_phone_and_axe_finds_nothing(bench: Callable[..., Page], address: str, theme: str) -> None:
    page = bench("pim", width=390, height=844)
    page.context.add_cookies([{"name": "nomisma_theme", "value": theme, "url": address}])
    begin(page, "unknown_dial")
    page.fill("#size", stood(page))
    page.press("#size", "Enter")
    expect(page.locator("#lines")).to_be_focused()
    assert page.evaluate(WIDER) <= 0
    page.set_viewport_size({"width": 1280, "height": 800})
    assert page.evaluate(SMALL_TARGETS, TARGETS) == []
    assert complaints_of(page) == []
