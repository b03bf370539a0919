"""Retaining compound: area times shear strength, and a gap that suits the sheet."""

from math import pi
from typing import Any

import pytest

from nomisma.core.registry import calculation_named


def bonded(**more: Any) -> dict[str, Any]:
    asked = {"bore": "12.05/12.07 mm", "shaft": "11.99/12.00 mm", "length": "20 mm", "shear_strength_mpa": 20, **more}
    return calculation_named("retaining_compound").run(asked).model_dump(mode="json")


def test_force_is_the_cylinder_times_the_strength_and_torque_that_at_its_radius() -> None:
    found = bonded()
    area = pi * 11.995 * 20
    assert found["force_n"] == pytest.approx(area * 20)
    assert found["torque_nm"] == pytest.approx(area * 20 * 11.995 / 2 / 1000)


def test_twice_the_length_holds_twice_as_much() -> None:
    assert bonded(length="40 mm")["force_n"] == pytest.approx(2 * bonded()["force_n"])


def test_a_gap_beyond_the_sheets_does_not_suit() -> None:
    assert (bonded()["suits"], bonded(bore="12.30/12.32 mm")["suits"]) == ("yes", "no")
