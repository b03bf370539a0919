"""What was dialled, as a hand writes it."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.cutting.amount import DialReads
from nomisma.core.cutting.dialled import Dialled, parse_dialled
from nomisma.core.errors import InputError, OutOfRange


def dialled(text: str, reads: DialReads = "diameter", turn: int | None = None) -> Dialled:
    lines = Decimal(turn) if turn else None
    return parse_dialled(text, unit="mm", line_mm=Decimal("0.05"), reads=reads, lines_a_turn=lines)


@pytest.mark.parametrize(
    ("text", "total", "last"),
    [
        ("0.4", "0.4 mm", None),
        ("8 lines", "0.4 mm", None),
        ("4 thou", "0.1016 mm", None),
        ("20 then 8 lines", "1.4 mm", "0.4 mm"),
        ("3 x 10 then 2 lines", "1.6 mm", "0.1 mm"),
        ("0.5; 0.1", "0.6 mm", "0.1 mm"),
        ("0", "0 mm", None),
    ],
)
def test_it_is_understood_as_it_is_written(text: str, total: str, last: str | None) -> None:
    found = dialled(text)
    assert (str(found.total), str(found.last_pass) if found.last_pass else None) == (total, last)


def test_lines_of_a_dial_that_reads_radius_take_twice() -> None:
    assert dialled("8 lines", "radius").total.mm == 2 * dialled("8 lines").total.mm


def test_turns_need_a_dial_whose_turn_is_known() -> None:
    assert dialled("1 turn + 5", turn=60).total.mm == Decimal("3.25")
    with pytest.raises(InputError, match="How many lines a turn"):
        dialled("1 turn")


@pytest.mark.parametrize(
    ("text", "error"),
    [
        ("", InputError),
        ("-0.2", InputError),
        ("41 x 0.1", OutOfRange),
        ("200000 lines", OutOfRange),
        ("a bit", InputError),
    ],
)
def test_what_cannot_be_dialled_is_refused(text: str, error: type[InputError]) -> None:
    with pytest.raises(error):
        dialled(text)


@given(st.integers(0, 400), st.integers(1, 40))
def test_so_many_passes_are_so_many_times_one(lines: int, count: int) -> None:
    assert dialled(f"{count} x {lines} lines").total.mm == count * dialled(f"{lines} lines").total.mm
