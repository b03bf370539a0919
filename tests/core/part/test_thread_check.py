"""A thread on a diameter that cannot have it is told; on one that can, in every size of the table, nothing is."""

import pytest

from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines
from nomisma.core.threads.designation import threads


def said(lines: str) -> list[str]:
    found = feature_lines(FeatureLinesInput(text=lines, unit="mm"))
    assert not found.not_understood
    return [one.sentence for one in found.contradictions]


@pytest.mark.parametrize(
    ("lines", "sentence"),
    [
        ("od 30 x 20\nM20x1.5 6g on A", "A is never small enough"),
        ("od 18.5 x 20\nM20x1.5 6g on A", "A is never large enough"),
        ("od 40 x 20\nbore 10 thru\nM20x1.5 6H on C", "C is never large enough"),
        ("od 40 x 20\nbore 20 thru\nM20x1.5 6H on C", "C is never small enough"),
    ],
)
def test_a_diameter_that_is_never_as_it_needs_it_is_told(lines: str, sentence: str) -> None:
    assert sentence in " ".join(said(lines))


@pytest.mark.parametrize("lines", ["od 20 x 20\nM20x1.5 6g on A", "od 40 x 20\nbore 18.5 thru\nM20x1.5 6H on C"])
def test_one_that_can_be_is_not(lines: str) -> None:
    assert said(lines) == []


def test_what_a_line_of_a_thread_is_cut_on_can_always_have_it() -> None:
    """Both sides of every thread of the table, by its own line."""
    for name in threads():
        for line in (f"thread {name} x 60", f"od 200 x 80\ntap {name} thru"):
            assert said(line) == [], line
