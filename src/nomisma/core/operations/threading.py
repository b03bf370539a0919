"""How a thread is cut with a tool or a tap: how deep, how far a turn, in about how many passes."""

from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from math import ceil

from nomisma.core.threads.called_out import Side, thread_called_out

OUTSIDE_DEPTH, INSIDE_DEPTH = Decimal("0.61343"), Decimal("0.54127")
"""How deep a 60° thread is from crest to root over its pitch, outside and inside. Source: ISO 68-1 (recalled): 17/24
and 5/8 of √3/2.
"""
A_PASS_MM = 0.1
"""What a pass takes on the radius, on the whole: more at first, less at the end. Source: common practice, no source."""
SPRING_PASSES = 2
"""Passes at the last setting, for what the tool sprang. Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class ThreadingCut:
    """How deep the tool goes on the radius and how far it is driven a turn, mm; passes, those at the last setting
    counted.
    """

    depth_mm: Decimal
    lead_mm: Decimal
    passes: int
    left_hand: bool


@lru_cache(maxsize=256)  # the same threads are shown again and again
def threading_cut(callout: str, side: Side) -> ThreadingCut:
    """How a thread is cut by its callout. Raises InputError. Source: ISO 68-1 (depth; recalled); common practice, no
    source (passes).

    >>> found = threading_cut("M20x1.5 6g", "outside"); found.depth_mm, found.lead_mm, found.passes
    (Decimal('0.920'), Decimal('1.5'), 12)
    """
    said = thread_called_out(callout)
    of_sixty = OUTSIDE_DEPTH if side == "outside" else INSIDE_DEPTH
    depth = (of_sixty * said.thread.pitch_mm).quantize(Decimal("0.001"))
    return ThreadingCut(
        depth, said.lead_mm, ceil(float(depth) / A_PASS_MM) * said.starts + SPRING_PASSES, said.left_hand
    )
