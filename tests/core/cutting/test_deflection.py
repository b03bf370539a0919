"""A round held at one end bends by F L³ / (3 E I)."""

from math import pi
from typing import Any

import pytest

from nomisma.core.registry import calculation_named


def bent(**more: Any) -> dict[str, Any]:
    asked = {
        "diameter": "20 mm",
        "overhang": "100 mm",
        "depth": "0.4 mm",
        "feed": "0.1 mm",
        "force_n": 100,
        "unit": "mm",
        **more,
    }
    return calculation_named("deflection").run(asked).model_dump(mode="json")


def mm(text: str) -> float:
    return float(text.removesuffix(" mm"))


def test_the_free_end_bends_as_a_cantilever() -> None:
    second_moment_mm4 = pi * 20**4 / 64
    by_hand = 100 * 100**3 / (3 * 205_000 * second_moment_mm4)
    assert mm(bent()["deflection"]) == pytest.approx(by_hand, rel=0.02)


def test_twice_as_far_out_it_bends_eight_times_as_much() -> None:
    assert mm(bent(overhang="200 mm")["deflection"]) == pytest.approx(8 * mm(bent()["deflection"]), rel=0.01)


def test_twice_as_thick_it_bends_a_sixteenth() -> None:
    assert mm(bent(diameter="40 mm")["deflection"]) == pytest.approx(mm(bent()["deflection"]) / 16, rel=0.02)
