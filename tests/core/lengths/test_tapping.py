"""A drill for a tap, from the drills there are."""

from decimal import Decimal

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.tapping import TappingResult, thread_named, threads
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named


def tap(thread: str, **given: object) -> TappingResult:
    found = calculation_named("tapping").run({"thread": thread, **given})
    assert isinstance(found, TappingResult)
    return found


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


@pytest.mark.parametrize("name", sorted(threads()))
def test_less_thread_is_a_larger_drill(name: str) -> None:
    assert tap(name, percent=60).drill_size.mm >= tap(name, percent=80).drill_size.mm


@pytest.mark.parametrize("name", sorted(threads()))
def test_a_clearance_hole_is_larger_than_its_screw_and_a_free_one_larger_still(name: str) -> None:
    found = tap(name)
    assert found.close
    assert found.free
    assert threads()[name].diameter_mm < found.close.mm < found.free.mm


def test_clearance_holes_grow_with_the_screw() -> None:
    for unit in ("mm", "in"):
        own = sorted((one for one in threads().values() if one.unit == unit), key=lambda one: one.diameter_mm)
        sizes = [free.mm for free in (tap(one.name).free for one in own) if free]
        assert len(sizes) == len(own)
        assert sizes == sorted(sizes)


def test_only_the_drills_of_the_drawer_are_offered() -> None:
    assert tap("1/4-20", drills="metric").drill.endswith("mm")
    assert parse_length("5.1 mm").mm == tap("1/4-20", drills="metric").drill_size.mm


@pytest.mark.parametrize("text", ["hello", "M", "1/4", "#14-20", "2-4.5", "M8x"])
def test_what_is_no_thread_is_told(text: str) -> None:
    with pytest.raises(BadInput) as refused:
        tap(text)
    assert refused.value.errors[0].field == "thread"


def test_a_full_thread_is_warned_of_and_little_too() -> None:
    assert "may break" in tap("M8", percent=95).notes[0]
    assert "strips" in tap("M8", percent=40).notes[0]


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


@pytest.mark.parametrize("thread", ["M8x0.001", "M100x0.05", "4-1"])
def test_a_hole_no_drill_comes_near_is_refused_not_given_as_a_share(thread: str) -> None:
    with pytest.raises(BadInput, match="No drill of that drawer|leaves no hole"):
        tap(thread)
