"""How a whole part may be mounted by choice: in the chuck alone, between centres, on a mandrel, in a steady; the plan
follows.
"""

from collections.abc import Iterable
from typing import Literal

from nomisma.core.metal.cut import Way, Workholding
from nomisma.core.metal.run import ON_A_MANDREL

PlanMounting = Literal["any", "chuck", "centres", "mandrel", "steady"]
MOUNTING_WORDS: dict[PlanMounting, str] = {
    "any": "with the fewest set-ups",
    "chuck": "in the chuck alone",
    "centres": "between centres",
    "mandrel": "on a mandrel in its bore",
    "steady": "with a steady",
}
_WAYS: dict[PlanMounting, tuple[Way, ...]] = {
    "any": (),
    "chuck": ("three_jaw", "four_jaw", "collet", "soft_jaws"),
    "centres": ("centres",),
    "mandrel": ON_A_MANDREL,
    "steady": ("steady",),
}


def wanted_first(ways: Iterable[Workholding], mounting: PlanMounting) -> list[Workholding]:
    """The ways to hold a set-up, those of a mounting in front. Source: none, ordering.

    >>> jaws, mandrel = (Workholding("right", way, 0, None) for way in ("soft_jaws", "expanding_mandrel"))
    >>> [one.way for one in wanted_first([jaws, mandrel], "mandrel")]
    ['expanding_mandrel', 'soft_jaws']
    """
    return sorted(ways, key=lambda one: one.way not in _WAYS[mounting])


def is_mounted(held: Iterable[Workholding], mounting: PlanMounting) -> bool:
    """Whether the set-ups of a plan are what a mounting asks for: some of them its own, of the chuck all of them.
    Source: common practice, no source.

    >>> jaws, mandrel = (Workholding("right", way, 0, None) for way in ("soft_jaws", "expanding_mandrel"))
    >>> [is_mounted([jaws, mandrel], one) for one in ("any", "chuck", "mandrel", "steady")]
    [True, False, True, False]
    """
    own = [one.way in _WAYS[mounting] for one in held]
    if mounting == "any":
        return True
    return all(own) if mounting == "chuck" else any(own)
