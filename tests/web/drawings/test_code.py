"""The mark on paper: what a reader of another project reads off it."""

import re

import numpy as np
import pytest
import zxingcpp

from nomisma.web.drawings.code import QUIET, code_picture

PIXELS = 6


def pixels(drawn: str) -> np.ndarray:
    """The figure as a camera sees it: each module a few pixels, black on white."""
    (side,) = re.findall(r'viewBox="0 0 (\d+) ', drawn)
    found = np.full((int(side), int(side)), 255, dtype=np.uint8)
    for x, y in re.findall(r"M(\d+) (\d+)h1v1h-1z", drawn):
        found[int(y), int(x)] = 0
    return np.kron(found, np.ones((PIXELS, PIXELS), dtype=np.uint8))


@pytest.mark.parametrize(
    "address",
    [
        "http://bench.test/jobs/128/make?set_up=left",
        "https://192.168.1.20:8443/jobs/100128/make?set_up=between+centres",
        "http://x/",
    ],
)
def test_a_reader_of_another_project_reads_the_address(address: str) -> None:
    """Source: ISO/IEC 18004, as zxing-cpp reads it."""
    (read,) = zxingcpp.read_barcodes(pixels(code_picture(address, "To the step")))
    assert read.text == address


def test_it_stands_in_white_and_says_in_words_where_it_leads() -> None:
    drawn = code_picture("http://x/", "To set-up 1")
    assert 'aria-label="To set-up 1"' in drawn
    assert min(int(x) for x, _ in re.findall(r"M(\d+) (\d+)h1v1h-1z", drawn)) == QUIET


def test_oiled_over_in_one_corner_it_is_still_read() -> None:
    seen = pixels(code_picture("http://bench.test/jobs/128/make?set_up=left", "To the step"))
    at = len(seen) // 2
    seen[at : at + 4 * PIXELS, at : at + 5 * PIXELS] = 0
    (read,) = zxingcpp.read_barcodes(seen)
    assert read.text == "http://bench.test/jobs/128/make?set_up=left"
