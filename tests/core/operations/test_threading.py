"""How a thread is cut, and where its operation stands: a machinist's order, over many parts."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.operations.drilling import drills_before
from nomisma.core.operations.operations import THREADING
from nomisma.core.operations.threading import threading_cut
from nomisma.core.order.order import OrderOfWork, order_of_work
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from nomisma.core.planning.sheet import Run, minutes_of


def test_depth_is_what_the_published_tables_of_threads_say() -> None:
    """Source: ISO 724 and ISO 68-1 as handbooks tabulate them (recalled): h3 of 1.5 is 0.920, H1 of 2 is 1.083; two
    starts drive two pitches.
    """
    assert round(threading_cut("M20x1.5", "outside").depth_mm, 3) == Decimal("0.920")
    assert round(threading_cut("M24x2", "inside").depth_mm, 3) == Decimal("1.083")
    assert threading_cut("M20x1.5 2 starts", "outside").lead_mm == Decimal("3.0")


def plan(lines: str, unit: str = "mm", stock: str = "bar") -> tuple[OrderOfWork, list[str]]:
    read = feature_lines(FeatureLinesInput.model_validate({"text": lines, "unit": unit}))
    assert not read.not_understood, read.not_understood
    parts = [lettered(one) for one in read.features]
    assert section_of(parts) is not None
    found = order_of_work(parts, stock=stock)
    assert found is not None
    return found, [one.letter for one in parts if one.feature.of_kind.cut_as == "thread"]


OUTSIDE = ("M24x2 4h", "M20x1.5 6g", "3/4-16 UNF 2A", "thread 18 x 1.5 pitch 55°", "1/2-13 UNC 2A", "M12 6g LH")
"""Each smaller than the one before."""
INSIDE = st.sampled_from(["", "M8 6H", "1/4-20 UNC 2B", "M24x2 6H", "tap M5", "tap 10-32", "M6 6H"])


@given(st.sets(st.sampled_from(range(6)), min_size=1, max_size=3), INSIDE, st.booleans(), st.booleans())
def test_every_thread_is_cut_once_after_all_it_needs(outside: set[int], inside: str, relief: bool, blind: bool) -> None:
    """The crest first, its relief and its edge, then the thread, then the burr; a tapped hole is drilled for its tap
    and never bored.
    """
    lines = [
        "od 40 ±0.1 x 20 ±0.1",
        *(f"{one} x {15 + 3 * at}" for at, one in enumerate(OUTSIDE[which] for which in sorted(outside))),
        "cham 1 x 45",
    ]
    if inside:
        lines.append(f"{inside} {'x 18 deep' if blind else 'thru'}")
    if relief:
        lines.append("groove 3 wide to 10 at 20 from the left")
    order, threads = plan("\n".join(lines))
    if not order.set_ups:
        assert order.complaints
        return
    said = {one.letter for one in order.left_out}
    for letter in threads:
        if letter in said:
            continue
        (at,) = [one for one in order.operations if one.operation.kind in THREADING and letter in one.operation.letters]
        (set_up,) = [one for one in order.set_ups if at in one.operations]
        before = [one.operation for one in set_up.operations if one.number < at.number]
        host = next(one.lies_in for one in set_up.set_up.surfaces if one.letters == (letter,))
        made = next(one for one in before if host in one.letters and one.kind in ("turn", "bore", "drill"))
        assert not [
            one for one in set_up.operations if one.number > at.number and one.operation.kind in ("chamfer", "groove")
        ]
        assert "deburr" in [one.operation.kind for one in set_up.operations if one.number > at.number]
        if at.operation.kind == "tap":
            assert made.kind == "drill" or host in made.letters
            drilled = [one for one in before if one.kind == "drill" and host in one.letters]
            assert any(one.thread == at.operation.thread for one in drilled)
            assert not [
                one
                for one in order.operations
                if one.operation.kind in ("bore", "rough_bore") and host in one.operation.letters
            ]
    assert order.breaks == ()


def test_a_threaded_end_is_not_what_the_jaws_take() -> None:
    order, _ = plan("od 24 ±0.1 x 18\nM20x1.5 6g x 30 ±0.2\nlength 48 ±0.2", stock="blank")
    assert {one.set_up.held_on for one in order.set_ups} == {"", "A"}


@pytest.mark.parametrize(("thread", "drill"), [("M8 6H", "6.8 mm"), ("1/4-20 UNC 2B", "#7"), ("M5 6H", "4.2 mm")])
def test_the_last_drill_before_a_tap_is_the_tapping_sheets(thread: str, drill: str) -> None:
    """Source: handbooks' tap drills (recalled)."""
    assert drills_before(Decimal(6), "mm", "tapped", thread)[-1].name == drill


def test_passes_are_counted_there_and_back() -> None:
    order, _ = plan("M20x1.5 6g x 30")
    at = next(one.operation for one in order.operations if one.operation.kind == "thread")
    cuts = next(one.cuts for one in order.operations if one.operation is at)
    took = minutes_of(at, cuts, Run(100, 6.3), new_tool=False) - minutes_of(at, cuts, None, new_tool=False)
    assert took == pytest.approx(2 * 12 * 30 / (1.5 * 100))
