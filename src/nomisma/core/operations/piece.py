"""The part as it is to be cut: each surface's lines on the metal, the sizes of its edges, and the drawing it must come
to.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from functools import cached_property
from itertools import pairwise
from math import radians, tan
from typing import Literal

from nomisma.core.lengths.undercut import undercut_width_mm
from nomisma.core.metal.cut import Cut, End, other_end
from nomisma.core.metal.drawing import Drawing, HoleDrawn, line_left, outside_after
from nomisma.core.metal.profile import Profile, cylinder, profile_of
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.hole_tools import HoleTools
from nomisma.core.operations.operations import cutting_of
from nomisma.core.operations.surfaces import Surface, falls_to_the_right
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.requirement import size_now
from nomisma.core.part.section import Section, middle_mm
from nomisma.core.quantity.length import Unit

ZERO = Decimal(0)
_FINEST_MM = Decimal("0.001")


@dataclass(frozen=True, slots=True)
class Begun:
    """What there is of a piece on which work was begun: the metal, the letters that are made, the end at which it is
    still one with its bar (empty: it is not), and the end it was worked from last. `roughed`: the letters that were
    roughed, which is not done twice.
    """

    work: Workpiece
    made: frozenset[str]
    roughed: frozenset[str] = frozenset()
    on_bar: End | Literal[""] = ""
    worked: str = ""


@dataclass(frozen=True)
class Piece:
    """The part by its section, its features and its surfaces, in the unit it is drawn in; `bought_mm`: as wide as its
    stock is, which is left where the limits allow it (none: nothing is known of it); `turned`: seen from its other end;
    `tools`: what is at hand for its holes; `is_roughed`: it is the rough shape of a part, which nothing finishes yet.
    `begun`: what there is of it where work on it was begun already, which is not cut again.
    """

    section: Section
    features: tuple[LetteredFeature, ...]
    surfaces: tuple[Surface, ...]
    unit: Unit = "mm"
    bought_mm: Decimal | None = None
    tube_bore_mm: Decimal = ZERO
    turned: bool = False
    tools: HoleTools = field(default_factory=HoleTools)
    is_roughed: bool = False
    begun: Begun | None = None

    @property
    def made(self) -> frozenset[str]:
        """The letters that are made already where work on it was begun."""
        return self.begun.made if self.begun is not None else frozenset()

    @cached_property
    def to_cut(self) -> tuple[Surface, ...]:
        """The surfaces that are still to be cut; edges are asked for end by end (`is_broken`)."""
        return tuple(one for one in self.surfaces if one.kind == "edge" or not set(one.letters) <= self.made)

    def is_broken(self, cut: Cut) -> bool:
        """Whether an edge is broken already: where work was begun, and it takes nothing away any more."""
        if self.begun is None:
            return False
        there = self.begun.work.hole if cut.inside else self.begun.work.outside
        left = line_left(cut)
        return there == (there.opened(left) if cut.inside else there.turned(left))

    @property
    def broken(self) -> list[Cut]:
        """The edges that are broken already."""
        edges = [one for one in self.surfaces if one.kind == "edge"]
        every = (cut for one in edges for end in sorted(one.ends) for cut in self.edges_at(one, end))
        return [cut for cut in every if self.is_broken(cut)]

    @property
    def length_mm(self) -> Decimal:
        """From face to face, mm."""
        return self.section.length_mm

    @cached_property
    def by_letter(self) -> dict[str, LetteredFeature]:
        """Its features by letter."""
        return {one.letter: one for one in self.features}

    def now_mm(self, letter: str) -> Decimal | None:
        """What a surface of a part that is mended measures now, mm: as it is, or as it is said; None where nobody said
        it.
        """
        known = self.by_letter.get(letter)
        if known is None:
            return None
        if known.is_left_as_it_is:
            return known.nominal_mm
        now = size_now(known.written, self.unit)
        return now.mm if now is not None else None

    def stays(self, letter: str) -> bool:
        """Whether a surface is left as it is."""
        known = self.by_letter.get(letter)
        return known is not None and known.is_left_as_it_is

    @cached_property
    def as_bought(self) -> frozenset[str]:
        """The outsides whose limits the stock keeps as it came, and that need not be true to anything."""
        if self.bought_mm is None:
            return frozenset()
        found = set()
        for one in self.surfaces:
            known = self.by_letter.get(one.letter)
            if one.kind != "outside" or known is None or one.true_to:
                continue
            least, most = known.least_mm, known.most_mm
            if least is not None and most is not None and least <= self.bought_mm <= most:
                found.add(one.letter)
        return frozenset(found)

    @cached_property
    def steps(self) -> Profile:
        """The outside by its steps alone."""
        own = {one.letter: one.diameter_mm for one in self.surfaces if one.throw_mm}
        own |= {letter: self.bought_mm for letter in self.as_bought if self.bought_mm}
        return profile_of(
            cylinder(one.from_mm, one.to_mm, own.get(one.letter, one.diameter_mm)) for one in self.section.outside
        )

    @cached_property
    def shaped(self) -> Profile:
        """The outside with its tapers, grooves and undercuts."""
        return outside_after(self.steps, [one for each in self.surfaces for one in self.cuts_in_outside(each)])

    def cuts_in_outside(self, one: Surface) -> list[Cut]:
        """What a groove, a taper or an undercut takes out of the outside; nothing of any other surface."""
        match one.kind:
            case "groove" | "v_groove":
                if one.letter in {step.letter for step in self.section.outside}:
                    around_mm = max(step.diameter_mm for step in self.section.outside if step.letter == one.lies_in)
                    return [Cut("groove", one.letters, one.from_mm, one.to_mm, around_mm, one.diameter_mm)]
                return [
                    Cut(
                        one.kind,
                        one.letters,
                        each.at_mm,
                        each.at_mm + each.width_mm,
                        self.steps.largest_mm(each.at_mm, each.at_mm + each.width_mm),
                        each.floor_diameter_mm,
                    )
                    for each in self.section.grooves
                    if each.letters == one.letters
                ]
            case "taper":
                small_mm = one.diameter_mm - (middle_mm(self.by_letter[one.letter]) or ZERO)
                ends = (one.diameter_mm, small_mm) if self._falls_to_the_right(one) else (small_mm, one.diameter_mm)
                return [Cut("taper", one.letters, one.from_mm, one.to_mm, *ends)]
            case "undercut":
                return [self._undercut(one)]
            case "outside" | "bore" | "face_groove" | "edge" | "thread" | "inside_thread" | "tapped" | "knurl":
                return []

    def _falls_to_the_right(self, one: Surface) -> bool:
        host = next(step for step in self.section.outside if step.letter == one.lies_in)
        if not self.turned:
            return falls_to_the_right(host, self.section)
        back = self.mirrored()
        return not falls_to_the_right(
            next(step for step in back.section.outside if step.letter == one.lies_in), back.section
        )

    def _undercut(self, one: Surface) -> Cut:
        words = self.by_letter[one.letter].written.split()
        numbers = [word for word in words if word[:1].isdigit() or word[:1] == "."]
        radius, depth = (Decimal(number) * self._per for number in (*numbers, "0.6", "0.3")[:2])
        host = next(step for step in self.section.outside if step.letter == one.lies_in)
        wide = min(undercut_width_mm(radius, depth), host.to_mm - host.from_mm)
        at_left = one.from_mm == host.from_mm
        begins = host.from_mm if at_left else host.to_mm - wide
        return Cut("undercut", one.letters, begins, begins + wide, host.diameter_mm, host.diameter_mm - 2 * depth)

    @property
    def _per(self) -> Decimal:
        return Decimal("25.4") if self.unit == "in" else Decimal(1)

    def edges_at(self, one: Surface, end: End) -> Iterator[Cut]:
        """What an edge's surface takes off at the end that is said, a cut a letter."""
        for letter in one.letters:
            feature = self.by_letter[letter]
            size = middle_mm(feature) or ZERO
            if size <= 0:
                continue
            if feature.feature.kind == "countersink":
                cut = self._mouth(one, feature, end, size)
            else:
                cut = self._edge(one, end, size, self._radial(feature, size))
                if cut is not None and feature.feature.kind == "corner_radius":
                    cut = replace(cut, kind="radius")
            if cut is not None:
                yield replace(cut, letters=(letter,))

    def _mouth(self, one: Surface, feature: LetteredFeature, end: End, opens_mm: Decimal) -> Cut | None:
        """A countersink in the mouth of its hole: at the face, or at the floor of what is wider before it."""
        hole = next(each for each in self.surfaces if each.kind == "bore" and one.lies_in in each.letters)
        at_right = end == "right"
        wider = [each for each in self.holes if each.diameter_mm >= opens_mm and end in each.ends]
        mouth = (
            min([self.length_mm, *(each.from_mm for each in wider)])
            if at_right
            else max([ZERO, *(each.to_mm for each in wider)])
        )
        deep = ((opens_mm - hole.diameter_mm) / 2 / Decimal(tan(radians(_angle_deg(feature, 90) / 2)))).quantize(
            _FINEST_MM
        )
        begins, ends = (mouth - deep, mouth) if at_right else (mouth, mouth + deep)
        if not hole.from_mm <= begins < ends <= hole.to_mm:
            return None
        return Cut("chamfer", (), begins, ends, hole.diameter_mm, opens_mm, inside=True, end=end)

    def _radial(self, feature: LetteredFeature, leg: Decimal) -> Decimal:
        """How far in a chamfer goes whose leg is along the axis, mm."""
        angle = _angle_deg(feature, 45)
        if feature.feature.kind != "chamfer" or angle == 45:
            return leg
        return (leg * Decimal(tan(radians(angle)))).quantize(_FINEST_MM)

    def _edge(self, one: Surface, end: End, leg: Decimal, radial: Decimal) -> Cut | None:
        outside = self.section.outside
        if one.lies_in:
            host = next((step for step in outside if step.letter == one.lies_in), None)
        else:
            host = outside[-1] if end == "right" else outside[0]
        if host is None or leg > host.to_mm - host.from_mm:
            return None
        at_right = end == "right"
        corner = host.to_mm if at_right else host.from_mm
        beside = [step for step in outside if corner == (step.from_mm if at_right else step.to_mm)]
        if any(step.diameter_mm >= host.diameter_mm for step in beside):
            return None
        begins, ends = (corner - leg, corner) if at_right else (corner, corner + leg)
        there = next(iter(self.shaped.within(begins, ends)))
        inner, outer = (there.at(begins), there.at(ends)) if at_right else (there.at(ends), there.at(begins))
        return Cut("chamfer", (), begins, ends, inner, outer - 2 * radial, end=end)

    @cached_property
    def holes(self) -> tuple[HoleDrawn, ...]:
        """Its holes, as the drawing has them."""
        return tuple(
            HoleDrawn(one.letter, one.diameter_mm, one.from_mm, one.to_mm, one.ends, one.hole == "bored")
            for one in self.surfaces
            if one.kind == "bore"
        )

    def drawing(self, made: frozenset[str], edges: Sequence[Cut] = ()) -> Drawing:
        """What the metal must come to, once the letters that were planned are made and the edges are broken."""
        left = tuple(
            cylinder(step.from_mm, step.to_mm, step.diameter_mm)
            for step in self.section.outside
            if (known := self.by_letter.get(step.letter)) is not None and known.is_left_as_it_is
        )
        return Drawing(
            self.length_mm,
            outside_after(self.shaped, [one for one in edges if not one.inside]),
            self.holes,
            left=left,
            mouths=tuple(line_left(one) for one in edges if one.inside),
            done_by=made,
            tube_bore_mm=self.tube_bore_mm,
            unit=self.unit,
            least_bored_mm=self.tools.least_bored_mm,
            open=tuple(
                cylinder(step.from_mm, step.to_mm, step.diameter_mm)
                for step in self.section.outside
                if (known := self.by_letter.get(step.letter)) is not None
                and known.feature.of_kind.cut_as != "outside"
                and not known.is_left_as_it_is
                and step.letter not in made
            ),
            throws=tuple((letter, one.throw_mm) for one in self.surfaces if one.throw_mm for letter in one.letters),
        )

    def mirrored(self) -> "Piece":
        """The part turned round."""
        long_mm = self.length_mm
        section = replace(
            self.section,
            outside=tuple(
                replace(one, from_mm=long_mm - one.to_mm, to_mm=long_mm - one.from_mm)
                for one in reversed(self.section.outside)
            ),
            grooves=tuple(
                replace(one, at_mm=long_mm - one.at_mm - one.width_mm) for one in reversed(self.section.grooves)
            ),
            face_grooves=tuple(
                replace(one, from_mm=long_mm - one.to_mm, to_mm=long_mm - one.from_mm)
                for one in self.section.face_grooves
            ),
            eccentrics=tuple(
                replace(one, from_mm=long_mm - one.to_mm, to_mm=long_mm - one.from_mm)
                for one in self.section.eccentrics
            ),
        )
        surfaces = tuple(surface_mirrored(one, long_mm) for one in self.surfaces)
        return replace(self, section=section, surfaces=surfaces, turned=not self.turned)


