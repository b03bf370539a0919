"""The finished part as metal: what its outside and its holes must be at last, and how far a hole may go."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property

from nomisma.core.metal.cut import Cut, End, other_end
from nomisma.core.metal.profile import Profile, Stretch, cylinder, profile_of
from nomisma.core.metal.rules import SMALLEST_BORED_MM
from nomisma.core.quantity.length import Unit

DRILLED_DEEPER_MM = Decimal(3)
"""A blind hole that is reamed or tapped is drilled so much deeper. Source: common practice, no source."""
POINT = Decimal("0.3004")
"""How long a drill's point is, in parts of its diameter: ½/tan 59° for 118°. Source: geometry."""


@dataclass(frozen=True, slots=True)
class HoleDrawn:
    """A hole of the drawing, mm from the left face: its diameter, from where to where, and whether its floor is bored.

    `ends`: from which ends it is open.
    """

    letter: str
    diameter_mm: Decimal
    from_mm: Decimal
    to_mm: Decimal
    ends: frozenset[End]
    floor_is_bored: bool

    def mirrored(self, about_mm: Decimal) -> "HoleDrawn":
        """Seen from the other end of a part so long, mm."""
        ends = frozenset(other_end(end) for end in self.ends)
        return replace(self, from_mm=about_mm - self.to_mm, to_mm=about_mm - self.from_mm, ends=ends)


@dataclass(frozen=True)
class Drawing:
    """The finished part: its length, outside and holes, mm; what of its outside stays as it is; the edges
    broken in its holes' mouths; a tube's own bore;
    `open`: where metal may stay on, because it is milled, or turned off centre by a plan of its own; `throws`: of each
    letter off the part's axis, how far it lies off.

    `done_by`: every letter that some cut must make. `least_bored_mm`: the smallest hole that a bar goes into.
    """

    length_mm: Decimal
    outside: Profile
    holes: tuple[HoleDrawn, ...]
    left: tuple[Stretch, ...] = ()
    open: tuple[Stretch, ...] = ()
    done_by: frozenset[str] = frozenset()
    mouths: tuple[Stretch, ...] = ()
    tube_bore_mm: Decimal = Decimal(0)
    unit: Unit = "mm"
    throws: tuple[tuple[str, Decimal], ...] = ()
    least_bored_mm: Decimal = SMALLEST_BORED_MM

    @cached_property
    def hole(self) -> Profile:
        """What its hole must be at last."""
        found = profile_of([cylinder(Decimal(0), self.length_mm, self.tube_bore_mm)])
        for one in self.holes:
            found = found.opened(cylinder(one.from_mm, one.to_mm, one.diameter_mm))
        for mouth in self.mouths:
            found = found.opened(mouth)
        return found

    @cached_property
    def hole_at_most(self) -> Profile:
        """How wide its hole may get: where a floor is not bored, a drill's point goes beyond it."""
        found = self.hole
        for one in self.holes:
            if one.floor_is_bored or len(one.ends) == 2:
                continue
            deeper = DRILLED_DEEPER_MM + POINT * one.diameter_mm
            begins, ends = (
                (one.from_mm - deeper, one.to_mm) if "right" in one.ends else (one.from_mm, one.to_mm + deeper)
            )
            found = found.opened(cylinder(begins, ends, one.diameter_mm))
        return found

    def mirrored(self) -> "Drawing":
        """Seen from its other end."""
        long_mm = self.length_mm
        return replace(
            self,
            outside=self.outside.mirrored(long_mm),
            holes=tuple(one.mirrored(long_mm) for one in self.holes),
            left=tuple(one.mirrored(long_mm) for one in self.left),
            mouths=tuple(one.mirrored(long_mm) for one in self.mouths),
            open=tuple(one.mirrored(long_mm) for one in self.open),
        )


def outside_after(outside: Profile, cuts: Iterable[Cut]) -> Profile:
    """An outside once tapers, grooves, undercuts and chamfers are cut in it. Source: geometry.

    >>> bar = profile_of([cylinder(Decimal(0), Decimal(30), Decimal(20))])
    >>> groove = Cut("groove", ("B",), Decimal(10), Decimal(12), Decimal(20), Decimal(16))
    >>> outside_after(bar, [groove]).smallest_mm(Decimal(0), Decimal(30))
    Decimal('16')
    """
    for one in cuts:
        outside = outside.turned(line_left(one))
    return outside


def line_left(one: Cut) -> Stretch:
    """The line that a cut leaves outside, or an edge in a hole's mouth, mm. Source: geometry.

    >>> line_left(Cut("turn", ("A",), Decimal(0), Decimal(9), Decimal(22), Decimal(20))).at_to_mm
    Decimal('20')
    """
    after_mm = one.after_mm if one.after_mm is not None else Decimal(0)
    if one.kind == "taper":
        return Stretch(one.from_mm, one.to_mm, one.before_mm or after_mm, after_mm)
    if one.traits.takes == "edge" and one.before_mm is not None:
        at_right = one.end == "right"
        return Stretch(
            one.from_mm, one.to_mm, one.before_mm if at_right else after_mm, after_mm if at_right else one.before_mm
        )
    return cylinder(one.from_mm, one.to_mm, after_mm)
