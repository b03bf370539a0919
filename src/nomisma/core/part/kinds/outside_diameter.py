"""An outside diameter: a shaft, a boss, a spigot; behind an x, how long or high it is."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import TYPE_CHECKING

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.section_shapes import Cylinder

if TYPE_CHECKING:
    from nomisma.core.part.lettered import LetteredFeature
    from nomisma.core.part.section import Sheet

    _Step = tuple[LetteredFeature, LetteredFeature | None]

_UNSAID = Decimal(1)
"""How long a step is drawn whose length nobody said, in parts of its diameter. Source: this tool's own choice."""
_CLASS = re.compile(r"(?!M\s*[0-9]).*[0-9\s][a-z]{1,2}[0-9]{1,2}(?:\s*\([^()]*\))?(?:\s+x\s.+)?")
_SHAFT = ("od", "o.d.", "dia", "diameter", "outside", "shaft")
_BOSS = ("boss", "spigot", "register", "hub")


@dataclass(frozen=True, kw_only=True)
class _OutsideDiameter(FeatureKind):
    def claims(self, text: str) -> bool:
        """A bare size whose class is in small letters is a shaft."""
        return _CLASS.fullmatch(text) is not None

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with how long or high it is, where that stands right behind and says nothing else."""
        behind = waiting[0] if waiting and waiting[0].kind in self.long_by else None
        if behind is None or behind.along.is_said or duty_words(behind) or " x " in behind.text:
            return super().said(one, waiting)
        waiting.pop(0)
        word = _BOSS[0] if behind.kind == "height" else _SHAFT[0]
        high = " high" if behind.kind == "height" else ""
        place = f" {one.along.words}" if one.along.is_said else ""
        return f"{word} {one.text} x {behind.text}{high}{place}{duty_words(one)}"

    def lay(self, sheet: "Sheet") -> None:
        """The steps one behind the other from the left in the order of their letters, but for those that are said to
        lie elsewhere.
        """
        pairs = _standing_off_first(sheet.lengths_behind(self.name))
        lengths = _lengths(sheet, pairs)
        reaches = [_reach(one, long_mm) for (one, _), long_mm in zip(pairs, lengths, strict=True)]
        whole = sheet.whole
        sheet.whole_mm = (
            sheet.size_mm(whole) if whole else max([sum(lengths, Decimal(0)), *reaches], default=Decimal(0))
        )
        steps: list[Cylinder] = []
        at_mm = Decimal(0)
        for (one, along), long_mm in zip(pairs, lengths, strict=True):
            begins, at_mm = sheet.put(one, long_mm, (at_mm, at_mm + long_mm), along)
            steps.append(Cylinder(one.letter, sheet.size_mm(one), begins, at_mm, along.letter if along else ""))
        sheet.outside = _side_by_side(sheet, steps)


def _standing_off_first(pairs: "Sequence[_Step]") -> "list[_Step]":
    """A boss that stands off the left face lies before the body it stands on, whichever was said first."""
    return sorted(pairs, key=lambda pair: not _stands_off_left(*pair))


def _stands_off_left(one: "LetteredFeature", along: "LetteredFeature | None") -> bool:
    """Whether a step is as high as it stands off the left face: a height, and no distance from the face."""
    return along is not None and along.feature.kind == "height" and one.along.face == "left" and not one.along.starts


def _lengths(sheet: "Sheet", pairs: "Sequence[tuple[LetteredFeature, LetteredFeature | None]]") -> list[Decimal]:
    """How long each step is, mm: as said, else its share of what the whole leaves, else as drawn where nobody said."""
    said = [sheet.said_long_mm(one, along) for one, along in pairs]
    whole_mm = sheet.size_mm(sheet.whole) if sheet.whole else Decimal(0)
    rest_mm = whole_mm - sum((long for long in said if long is not None), Decimal(0))
    found = []
    for (one, _), long in zip(pairs, said, strict=True):
        if long is None and rest_mm <= 0:
            sheet.assumed.append(f"how long {one.letter} is")
            sheet.lengths_not_said.append(one.letter)
        shared = rest_mm / said.count(None) if rest_mm > 0 and long is None else sheet.size_mm(one) * _UNSAID
        found.append(shared if long is None else long)
    return found


def _reach(one: "LetteredFeature", long_mm: Decimal) -> Decimal:
    """How far from the face it is counted from it ends, mm; 0 where it is counted from no face of the part."""
    starts = one.along.starts
    return starts.mm + long_mm if starts and not one.along.letter else Decimal(0)


def _side_by_side(sheet: "Sheet", steps: list[Cylinder]) -> list[Cylinder]:
    """The steps from left to right without gap or overlap, as far as they can be drawn; what was filled is noted."""
    laid: list[Cylinder] = []
    at_mm = Decimal(0)
    for step in sorted(steps, key=lambda one: one.from_mm):
        begins = max(step.from_mm, at_mm)
        if step.to_mm <= begins:
            sheet.drawn -= {step.letter, step.along_letter}
            continue
        if begins > at_mm:
            sheet.assumed.append(f"what is left of {step.letter}")
            if laid:
                laid[-1] = replace(laid[-1], to_mm=begins)
            else:
                begins = Decimal(0)
        laid.append(replace(step, from_mm=begins))
        at_mm = step.to_mm
    if laid and at_mm < sheet.whole_mm:
        sheet.assumed.append(f"what is right of {laid[-1].letter}")
    return laid


KIND = _OutsideDiameter(
    name="outside_diameter",
    title="outside diameter",
    words=(*_SHAFT, *_BOSS),
    also="shaft",
    material_side="external",
    is_diameter=True,
    can_be_stoned=True,
    member="shaft",
    long_by=("length", "step_length", "height"),
    second=dict.fromkeys(("", *_SHAFT), "length") | dict.fromkeys(_BOSS, "height"),
    measured_with="micrometer",
    instruments=("shaft", "both"),
    ways=("chord", "plate_rollers"),
    coached_by="cross_slide",
    cut_as="outside",
    lays=1,
    places=("near end 0°", "near end 90°", "middle 0°", "middle 90°", "far end 0°", "far end 90°"),
)
