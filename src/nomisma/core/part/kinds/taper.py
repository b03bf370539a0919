"""A taper: how much the diameter changes over a length; behind from, the size it begins with."""

import re
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement, plain_length
from nomisma.core.part.said_feature import SaidFeature
from nomisma.core.part.standard_tapers import StandardTaper, standard_taper_named
from nomisma.core.part.taper import taper_between, taper_over, taper_rate
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.callout import Limits, parse_callout
from nomisma.core.quantity.length import MM_PER_INCH, Unit

_OVER = re.compile(r"(?P<rate>.+?)\s+over\s+(?P<length>.+?)(?:\s+(?P<tolerance>[±+-].+))?", re.IGNORECASE)
_TAPER = re.compile(
    r"(?P<inside>(?:bore|inside|hole)\s+)?(?P<taper>.+?\s+over\s+.+?)(?:\s+from\s+(?P<size>.+))?", re.IGNORECASE
)
_DIAMETERS = re.compile(
    r"(?P<one>[0-9.,/]+(?:\s*(?:mm|in))?)\s+to\s+(?P<other>[0-9.,/]+(?:\s*(?:mm|in))?)", re.IGNORECASE
)
_BETWEEN = re.compile(rf"{_DIAMETERS.pattern}\s+over\s+.+", re.IGNORECASE)
_SIDE = re.compile(r"\s+(?:outside|male|plug|(?P<inside>inside|female|socket|bore))$", re.IGNORECASE)
_WORD_BEHIND = re.compile(
    r"(?P<rate>[0-9.,:/]+\s*(?:°|deg|%|in|per\s+foot)?.*?)\s+taper\s+over\s+(?P<over>.+)", re.IGNORECASE
)
ISO_3040 = "ISO 3040:2016 (rate of taper; recalled)"


@dataclass(frozen=True, kw_only=True)
class _Taper(FeatureKind):
    def claims(self, text: str) -> bool:
        """A standard taper by its name alone, or its rate before the word: Morse 3 outside, 5° taper over 20."""
        return standard_taper_named(_SIDE.sub("", text)) is not None or _WORD_BEHIND.fullmatch(text) is not None

    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """A taper over a length and, behind from, the size it begins with: outside, or of a bore where that is said.

        Between two diameters it begins with the first. A standard one is as large and as long as its standard says.
        """
        rest = line.rest
        if behind := _WORD_BEHIND.fullmatch(rest):
            rest = f"{behind['rate']} over {behind['over']}"
        if standard := standard_taper_named(_SIDE.sub("", rest)):
            side = _SIDE.search(rest)
            return self._standard(line, standard, inside=bool(side and side["inside"]))
        match = _TAPER.fullmatch(rest)
        if match is None:
            raise UnreadableLength(
                f"“{line.text[:40]}” is a taper, and not over what length.",
                "Write it like taper 1:20 over 50 ±0.02 from 25 ±0.05, or taper 30 to 25 over 50.",
                value=line.text,
            )
        found = [WrittenFeature(self.name, match["taper"])]
        begins = "bore" if match["inside"] else "outside_diameter"
        between = _BETWEEN.fullmatch(match["taper"])
        size = match["size"] or (between["one"] if between else "")
        return [*found, WrittenFeature(begins, size)] if size else found

    def _standard(self, line: WrittenLine, standard: StandardTaper, *, inside: bool) -> list[WrittenFeature]:
        if standard.large_mm is None or standard.length_mm is None:
            raise UnreadableLength(
                f"{standard.words} has no length in its table.",
                f"Write taper {standard.words} over so much from its large end.",
                value=line.text,
            )
        per = MM_PER_INCH if line.unit == "in" else Decimal(1)
        size, long = (f"{(mm / per).normalize():f} {line.unit}" for mm in (standard.large_mm, standard.length_mm))
        begins, goes = ("bore", "depth") if inside else ("outside_diameter", "length")
        return [
            WrittenFeature(self.name, f"{standard.words} over {long}"),
            WrittenFeature(begins, size),
            WrittenFeature(goes, long),
        ]

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One between two diameters says the first of them too."""
        between = _BETWEEN.fullmatch(one.text)
        if between and waiting and waiting[0].text == between["one"] and waiting[0].kind == "outside_diameter":
            waiting.pop(0)
        return super().said(one, waiting)

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """By how much the diameter changes over the length that is said."""
        match = _OVER.fullmatch(text)
        if match is None:
            raise UnreadableLength(
                f"“{text[:60]}” does not say over what length.", "Write it like 1:20 over 50 ±0.02.", value=text
            )
        over = plain_length(match["length"], unit)
        between = _DIAMETERS.fullmatch(match["rate"])
        if between:
            rate = taper_between(plain_length(between["one"], unit), plain_length(between["other"], unit), over)
        else:
            rate = taper_rate(match["rate"])
        change = taper_over(rate, over)
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
