"""An outside diameter off the axis of the part: its size, how high it stands, and its throw."""

import re
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.section_shapes import Cylinder, Eccentric
from nomisma.core.part.written import WrittenFeature, WrittenLine

if TYPE_CHECKING:
    from nomisma.core.part.section import Sheet

THROW, HEIGHT = "throw", "height"
_THROW = re.compile(r"(?P<rest>.+?),?\s+throw\s+(?P<throw>[0-9.].*)", re.IGNORECASE)
_OD = re.compile(r"(?:od|dia|diameter|shaft|pin|boss)\s+", re.IGNORECASE)
OFF_CENTRE = "it is turned in a chucking of its own, off centre by its throw (worksheet Off centre)"


@dataclass(frozen=True, kw_only=True)
class _EccentricDiameter(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Its size, its height where one is said, and its throw: up to three features."""
        match = _THROW.fullmatch(line.rest)
        rest = match["rest"] if match else line.rest
        found = super().read(replace(line, rest=_OD.sub("", rest, count=1)))
        return [*found, WrittenFeature(THROW, match["throw"])] if match else found

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with its height and its throw, where they stand right behind it."""
        height = waiting.pop(0) if len(waiting) > 1 and waiting[0].kind == HEIGHT and waiting[1].kind == THROW else None
        if not waiting or waiting[0].kind != THROW:
            return super().said(one, waiting)
        high = f" x {height.text} high" if height else ""
        place = f" {one.along.words}" if one.along.is_said else ""
        return f"eccentric {one.text}{high}, throw {waiting.pop(0).text}{place}{duty_words(one)}"

    def lay(self, sheet: "Sheet") -> None:
        """At the right end, as wide as it swings about the axis: so much metal has to be there, so long is the part.

        Where nobody said how high it stands, or it lies elsewhere, it is not drawn.
        """
        for index, one in sheet.of(self.name):
            height = sheet.behind(index, HEIGHT)
            throw = sheet.behind(index + 1, THROW) if height else None
            if height is None or throw is None or sheet.whole or one.along.is_said:
                continue
            begins = sheet.outside[-1].to_mm
            ends = begins + sheet.size_mm(height)
            swings_mm = sheet.size_mm(one) + 2 * sheet.size_mm(throw)
            sheet.outside.append(Cylinder(one.letter, swings_mm, begins, ends, height.letter))
            sheet.whole_mm = ends
            sheet.lies |= dict.fromkeys((part.letter for part in sheet.draw(one, height)), (begins, ends))
            letters = tuple(part.letter for part in (one, height, throw))
            holes = tuple(hole.letter for hole in sheet.known if hole.along.on == one.letter)
            sheet.eccentrics.append(Eccentric(letters, sheet.size_mm(one), sheet.size_mm(throw), begins, ends, holes))
            sheet.assumed.append(f"that {one.letter} stands at the right; it is drawn as wide as it swings")


KIND = _EccentricDiameter(
    name="eccentric_diameter",
    title="eccentric diameter",
    words=("eccentric",),
    material_side="external",
    is_diameter=True,
    classed_as="shaft",
    second={"eccentric": "height"},
    measured_with="micrometer",
    instruments=("shaft", "both"),
    cut_as="elsewhere",
    lays=2,
    made_elsewhere=OFF_CENTRE,
    places=("near end 0°", "near end 90°", "far end 0°", "far end 90°"),
)
