"""The teeth of a gear: how many, of which diametral pitch or module; cut elsewhere, read over pins."""

import re
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import UnreadableLength
from nomisma.core.number import number_from
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement, plain_length
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit
from nomisma.core.quantity.writing import NUMBER

_SAID = re.compile(
    rf"(?P<teeth>[0-9]{{1,3}})\s*(?:t|teeth),?\s+"
    rf"(?:(?P<per_inch>{NUMBER})\s*d\.?p\.?|(?:m|mod\.?|module)\s*(?P<module>{NUMBER}))",
    re.IGNORECASE,
)
_OVER_PINS = re.compile(
    r"(?P<gear>.+?),?\s+over\s+(?:two\s+)?(?:pins|balls|wires)\s+(?P<size>.+?)\s+on\s+(?P<pin>[0-9./]+(?:\s?(?:mm|in))?)(?:\s+pins)?",
    re.IGNORECASE,
)
_ON_PINS = re.compile(r"(?P<gear>.+?) on (?P<pin>[0-9./]+(?:\s?(?:mm|in))?) pins", re.IGNORECASE)
OVER = "over_pins"
FEWEST = 5


@dataclass(frozen=True, kw_only=True)
class _Gear(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Teeth and pitch are one; behind them the size over pins, where one is said, and on which pins."""
        match = _OVER_PINS.fullmatch(line.rest)
        if match is None:
            return [WrittenFeature(self.name, line.rest)]
        return [
            WrittenFeature(self.name, f"{match['gear']} on {match['pin']} pins"),
            WrittenFeature(OVER, match["size"]),
        ]

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with the size over its pins, where that stands right behind."""
        match = _ON_PINS.fullmatch(one.text)
        if match is None or not waiting or waiting[0].kind != OVER:
            return super().said(one, waiting)
        return f"gear {match['gear']}, over pins {waiting.pop(0).text} on {match['pin']}{duty_words(one)}"

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """No size that is read directly: its teeth, with the pitch diameter and the outside of a standard gear."""
        on_pins = _ON_PINS.fullmatch(text)
        match = _SAID.fullmatch(on_pins["gear"] if on_pins else text)
        if match is None or int(match["teeth"]) < FEWEST or not number_from(match["per_inch"] or match["module"]):
            raise UnreadableLength(
                f"“{text[:40]}” is not understood as a gear.",
                "Write it like gear 24T 12DP, or gear 30T module 1.5.",
                value=text,
            )
        teeth = int(match["teeth"])
        per_inch, module = match["per_inch"], match["module"]
        middle, outside = (
            f"{(count / number_from(per_inch)).quantize(Decimal('0.0001')).normalize():f} in"
            if per_inch
            else f"{(count * number_from(module)).normalize():f} mm"
            for count in (teeth, teeth + 2)
        )
        over = f"; read over pins of {plain_length(on_pins['pin'], unit)}" if on_pins else ""
        pitch = f"{per_inch} DP" if per_inch else f"module {module}"
        return Requirement(
            None,
            None,
            None,
            "line",
            "ISO 53 and AGMA: pitch diameter = module × teeth, outside = module × (teeth + 2) (recalled)",
            said=f"{teeth} teeth, {pitch}: pitch diameter {middle}, outside {outside}{over}",
        )


KIND = _Gear(
    name="gear",
    title="gear",
    words=("gear",),
    material_side="two_sided",
    family="seen",
    measured_with="pins or balls in opposite teeth (worksheet Gear over pins)",
    cut_as="elsewhere",
    made_elsewhere="its teeth are cut on a gear cutter; its blank is turned to the outside said",
    example="24T module 1.5",
    places=("over two pins",),
)