def _angle_deg(feature: LetteredFeature, usual: float) -> float:
    """The angle behind the x of an edge's text; the usual one where none is said."""
    words = feature.written.replace("°", " ").split()
    said = next((word for before, word in pairwise(words) if before == "x"), "")
    return float(said) if said.replace(".", "", 1).isdigit() else usual


def surface_mirrored(one: Surface, long_mm: Decimal) -> Surface:
    """A surface of a part so long (mm) that is turned round. Source: geometry.

    >>> stub = Surface("outside", ("A",), Decimal(0), Decimal(10), Decimal(20), frozenset({"left"}))
    >>> turned = surface_mirrored(stub, Decimal(30)); str(turned.from_mm), sorted(turned.ends)
    ('20', ['right'])
    """
    ends = frozenset(other_end(end) for end in one.ends)
    return replace(one, from_mm=long_mm - one.to_mm, to_mm=long_mm - one.from_mm, ends=ends)


def is_in_an_end(one: Surface) -> bool:
    """Whether a surface is cut into an end: a hole, or a ring in a face. Source: geometry.

    >>> is_in_an_end(Surface("bore", ("A",), Decimal(0), Decimal(10), Decimal(20), frozenset({"left"})))
    True
    """
    return cutting_of(one.kind).is_hole or cutting_of(one.kind).is_in_a_face or one.kind in ("inside_thread", "tapped")
