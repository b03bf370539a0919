"""The part with its sizes on its page, as a picture of its own, and on paper."""

import io
from xml.etree import ElementTree

import pytest
from pypdf import PdfReader

from tests.web.conftest import Hand
from tests.web.job.test_plan import planned

LINES = "od 25 k6 x 40 ±0.1\nbore 12 H7 thru\nrunout 0.02 true to A"


def test_the_page_draws_it_with_its_sizes_and_names_what_has_no_place(orla: Hand) -> None:
    page = orla.get(f"/jobs/{planned(orla, LINES)}/part").text
    assert ">⌀25 k6<" in page
    assert "Not in the drawing: D, runout." in page


def test_as_a_picture_it_is_svg_with_its_styles_in_the_jobs_unit(orla: Hand) -> None:
    response = orla.get(f"/jobs/{planned(orla, LINES)}/drawing.svg")
    assert response.headers["content-type"].startswith("image/svg+xml")
    root = ElementTree.fromstring(response.text)
    assert root.tag == "{http://www.w3.org/2000/svg}svg"
    assert ".u-in { display: none }" in response.text
    assert "var(--" not in response.text


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_on_paper_it_is_one_page_with_the_sizes_of_one_unit(orla: Hand, paper: str) -> None:
    response = orla.get(f"/jobs/{planned(orla, LINES)}/drawing.pdf?paper={paper}")
    (only,) = PdfReader(io.BytesIO(response.content)).pages
    text = only.extract_text()
    assert "25 k6" in text
    assert "0.984" not in text


def test_a_part_without_an_outside_has_no_picture_and_says_so(orla: Hand) -> None:
    response = orla.get(f"/jobs/{planned(orla, 'bore 12 H7')}/drawing.svg")
    assert response.status_code == 422
    assert "Nothing of this part has a place in a drawing yet" in response.text


def test_lines_added_to_a_part_are_drawn_with_what_it_has(orla: Hand) -> None:
    number = planned(orla, LINES)
    sent = {"lines": "groove 2 wide to 20 at 10", "unit": "mm", "draws": "yes", "after": "4", "job": str(number)}
    found = orla.send("/sketch-lines", general_tolerance="", **sent).text
    assert ">⌀25 k6<" in found
    assert ">E<" in found


def test_what_lines_say_is_said_of_the_part_they_are_added_to(orla: Hand) -> None:
    """A step beside a larger one that the part has is a step length before it is written, as it is after."""
    number = planned(orla, "od 40 ±0.1 x 10 ±0.1")
    sent = {"lines": "od 20 ±0.1 x 30 ±0.1", "unit": "mm", "draws": "yes", "after": "2", "job": str(number)}
    assert "step length from 29.9 mm to 30.1 mm" in orla.send("/sketch-lines", general_tolerance="", **sent).text
