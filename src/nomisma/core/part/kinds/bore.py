"""A bore, or a hole in the axis; behind an x, how deep it is."""

import re
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import TYPE_CHECKING

from nomisma.core.part.hole_making import MAKING_WORDS, making_of, making_said
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.said_feature import SaidFeature
from nomisma.core.part.section_shapes import Cylinder
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

if TYPE_CHECKING:
    from nomisma.core.part.section import Sheet

_CLASS = re.compile(r"(?!M\s*[0-9]).*[0-9\s][A-Z]{1,2}[0-9]{1,2}(?:\s*\([^()]*\))?(?:\s+x\s.+|\s+thru|\s+through)?")
_WORDS = ("bore", "id", "i.d.", "hole", "inside", "c'bore", "cbore", "counterbore", "spotface", "recess")


@dataclass(frozen=True, kw_only=True)
class _Bore(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """One that is drilled or reamed keeps that with its size: it is not bored."""
        found = super().read(line)
        return (
            [replace(found[0], size=f"{line.word} {found[0].size}"), *found[1:]] if line.word in MAKING_WORDS else found
        )

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """Its limits, however it is made."""
        return super().required(making_of(text)[1], unit, held)

    def dimension(self, text: str) -> str:
        """How it is made stands behind its size."""
        making, size = making_of(text)
        return f"{super().dimension(size)} {making}" if making_said(text) else super().dimension(size)

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """How it is made says what it is."""
        line = super().said(one, waiting)
        return line.removeprefix(f"{self.words[0]} ") if making_said(one.text) else line

    def claims(self, text: str) -> bool:
        """A bare size whose class is in capitals is a hole."""
        return _CLASS.fullmatch(text) is not None

    def lay(self, sheet: "Sheet") -> None:
        """One with a depth comes in from the left face, one without goes through, but where it is said otherwise."""
        length_mm = sheet.outside[-1].to_mm
        for one, depth in sheet.lengths_behind(self.name):
            if not one.through and not one.along.is_said:
                sheet.assumed.append(f"that {one.letter} {'comes in from the left' if depth else 'goes through'}")
            deep_mm = sheet.said_long_mm(one, depth)
            deep_mm = length_mm if deep_mm is None else min(deep_mm, length_mm)
            if any(one.letter in each.holes for each in sheet.eccentrics):
                begins, ends = length_mm - deep_mm, length_mm  # the eccentric stands at the right
                sheet.lies |= dict.fromkeys((part.letter for part in sheet.draw(one, depth)), (begins, ends))
                sheet.assumed.append(f"that {one.letter} lies on the part's axis; it runs on that of {one.along.on}")
            else:
                begins, ends = sheet.put(one, deep_mm, (Decimal(0), deep_mm), depth)
            begins, ends = max(begins, Decimal(0)), min(ends, length_mm)
            if begins < ends:
                sheet.bores.append(
                    Cylinder(one.letter, sheet.size_mm(one), begins, ends, depth.letter if depth else "")
                )


KIND = _Bore(
    name="bore",
    title="bore",
    words=(*_WORDS, *MAKING_WORDS),
    material_side="internal",
    is_diameter=True,
    both_ends="each",
    has_mouth=True,
    member="bore",
    long_by=("depth",),
    second=dict.fromkeys(("", *_WORDS, *MAKING_WORDS), "depth"),
    measured_with="bore gauge",
    instruments=("bore", "both"),
    coached_by="cross_slide",
    cut_as="bore",
    lays=3,
    places=("mouth 0°", "mouth 90°", "middle 0°", "middle 90°", "deep 0°", "deep 90°"),
)
