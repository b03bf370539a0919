"""The workpiece as it is now: its ends, its outside and its hole, centre holes and rings; a cut makes the next one."""

from dataclasses import dataclass, field, replace
from decimal import Decimal
from math import pi

from nomisma.core.metal.cut import Cut, End, other_end
from nomisma.core.metal.drawing import line_left
from nomisma.core.metal.profile import Profile, Stretch, cylinder
from nomisma.core.metal.stock import Stock


@dataclass(frozen=True, slots=True)
class Workpiece:
    """What there is of the work, mm from the left face of the finished part; `round_mm`: up to what diameter stock that
    is not round is full.

    `centres`: the ends that have a centre hole, and how wide; `rings`: in a face, from where to where, and its walls.
    """

    outside: Profile
    hole: Profile
    round_mm: Decimal
    centres: tuple[tuple[End, Decimal], ...] = ()
    rings: tuple[Cut, ...] = ()
    done: frozenset[str] = field(default=frozenset())

    @property
    def left_mm(self) -> Decimal:
        """Where it begins."""
        return self.outside.stretches[0].from_mm

    @property
    def right_mm(self) -> Decimal:
        """Where it ends."""
        return self.outside.stretches[-1].to_mm

    def centre_mm(self, end: End) -> Decimal:
        """How wide the centre hole in an end is, mm; 0 where there is none, or where it has been bored away."""
        drilled = dict(self.centres).get(end, Decimal(0))
        at = self.hole.stretches[-1].at_to_mm if end == "right" else self.hole.stretches[0].at_from_mm
        return drilled if at < drilled else Decimal(0)

    def is_open(self, end: End) -> bool:
        """Whether an end has a hole that a plug goes into."""
        return bool(self.hole.stretches[-1].at_to_mm if end == "right" else self.hole.stretches[0].at_from_mm)

    def takes_a_centre(self, end: End) -> bool:
        """Whether a centre can stand in an end as it is: in its centre hole, or in a plug."""
        return bool(self.centre_mm(end)) or self.is_open(end)

    def mirrored(self, about_mm: Decimal) -> "Workpiece":
        """Seen from the other end of a part so long, mm."""
        return replace(
            self,
            outside=self.outside.mirrored(about_mm),
            hole=self.hole.mirrored(about_mm),
            centres=tuple((other_end(end), mm) for end, mm in self.centres),
            rings=tuple(one.mirrored(about_mm) for one in self.rings),
        )

    def after(self, one: Cut) -> "Workpiece":
        """What is left after a cut."""
        done = self.done | set(one.letters) if one.traits.makes else self.done
        return replace(self._cut(one), done=done)

    def _cut(self, one: Cut) -> "Workpiece":
        match one.kind:
            case "face":
                begins, ends = (self.left_mm, one.to_mm) if one.end == "right" else (one.to_mm, self.right_mm)
                return self._between(begins, ends)
            case "part_off" | "saw":
                begins, ends = (one.to_mm, self.right_mm) if one.end == "right" else (self.left_mm, one.from_mm)
                return self._between(begins, ends)
            case "centre_hole":
                assert one.end, "a centre hole is in an end"
                return replace(self, centres=(*self.centres, (one.end, one.after_mm or Decimal(0))))
            case "spot" | "drill" | "ream" | "rough_bore" | "bore":
                return replace(self, hole=self._opened(one))
            case "rough_turn" | "turn" | "groove" | "v_groove" | "undercut" | "taper" | "chamfer" | "radius":
                if one.inside:
                    return replace(self, hole=self.hole.opened(line_left(one)))
                return replace(self, outside=self.outside.turned(line_left(one)))
            case "face_groove":
                return replace(self, rings=(*self.rings, one))
            case "thread" | "knurl" | "deburr":
                return self

    def _between(self, begins: Decimal, ends: Decimal) -> "Workpiece":
        return replace(self, outside=self.outside.shortened(begins, ends), hole=self.hole.shortened(begins, ends))

    def _opened(self, one: Cut) -> Profile:
        after_mm = one.after_mm or Decimal(0)
        found = self.hole
        if one.kind != "spot":
            found = found.opened(cylinder(one.low_mm, one.high_mm, after_mm))
        tip_mm = one.to_mm if one.kind == "spot" else one.point_mm
        begins_mm = one.from_mm if one.kind == "spot" else one.to_mm
        if tip_mm is not None and tip_mm != begins_mm:
            pointed = (begins_mm, tip_mm, after_mm, Decimal(0))
            if tip_mm < begins_mm:
                pointed = (tip_mm, begins_mm, Decimal(0), after_mm)
            found = found.opened(Stretch(*pointed))
        return found

    def volume_mm3(self) -> float:
        """How much metal it is, mm³; stock that is not round as if it were, over its corners. Source: geometry:
        frustums.
        """
        solid = sum(_frustum(one) for one in self.outside.stretches)
        return solid - sum(_frustum(one) for one in self.hole.stretches)


def _frustum(one: Stretch) -> float:
    long, a, b = float(one.to_mm - one.from_mm), float(one.at_from_mm), float(one.at_to_mm)
    return pi / 12 * long * (a * a + a * b + b * b)


def workpiece_of(stock: Stock) -> Workpiece:
    """A piece of stock before anything is cut. Source: geometry.

    >>> bar = workpiece_of(Stock(Decimal(-40), Decimal(31), Decimal(22)))
    >>> turned = bar.after(Cut("turn", ("A",), Decimal(0), Decimal(31), Decimal(22), Decimal(20)))
    >>> str(turned.outside.largest_mm(Decimal(0), Decimal(31))), sorted(turned.done)
    ('20', ['A'])
    """
    return Workpiece(stock.outside, stock.hole, stock.round_mm, centres=stock.centred)
