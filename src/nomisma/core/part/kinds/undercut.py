"""An undercut in a corner: its form, radius and depth in words, and at which shoulder; looked at, not measured."""

import re
from dataclasses import dataclass

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.requirement import HeldTo, Requirement, plain_length
from nomisma.core.part.written import WrittenFeature, WrittenLine
from nomisma.core.quantity.length import Unit

_UNDERCUT = re.compile(r"(?:(?P<form>[A-Ha-h])\s+)?(?P<radius>[0-9.]\S*)\s*x\s*(?P<depth>[0-9.]\S*)")


@dataclass(frozen=True, kw_only=True)
class _Undercut(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Its form, its radius and its depth are one."""
        return [WrittenFeature(self.name, line.rest)]

    def required(self, text: str, unit: Unit, held: HeldTo) -> Requirement:
        """No size that is read: radius and depth as they are written."""
        match = _UNDERCUT.fullmatch(text)
        if match is None:
            raise UnreadableLength(
                f"“{text[:40]}” is not understood as an undercut.",
                "Write it like undercut F 0.6 x 0.3 at 28.",
                value=text,
            )
        radius, depth = (plain_length(match[part], unit) for part in ("radius", "depth"))
        form = f"form {match['form'].upper()}, " if match["form"] else ""
        return Requirement(
            None, None, None, "line", "DIN 509:2006 (forms; recalled)", said=f"{form}radius {radius}, {depth} deep"
        )


KIND = _Undercut(
    name="undercut",
    title="undercut",
    words=("undercut",),
    material_side="two_sided",
    family="seen",
    measured_with="the eye and a radius gauge",
    cut_as="undercut",
    example="F 0.6 x 0.3",
    places=("all round",),
)
