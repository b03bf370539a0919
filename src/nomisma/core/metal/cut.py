"""What a plan does to the metal: each cut with its place and its sizes, and how the work is held meanwhile."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

End = Literal["right", "left"]
CutKind = Literal[
    "face", "centre_hole", "spot", "drill", "ream", "rough_turn", "turn", "rough_bore", "bore", "groove", "v_groove",
    "face_groove", "undercut", "taper", "thread", "chamfer", "radius", "knurl", "part_off", "saw", "deburr",
]  # fmt: skip
Takes = Literal["face", "outside", "hole", "edge", "crest", "ring", "piece", "nothing"]


@dataclass(frozen=True, slots=True)
class CutTraits:
    """What is true of every cut of a kind: what it takes away, whether it is done in an end or across it (not while a
    centre stands there), whether it roughs, finishes, or is cut in what must be finished before.

    `makes`: whether it makes the letters it names; `is_counted`: whether its far end is counted from the face;
    `is_stopped`: whether the carriage ends it against a stop.
    """

    takes: Takes
    in_an_end: bool = False
    roughs: bool = False
    finishes: bool = False
    after_finish: bool = False
    makes: bool = True
    is_counted: bool = True
    is_stopped: bool = False


CUT_TRAITS: dict[CutKind, CutTraits] = {
    "face": CutTraits("face", in_an_end=True, is_counted=False, is_stopped=True),
    "centre_hole": CutTraits("nothing", in_an_end=True, is_counted=False),
    "spot": CutTraits("hole", in_an_end=True, makes=False, is_counted=False),
    "drill": CutTraits("hole", in_an_end=True, roughs=True),
    "ream": CutTraits("hole", in_an_end=True, finishes=True),
    "rough_bore": CutTraits("hole", in_an_end=True, roughs=True, makes=False, is_stopped=True),
    "bore": CutTraits("hole", in_an_end=True, finishes=True, is_stopped=True),
    "rough_turn": CutTraits("outside", roughs=True, makes=False, is_stopped=True),
    "turn": CutTraits("outside", finishes=True, is_stopped=True),
    "undercut": CutTraits("outside", is_stopped=True),
    "taper": CutTraits("outside", after_finish=True, is_stopped=True),
    "groove": CutTraits("outside", after_finish=True, is_stopped=True),
    "v_groove": CutTraits("outside", after_finish=True),
    "chamfer": CutTraits("edge", after_finish=True, is_counted=False),
    "radius": CutTraits("edge", after_finish=True, is_counted=False),
    "thread": CutTraits("crest", is_stopped=True),
    "knurl": CutTraits("crest", is_counted=False),
    "face_groove": CutTraits("ring", in_an_end=True, is_counted=False),
    "part_off": CutTraits("piece", in_an_end=True, is_stopped=True),
    "saw": CutTraits("piece", in_an_end=True),
    "deburr": CutTraits("nothing", is_counted=False),
}
"""Every kind of cut. Source: common practice, no source."""
Way = Literal[
    "three_jaw", "four_jaw", "collet", "soft_jaws", "faceplate", "mandrel", "expanding_mandrel", "bonded_mandrel",
    "centres", "chuck_and_centre", "steady", "follow_rest",
]  # fmt: skip
SupportKind = Literal["centre", "plug", "steady", "follow_rest"]


@dataclass(frozen=True, slots=True)
class Tool:
    """A tool as far as its reach decides: the nose of a turning tool, a blade's width and reach, a drill's or reamer's
    diameter, mm (none: it decides nothing).
    """

    kind: str
    nose_mm: Decimal | None = None
    width_mm: Decimal | None = None
    reach_mm: Decimal | None = None
    diameter_mm: Decimal | None = None


@dataclass(frozen=True, slots=True)
class Cut:
    """One cut, mm from the left face of the finished part.

    Outside `from_mm` is less than `to_mm`; of a hole `from_mm` is its mouth and `to_mm` the end of the full diameter,
    `point_mm` beyond it; of a face `from_mm` is the face as it is. `before_mm`: the largest diameter there at that
    moment, in a hole the smallest; of a taper `before_mm` and `after_mm` are its two ends. `passes`: in so many.
    `throw_mm`: how far the axis it is cut on lies off the part's; diameters are the metal's own, which swings by twice
    that more. `supports`: what holds the work beside the jaws from this cut on (none: as before).
    """

    kind: CutKind
    letters: tuple[str, ...] = ()
    from_mm: Decimal = Decimal(0)
    to_mm: Decimal = Decimal(0)
    before_mm: Decimal | None = None
    after_mm: Decimal | None = None
    point_mm: Decimal | None = None
    inside: bool = False
    passes: int = 1
    tool: Tool = Tool("turning")
    end: End | Literal[""] = ""
    throw_mm: Decimal = Decimal(0)
    supports: "tuple[Support, ...] | None" = None

    @property
    def traits(self) -> CutTraits:
        """What is true of its kind."""
        return CUT_TRAITS[self.kind]

    @property
    def is_hole(self) -> bool:
        """Whether it goes in from a mouth."""
        return self.traits.takes == "hole"

    @property
    def is_outside(self) -> bool:
        """Whether it takes metal from the outside, where jaws and rollers may stand."""
        return not self.inside and self.traits.takes in ("face", "outside", "edge", "crest", "piece")

    @property
    def low_mm(self) -> Decimal:
        """Its left end, mm."""
        return min(self.from_mm, self.to_mm)

    @property
    def high_mm(self) -> Decimal:
        """Its right end, mm."""
        return max(self.from_mm, self.to_mm)

    def mirrored(self, about_mm: Decimal) -> "Cut":
        """Seen from the other end of something so long, mm."""
        begins, ends = about_mm - self.from_mm, about_mm - self.to_mm
        before_mm, after_mm = self.before_mm, self.after_mm
        goes_in = self.inside or (self.traits.in_an_end and self.traits.takes != "piece")
        if self.traits.takes == "edge" or not goes_in:
            begins, ends = ends, begins
            if self.kind == "taper":
                before_mm, after_mm = after_mm, before_mm
        return replace(
            self,
            from_mm=begins,
            to_mm=ends,
            before_mm=before_mm,
            after_mm=after_mm,
            point_mm=None if self.point_mm is None else about_mm - self.point_mm,
            end=other_end(self.end) if self.end else "",
            supports=None if self.supports is None else tuple(one.mirrored(about_mm) for one in self.supports),
        )


def is_only_faced(cuts: "Iterable[Cut]") -> bool:
    """Whether cuts do nothing heavier than face an end and break edges. Source: common practice, no source.

    >>> is_only_faced([Cut("face"), Cut("chamfer")]), is_only_faced([Cut("face"), Cut("drill")])
    (True, False)
    """
    return all(one.traits.takes in ("face", "edge", "nothing") for one in cuts)


def other_end(end: End) -> End:
    """The end across. Source: geometry.

    >>> other_end("right")
    'left'
    """
    return "left" if end == "right" else "right"


@dataclass(frozen=True, slots=True)
class Grip:
    """What the jaws hold, mm: the letter of the surface (`stock`: as it came), inside or out, from where to where, how
    wide it is there, and against what it stands.
    """

    surface: str
    from_mm: Decimal
    to_mm: Decimal
    diameter_mm: Decimal
    inside: bool = False
    protected: bool = False
    against: Literal["", "step", "stop"] = ""

    @property
    def length_mm(self) -> Decimal:
        """How long it is held, mm."""
        return self.to_mm - self.from_mm

    def mirrored(self, about_mm: Decimal) -> "Grip":
        """Seen from the other end of something so long, mm."""
        return replace(self, from_mm=about_mm - self.to_mm, to_mm=about_mm - self.from_mm)


@dataclass(frozen=True, slots=True)
class Support:
    """What holds the work beside the jaws: a centre or a plug in an end, a steady's rollers from where to where (mm) on
    a surface, or a follow rest.
    """

    kind: SupportKind
    end: End | Literal[""] = ""
    surface: str = ""
    from_mm: Decimal | None = None
    to_mm: Decimal | None = None

    def mirrored(self, about_mm: Decimal) -> "Support":
        """Seen from the other end of something so long, mm."""
        if self.from_mm is None or self.to_mm is None:
            return replace(self, end=other_end(self.end) if self.end else "")
        return replace(self, from_mm=about_mm - self.to_mm, to_mm=about_mm - self.from_mm)


@dataclass(frozen=True, slots=True)
class Workholding:
    """One set-up as it is held and cut: the end it is worked from, the way, how far it stands out of the jaws (mm,
    facing still on), its grip (none between centres), supports and cuts. `throw_mm`: how far off centre.
    """

    worked: End
    way: Way
    stands_out_mm: Decimal
    grip: Grip | None
    cuts: tuple[Cut, ...] = ()
    supports: tuple[Support, ...] = ()
    trued_on: str = ""
    throw_mm: Decimal = Decimal(0)

    @property
    def is_only_faced(self) -> bool:
        """Whether nothing heavier is done in it than facing an end and breaking edges."""
        return is_only_faced(self.cuts)

    @property
    def every_support(self) -> tuple[Support, ...]:
        """What holds the work beside the jaws at any time of it."""
        later = [one for cut in self.cuts for one in cut.supports or ()]
        return tuple(dict.fromkeys([*self.supports, *later]))

    def mirrored(self, about_mm: Decimal) -> "Workholding":
        """Seen from the other end of something so long, mm."""
        return replace(
            self,
            worked=other_end(self.worked),
            grip=self.grip.mirrored(about_mm) if self.grip else None,
            cuts=tuple(one.mirrored(about_mm) for one in self.cuts),
            supports=tuple(one.mirrored(about_mm) for one in self.supports),
        )
