"""What the edges of a part have in common: a leg or a radius with limits, from one to another, at most, or bare."""

import re
from dataclasses import dataclass

from nomisma.core.errors import NotDefined
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement, held_to, required_size
from nomisma.core.quantity.callout import Limits, parse_callout
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.working import COMMON_PRACTICE

_RANGE = re.compile(r"(?P<least>[0-9.,]+)\s*/\s*(?P<most>[0-9.,]+)(?:\s*(?P<unit>mm|in))?")


@dataclass(frozen=True, kw_only=True)
class EdgeKind(FeatureKind):
    """An edge: a chamfer by its leg, a fillet or a rounded edge by its radius."""

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """The limits of its size. Raises InputError. Source: as `leg`."""
        return self.leg(text, unit, held)

    def leg(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """Its size with what it may differ by. A range is as wide as it is written; one too small for the general
        tolerances is for reference. Raises InputError. Source: common practice, no source; ISO 2768-1:1989, Table 2.
        """
        if (match := _RANGE.fullmatch(text)) and "." in text:
            least, most = sorted(
                (parse_length(f"{match[part]} {match['unit'] or unit}") for part in ("least", "most")),
                key=lambda one: one.mm,
            )
            middle = Length((least.mm + most.mm) / 2, least.unit)
            return Requirement(middle, least, most, "line", "the drawing")
        if text.lower().endswith(("max", "min")):
            return required_size(self, text, unit, held)
        size = parse_callout(text, unit)
        if isinstance(size, Limits):
            return Requirement(size.nominal, size.lower, size.upper, "line", "the drawing")
        if not isinstance(size, Length):
            return required_size(self, text, unit, held)
        try:
            return held_to(size, held, self.toleranced)
        except NotDefined:
            return Requirement(size, None, None, "reference", COMMON_PRACTICE)
