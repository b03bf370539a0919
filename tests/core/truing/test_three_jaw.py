"""Work that runs out in a three-jaw: which jaw is packed, how thick, and when nothing is."""

from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.truing.seen import Stop
from nomisma.core.truing.three_jaw import ThreeJawInput, ThreeJawResult, three_jaw


def three(*readings: str, **more: Any) -> ThreeJawResult:
    given = {"target": "0.02 mm", "graduation": "0.01 mm", "unit": "mm", **more}
    return three_jaw(ThreeJawInput(readings=[f"{one} mm" for one in readings], **given))


def packed(found: ThreeJawResult) -> dict[int, float]:
    return {one.jaw: round(float(one.thick.mm), 3) for one in found.packings}


def test_work_off_towards_one_jaw_is_packed_there_by_three_quarters_of_the_swing() -> None:
    found = three("0.2", "-0.1", "-0.1")
    assert packed(found) == {1: 0.3}
    assert found.total_indicator_reading.mm == Decimal("0.4")
    assert found.offset_towards == "jaw 1"


def test_each_jaw_is_packed_by_what_it_reads_above_the_lowest() -> None:
    assert packed(three("0.10", "0", "0.04")) == {1: 0.1, 3: 0.04}


def test_in_a_bore_the_work_stands_towards_the_low_side() -> None:
    assert packed(three("-0.2", "0.1", "0.1", surface="bore")) == {1: 0.3}


def test_gripped_from_inside_the_other_jaws_are_packed() -> None:
    assert packed(three("0.2", "-0.1", "-0.1", grip="inside")) == {2: 0.3, 3: 0.3}


def test_what_swings_less_than_wanted_is_left() -> None:
    found = three("0.005", "0", "0.005")
    assert (found.stop, found.packings) == (Stop.TRUE, [])
    assert found.headline == "True enough: it swings 5.0 µm"


def test_an_oval_bar_is_told_from_one_that_stands_off_by_six_readings() -> None:
    found = three("0.05", "-0.025", "-0.025", "0.05", "-0.025", "-0.025")
    assert (found.stop, found.shape_words) == (Stop.WORK_NOT_CHUCK, "oval")


def test_three_readings_say_that_they_see_no_shape() -> None:
    assert "oval bar reads as if it stood off" in three("0.1", "0", "0").unseen[0]


def test_a_chip_is_looked_for_before_anything_is_packed() -> None:
    assert "chip under a jaw" in three("0.1", "0", "0").steps[0]


def test_a_coarse_needle_packs_nothing() -> None:
    assert three("0.02", "0.01", "0", target="0.001 mm", graduation="0.05 mm").stop is Stop.TOO_COARSE


@pytest.mark.parametrize("count", [1, 2, 4, 5, 7])
def test_readings_that_do_not_meet_all_jaws_are_refused(count: int) -> None:
    with pytest.raises(InputError, match="do not meet all three jaws"):
        three(*["0"] * count)


def test_a_swing_that_is_no_indicators_is_refused() -> None:
    with pytest.raises(OutOfRange, match="no indicator"):
        three("30", "0", "0")


def test_a_strip_too_thin_is_replaced_by_the_thinnest_where_that_leaves_less() -> None:
    """Jaw 3 wants 0.015: without it 0.020 is left, with 0.02 there 0.007 (by hand: 2·2/3 of what is over or short)."""
    found = three("0.10", "0", "0.015", target="0.008 mm", graduation="0.001 mm")
    assert packed(found) == {1: 0.1, 3: 0.02}
    assert found.left is not None
    assert float(found.left.mm) == pytest.approx(0.0067, abs=0.0002)


def test_what_no_strip_takes_out_is_said_with_what_remains() -> None:
    found = three("0.10", "0", "0.008", target="0.005 mm", graduation="0.001 mm")
    assert packed(found) == {1: 0.1}
    assert "About 10.7 µm is left then" in found.steps[-2]
