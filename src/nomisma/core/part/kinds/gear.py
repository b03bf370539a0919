"""The teeth of a gear: how many, of which diametral pitch or module; cut elsewhere, read over pins."""

import re
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

_SAID = re.compile(
    r"(?P<teeth>[0-9]{1,3})\s*(?:t|teeth),?\s+(?:(?P<per_inch>[0-9.]+)\s*d\.?p\.?|(?:m|mod\.?|module)\s*(?P<module>[0-9.]+))",
    re.IGNORECASE,
)
FEWEST = 5


@dataclass(frozen=True, kw_only=True)
class _Gear(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Teeth and pitch are one."""
        return [WrittenFeature(self.name, line.rest)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """No size that is read directly: its teeth, with the pitch diameter and the outside of a standard gear."""
        match = _SAID.fullmatch(text)
        if match is None or int(match["teeth"]) < FEWEST or not Decimal(match["per_inch"] or match["module"]):
            raise UnreadableLength(
                f"“{text[:40]}” is not understood as a gear.",
                "Write it like gear 24T 12DP, or gear 30T module 1.5.",
                value=text,
            )
        teeth = int(match["teeth"])
        per_inch, module = match["per_inch"], match["module"]
        middle, outside = (
            f"{(count / Decimal(per_inch)).quantize(Decimal('0.0001')).normalize():f} in"
            if per_inch
            else f"{(count * Decimal(module)).normalize():f} mm"
            for count in (teeth, teeth + 2)
        )
        pitch = f"{per_inch} DP" if per_inch else f"module {module}"
        return Requirement(
            None,
            None,
            None,
            "line",
            "ISO 53 and AGMA: pitch diameter = module × teeth, outside = module × (teeth + 2) (recalled)",
            said=f"{teeth} teeth, {pitch}: pitch diameter {middle}, outside {outside}",
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
