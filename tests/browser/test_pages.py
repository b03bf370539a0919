"""The real pages, driven in Chromium."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import log_reading, start_job

pytestmark = pytest.mark.browser


def test_a_machinist_takes_a_job_from_partner_to_record(bench: Callable[..., Page]) -> None:
    page = bench()
    number = start_job(page, "Pulley bush")
    for size in (".6249", ".6249", ".6248"):
        log_reading(page, size)
        expect(page.locator("#size")).to_be_focused()
        expect(page.locator("#size")).to_have_value("")
    expect(page.locator(".readings li")).to_have_count(3)
    page.click("text=Turns freely with oil")
    expect(page.locator(".option >> nth=0")).to_contain_text("Make to suit")
    expect(page.locator("#answer svg.fit-picture")).to_be_visible()
    page.click(".option.is-chosen >> text=Work to these")
    page.wait_for_url(f"**/jobs/{number}/make")
    page.get_by_role("navigation", name="Make").get_by_role("link", name="Measure").click()
    log_reading(page, ".6101")
    expect(page.locator("div.newest")).to_contain_text("metal to go")
    expect(page.locator("div.newest .big")).to_contain_text("0.01")
    expect(page.locator("[name=cut_since][value=cut]")).to_be_checked()
    log_reading(page, ".6266")
    expect(page.locator("div.newest")).to_contain_text("in limits")
    expect(page.locator("[name=cut_since][value=not]")).to_be_checked()
    expect(page.locator("[name=place]:checked")).to_have_value("mouth 90°")
    expect(page.locator("svg.strip .reading")).to_have_count(2)
    page.click("text=Record")
    page.fill("#note", "runs free")
    page.click("text=Hand over >> nth=-1")
    expect(page.locator("text=Handed over by")).to_be_visible()


def test_the_whole_entry_goes_by_keyboard_alone(bench: Callable[..., Page]) -> None:
    page = bench()
    start_job(page, "Keyboard bush")
    expect(page.locator("#size")).to_be_focused()
    page.keyboard.type(".6249")
    page.keyboard.press("Enter")
    expect(page.locator(".readings li")).to_have_count(1)
    expect(page.locator("#size")).to_be_focused()
    for _ in range(30):
        page.keyboard.press("Tab")
        if page.evaluate("document.activeElement.name") == "function":
            break
    page.keyboard.press("Space")
    expect(page.locator(".option >> nth=0")).to_contain_text("Make to suit")
    for _ in range(40):
        page.keyboard.press("Tab")
        if page.evaluate("document.activeElement.textContent.trim()") == "Work to these":
            break
    page.keyboard.press("Enter")
    page.wait_for_url("**/make")
    page.keyboard.type(".6101")
    page.keyboard.press("Enter")
    expect(page.locator("#work .verdict-line")).to_contain_text("metal to go")


def test_f2_and_slash_lead_to_the_entry_line_from_everywhere(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/104/measure")
    expect(page.locator("#size")).to_be_focused()
    page.keyboard.press("F2")
    page.keyboard.type("1.229 to 1.125")
    page.keyboard.press("Enter")
    expect(page.locator("p.big")).to_have_text(re.compile(r"0\.1040 in"))
    page.locator("h1, .asked").first.click()
    page.keyboard.press("/")
    expect(page.locator("#entry")).to_be_focused()


def test_a_slash_in_a_reading_stays_a_slash(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/104/measure")
    page.locator("#size").press_sequentially("7/8")
    expect(page.locator("#size")).to_have_value("7/8")


def test_one_key_swaps_the_unit_and_nothing_that_was_typed(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/104/measure")
    page.fill("#size", ".8731")
    limits = page.locator(".limits-now")
    assert " in" in limits.inner_text()
    page.keyboard.press("F8")
    assert " mm" in limits.inner_text()
    assert " in" not in limits.inner_text().replace("limits", "")
    expect(page.locator("#size")).to_have_value(".8731")
    expect(page.locator("[data-reading-unit]")).to_have_text("in")
    page.reload()
    assert " mm" in page.locator(".limits-now").inner_text()
    page.keyboard.press("F8")
    assert " in" in page.locator(".limits-now").inner_text()


def test_day_and_night_are_one_key_apart_and_remembered(bench: Callable[..., Page]) -> None:
    page = bench()
    paper = page.evaluate("getComputedStyle(document.body).backgroundColor")
    page.keyboard.press("F9")
    assert page.evaluate("getComputedStyle(document.body).backgroundColor") != paper
    page.goto("/shop")
    expect(page.locator("html")).to_have_attribute("data-theme", "dark")


def test_a_wrong_reading_stays_with_its_sentence(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/104/measure")
    log_reading(page, "7/0")
    expect(page.locator(".problem")).to_contain_text("divides by zero")
    expect(page.locator("#size")).to_have_value("7/0")
    expect(page.locator("#size")).to_be_focused()


def test_with_the_server_away_readings_wait_and_are_delivered(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/104/measure")
    page.route("**/readings", lambda route: route.abort())
    page.fill("#size", ".8731")
    page.press("#size", "Enter")
    expect(page.locator("#waiting")).to_contain_text("1 reading waits on this device")
    expect(page.locator("#size")).to_have_value("")
    page.fill("#size", ".8732")
    page.press("#size", "Enter")
    expect(page.locator("#waiting")).to_contain_text("2 readings wait on this device")
    page.unroute("**/readings")
    expect(page.locator("#seen .log").last).to_contain_text(".8732 in", timeout=15_000)
    expect(page.locator("#waiting")).to_be_hidden()


def test_a_reading_typed_as_the_sign_in_ran_out_is_logged_after_it(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/104/measure")
    page.context.clear_cookies()
    page.fill("#size", ".8732")
    page.press("#size", "Enter")
    expect(page.locator(".kept-value", has_text=".8732")).to_be_visible()
    page.fill("[name=sign_in_name]", "orla")
    page.fill("[name=password]", "hilltop-demo")
    page.press("[name=password]", "Enter")
    page.click("text=Send it now")
    page.wait_for_url("**/measure")
    expect(page.locator("div.newest")).to_contain_text(".8732 in")


def test_what_one_logs_the_other_sees_without_losing_what_is_typed(bench: Callable[..., Page]) -> None:
    orla, bram = bench("orla"), bench("bram")
    number = start_job(orla, "Shared bush")
    log_reading(orla, ".6249")
    orla.click("text=Turns freely with oil")
    orla.click(".option.is-chosen >> text=Work to these")
    orla.wait_for_url("**/make")
    orla.goto(f"/jobs/{number}/measure")
    bram.goto(f"/jobs/{number}/measure")
    bram.fill("#size", ".61")
    log_reading(orla, ".6105")
    expect(bram.locator("#seen")).to_contain_text(".6105 in", timeout=12_000)
    expect(bram.locator("#size")).to_have_value(".61")


def test_choosing_another_instrument_says_its_unit(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/103/mate")
    expect(page.locator("[data-reading-unit]")).to_have_text("mm")
    page.select_option("#instrument", label="6 in dial caliper · reads in")
    expect(page.locator("[data-reading-unit]")).to_have_text("in")


def test_another_fit_is_drawn_when_it_is_chosen_in_the_table(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/103/mate?function=slides_by_hand")
    page.click("summary:has-text('ISO 286, hole basis')")
    page.click(".iso-fits >> text=H9/d9")
    expect(page.locator(".option.is-chosen h2")).to_have_text("ISO H9/d9")
    expect(page.locator("svg.fit-picture .column-title.chosen").last).to_have_text("H9/d9")
    page.reload()
    expect(page.locator(".option.is-chosen h2")).to_have_text("ISO H9/d9")


def test_a_chosen_function_folds_the_others_until_another_is_wanted(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/103/mate")
    shown = page.locator(".function:visible")
    expect(shown).to_have_count(10)
    page.click("text=Slides by hand, no shake")
    expect(page.locator("#answer .option").first).to_be_visible()
    expect(shown).to_have_count(1)
    page.click("text=It must do something else")
    expect(shown).to_have_count(10)
    page.click("text=Turns freely with oil")
    expect(shown).to_have_count(1)
    expect(page.locator("#answer .watch")).to_contain_text("Turns freely with oil")


def test_the_working_opens_and_can_be_followed(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/104/mate")
    page.click(".option >> nth=0 >> text=Working")
    expect(page.locator(".option >> nth=0 >> .working-formula >> nth=-1")).to_be_visible()
    expect(page.locator(".option >> nth=0")).to_contain_text("common practice, no source")


def test_a_record_prints_on_paper_without_controls(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/101/record")
    page.emulate_media(media="print")
    expect(page.locator(".bench-head")).to_be_hidden()
    expect(page.locator(".signature")).to_be_visible()
    expect(page.locator("text=Winch drum register").first).to_be_visible()


def test_every_page_works_with_scripts_off(browser: object, address: str) -> None:
    context = browser.new_context(base_url=address, java_script_enabled=False)
    page = context.new_page()
    page.goto("/sign-in")
    page.fill("[name=sign_in_name]", "orla")
    page.fill("[name=password]", "hilltop-demo")
    page.click("button:has-text('Sign in')")
    page.goto("/jobs/104/measure")
    page.fill("#size", ".8734")
    page.click("button:has-text('Log')")
    assert "8734" in page.locator("div.newest").inner_text()
    page.goto("/jobs/103/mate")
    page.click("text=Slides by hand, no shake")
    page.locator("noscript button").click()
    assert "Make to suit" in page.locator("#answer").inner_text()
    context.close()


def test_a_bush_goes_from_the_entry_line_to_the_log(bench: Callable[..., Page]) -> None:
    page = bench()
    start_job(page, "Bench bush")
    number = page.url.split("/")[-2]
    page.keyboard.press("F2")
    page.keyboard.type("bush 3/8 on 1/4 x 1/2")
    page.keyboard.press("Enter")
    page.wait_for_url("**/bush?*")
    expect(page.locator("svg.bush")).to_be_visible()
    page.goto(
        f"/bush?job={number}&housing=.3750&shaft=.2495/.2498&housing_outer=1&length=.5&bush_material=aluminium_bronze"
    )
    page.fill("#field-length", ".625")
    page.keyboard.press("Tab")
    page.wait_for_url("**length=.625**")
    expect(page.locator("#answer .big >> nth=0")).to_contain_text("0.376")
    page.click(f"text=Put job {number} together like this")
    page.wait_for_url(f"**/jobs/{number}/assemble")
    expect(page.locator(".steps li >> nth=0")).to_contain_text("Mark both parts")
    page.click("text=as expected")
    page.fill("#field-force", "600 lbf")
    page.fill("#field-size_before", ".2490")
    page.fill("#field-size_after", ".2484")
    page.keyboard.press("Enter")
    expect(page.locator(".readings")).to_contain_text("It closed in 0.60 thou")


def test_a_worksheet_answers_again_when_a_field_changes_and_swaps_its_unit(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/find?nominal=25+mm&clearance_min=5+um&clearance_max=45+um&fit_system=both")
    expect(page.locator("#answer .big")).to_have_text("H7/g6")
    page.select_option("#field-fit_system", "inch")
    expect(page.locator("#answer .big")).not_to_have_text("H7/g6")
    page.fill("#field-clearance_max", "cheese")
    page.keyboard.press("Tab")
    expect(page.locator("#answer .problem")).to_contain_text("is not understood as a size")
    expect(page.locator("#field-clearance_max")).to_have_value("cheese")


def test_steps_on_the_stops_are_ticked_off_and_the_next_piece_begins_again(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/stops")
    page.fill("#field-steps", page.get_attribute("#field-steps", "placeholder") or "")
    page.press("#field-stations", "Enter")
    page.wait_for_url("**steps=**")
    boxes = page.locator("[data-tick]")
    expect(boxes).to_have_count(6)
    boxes.nth(0).check()
    boxes.nth(1).press("Space")
    page.reload()
    expect(page.locator("[data-tick]:checked")).to_have_count(2)
    page.fill("#field-stations", "8")
    page.press("#field-stations", "Enter")
    page.wait_for_url("**stations=8**")
    expect(page.locator("[data-tick]:checked")).to_have_count(0)  # another answer is another list
    boxes.nth(2).check()
    page.get_by_role("button", name="Next piece").click()
    expect(page.locator("[data-tick]:checked")).to_have_count(0)


def test_a_misread_is_asked_about_and_the_answer_goes_by_one_key(bench: Callable[..., Page]) -> None:
    page = bench()
    start_job(page, "Misread bush")
    log_reading(page, ".6249")
    log_reading(page, ".6499")
    expect(page.locator(".doubt")).to_contain_text("off by one turn of the thimble")
    expect(page.locator("#size")).to_be_focused()
    expect(page.locator("#size")).to_have_value("")
    expect(page.locator(".readings li")).to_have_count(1)
    log_reading(page, ".6248")
    expect(page.locator(".readings li")).to_have_count(2)
    expect(page.locator(".doubt")).to_have_count(0)
    log_reading(page, ".6499")
    page.click("text=.6499 it is: log it")
    expect(page.locator(".readings li")).to_have_count(3)


def test_place_and_cut_go_by_keys_from_the_readings_field(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/109/measure")
    expect(page.locator("#size")).to_be_focused()
    page.keyboard.press("ArrowDown")
    expect(page.locator("[name=place]:checked")).to_have_value("far end 0°")
    page.keyboard.press("ArrowUp")
    expect(page.locator("[name=place]:checked")).to_have_value("middle 90°")
    expect(page.locator("[name=cut_since]:checked")).to_have_value("not")
    page.keyboard.press("F6")
    expect(page.locator("[name=cut_since]:checked")).to_have_value("cut")
    page.keyboard.type("31.7")
    expect(page.locator("#size")).to_have_value("31.7")


def test_a_batch_goes_from_piece_to_piece_by_keyboard_and_its_chart_follows(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/108/measure")
    for size in ("7.991", "7.992"):
        log_reading(page, size)
    expect(page.locator("#piece")).to_have_value("12")
    page.click("text=Batch")
    expect(page.locator("svg.run-chart")).to_be_visible()
    expect(page.locator("p.big")).to_have_text("11 of 12")
    expect(page.locator("p.big-words")).to_contain_text("It drifts by")


def test_an_instrument_is_checked_and_its_error_is_taken_off(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/shop")
    page.click("text=2–3 in micrometer")
    page.fill("#field-standard", "2")
    page.fill("#field-read", "2.0001")
    page.keyboard.press("Enter")
    expect(page.locator("#check [role=status]")).to_contain_text("is taken off every reading from here on")
    page.goto("/jobs/101/record")
    expect(page.locator("h1")).to_have_text("Winch drum register")


def test_a_record_is_printed_with_its_workings_or_without(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/122/record")
    page.evaluate(
        "window.print = () => { window.seen = [...document.querySelectorAll('details.working')].map((one) =>"
        " one.open) }"
    )
    page.emulate_media(media="print")
    shown = "[...document.querySelectorAll('details.working')].map((one) => getComputedStyle(one).display)"
    page.evaluate("document.querySelector('[data-print=workings]').click()")
    assert page.evaluate("window.seen.length") > 0
    assert page.evaluate("window.seen.every(Boolean)")
    page.evaluate("window.dispatchEvent(new Event('afterprint'))")
    assert not page.evaluate("[...document.querySelectorAll('details.working')].some((one) => one.open)"), "as it was"
    page.evaluate("document.querySelector('[data-print=\"\"]').click()")
    assert set(page.evaluate(shown)) == {"none"}


def test_arrow_keys_go_through_the_functions_and_enter_folds_the_list(bench: Callable[..., Page]) -> None:
    page = bench()
    page.goto("/jobs/103/mate")
    page.locator("input[name=function]").first.focus()
    for _ in range(3):
        page.keyboard.press("ArrowDown")
    fourth = page.locator("input[name=function]").nth(3)
    expect(fourth).to_be_checked()
    expect(fourth).to_be_focused()
    expect(page.locator(".folds .function:visible")).to_have_count(10)
    expect(page.locator("#answer .option").first).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.locator(".folds .function:visible")).to_have_count(1)


@pytest.mark.parametrize("stage", ["measure", "cut"])
def test_a_refused_reading_is_selected_and_the_next_takes_its_place(bench: Callable[..., Page], stage: str) -> None:
    page = bench()
    page.goto(f"/jobs/104/{stage}")
    page.fill("[name=size]", "abc")
    page.keyboard.press("Enter")
    expect(page.locator(".problem").first).to_be_visible()
    page.wait_for_function(
        "document.activeElement.name === 'size' && document.activeElement.selectionEnd -"
        " document.activeElement.selectionStart === 3"
    )
    page.keyboard.type(".87")
    expect(page.locator("[name=size]")).to_have_value(".87")
