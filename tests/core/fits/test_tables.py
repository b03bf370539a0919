"""Tables by ranges of size: the end of a range belongs to it, and a marked cell is known to be marked."""

from decimal import Decimal

import pytest

from nomisma.core.errors import OutOfRange
from nomisma.core.fits.tables import RangeTable, grades, large_shafts, shafts, uneven


@pytest.mark.parametrize(("size", "row"), [("3", 0), ("3.001", 1), ("6", 1), ("18", 3), ("18.0001", 4)])
def test_the_end_of_a_range_belongs_to_it(size: str, row: int) -> None:
    assert grades().row(Decimal(size)) == row


@pytest.mark.parametrize("size", ["0", "-1", "3150.001"])
def test_outside_the_table_is_refused(size: str) -> None:
    with pytest.raises(OutOfRange, match="outside the ISO 286 ranges"):
        grades().row(Decimal(size))


def test_the_large_ones_begin_above_500() -> None:
    with pytest.raises(OutOfRange):
        large_shafts().row(Decimal(500))
    assert large_shafts().row(Decimal("500.1")) == 0


def test_grades_grow_with_the_size_and_with_the_grade() -> None:
    for column in ("IT6", "IT7", "IT11"):
        cells = [cell for cell in grades().cells[column] if cell is not None]
        assert cells == sorted(cells)
    at_25 = [cell for cell in (grades().cell(f"IT{grade}", Decimal(25)) for grade in range(5, 12)) if cell is not None]
    assert len(at_25) == 7
    assert at_25 == sorted(set(at_25))


def test_what_the_standard_does_not_define_is_none() -> None:
    assert any(cell is None for table in (shafts(), uneven()) for column in table.cells.values() for cell in column)


def test_a_marked_cell_is_known_to_be_marked() -> None:
    table = RangeTable((Decimal(3), Decimal(6)), {"a": (Decimal(1), Decimal(2))}, unsure=frozenset({("a", 1)}))
    assert (table.is_unsure("a", Decimal(3)), table.is_unsure("a", Decimal(4))) == (False, True)
