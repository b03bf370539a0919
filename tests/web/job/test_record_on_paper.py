"""The record as a report, its first-article form, and labels: what stands on them, read back by other projects."""

import io
import re
from typing import Any

import pytest
from pypdf import PdfReader

from tests.web.conftest import Hand
from tests.web.job.test_plan import planned
from tests.web.paper_seen import addresses_on, blackest, pages_seen
from tests.web.parts import log

MM = 25.4 / 72
LINES = "od 24 h9 x 30 ±0.1\nod 40 ±0.1 x 10 ±0.1\nbore 12 H7 thru, carries the load"


def pdf(hand: Hand, path: str) -> bytes:
    response = hand.get(path)
    assert (response.status_code, response.headers["content-type"]) == (200, "application/pdf"), response.text[:400]
    content: bytes = response.content
    return content


def text_of(content: bytes) -> str:
    return " ".join(" ".join(one.extract_text().split()) for one in PdfReader(io.BytesIO(content)).pages)


@pytest.fixture
def measured(orla: Hand) -> int:
    number = planned(orla, LINES)
    log(orla, number, "A", "23.98", place="near end 0°", instrument="0–25 mm micrometer")
    log(orla, number, "A", "23.975", place="far end 0°", instrument="0–25 mm micrometer")
    log(orla, number, "C", "39.80", instrument="150 mm caliper", place="near end 0°")
    return number


def test_a_report_says_of_each_feature_what_was_wanted_found_with_what_and_by_whom(orla: Hand, measured: int) -> None:
    orla.get(f"/jobs/{measured}/make")
    orla.send(f"/jobs/{measured}/make/ready", step="hold/left")
    text = text_of(pdf(orla, f"/jobs/{measured}/record.pdf"))
    assert re.search(r"A outside diameter 23\.948 mm – 24\.000 mm 24 h9 23\.975 mm to 23\.980 mm \(2\)", text)
    assert re.search(r"0–25 mm micrometer, 0\.001 mm ± 2\.\d µm in limits Orla Quillfeather", text)
    assert re.search(r"39\.800 mm .*? gone too far", text)
    assert "bore carries the load" in text
    assert "Set-up 1, from the left end: three-jaw chuck" in text
    assert re.search(r"Ready to cut: Orla Quillfeather, [-0-9]+ [0-9:]+ (• )?1 Face: open", text)
    assert "Not handed over yet." in text
    assert "printed by Orla Quillfeather" in text


@pytest.mark.parametrize(("paper", "size"), [("a4", (210, 297)), ("letter", (216, 279))])
def test_it_is_on_the_paper_and_in_the_unit_that_was_asked_for(
    orla: Hand, measured: int, paper: str, size: tuple[int, int]
) -> None:
    content = pdf(orla, f"/jobs/{measured}/record.pdf?paper={paper}&unit=in")
    assert {
        tuple(round(float(side) * MM) for side in one.mediabox[2:]) for one in PdfReader(io.BytesIO(content)).pages
    } == {size}
    text = text_of(content)
    assert re.search(r"0\.94\d+ in to 0\.94\d+ in", text)
    assert "23.975" not in text


def test_nothing_on_its_pages_is_a_black_square(orla: Hand, measured: int) -> None:
    """Without their styles drawings are set as black shapes: the pages are looked at, not their text."""
    for page in pages_seen(pdf(orla, f"/jobs/{measured}/record.pdf")):
        assert blackest(page) < 0.7


def test_a_batch_has_its_pieces_its_run_and_its_capability(orla: Hand) -> None:
    text = text_of(pdf(orla, "/jobs/108/record.pdf"))
    assert "the run of 9 pieces" in text
    assert re.search(r"Cp \d\.\d\d, Cpk \d\.\d\d, Pp \d\.\d\d, Ppk \d\.\d\d", text)
    assert "approve first off" in text
    assert text_of(pdf(orla, "/jobs/129/record.pdf")).count("Piece A B C D") == 1


def test_a_joint_is_said_with_what_was_read_of_both_and_how_it_went_together(orla: Hand) -> None:
    text = text_of(pdf(orla, "/jobs/105/record.pdf"))
    assert "B bore, goes with A: read 0.7502 in to 0.7503 in" in text
    assert "press: as expected" in text


