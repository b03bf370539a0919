"""The fillet a tool leaves in a corner against the edge of the partner that is to seat in it."""

from math import sqrt
from typing import Literal

Edge = Literal["sharp", "chamfer", "radius"]
LARGEST_MM = 25.0
"""No turning tool leaves a larger radius, and no fitted edge is broken by more. Source: this tool's own choice."""


def stand_off_mm(*, fillet_radius_mm: float, edge: Edge, edge_size_mm: float, radial_clearance_mm: float) -> float:
    """How far (mm) a corner's fillet holds the partner's face off; 0 where it seats.

    The free space in the corner is convex, so a 45° chamfer touches the fillet with one of its two ends and never with
    its flank: the height of the fillet at x from the wall is y = r − √(r² − (r − x)²), held against the chamfer's far
    end (x = clearance, y = leg) and its near end (x = clearance + leg, y = 0). A round edge touches with its arc. All
    sizes from 0 to 25 mm; the leg is measured along the axis. Source: geometry of a circle in a square corner.

    >>> round(stand_off_mm(fillet_radius_mm=0.4064, edge="chamfer", edge_size_mm=0.254,
    ...     radial_clearance_mm=0) / 0.0254, 2)
    6.0
    """
    radius, size, clearance = fillet_radius_mm, edge_size_mm, max(radial_clearance_mm, 0.0)
    if edge == "radius":
        if size >= radius or clearance >= radius - size:
            return 0.0
        inner = radius - size
        return inner - sqrt(max(inner**2 - (inner - clearance) ** 2, 0.0))
    leg = size if edge == "chamfer" else 0.0
    far_end = fillet_height_mm(radius, clearance) - leg
    near_end = fillet_height_mm(radius, clearance + leg)
    return max(far_end, near_end, 0.0)


def fillet_height_mm(radius_mm: float, from_wall_mm: float) -> float:
    """Height (mm) of a fillet above the floor, so far from the wall; 0 beyond the fillet. Source: geometry of a circle
    in a square corner.

    >>> round(fillet_height_mm(1.0, 0.2), 6)
    0.4
    """
    if from_wall_mm >= radius_mm:
        return 0.0
    return radius_mm - sqrt(radius_mm**2 - (radius_mm - from_wall_mm) ** 2)
