"""What a page answers stands on its first screen; what is rare is folded, and stays as it was left."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

pytestmark = pytest.mark.browser

HEIGHT = 800
ANSWERS = [
    ("/", ".job >> nth=4"),
    ("/", "text=What do you have?"),
    ("/jobs/123/plan", ".moment-strip >> nth=0"),
    ("/jobs/123/plan", "text=Make it, step by step"),
    ("/jobs/119/plan", ".question >> nth=0"),
    ("/jobs/128/part", ".dimensioned >> nth=0"),
    ("/jobs/104/mate", ".option.is-chosen .aim"),
    ("/jobs/101/mate", ".option .aim >> nth=2"),
    ("/jobs/124/hold?by=needle", "text=Begin reading"),
    ("/jobs/110/hold", ".now-words"),
    ("/jobs/110/hold", "#size"),
    ("/jobs/123/cut", "#size"),
    ("/jobs/102/measure", "#size"),
    ("/jobs/106/assemble", ".assembly-head"),
    ("/jobs/128/record", ".features tbody tr >> nth=10"),
    ("/jobs/101/record", "text=Take it up again"),
    ("/press", ".worksheet-answer .big"),
]
"""What is looked for on a page first."""

TWO_SCREENS = ["/jobs/123/plan", "/jobs/119/plan", "/jobs/128/record", "/jobs/123/record", "/jobs/101/mate",
    "/jobs/124/hold", "/jobs/102/measure", "/jobs/106/assemble", "/jobs/128/part", "/jobs/128/make"]  # fmt: skip
"""Pages that were three to six screens long."""


def test_what_a_page_answers_stands_on_its_first_screen(bench: Callable[..., Page]) -> None:
    page = bench(height=HEIGHT)
    for path, answer in ANSWERS:
        page.goto(path)
        found = page.locator(answer).bounding_box()
        assert found, (path, answer)
        assert found["y"] + found["height"] <= HEIGHT, (path, answer)


def test_no_page_of_a_job_is_longer_than_two_screens(bench: Callable[..., Page]) -> None:
    page = bench(height=HEIGHT)
    tall = {}
    for path in TWO_SCREENS:
        page.goto(path)
        tall[path] = page.evaluate("document.documentElement.scrollHeight")
    assert {path: height for path, height in tall.items() if height > 2 * HEIGHT} == {}


def test_a_fold_stays_as_it_was_left(bench: Callable[..., Page]) -> None:
    page = bench()
    figures = page.locator("details[data-fold=plan-steps]")
    page.goto("/jobs/119/plan")
    expect(figures.first).not_to_have_attribute("open", "")
    figures.first.locator("summary").click()
    page.wait_for_function("sessionStorage.getItem('nomisma-folds')?.includes('plan-steps')")
    page.goto("/jobs/120/plan")
    expect(figures.first).to_have_attribute("open", "")
    figures.first.locator("summary").first.click()
    page.wait_for_function("!sessionStorage.getItem('nomisma-folds')?.includes('plan-steps')")
    page.reload()
    expect(figures.first).not_to_have_attribute("open", "")


def test_an_address_within_a_fold_opens_it(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/119/plan#question")
    expect(page.locator("#question")).to_be_visible()


def test_what_was_refused_is_not_folded_away(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/124/hold?by=needle")
    page.get_by_text("More places, pins, a far circle").click()
    page.fill("#field-far", "long")
    page.check("[name=grip][value=outside]", force=True)
    page.evaluate("sessionStorage.clear()")
    page.click("text=Begin reading")
    expect(page.locator("#problem-far")).to_be_visible()
    expect(page.locator("#field-far")).to_have_value("long")
    page.goto("/jobs/119/plan")
    page.get_by_text("As measured, not as remembered").click()
    page.get_by_text("A tube, the cut-off, the grip").click()
    page.fill("#field-grip", "a lot")
    page.evaluate("sessionStorage.clear()")
    page.locator("form[action$='/plan/stock'] button[type=submit]").click()
    expect(page.locator("#problem-grip")).to_be_visible()


def test_what_was_worked_out_is_found_by_its_address(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/116/record#kept")
    expect(page.locator("#kept")).to_be_visible()


def test_a_record_on_paper_has_its_folded_parts_and_none_of_their_workings(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/105/record")
    folds = page.locator("details.on-paper")
    assert folds.count() >= 2
    assert not page.evaluate("[...document.querySelectorAll('details.on-paper')].some((one) => one.open)")
    page.evaluate("window.dispatchEvent(new Event('beforeprint'))")
    assert page.evaluate("[...document.querySelectorAll('details.on-paper')].every((one) => one.open)")
    page.emulate_media(media="print")
    shown = "[...document.querySelectorAll('details.working')].map((one) => getComputedStyle(one).display)"
    assert set(page.evaluate(shown)) == {"none"}
    page.evaluate("window.dispatchEvent(new Event('afterprint'))")
    assert not page.evaluate("[...document.querySelectorAll('details.on-paper')].some((one) => one.open)"), "as it was"
    page.reload()
    assert not page.evaluate("[...document.querySelectorAll('details.on-paper')].some((one) => one.open)"), "not kept"