def test_who_handed_it_over_stands_as_its_signature(orla: Hand) -> None:
    assert "Handed over by Bram Otterholt, signed in, " in text_of(pdf(orla, "/jobs/101/record.pdf"))


def test_a_first_article_accounts_for_each_characteristic(orla: Hand, measured: int) -> None:
    text = text_of(pdf(orla, f"/jobs/{measured}/first-article.pdf"))
    rows = re.findall(r"(?<![\w.])(\d) ([A-E]), ", text)
    assert rows == [("1", "A"), ("2", "B"), ("3", "C"), ("4", "D"), ("5", "E")]
    assert len(re.findall(r"\baccept\b", text)) == 0, "A was read at two of its places"
    assert "not read at near end 90°" in text
    assert len(re.findall(r"\breject\b", text)) == 1
    for place in ("near end 90°", "middle 0°", "middle 90°", "far end 90°"):
        log(orla, measured, "A", "23.98", place=place, instrument="0–25 mm micrometer")
    assert len(re.findall(r"\baccept\b", text_of(pdf(orla, f"/jobs/{measured}/first-article.pdf")))) == 1
    assert "from memory and not checked against an edition" in text


def test_what_was_read_with_an_instrument_in_doubt_is_not_accepted(orla: Hand) -> None:
    form = text_of(pdf(orla, "/jobs/109/first-article.pdf"))
    assert "in doubt: its instrument failed a check" in form
    assert not re.search(r"\baccept\b", form)
    assert "in limits in doubt: its instrument failed a check" in text_of(pdf(orla, "/jobs/109/record.pdf"))


def test_a_first_article_of_a_batch_is_of_the_piece_that_was_asked_for(orla: Hand) -> None:
    assert "3 Serial number 1 " in text_of(pdf(orla, "/jobs/108/first-article.pdf"))
    assert "3 Serial number 4 " in text_of(pdf(orla, "/jobs/108/first-article.pdf?piece=4"))


@pytest.mark.parametrize(
    "path", ["first-article.pdf?piece=99", "label.svg?piece=99", "record.pdf?paper=label", "record.pdf?unit=furlong"]
)
def test_a_piece_a_paper_or_a_unit_nobody_has_is_refused(orla: Hand, path: str) -> None:
    refused = orla.get(f"/jobs/108/{path}")
    assert refused.status_code == 422
    if "piece" in path:
        assert "This job has no piece “99”." in refused.text


def test_a_label_a_piece_with_a_mark_that_opens_it_on_a_phone(orla: Hand) -> None:
    content = pdf(orla, "/jobs/108/label.pdf")
    pages = PdfReader(io.BytesIO(content)).pages
    assert len(pages) == 9
    assert {tuple(round(float(side) * MM) for side in one.mediabox[2:]) for one in pages} == {(62, 29)}
    assert addresses_on(pages_seen(content)[2]) == ["http://bench.test/jobs/108/make?piece=3"]
    assert re.search(r"Job 108, piece 3 .* in limits 7\.99\d mm near end 0°", " ".join(pages[2].extract_text().split()))


def test_a_label_is_a_picture_too_in_the_unit_that_is_asked_for(orla: Hand) -> None:
    response: Any = orla.get("/jobs/104/label.svg?unit=mm")
    assert response.headers["content-type"].startswith("image/svg+xml")
    assert "22.1691 mm mouth 0°" in response.text
    assert "Job 104" in response.text
    assert ">metal to go<" in response.text


def test_a_label_of_what_is_scrap_says_so_and_one_half_measured_too(orla: Hand, measured: int) -> None:
    assert ">gone too far<" in orla.get("/jobs/102/label.svg").text
    assert ">gone too far<" in orla.get(f"/jobs/{measured}/label.svg").text
    assert ">not all measured<" in orla.get("/jobs/123/label.svg").text


def test_the_record_leads_to_all_of_them(orla: Hand) -> None:
    page = orla.get("/jobs/108/record").text
    for path in ("record.pdf?paper=a4", "record.pdf?paper=letter", "first-article.pdf", "label.pdf"):
        assert f'href="/jobs/108/{path}" data-paper=' in page
