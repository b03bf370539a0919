"""What a kind of feature is: its trade words, the side its metal lies on, how a line says it, where it lies, how it is
cut and measured.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Literal, Self

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.general_tolerance import Toleranced
from nomisma.core.part.requirement import HeldTo, MaterialSide, Member, Requirement, required_size
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.written import BY, DEEP, ENDS, HOW, THROUGH, WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

if TYPE_CHECKING:
    from nomisma.core.part.section import Sheet

UnitFamily = Literal["size", "roughness", "feel", "gauge", "seen"]
Measures = Literal["shaft", "bore", "both", "length", "thread"]
"""What an instrument measures."""
TakenAs = Literal["size", "difference"]
Way = Literal["pile", "chord", "plate_rollers", "taper_rollers", "sine_bar", "wires", "less"]
"""How a size may follow from what is read (core/measuring/indirect.py)."""
CutAs = Literal[
    "outside",
    "bore",
    "groove",
    "face_groove",
    "edge",
    "taper",
    "thread",
    "knurl",
    "undercut",
    "fillet",
    "with_another",
    "elsewhere",
    "none",
]
"""What a lathe cuts for a feature: a surface, nothing of its own (it comes with another), nothing here (it is milled),
or nothing.
"""
CoachedBy = Literal["cross_slide", "carriage", "none"]
SIDE_WORDS: dict[MaterialSide, str] = {
    "external": "over the upper limit there is metal to go",
    "internal": "under the lower limit there is metal to go",
    "two_sided": "no side is safe: what is out is out",
    "upper_only": "there is only an upper limit",
}


@dataclass(frozen=True, kw_only=True)
class FeatureKind:
    """One kind of feature; what stands here is what is usual, and a kind that differs says so in its own module.

    Without unit. Source: common practice, no source.
    """

    name: str
    title: str
    material_side: MaterialSide  # external: over the upper limit there is metal to go; internal: under the lower one
    places: tuple[str, ...]  # where it is usually measured, in order
    measured_with: str
    example: str = "22 ±0.1"  # its size as it may be written, in mm
    family: UnitFamily = "size"  # what it is written in; of any but a size none is read
    # its line
    words: tuple[str, ...] = ()  # what a line of it begins with; the first when it is written again
    also: str = ""  # another name the calculations take for it
    second: Mapping[str, str] = field(
        default_factory=dict
    )  # the kind an x in its own line means, by the word it begins with
    long_by: tuple[str, ...] = ()  # the kinds that say how far it goes where they stand right behind it
    both_ends: Literal["", "each", "one"] = ""  # behind its line: one at each end, or what one is anyway
    sign: str = ""  # what stands before its size on a drawing; ⌀ before a diameter
    reads_its_place: bool = False  # its lines say where it lies in words of their own
    is_geometric: bool = False  # its line says to what it is true: runout .002 to A
    may_be_to_a_face: bool = False  # and that may be a length or a depth
    # what it is
    is_diameter: bool = False
    is_along: bool = False  # it lies along the axis
    is_whole: bool = False  # from face to face
    may_be_whole: bool = False  # so where nothing before it says otherwise
    has_mouth: bool = False  # it opens at one end
    member: Member | None = None  # of a fit
    classed_as: Member | None = None  # whose classes of fits its size is written with, where it is no member
    toleranced: Toleranced = "linear"  # by which table of general tolerances
    lays: int = 0  # when it is laid into the section; 0 never
    # how it is measured
    instruments: tuple[Measures, ...] = ()  # which of the shop's come into question, by what they measure
    not_direct: tuple[Measures, ...] = ()  # those that read it only in one of its ways
    why_not_direct: str = ""
    usual: tuple[str, ...] = ()  # which are taken first, by how their kind's name begins
    taken_as: TakenAs = "size"  # one reading is its size, or the difference of two may be
    ways: tuple[Way, ...] = ()  # how its size may follow from readings of something else
    also_tried: UnitFamily | None = None  # a size is read of it, or it is tried so
    also_tried_with: str = ""
    also_tried_at: tuple[str, ...] = ()
    # how it is cut
    coached_by: CoachedBy = "none"  # the slide that cuts it to size
    cut_as: CutAs = "none"
    cut_on: Literal["", "outside", "bore"] = ""  # on which other surface
    made_elsewhere: str = "it is not turned; it is drilled or milled elsewhere"
    can_be_stoned: bool = False

    def but(self, title: str) -> Self:
        """The same kind under another title."""
        return replace(self, title=title)

    @property
    def class_of(self) -> Member | None:
        """Whose classes its size may be written with: its own member's, or those of one like it (a groove is
        a hole).
        """
        return self.classed_as or self.member

    @property
    def is_compared(self) -> bool:
        """Whether it is tried or compared by hand and eye: no size is read of it."""
        return self.family != "size"

    @property
    def trials_as(self) -> UnitFamily | None:
        """On which scale a trial of it goes; None where only sizes are read."""
        return self.family if self.is_compared else self.also_tried

    @property
    def tried_with(self) -> str:
        """What it is tried or compared with where nobody says."""
        return self.measured_with if self.is_compared else self.also_tried_with

    @property
    def tried_at(self) -> tuple[str, ...]:
        """Where it is tried or compared."""
        return self.places if self.is_compared else self.also_tried_at

    @property
    def is_tried(self) -> bool:
        """Whether a mate or a gauge is tried on it by hand."""
        return self.trials_as in ("feel", "gauge")

    @property
    def may_be_left(self) -> bool:
        """Whether nothing need be logged of it: it is looked at, with or without a word on record."""
        return self.family in ("roughness", "seen")

    @property
    def a_title(self) -> str:
        """Its title with its article: an outside diameter, a bore."""
        return f"{'an' if self.title[0] in 'aeiou' else 'a'} {self.title}"

    def claims(self, text: str) -> bool:
        """Whether a line that begins with no word is one of this kind, by how its size is written. Source: common
        practice, no source.
        """
        return False

    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """What a line says that begins with one of its words: its size and, behind an x, how long, deep or high it is.

        Raises UnreadableLength. Source: common practice, no source (how a sketch is read aloud).
        """
        through = THROUGH.search(line.rest) is not None
        second = self.second.get(line.word, "")
        if self.material_side == "external" and DEEP.search(line.rest):
            raise UnreadableLength(
                f"“{line.text[:40]}” is {self.a_title}, and deep is said of what goes into the metal.",
                "Say how long or high it is, or begin it with bore, groove or c'bore.",
                value=line.text,
            )
        parts = BY.split(THROUGH.sub("", line.rest))
        if len(parts) > 2 or (len(parts) == 2 and (through or not second)):
            raise UnreadableLength(
                f"“{line.text[:40]}” says more sizes than one {self.title} has.", HOW, value=line.text
            )
        sizes = [ENDS.sub("", part) for part in parts]
        if not all(sizes):
            raise UnreadableLength(f"“{line.text[:40]}” names a feature and no size.", HOW, value=line.text)
        found = [WrittenFeature(self.name, sizes[0], through=through)]
        return [*found, WrittenFeature(second, sizes[1])] if len(sizes) == 2 else found

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """What the text of its size requires; bare numbers in `unit`. Raises UnreadableLength, AmbiguousLength,
        InputError.

        Source: common practice (shorthand); ISO 286-1 (classes); ISO 2768-1 (general tolerances).
        """
        return required_size(self, text, unit, held)

    def dimension(self, text: str) -> str:
        """Its size as a drawing says it. Source: ISO 129-1 (signs; recalled)."""
        return f"{self.sign or ('⌀' if self.is_diameter else '')}{text}"

    def sized(self, text: str, said: str) -> str:
        """Its size in a sentence: `said`, and whatever of its text belongs there. Source: none, wording."""
        return said

    def reading_text(self, typed: str, required: str) -> str:
        """What was typed of a reading, with what its requirement's text adds so that it can be worked out again.
        Source: none, bookkeeping.
        """
        return typed

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """The line that says it again; what stands right behind and belongs to its line is taken from those waiting.

        Source: common practice, no source.
        """
        word = self.words[0] if self.words else ""
        through, place = " thru" if one.through else "", f" {one.along.words}" if one.along.is_said else ""
        return f"{word} {one.text}{through}{place}{duty_words(one)}".strip()

    def lay(self, sheet: "Sheet") -> None:
        """Lay every feature of this kind into the section, where it has a place there. Source: common practice, no
        source.
        """


def names_known(kinds: Sequence[FeatureKind]) -> None:
    """What a kind says of other kinds names such that there are, and no word begins lines of two. Raises ValueError.

    Source: none, bookkeeping.

    >>> names_known([])
    """
    names = {kind.name for kind in kinds}
    words: dict[str, str] = {}
    for kind in kinds:
        for column, named in (("long_by", kind.long_by), ("second", tuple(kind.second.values()))):
            if unknown := [name for name in named if name not in names]:
                raise ValueError(f"kind {kind.name}, {column}: no kind is a “{unknown[0]}”")
        for word in kind.words:
            if words.setdefault(word, kind.name) != kind.name:
                raise ValueError(f"“{word}” begins a {words[word]} and a {kind.name}")
