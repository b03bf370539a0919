"""Each letter of a part is made by an operation, made by none and said why, or left as it is: over parts as shops write
them.
"""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.order.order import OrderOfWork, order_of_work
from nomisma.core.order.set_ups import StockHeld
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from nomisma.core.quantity.length import Unit
from tests.core.planning.sketched import SHOP_LINES

PARTS: dict[str, tuple[Unit, str]] = {
    "spindle nut": (
        "in",
        (
            "od 1.500 ±.005 x .625\nM24x2 thru\nc'bore 1.062 x .093 deep from the right\n"
            "cham .030 x 45 both ends\nknurl medium on A"
        ),
    ),
    "gearbox shaft": (
        "mm",
        (
            "overall 182 ±0.2\nod 25 k6 from 0 to 28\nod 32 h9 from 28 to 120\nod 30 g6 from 120 to 150, true to B"
            " within 0.01\nod 25 k6 from 150 to 182, true to B within 0.01\nkeyway 8 x 4 x 32 in 32\nundercut F 0.6 x"
            " 0.3 at 28 and 150\ngroove 1.3 H13 to 23.9 at 176\ncham 1 x 45 both ends"
        ),
    ),
    "thin housing": (
        "mm",
        (
            "od 80 ±0.1 x 24\nbore 62 K7 x 18 deep, sets the position\nbore 50 ±0.2 thru\nfillet 0.4 max in C\n"
            "parallel 0.01 between the faces"
        ),
    ),
    "spacer": ("in", "od .9995 -.0005\nbore .5005/.5010 thru\nlength 1.0000 ±.0002"),
    "pulley": (
        "in",
        "od 5.000 ±.010 x 1.250\nhub 2.000 x .500 high on the left\nbore .8750/.8756 thru, carries the load",
    ),
    "conveyor tube": ("mm", "overall 640 ±0.5\nod 60 as it is\nbore 52 H8 x 30 deep at both ends\ncham 0.5"),
    "sleeved land": ("in", "od 1.2495/1.2489 x 1.5\nod 1.375 as it is x 4"),
    "flange": (
        "mm",
        "od 140 ±0.3 x 18\nregister 90 h7 x 4 high\nbore 45 H7 thru, true to C within 0.02\n6 holes 9 on 115",
    ),
    "lock screw": (
        "mm",
        (
            "od 28 ±0.1 x 16 ±0.1\nM20x1.5 6g x 30 ±0.2\ngroove 3 +0.1/0 wide to 17.5 ±0.1 at 16 from the left\n"
            "tap M8 x 20 deep from the right\nflats 22 -0.1 x 8"
        ),
    ),
}
LINES = st.sampled_from(SHOP_LINES)


def planned(lines: str, unit: Unit, stock: StockHeld) -> tuple[list[LetteredFeature], OrderOfWork | None]:
    read = feature_lines(FeatureLinesInput.model_validate({"text": lines, "unit": unit}))
    parts = [lettered(one) for one in read.features]
    return parts, order_of_work(parts, stock=stock, unit=unit) if section_of(parts) else None


def letters_unaccounted(parts: list[LetteredFeature], order: OrderOfWork) -> list[str]:
    made = {letter for one in order.operations for letter in one.operation.letters}
    said = {one.letter for one in order.left_out}
    nothing_to_cut = {
        one.letter for one in parts if one.is_left_as_it_is or one.feature.of_kind.cut_as in ("none", "with_another")
    }
    return [one.letter for one in parts if one.letter not in made | said | nothing_to_cut]


@pytest.mark.parametrize("stock", ["bar", "blank"])
@pytest.mark.parametrize("name", PARTS)
def test_a_part_as_its_machinist_writes_it_is_read_whole_and_planned_whole(name: str, stock: StockHeld) -> None:
    unit, lines = PARTS[name]
    assert not feature_lines(FeatureLinesInput.model_validate({"text": lines, "unit": unit})).not_understood
    parts, order = planned(lines, unit, stock)
    assert order is not None
    assert letters_unaccounted(parts, order) == []
    assert order.breaks == ()


@settings(max_examples=60)
@given(st.lists(LINES, min_size=1, max_size=7), st.sampled_from(["bar", "blank"]))
def test_whatever_is_written_no_letter_is_lost_without_a_word(lines: list[str], stock: StockHeld) -> None:
    parts, order = planned("od 40 x 20\n" + "\n".join(lines), "mm", stock)
    assert order is not None
    if not order.set_ups:  # it contradicts itself, or nothing holds it: said, with what would do
        assert all(one.sentence and one.remedy for one in order.complaints)
        assert order.complaints
        return
    assert letters_unaccounted(parts, order) == []
    assert order.breaks == ()
    # Nothing that is said to be left as it is, is cut.
    cut = {letter for one in order.operations for letter in one.operation.letters}
    assert not [one.letter for one in parts if one.is_left_as_it_is and one.letter in cut]
