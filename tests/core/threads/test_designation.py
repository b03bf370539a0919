"""A thread by its designation."""

from decimal import Decimal

import pytest

from nomisma.core.threads.designation import thread_named


@pytest.mark.parametrize(
    ("text", "name", "pitch"),
    [("M8", "M8", "1.25"), ("m8 x 1", "M8x1", "1"), ("M10x1.25", "M10x1.25", "1.25"), ("1/4-20 UNC", "1/4-20", "1.27"),
     ("#10-32", "10-32", "0.79375"),
     ("1-1/8-7", "1-1/8-7", "3.62857")],
)  # fmt: skip
def test_a_thread_is_read_as_it_is_written(text: str, name: str, pitch: str) -> None:
    found = thread_named(text)
    assert found.name == name
    assert float(found.pitch_mm) == pytest.approx(float(pitch), abs=1e-4)


@pytest.mark.parametrize(("written", "name"), [("M8x1.25", "M8"), ("M2.5 x 0.45", "M2.5"), ("m6x1", "M6")])
def test_the_coarse_pitch_said_is_the_coarse_thread(written: str, name: str) -> None:
    assert thread_named(written) is thread_named(name)


@pytest.mark.parametrize("number", range(13))
@pytest.mark.parametrize("mark", ["", "#"])
@pytest.mark.parametrize("per_inch", [24, 28, 36, 80])
def test_a_small_whole_number_before_fine_threads_is_a_screws_number(number: int, mark: str, per_inch: int) -> None:
    assert thread_named(f"{mark}{number}-{per_inch}").diameter_mm == (
        Decimal("0.060") + Decimal("0.013") * number
    ) * Decimal("25.4")


@pytest.mark.parametrize(("written", "inches"), [("1-8", 1), ("1-12 UNF", 1), ("2-4", 2), ("3-8 UN", 3)])
def test_before_coarser_ones_it_is_inches(written: str, inches: int) -> None:
    assert thread_named(written).diameter_mm == inches * Decimal("25.4")
