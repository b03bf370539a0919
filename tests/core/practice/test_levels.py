"""The levels of the simulated chuck."""

import pytest

from nomisma.core.practice.chuck import SimulatedChuck
from nomisma.core.practice.levels import levels


@pytest.mark.parametrize("name", sorted(levels()))
def test_every_level_starts_too_far_off_to_be_left_alone(name: str) -> None:
    level = levels()[name]
    for seed in range(20):
        held = SimulatedChuck(level, seed)
        assert held.offset() <= level.offset_mm
        assert held.total_indicator_reading() > float(level.target.mm)
        assert held.floor() <= held.total_indicator_reading()
