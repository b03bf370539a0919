"""What a kind of feature is: its trade words, the side its metal lies on, how a line says it, where it lies, how it is cut and measured."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Literal, Self

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.general_tolerance import Toleranced
from nomisma.core.part.requirement import HeldTo, MaterialSide, Member, Requirement, required_size
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.written import BY, ENDS, HOW, THROUGH, WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

if TYPE_CHECKING:
    from nomisma.core.part.section import Sheet

UnitFamily = Literal["size", "roughness", "feel", "gauge", "seen"]
Measures = Literal["shaft", "bore", "both", "length", "thread"]
"""What an instrument measures."""
TakenAs = Literal["size", "difference"]
Way = Literal["pile", "chord", "plate_rollers", "taper_rollers", "sine_bar", "wires"]
"""How a size may follow from what is read (core/measuring/indirect.py)."""
CutAs = Literal[
    "outside", "bore", "groove", "edge", "taper", "thread", "knurl", "undercut", "with_another", "elsewhere", "none"
]
"""What a lathe cuts for a feature: a surface, nothing of its own (it comes with another), nothing here (it is milled), or nothing."""
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

    `material_side`: external (over the upper limit there is metal to go), internal (under the lower limit there is), two_sided (no side
    is safe), upper_only. `family`: what it is written in; of any but a size none is read. `example`: its size as it may be written, in mm.
    `words`: what a line of it begins with, the first of them when it is written again; `also`: another name the calculations take for it.
    `measured_with`, `places`: as is usual. `instruments`: which of the shop's come into question, by what they measure; `usual`: which are
    taken first, by how their kind's name begins; `not_direct`: those that read it only in one of its ways, never directly. `taken_as`: one
    reading is its size, or the difference of two may be. `ways`: how its size may follow from readings of something else. `coached_by`: the
    slide that cuts it to size. `cut_as`: what a lathe cuts for it. `long_by`: the kinds that say how far it goes where they stand right
    behind it; `second`: the one an x in its own line means, by the word it begins with. `member`: of a fit; `classed_as`: whose classes its
    size is written with. `is_whole`: from face to face; `may_be_whole`: so where nothing before it says otherwise. `is_geometric`: its line
    says to what it is true (runout .002 to A); `may_be_to_a_face`: to a length or a depth as well. `both_ends`: what that means behind its
    line: one at each end, or what one is anyway. `reads_its_place`: its lines say where it lies in words of their own. `lays`: when it is
    laid into the section, 0 never. Without unit. Source: common practice, no source.
    """

    name: str
    title: str
    material_side: MaterialSide
    places: tuple[str, ...]
    measured_with: str
    example: str = "22 ±0.1"
    family: UnitFamily = "size"
    words: tuple[str, ...] = ()
    also: str = ""
    is_diameter: bool = False
    is_along: bool = False
    is_whole: bool = False
    may_be_whole: bool = False
    is_geometric: bool = False
    may_be_to_a_face: bool = False
    both_ends: Literal["", "each", "one"] = ""
    can_be_stoned: bool = False
    member: Member | None = None
    classed_as: Member | None = None
    instruments: tuple[Measures, ...] = ()
    not_direct: tuple[Measures, ...] = ()
    usual: tuple[str, ...] = ()
    taken_as: TakenAs = "size"
    ways: tuple[Way, ...] = ()
    coached_by: CoachedBy = "none"
    cut_as: CutAs = "none"
    toleranced: Toleranced = "linear"
    long_by: tuple[str, ...] = ()
    second: Mapping[str, str] = field(default_factory=dict)
    reads_its_place: bool = False
    lays: int = 0

    def but(self, title: str) -> Self:
        """The same kind under another title."""
        return replace(self, title=title)

    @property
    def class_of(self) -> Member | None:
        """Whose classes its size may be written with: its own member's, or those of one like it (a groove is a hole)."""
        return self.classed_as or self.member

    @property
    def is_compared(self) -> bool:
        """Whether it is tried or compared by hand and eye: no size is read of it."""
        return self.family != "size"

    @property
    def a_title(self) -> str:
        """Its title with its article: an outside diameter, a bore."""
        return f"{'an' if self.title[0] in 'aeiou' else 'a'} {self.title}"

    def claims(self, text: str) -> bool:
        """Whether a line that begins with no word is one of this kind, by how its size is written. Source: common practice, no source."""
        return False

    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """What a line says that begins with one of its words: its size and, behind an x, how long, deep or high it is.

        Raises UnreadableLength. Source: common practice, no source (how a sketch is read aloud).
        """
        through = THROUGH.search(line.rest) is not None
        second = self.second.get(line.word, "")
        parts = BY.split(THROUGH.sub("", line.rest))
        if len(parts) > 2 or (len(parts) == 2 and (through or not second)):
            raise UnreadableLength(f"“{line.text[:40]}” says more sizes than one {self.title} has.", HOW, value=line.text)
        sizes = [ENDS.sub("", part) for part in parts]
        if not all(sizes):
            raise UnreadableLength(f"“{line.text[:40]}” names a feature and no size.", HOW, value=line.text)
        found = [WrittenFeature(self.name, sizes[0], through=through)]
        return [*found, WrittenFeature(second, sizes[1])] if len(sizes) == 2 else found

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """What the text of its size requires; bare numbers in `unit`. Raises UnreadableLength, AmbiguousLength, InputError.

        Source: common practice (shorthand); ISO 286-1 (classes); ISO 2768-1 (general tolerances).
        """
        return required_size(self, text, unit, held)

    def sized(self, text: str, said: str) -> str:
        """Its size in a sentence: `said`, and whatever of its text belongs there. Source: none, wording."""
        return said

    def reading_text(self, typed: str, required: str) -> str:
        """What was typed of a reading, with what its requirement's text adds so that it can be worked out again. Source: none, bookkeeping."""
        return typed

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """The line that says it again; what stands right behind and belongs to its line is taken from those waiting.

        Source: common practice, no source.
        """
        word = self.words[0] if self.words else ""
        through, place = " thru" if one.through else "", f" {one.along.words}" if one.along.is_said else ""
        return f"{word} {one.text}{through}{place}{duty_words(one)}".strip()

    def lay(self, sheet: "Sheet") -> None:
        """Lay every feature of this kind into the section, where it has a place there. Source: common practice, no source."""


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
