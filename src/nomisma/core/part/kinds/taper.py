"""A taper: how much the diameter changes over a length; behind from, the size it begins with."""

import re
from dataclasses import dataclass

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement, plain_length
from nomisma.core.part.taper import taper_over, taper_rate
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.callout import Limits, parse_callout
from nomisma.core.quantity.length import Unit

_OVER = re.compile(r"(?P<rate>.+?)\s+over\s+(?P<length>.+?)(?:\s+(?P<tolerance>[±+-].+))?", re.IGNORECASE)
_TAPER = re.compile(
    r"(?P<inside>(?:bore|inside|hole)\s+)?(?P<taper>.+?\s+over\s+.+?)(?:\s+from\s+(?P<size>.+))?", re.IGNORECASE
)
ISO_3040 = "ISO 3040:2016 (rate of taper; recalled)"


@dataclass(frozen=True, kw_only=True)
class _Taper(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """A taper over a length and, behind from, the size it begins with: outside, or of a bore where that is said."""
        match = _TAPER.fullmatch(line.rest)
        if match is None:
            raise UnreadableLength(
                f"“{line.text[:40]}” is not understood as a taper.",
                "Write it like taper 1:20 over 50 ±0.02 from 25 ±0.05.",
                value=line.text,
            )
        found = [WrittenFeature(self.name, match["taper"])]
        begins = "bore" if match["inside"] else "outside_diameter"
        return [*found, WrittenFeature(begins, match["size"])] if match["size"] else found

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """By how much the diameter changes over the length that is said."""
        match = _OVER.fullmatch(text)
        if match is None:
            raise UnreadableLength(
                f"“{text[:60]}” does not say over what length.", "Write it like 1:20 over 50 ±0.02.", value=text
            )
        change = taper_over(taper_rate(match["rate"]), plain_length(match["length"], unit))
        if not match["tolerance"]:
            return Requirement(change, None, None, "reference", ISO_3040)
        found = parse_callout(f"{change} {match['tolerance']}", unit)
        if not isinstance(found, Limits):
            raise UnreadableLength(
                f"“{match['tolerance']}” gives a taper no limits.", "Write them like ±0.02.", value=text
            )
        return Requirement(change, found.lower, found.upper, "line", ISO_3040)

    def sized(self, text: str, said: str) -> str:
        """Its text, and the change of diameter that follows from it."""
        return f"{text}, a change {said}"


KIND = _Taper(
    name="taper",
    title="taper",
    words=("taper",),
    material_side="two_sided",
    measured_with="micrometer at two marks",
    instruments=("shaft", "bore", "both", "length"),
    usual=("micrometer", "bore_gauge", "caliper"),
    taken_as="difference",
    ways=("taper_rollers", "sine_bar"),
    cut_as="taper",
    example="1:20 over 50 ±0.1",
    places=("0°", "90°"),
)
