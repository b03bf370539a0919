"""A ring in a chuck: against a ring bent numerically, and what follows from it."""

from math import pi
from typing import Any

import numpy as np
import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.planning.jaw_squeeze import JawSqueezeResult, ring_shares
from nomisma.core.registry import calculation_named


def squeeze(**given: Any) -> JawSqueezeResult:
    found = calculation_named("jaw_squeeze").run({"outside": "100 mm", "bore": "90 mm", "length": "30 mm", **given})
    assert isinstance(found, JawSqueezeResult)
    return found


def bent_ring(jaws: int, angle: float) -> float:
    """How far out a ring stands there, in F·R³/(E·I), by its Fourier series: an inextensible ring under equal inward
    loads.
    """
    waves = jaws * np.arange(1, 4000)
    return float(-(jaws / pi) * np.sum(np.cos(waves * angle) / (waves**2 - 1.0) ** 2))


@pytest.mark.parametrize("jaws", [2, 3, 4, 6, 8])
def test_the_textbook_ring_is_the_one_bent_numerically(jaws: int) -> None:
    within, out = ring_shares(jaws)
    assert within == pytest.approx(-bent_ring(jaws, 0.0), rel=1e-4)
    assert out == pytest.approx(bent_ring(jaws, pi / jaws), rel=1e-4)


def test_two_jaws_are_the_ring_of_the_textbooks() -> None:
    """Timoshenko: 0.149 and 0.137 F·R³/(E·I) across the diameter (recalled)."""
    within, out = ring_shares(2)
    assert (2 * within, 2 * out) == (pytest.approx(0.149, abs=0.0005), pytest.approx(0.137, abs=0.0005))


def test_more_jaws_bend_it_less_and_half_the_force_half_as_much() -> None:
    bent = [squeeze(jaws=jaws).out_of_round.mm for jaws in ("2", "3", "4", "6", "8")]
    assert bent == sorted(bent, reverse=True)
    assert float(squeeze(force_n=1500).out_of_round.mm) == pytest.approx(float(squeeze().out_of_round.mm) / 2, rel=1e-4)


def test_the_force_that_keeps_to_it_keeps_to_it() -> None:
    force = squeeze(may_be="0.01 mm").force_for_it_n
    assert force
    assert float(squeeze(force_n=round(force, 4)).out_of_round.mm) == pytest.approx(0.01, abs=1e-5)


def test_lobes_a_micrometer_cannot_see_are_told() -> None:
    assert any("two-point" in note for note in squeeze(jaws="3").notes)
    assert not any("two-point" in note for note in squeeze(jaws="4").notes)


def test_a_thick_wall_is_out_of_range_and_says_so() -> None:
    found = squeeze(bore="50 mm")
    assert (found.in_range, found.notes[-1][:17]) == (False, "The wall is thick")


def test_a_ring_without_a_wall_is_refused() -> None:
    with pytest.raises(BadInput, match="no wall"):
        squeeze(bore="100 mm")
