"""The reamers at hand: the list as it is written, and what is reamed, bored or said because of it."""

from decimal import Decimal

import pytest

from nomisma.core.errors import InputError
from nomisma.core.operations.hole_tools import hole_tools
from nomisma.core.operations.reamers import COMMON_REAMERS, CUTS_OVER_MM, reamer_for, reamers_of
from nomisma.core.order.order import order_of_work
from nomisma.core.order.order_notes import notes_of
from tests.core.planning.sketched import features


def made(line: str, reamers: str, letter: str = "C") -> tuple[str, list[str]]:
    """How a hole is finished with the reamers at hand, and what is noted of it."""
    order = order_of_work(features(f"od 60 x 30\n{line}", "mm"), tools=hole_tools(reamers))
    assert order is not None
    assert order.piece is not None
    (hole,) = [one for one in order.piece.surfaces if one.letter == letter]
    return hole.hole, [note for note in notes_of(order) if "reamer" in note]


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("6, 12 mm; 1/4 1/2 in", ["6 mm", "1/4 in", "12 mm", "1/2 in"]),
        ("8 mm\n.5015 in\n8 mm", ["8 mm", ".5015 in"]),
        ("", []),
        (" ; ", []),
    ],
)
def test_a_list_is_read_as_it_is_written(text: str, names: list[str]) -> None:
    assert [one.name for one in reamers_of(text)] == names


@pytest.mark.parametrize(
    "text", ["6 8 10", "cheese mm", "6 -8 mm", "mm", f"{' '.join(str(at) for at in range(1, 250))} mm"]
)
def test_what_is_no_list_is_refused_with_its_field(text: str) -> None:
    with pytest.raises(InputError) as raised:
        reamers_of(text)
    assert raised.value.field == "reamers"
    assert raised.value.remedy


def test_a_reamer_is_chosen_whose_hole_is_in_limits_whatever_it_cuts_over() -> None:
    """Trade notes: .500 would give .5000, so a half-thou bore of .5005 to .5010 is bored (common practice)."""
    common = reamers_of(COMMON_REAMERS)
    assert reamer_for(Decimal("12.7127"), Decimal("12.7254"), common) is None
    for one in common:
        assert reamer_for(one.size.mm, one.size.mm + CUTS_OVER_MM, common) == one
        assert reamer_for(one.size.mm, one.size.mm + CUTS_OVER_MM / 2, common) is None


@pytest.mark.parametrize(
    ("line", "reamers", "how"),
    [
        ("bore 12 H7 thru", "12 mm", "reamed"),
        ("bore 12 H7 thru", "10 mm", "bored"),
        ("bore 20 H7 thru", "20 mm", "reamed"),
        ("bore 12.75 +0.02/0 thru", ".502 in", "reamed"),  # .502 in is 12.7508
        ("bore 12 H7 thru true to A", "12 mm", "bored"),
    ],
)
def test_what_is_at_hand_decides(line: str, reamers: str, how: str) -> None:
    assert made(line, reamers) == (how, [])


@pytest.mark.parametrize("line", ["bore 3.2 H7 thru", "ream 14 H7 thru"])
def test_a_hole_that_wants_a_reamer_nobody_has_says_so(line: str) -> None:
    how, notes = made(line, COMMON_REAMERS)
    assert how == "reamed"
    assert notes[0].startswith("C wants a reamer for ")
    assert made(line, "3.2 14 mm")[1] == []
