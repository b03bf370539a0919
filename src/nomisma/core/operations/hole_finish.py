"""How a hole is finished where its line does not say: drilled, reamed or bored, from its limits, its size and what it
must be true to.
"""

from collections.abc import Collection, Sequence
from dataclasses import replace
from decimal import Decimal

from nomisma.core.cutting.hole import OVERSIZE
from nomisma.core.metal.rules import reach_of_a_bar_mm
from nomisma.core.operations.drilling import LARGEST_DRILL_MM, drills_before
from nomisma.core.operations.hole_tools import HoleTools
from nomisma.core.operations.reamers import Reamer, reamer_for
from nomisma.core.operations.surfaces import Surface
from nomisma.core.part.hole_making import HoleMaking, making_said
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.quantity.drill_list import DrillRow, drills_at_hand
from nomisma.core.quantity.length import Unit

REAMED_MM = Decimal("0.05")
"""What a reamer holds is not wider than this. Source: common practice, no source (H9 of such holes)."""


def hole_finished(
    own: Surface,
    feature: LetteredFeature,
    datums: Collection[str],
    unit: Unit,
    *,
    tools: HoleTools,
    steps: bool = False,
) -> Surface:
    """A hole's surface with how it is made, and of one that is only drilled the size of its drill, mm.

    `datums`: the letters that something must be true to; `steps`: a narrower hole goes on behind its floor, which is a
    step then. Drilled where the limits are wider than what a drill cuts
    over; reamed where a reamer at hand holds them, or no bar goes in; bored where it must run true, is large, or has a
    floor.
    Source: common practice, no source (core/cutting/hole.py for what a drill cuts over).

    >>> from nomisma.core.part.feature import Feature
    >>> clear = LetteredFeature("A", Feature("bore", Decimal("8.8"), Decimal("9.2")), written="9")
    >>> hole = Surface("bore", ("A",), Decimal(0), Decimal(20), Decimal(9), frozenset({"right", "left"}))
    >>> from nomisma.core.operations.hole_tools import USUAL_TOOLS
    >>> [hole_finished(hole, clear, true, "mm", tools=USUAL_TOOLS).hole for true in ((), ("A",))]
    ['drilled', 'bored']
    """
    if own.hole == "tapped":
        taken = drills_before(own.diameter_mm, unit, "tapped", own.thread, tools.drills)
        return replace(own, diameter_mm=taken[-1].size.mm) if taken else own
    said = making_said(feature.written)
    if said == "drilled":
        return replace(own, hole=said, diameter_mm=_nearest_mm(own.diameter_mm, drills_at_hand(tools.drills, unit)))
    if said is not None:
        return own
    is_true = bool(feature.true_to) or feature.letter in datums
    deep = own.length_mm > reach_of_a_bar_mm(own.diameter_mm)
    small = own.diameter_mm < tools.least_bored_mm or (deep and not is_true and own.diameter_mm <= LARGEST_DRILL_MM)
    if steps:
        return own
    drill_mm = _drill_that_holds(feature, drills_at_hand(tools.drills, unit))
    if drill_mm is not None and not is_true and (own.from_both_ends or small):
        return replace(own, hole="drilled", diameter_mm=drill_mm)
    making: HoleMaking = "reamed" if small or (is_reamed_by(feature, tools.reamers) and not is_true) else "bored"
    return replace(own, hole=making)


def _nearest_mm(size_mm: Decimal, drills: Sequence[DrillRow]) -> Decimal:
    return min((one for _, one in drills), key=lambda one: abs(one - size_mm))


def _drill_that_holds(feature: LetteredFeature, drills: Sequence[DrillRow]) -> Decimal | None:
    """The drill nearest to the size whose hole is in limits whatever it cuts over, mm; None where none is."""
    least, most = feature.feature.lower_mm, feature.feature.upper_mm
    target = feature.feature.target_mm
    if least is None or most is None or target is None:
        return None
    sure = [
        one
        for _, one in drills
        if least <= one + OVERSIZE[0].mm and one + OVERSIZE[1].mm <= most and least <= one <= LARGEST_DRILL_MM
    ]
    return min(sure, key=lambda one: abs(one - target), default=None)


def is_reamed_by(feature: LetteredFeature, reamers: Sequence[Reamer]) -> bool:
    """Whether a reamer at hand holds a hole's limits, which are no wider than one is used for. Source: common practice,
    no source.

    >>> from nomisma.core.part.feature import Feature
    >>> from nomisma.core.operations.reamers import reamers_of
    >>> fitted = LetteredFeature("A", Feature("bore", Decimal(9), Decimal("9.015")), written="9 H7")
    >>> is_reamed_by(fitted, reamers_of("9 mm")), is_reamed_by(fitted, reamers_of("8 mm"))
    (True, False)
    """
    least, most = feature.feature.lower_mm, feature.feature.upper_mm
    if least is None or most is None or most - least > REAMED_MM:
        return False
    return reamer_for(least, most, reamers) is not None
