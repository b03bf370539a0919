"""The set-up sheet on paper: from the browser's printer and as PDF, one set-up a page."""

import io
import re

import pytest
from pypdf import PdfReader

from tests.web.conftest import Hand
from tests.web.job.test_plan import planned
from tests.web.paper_seen import addresses_on, blackest, pages_seen
from tests.web.parts import log

MM = 25.4 / 72
PAPERS = {"a4": (210, 297), "letter": (216, 279)}


def sheet(hand: Hand, number: int, paper: str = "a4") -> PdfReader:
    response = hand.get(f"/jobs/{number}/plan/sheet.pdf?paper={paper}")
    assert (response.status_code, response.headers["content-type"]) == (200, "application/pdf")
    return PdfReader(io.BytesIO(response.content))


@pytest.mark.parametrize("paper", PAPERS)
def test_one_set_up_is_one_page_of_the_paper_that_was_asked_for(orla: Hand, paper: str) -> None:
    found = sheet(orla, planned(orla), paper)
    assert len(found.pages) == 2
    assert [tuple(round(float(side) * MM) for side in one.mediabox[2:]) for one in found.pages] == [PAPERS[paper]] * 2


def test_a_page_says_the_set_up_how_it_is_held_and_each_step_with_its_limits(orla: Hand) -> None:
    first, second = (" ".join(one.extract_text().split()) for one in sheet(orla, planned(orla)).pages)
    assert "Set-up 1, from the left end" in first
    assert "Three-jaw chuck" in first
    assert "Set-up 2, from the right end, held on A" in second
    assert re.search(r"11\.[0-9] mm", first)  # the drill before 12 H7
    assert "from the face" in first
    assert "12.000 mm – 12.018 mm" in first
    assert "1 of 2" in first


def test_sizes_are_in_the_jobs_unit_alone(orla: Hand) -> None:
    text = " ".join(one.extract_text() for one in sheet(orla, planned(orla)).pages)
    assert re.search(r"[0-9] mm\b", text)
    assert not re.search(r"[0-9] in\b", text)


def test_a_part_without_a_plan_is_a_page_that_says_so(orla: Hand) -> None:
    (only,) = sheet(orla, planned(orla, "bore 12 H7")).pages
    assert "There is no plan yet" in only.extract_text()


def test_a_paper_nobody_has_is_refused(orla: Hand) -> None:
    assert orla.get(f"/jobs/{planned(orla)}/plan/sheet.pdf?paper=a5").status_code == 422


def test_the_browser_prints_the_same_set_ups_and_leads_to_both_papers(orla: Hand) -> None:
    number = planned(orla)
    page = orla.get(f"/jobs/{number}/plan/sheet/print").text
    assert page.count('class="set-up-page"') == 2
    assert f"/jobs/{number}/plan/sheet.pdf" in page
    assert f"/jobs/{number}/plan/sheet.pdf?paper=letter" in page


def test_a_page_has_room_for_what_was_found_and_a_mark_that_brings_a_tablet_to_its_set_up(orla: Hand) -> None:
    number = planned(orla)
    page = orla.get(f"/jobs/{number}/plan/sheet/print").text
    assert page.count('class="code"') == 2
    assert page.count('class="found-box"') == 6, "each of six features is found at one step"
    log(orla, number, "A", "23.98", place="near end 0°", instrument="0–25 mm micrometer")
    again = orla.get(f"/jobs/{number}/plan/sheet/print").text
    assert again.count('class="found-box"') == 5
    assert "23.980 mm" in again
    brought = orla.get(f"/jobs/{number}/make?set_up=left").text
    assert re.search(r'aria-current="step"\s+title="S1\. ', brought)
    orla.send(f"/jobs/{number}/make/ready", step="hold/left")
    assert re.search(r'aria-current="step"\s+title="1\. Face', orla.get(f"/jobs/{number}/make?set_up=left").text)


def test_the_mark_on_paper_is_read_by_a_camera_and_no_drawing_is_a_black_square(orla: Hand) -> None:
    """A drawing in a PDF brings its own styles: without them it, and the mark, are set black."""
    number = planned(orla)
    seen = pages_seen(orla.get(f"/jobs/{number}/plan/sheet.pdf").content)
    read = [addresses_on(page) for page in seen]
    assert read == [[f"http://bench.test/jobs/{number}/make?set_up={end}"] for end in ("left", "right")]
    assert all(blackest(page) < 0.7 for page in seen)
