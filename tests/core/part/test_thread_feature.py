"""A line of a thread: which features it says, on which side, and how it looks in the section."""

from decimal import Decimal

import pytest

from nomisma.core.errors import AmbiguousLength, InputError
from nomisma.core.part.section import section_of
from nomisma.core.part.sketch_line import features_in_line
from nomisma.core.part.thread_feature import nominal_pitch_diameter
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from nomisma.core.threads.called_out import thread_called_out

OUTSIDE, INSIDE = ["outside_diameter", "length", "thread"], ["bore", "depth", "inside_thread"]


@pytest.mark.parametrize(
    ("line", "kinds"),
    [
        ("M20x1.5 6g x 30", OUTSIDE), ("M20 x 1.5 6g x 30 long", OUTSIDE), ("thread M20x1.5 x 30", OUTSIDE),
        ("M20 × 2 5g6g × 30", OUTSIDE),
        ("M8 x 20 deep", INSIDE), ("tap M8 x 20", INSIDE), ("M8 6H x 20", INSIDE),
        ("M24x2 thru", ["bore", "inside_thread"]),
        ("tap 1/4-20 thru", ["bore", "inside_thread"]), ("thread 3/4-16 UNF 2B x 1 in deep", INSIDE),
        ("thd 30 x 2 pitch 55° x 40", OUTSIDE),
        ("1/2-13 UNC 2A LH x 1.5 in", OUTSIDE),
    ],
)  # fmt: skip
def test_it_is_the_diameter_it_is_cut_on_how_long_and_the_thread(line: str, kinds: list[str]) -> None:
    found = features_in_line(line)
    assert [one.kind for one in found] == kinds
    assert found[-1].on == 0


def test_on_a_diameter_that_is_there_it_is_the_thread_alone() -> None:
    assert [one.kind for one in features_in_line("thread M20x1.5 6g", is_on=True)] == ["thread"]


@pytest.mark.parametrize("line", ["M24x2", "1/2-13 UNC", "M24x2 x 30"])
def test_either_side_is_asked_about(line: str) -> None:
    with pytest.raises(AmbiguousLength, match="outside or inside"):
        features_in_line(line)


@pytest.mark.parametrize(
    "line", ["tap M8 6g thru", "M8 6g thru", "thread M20x1.5 x 30 x 4", "thread", "tap hello thru"]
)
def test_what_is_no_thread_is_refused(line: str) -> None:
    with pytest.raises(InputError):
        features_in_line(line)


@pytest.mark.parametrize(
    ("lines", "at"), [("od 40 x 10\nM20x1.5 6g x 30", "18.1"), ("od 40 x 30\nM24x2 6H thru", "24")]
)
def test_it_is_drawn_thin_at_its_root_or_its_major_diameter(lines: str, at: str) -> None:
    """Source: ISO 6410-1 (recalled); the root d3 of M20x1.5 is 18.160, the middle of 6g a little under."""
    read = feature_lines(FeatureLinesInput(text=lines, unit="mm"))
    (found,) = section_of([lettered(one) for one in read.features]).threads
    assert abs(found.line_diameter_mm - Decimal(at)) < Decimal("0.35")


def test_the_basic_pitch_diameter_is_in_the_threads_own_unit() -> None:
    """Source: ASME B1.1 (recalled): 1/2-13 has 0.4500 in."""
    assert str(nominal_pitch_diameter(thread_called_out("1/2-13"))) == "0.45 in"
