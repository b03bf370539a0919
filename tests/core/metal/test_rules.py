"""The rules of what can be cut: each has its sentence and what would do, and the figures they go by."""

from decimal import Decimal
from typing import get_args

import pytest

from nomisma.core.metal.rules import RUN_RULES, Complaint, RunRule, clearance_mm, least_grip_mm


@pytest.mark.parametrize("rule", get_args(RunRule))
def test_every_rule_says_what_is_wrong_and_what_would_do(rule: RunRule) -> None:
    row = RUN_RULES[rule]
    assert row.sentence.endswith(".")
    assert row.remedy.endswith(".")
    assert Complaint(rule, "turn A").sentence.startswith("turn A: ")
    assert Complaint(rule).sentence == row.sentence


def test_the_least_grip_is_half_the_diameter_or_ten_millimetres() -> None:
    """Trade notes, 13: half the diameter gripped or 10 mm, whichever is more; 3 mm on a step or a faceplate."""
    assert (least_grip_mm(Decimal(12)), least_grip_mm(Decimal(80))) == (10, 40)
    assert least_grip_mm(Decimal(80), on_a_step=True) == 3
    assert least_grip_mm(Decimal(80), on_a_mandrel=True) == 20


def test_the_clearance_is_three_millimetres_or_a_blades_width_and_never_nothing() -> None:
    assert (clearance_mm(), clearance_mm(Decimal(2)), clearance_mm(Decimal(5))) == (3, 3, 5)
