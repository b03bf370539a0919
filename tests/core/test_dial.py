"""The dial: where it is wound to, what its ring is turned by, and what a hand writes of it."""

import re
from decimal import Decimal

import pytest

from nomisma.core.cutting.dial import DiallingMethod, wind
from nomisma.core.cutting.dialled import parse_dialled
from nomisma.core.errors import InputError


@pytest.mark.parametrize(
    ("method", "words", "face"),
    [
        ("count_in", "wind in 28 lines", (0, 28)),
        ("zero_at_size", "stands 28.6 lines before it; wind in to 0.6 lines before 0", (31.4, 59.4)),
        ("readout", "Enter 29.430 mm in the readout at the last cut; wind in until it reads 28.030 mm", (0, 28)),
        ("indicator", "until it has moved 0.700 mm, the radius", (0, 28)),
    ],
)
def test_where_the_dial_is_wound_to_by_method(method: DiallingMethod, words: str, face: tuple[float, float]) -> None:
    found = wind(
        dialled_mm=Decimal("1.40"),
        size_mm=Decimal("29.43"),
        to_aim_mm=Decimal("1.43"),
        kind="shaft",
        line_mm=Decimal("0.05"),
        turn_mm=Decimal(3),
        reads="diameter",
        method=method,
        unit="mm",
    )
    assert words in found.words
    assert (float(found.from_line), float(found.to_line)) == pytest.approx(face)


def test_whole_turns_are_counted() -> None:
    found = wind(
        dialled_mm=Decimal("2.54"),
        size_mm=Decimal("40"),
        to_aim_mm=Decimal("5"),
        kind="shaft",
        line_mm=Decimal("0.0254"),
        turn_mm=Decimal("1.27"),
        reads="radius",
        method="count_in",
        unit="in",
    )
    assert (found.turns, float(found.lines)) == (1, 0.0)
    assert "1 turn + 0 lines (50 lines in all)" in found.words


def test_with_zero_at_size_the_ring_is_turned_when_a_cut_took_less_than_dialled() -> None:
    """Wound to 10.5 lines before 0 and found with 12.5 to go: the ring is two lines out."""
    found = wind(
        dialled_mm=Decimal("0.10"),
        size_mm=Decimal("28.89"),
        to_aim_mm=Decimal("0.125"),
        kind="shaft",
        line_mm=Decimal("0.01"),
        turn_mm=Decimal(3),
        reads="diameter",
        method="zero_at_size",
        unit="mm",
        stands_mm=Decimal("0.105"),
    )
    assert (
        found.ring
        == "The dial stands 10.5 lines before 0, and 12.5 lines are to go: turn its ring by 2 lines, so that 0 is the"
        " size again."
    )
    assert "wind in to 2.5 lines before 0." in found.words


@pytest.mark.parametrize(
    ("text", "total", "last"),
    [
        ("28 lines", "0.56 mm", None), ("1 turn + 5", "2.1 mm", None), ("1 turn", "2 mm", None),
        ("28.6 l", "0.572 mm", None),
        ("0.5", "0.5 mm", None), ("20 thou", "0.508 mm", None), ("188 then 20 lines", "4.16 mm", "0.4 mm"),
        ("8 x 20 then 10 lines", "3.4 mm", "0.2 mm"), ("1.5; 0.2", "1.7 mm", "0.2 mm"), ("0", "0 mm", None),
    ],
)  # fmt: skip
def test_what_was_dialled_is_read_as_a_hand_writes_it(text: str, total: str, last: str | None) -> None:
    found = parse_dialled(text, unit="mm", line_mm=Decimal("0.01"), reads="radius", lines_a_turn=Decimal(100))
    assert str(found.total) == total
    assert (str(found.last_pass) if found.last_pass else None) == last


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("", "Nothing was entered."), ("-0.1", "-0.1 is no cut."), ("much", "“much” is not understood as a size."),
        ("99 x 20 lines", "99 passes are more than anybody takes"),
        ("999999 lines", "999999 lines cannot be wound in."),
    ],
)  # fmt: skip
def test_what_cannot_have_been_dialled_has_its_sentence(text: str, sentence: str) -> None:
    with pytest.raises(InputError, match=re.escape(sentence)):
        parse_dialled(text, unit="mm", line_mm=Decimal("0.01"), reads="radius", lines_a_turn=Decimal(100))


@pytest.mark.parametrize("method", ["count_in", "zero_at_size", "readout", "indicator"])
def test_for_the_same_dial_again_the_wheel_stays_where_it_stands(method: DiallingMethod) -> None:
    found = wind(
        dialled_mm=Decimal(0),
        size_mm=Decimal("21.971"),
        to_aim_mm=Decimal("0.076"),
        kind="bore",
        line_mm=Decimal("0.05"),
        turn_mm=Decimal(3),
        reads="diameter",
        method=method,
        unit="mm",
    )
    assert found.from_line == found.to_line
    assert found.words == "Leave the dial where it stands, and take the cut again."


def test_the_first_cut_of_a_piece_starts_where_the_tool_touches() -> None:
    """There was no last cut for the dial to have stood at. Source: common practice, no source."""
    common = {
        "dialled_mm": Decimal("0.4"),
        "size_mm": Decimal(30),
        "to_aim_mm": Decimal(1),
        "kind": "shaft",
        "line_mm": Decimal("0.02"),
        "turn_mm": Decimal(4),
        "reads": "diameter",
        "method": "count_in",
        "unit": "mm",
    }
    assert "with the tool just touching the work" in wind(**common, touch_on=True).words
    assert "where it stood for the last cut" in wind(**common).words
