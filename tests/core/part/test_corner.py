"""The fillet in a corner against the partner's edge, held against points on both curves."""

from math import hypot

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.part.corner import Edge, stand_off_mm

sizes = st.integers(1, 400).map(lambda n: n / 100)


def clears(radius: float, edge: Edge, size: float, clearance: float, off: float) -> bool:
    """Whether every point of the edge, pushed to `off` from the floor, is in the free space of the corner."""
    turn = np.linspace(0, np.pi / 2, 400)
    if edge == "radius":
        points = [(clearance + size - size * np.cos(t), off + size - size * np.sin(t)) for t in turn]
    else:
        points = [(clearance + size * t, off + size * (1 - t)) for t in np.linspace(0, 1, 400)]
    return all(x >= radius or y >= radius or hypot(radius - x, radius - y) <= radius + 1e-9 for x, y in points)


@given(sizes, st.sampled_from(["chamfer", "radius"]), sizes, st.integers(0, 100).map(lambda n: n / 100))
def test_pushed_in_so_far_the_edge_clears_and_a_hair_farther_it_does_not(
    radius: float, edge: Edge, size: float, clearance: float
) -> None:
    off = stand_off_mm(fillet_radius_mm=radius, edge=edge, edge_size_mm=size, radial_clearance_mm=clearance)
    assert clears(radius, edge, size, clearance, off + 1e-6)
    assert off == 0 or not clears(radius, edge, size, clearance, off - radius * 1e-2)


def test_a_sharp_edge_at_the_wall_is_held_off_by_the_whole_radius() -> None:
    assert stand_off_mm(fillet_radius_mm=0.8, edge="sharp", edge_size_mm=0, radial_clearance_mm=0) == pytest.approx(0.8)
