"""Features back to the lines that say them, so that another part can be begun from them."""

from collections.abc import Sequence

from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.said_feature import SaidFeature


def said_lines(features: Sequence[SaidFeature]) -> list[str]:
    """The lines that say these features, in their order; a groove with its floor and its place is one. Source: common
    practice, no source.

    >>> said_lines([SaidFeature("A", "outside_diameter", "24 h9"), SaidFeature("B", "length", "18 ±0.1")])
    ['od 24 h9 x 18 ±0.1']
    """
    lines: list[str] = []
    waiting = list(features)
    while waiting:
        one = waiting.pop(0)
        lines.append(feature_kind(one.kind).said(one, waiting))
    return lines
