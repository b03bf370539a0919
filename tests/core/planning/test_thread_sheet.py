"""All of a thread on one sheet: its numbers agree with what the rooms behind it say, and what is none is refused at its
field.
"""

from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.planning.thread_sheet import ThreadSheetResult
from nomisma.core.registry import calculation_named


def sheet(**given: Any) -> ThreadSheetResult:
    found = calculation_named("thread_sheet").run(given)
    assert isinstance(found, ThreadSheetResult)
    return found


def test_what_is_read_over_the_limits_of_the_wires_is_the_pitch_diameter_at_its_limits() -> None:
    found = sheet(thread="1/2-13 UNC 2A", wire="0.045 in", unit="in")
    for over, pitch in ((found.over_lower, found.pitch_diameter_lower), (found.over_upper, found.pitch_diameter_upper)):
        again = sheet(thread="1/2-13 UNC 2A", wire="0.045 in", over=str(over), unit="in")
        assert abs(again.pitch_diameter.mm - pitch.mm) < Decimal("0.0004")
    assert str(found.pitch_diameter_lower) == "0.4435 in"


def test_over_best_wires_of_a_handbooks_thread() -> None:
    """Source: handbooks: M = E + 3·W − 0.86603·P over best wires of a 60° thread (recalled), the lead angle
    left out.
    """
    found = sheet(thread="M24x2 6g")
    best = Decimal("1.1547")
    assert abs(found.best_wire.mm - best) < Decimal("0.0001")
    assert abs(found.over_upper.mm - (found.pitch_diameter_upper.mm + 3 * best - Decimal("1.73205"))) < Decimal("0.001")


def test_an_inside_thread_has_no_wires_and_its_drill_where_it_is_tapped() -> None:
    tapped, cut = sheet(thread="M8 6H"), sheet(thread="M24x2 6H")
    assert (tapped.drill, cut.drill) == ("6.8 mm", "")
    assert tapped.best_wire is None
    assert any("Tap by hand" in step for step in tapped.steps)
    assert any("centre gauge" in step for step in cut.steps)


def test_a_free_thread_has_basic_sizes_and_says_that_it_has_no_limits() -> None:
    found = sheet(thread="30 x 2 pitch 55°", wire="1.2 mm")
    assert found.pitch_diameter_lower is None
    assert "without limits" in found.headline
    assert any("no class" in note for note in found.notes)


@pytest.mark.parametrize(
    ("given", "field"),
    [({"thread": "nothing"}, "thread"), ({"thread": "M8 6g", "side": "inside"}, "thread"),
        ({"thread": "M8", "wire": "3 mm"}, "wire"),
     ({"thread": "M8", "over": "1 mm"}, "over"), ({"thread": "M24x2.2"}, "thread")],
)  # fmt: skip
def test_what_is_none_is_refused_at_its_field(given: dict[str, str], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        sheet(**given)
    assert refused.value.errors[0].field == field
