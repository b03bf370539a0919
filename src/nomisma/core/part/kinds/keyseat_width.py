"""A keyseat by its width; its depth and its length stand right behind it; milled elsewhere."""

import re
from dataclasses import dataclass, replace

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.said_feature import SaidFeature, duty_words
from nomisma.core.part.written import BY, ENDS, WrittenFeature, WrittenLine

DEPTH, LENGTH = "keyseat_depth", "keyseat_length"


@dataclass(frozen=True, kw_only=True)
class _KeyseatWidth(FeatureKind):
    def read(self, line: WrittenLine) -> list[WrittenFeature]:
        """Width, depth and, where it is said, length: up to three features."""
        rest, *within = _WITHIN.split(line.rest)
        sizes = [ENDS.sub("", part) for part in BY.split(rest)]
        if line.word not in _WHOLE:
            return super().read(line)
        if len(sizes) > 3 or not all(sizes):
            raise UnreadableLength(
                f"“{line.text[:40]}” is not understood as a keyseat.",
                "Write it like keyway 8 P9 x 4 +0.2/0 x 32 on A.",
                value=line.text,
            )
        found = [WrittenFeature(kind, size) for kind, size in zip((self.name, DEPTH, LENGTH), sizes, strict=False)]
        return [replace(found[0], on_size=within[0]), *found[1:]] if within else found

    def said(self, one: SaidFeature, waiting: list[SaidFeature]) -> str:
        """One line with its depth and its length, where they stand right behind it."""
        if not waiting or waiting[0].kind != DEPTH:
            return super().said(one, waiting)
        sizes = [one.text, waiting.pop(0).text]
        if waiting and waiting[0].kind == LENGTH:
            sizes.append(waiting.pop(0).text)
        place = f" {one.along.words}" if one.along.is_said else ""
        return f"keyway {' x '.join(sizes)}{place}{duty_words(one)}"


_WITHIN = re.compile(r"\s+in\s+(?:the\s+)?(?=[0-9.])")
_WHOLE = ("keyway", "keyseat")
KIND = _KeyseatWidth(
    name="keyseat_width",
    title="keyseat width",
    words=("keyseat-width", *_WHOLE),
    classed_as="bore",
    material_side="internal",
    measured_with="caliper or slips",
    instruments=("bore", "both", "length"),
    usual=("slip_gauges", "caliper"),
    cut_as="elsewhere",
    places=("near end", "far end"),
)
