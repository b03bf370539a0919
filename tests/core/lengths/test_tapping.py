"""A drill for a tap, from the drills there are."""

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.tapping import TappingResult
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named
from nomisma.core.threads.designation import threads


def tap(thread: str, **given: object) -> TappingResult:
    found = calculation_named("tapping").run({"thread": thread, **given})
    assert isinstance(found, TappingResult)
    return found


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


@pytest.mark.parametrize("thread", ["M8x0.001", "M100x0.05", "4-1"])
def test_a_hole_no_drill_comes_near_is_refused_not_given_as_a_share(thread: str) -> None:
    with pytest.raises(BadInput, match="No drill of that drawer|leaves no hole"):
        tap(thread)
