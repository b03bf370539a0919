"""The label of a job: what stands on it, and what does not fit."""

import re

import pytest

from nomisma.web.drawings.job_label import HIGH, MOST_LINES, WIDE, job_label


def words_on(drawn: str) -> list[str]:
    return re.findall(r"<text[^>]*>([^<]*)</text>", drawn)


def test_it_says_the_job_the_piece_and_the_sizes_in_words() -> None:
    drawn = job_label("http://x/jobs/104/make", "Job 104, piece 3", "Dome roller bush", ["0.8762 in mouth 0°"])
    assert words_on(drawn) == ["Job 104, piece 3", "Dome roller bush", "0.8762 in mouth 0°"]
    assert f'viewBox="0 0 {WIDE} {HIGH}"' in drawn


@pytest.mark.parametrize("title", ["Spindle " * 30, "Donaudampfschifffahrtsgesellschaftskapitänsmütze", "x", ""])
def test_whatever_a_job_is_called_its_label_stays_a_label(title: str) -> None:
    drawn = job_label("http://x/", "Job 1", title, [f"{n}.000 mm at the near end, 90°" for n in range(9)])
    heights = [float(y) for y in re.findall(r'<text x="[\d.]+" y="([\d.]+)"', drawn)]
    assert max(heights) < HIGH
    assert heights == sorted(set(heights)), "no line lies on another"
    assert sum(one.startswith(("0.", "1.", "2.", "3.")) for one in words_on(drawn)) == MOST_LINES
    assert all(len(one) <= 24 for one in words_on(drawn))


def test_what_is_typed_is_no_markup() -> None:
    assert "<b>" not in job_label("http://x/", "Job 1", "<b>bush</b>", ["<b>"])
