"""The rough shape of a part: metal on every surface, shoulders moved out, small holes still solid."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.metal.profile import cylinder, profile_of
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import workpiece_of
from nomisma.core.order.roughed import rough_piece, stock_of, stock_shifted, work_shifted
from tests.core.planning.generated import part_lines
from tests.core.planning.sketched import piece

LEAVE = Decimal("0.75")


def test_shoulders_move_out_and_so_do_floors() -> None:
    """By hand: 1 mm on everything; the shoulder at 20 stands at 22 from the new face, the floor at 25 at 27."""
    found = rough_piece(piece("od 80 x 20\nod 60 x 15\nbore 40 x 10 deep from the right\nbore 12 thru"), Decimal(1))
    assert found is not None
    first, last = ((one.diameter_mm, one.from_mm, one.to_mm) for one in found.section.outside)
    assert (first, last) == ((82, 0, 22), (62, 22, 37))
    assert [(one.diameter_mm, one.from_mm, one.to_mm) for one in found.section.bores] == [(38, 27, 37)]


@given(st.integers(0, 4000))
def test_no_surface_of_the_part_is_left_without_metal(number: int) -> None:
    own = piece(part_lines(number))
    rough = rough_piece(own, LEAVE)
    if rough is None:
        assert any(one.throw_mm for one in own.surfaces)
        return
    grown = profile_of(
        cylinder(one.from_mm - LEAVE, one.to_mm - LEAVE, one.diameter_mm) for one in rough.section.outside
    )
    for step in own.section.outside:
        there = grown.smallest_mm(step.from_mm, step.to_mm)
        assert there >= step.diameter_mm + 2 * LEAVE
    assert rough.length_mm == own.length_mm + 2 * LEAVE


@pytest.mark.parametrize("lines", ["od 30 as it is x 20\nod 20 x 15", "od 40 x 20\neccentric 20 x 15 high, throw 3"])
def test_what_stays_as_it_is_or_lies_off_the_axis_is_not_roughed_so(lines: str) -> None:
    assert rough_piece(piece(lines), LEAVE) is None


def test_what_was_roughed_is_the_stock_of_the_rest_in_the_frame_of_the_part() -> None:
    bar = Stock(Decimal(0), Decimal(30), Decimal(20))
    there = work_shifted(workpiece_of(bar), -LEAVE)
    found = stock_of(there, LEAVE)
    assert (found.from_mm, found.to_mm, found.skin_mm) == (-LEAVE, 30 - LEAVE, LEAVE)
    assert stock_shifted(stock_shifted(bar, LEAVE), -LEAVE) == bar
