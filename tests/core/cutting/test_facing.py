"""Faces and depths along the axis: passes that add up, whole lines that never go past, and refusals with a sentence."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.facing import FacingResult
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.registry import calculation_named


def faced(**values: Any) -> FacingResult:
    found = calculation_named("facing").run(
        {"unit": "mm", "by": "readout", "depth": "0.75 mm", "finish": "0.1 mm", **values}
    )
    assert isinstance(found, FacingResult)
    return found


@given(
    st.decimals("0.001", "20", places=3),
    st.sampled_from([("length", 1), ("step_length", -1), ("height", -1), ("depth", -1)]),
)
def test_the_passes_are_what_is_left(amount: Decimal, kind: tuple[KindName, int]) -> None:
    name, way = kind
    found = faced(kind=name, wanted="40 mm", measured=f"{40 + way * amount} mm")
    assert found.to_take.mm == amount
    assert sum(one.mm for one in found.passes) == pytest.approx(amount)
    assert all(0 <= one.mm <= Decimal("0.75") for one in found.passes)


@given(st.decimals("0.02", "20", places=3), st.sampled_from(["0.02", "0.05", "0.1"]))
def test_whole_lines_never_go_past(amount: Decimal, line: str) -> None:
    found = faced(by="carriage", line=f"{line} mm", wanted="40 mm", measured=f"{40 + amount} mm")
    assert found.whole_lines is not None
    assert found.left is not None
    assert found.whole_lines * Decimal(line) <= amount < (found.whole_lines + 1) * Decimal(line)
    assert found.left.mm == amount - found.whole_lines * Decimal(line)


# Source: arithmetic and cos 60° = 0.5: one line of 0.02 mm moves the tool 0.01 mm along.
def test_a_compound_at_sixty_degrees_halves_its_line() -> None:
    found = faced(by="compound", line="0.02 mm", compound_deg="60", wanted="40 mm", measured="41.27 mm")
    assert (found.whole_lines, found.does) == (127, "face off")


@pytest.mark.parametrize(
    ("values", "sentence"),
    [
        ({"wanted": "40 mm", "measured": "39 mm"}, "nothing to face off"),
        ({"kind": "depth", "wanted": "4 mm", "measured": "5 mm"}, "nothing to go deeper"),
        ({"wanted": "40 mm", "measured": "41 mm", "by": "carriage"}, "One line of that dial is needed"),
        ({"kind": "position", "wanted": "40 mm", "measured": "41 mm"},
            "A position is not cut to its size from one side"),
        ({"wanted": "40 mm", "measured": "400 mm"}, "passes"),
    ],
)  # fmt: skip
def test_what_cannot_be_faced_has_its_sentence(values: dict[str, str], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        faced(**values)


def test_more_left_than_the_limits_allow_says_so() -> None:
    found = calculation_named("facing").run(
        {"measured": "1.0130 in", "wanted": "1.0000 in", "by": "carriage", "line": "0.010 in", "may_stay": "0.002 in"}
    )
    assert "3.00 thou is left and 2.00 thou may stay: whole lines of that dial do not land it" in found.cautions[0]


def test_lines_beyond_a_turn_are_turns_and_lines() -> None:
    found = calculation_named("facing").run(
        {"measured": "1.2500 in", "wanted": "1.0000 in", "by": "compound", "line": "0.001 in", "turn": "0.100 in"}
    )
    assert "2 turns + 50 lines of the compound in all" in found.sentence
    assert any("backlash is taken up" in step for step in found.steps)
