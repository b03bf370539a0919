"""Mouth against deep, or end against end, before the last cut: what a taper says of the bar, the work or the
tailstock.
"""

from dataclasses import dataclass
from decimal import Decimal
from typing import assert_never

from nomisma.core.part.member import MemberKind, of_member
from nomisma.core.quantity.display import show_exact, show_small
from nomisma.core.quantity.length import Unit

SAME_SHARE = Decimal("0.1")
"""Less taper than this part of the limits' width is none. Source: this tool's own choice."""


@dataclass(frozen=True, slots=True)
class EndsCompared:
    """What the two ends show and what to do; `fits` whether both can end in limits with this taper; `by_tailstock`:
    whether the tailstock may be what is moved; `near`, `far`: the ends, as shown."""

    sentence: str
    remedy: str
    fits: bool
    by_tailstock: bool = False
    near: str = ""
    far: str = ""


def ends_compared(
    kind: MemberKind, *, near_mm: Decimal, far_mm: Decimal, width_mm: Decimal, unit: Unit
) -> EndsCompared | None:
    """Mouth and deep of a bore, near (chuck) and far end of a shaft, mm; none where they agree. Source: common
    practice, no source.

    >>> found = ends_compared("bore", near_mm=Decimal("25.010"), far_mm=Decimal("24.998"), width_mm=Decimal("0.021"),
    ...     unit="mm")
    >>> found.sentence
    'Mouth is 12.0 µm larger than deep: the bar gives as it reaches in.'
    """
    taper = near_mm - far_mm
    if abs(taper) <= width_mm * SAME_SHARE:
        return None
    amount = show_small(abs(taper), unit)
    fits = abs(taper) <= width_mm
    rest = "" if fits else " As it is both ends cannot end in limits."
    match kind:
        case "bore":
            said, remedy = _of_a_bore(taper, amount)
        case "shaft":
            said, remedy = _of_a_shaft(taper, amount)
        case _:
            assert_never(kind)
    near, far = (show_exact(mm, unit) for mm in (near_mm, far_mm))
    return EndsCompared(said + rest, remedy, fits, of_member(kind, shaft=taper > 0, bore=False), near, far)


def _of_a_bore(taper_mm: Decimal, amount: str) -> tuple[str, str]:
    if taper_mm > 0:
        return (
            f"Mouth is {amount} larger than deep: the bar gives as it reaches in.",
            "Take the same dial again before another cut, or a shorter bar and a lighter cut.",
        )
    return (
        f"Deep is {amount} larger than the mouth: the work is sprung in the jaws, or the headstock is out.",
        "Ease the jaws and measure again; a thin ring grips in soft jaws or on a plate.",
    )


def _of_a_shaft(taper_mm: Decimal, amount: str) -> tuple[str, str]:
    if taper_mm < 0:
        return (
            f"The far end is {amount} larger: work that sticks out bends away from the tool.",
            "Support it with a centre, or take the same dial again with a sharp tool.",
        )
    return (
        f"The far end is {amount} smaller: the tailstock or the headstock is out.",
        (
            "Shift the tailstock away from the tool (how far: “The taper found” among the worksheets), and try again on"
            " a test cut."
        ),
    )
