"""What takes the last of it where whole lines are too much: half lines, the same dial again, the compound set over,
stone or cloth.
"""

from decimal import Decimal
from math import asin, degrees

from nomisma.core.part.feature_kinds import KindName
from nomisma.core.part.member import member_of, of_member
from nomisma.core.quantity.display import show, show_small
from nomisma.core.quantity.length import Length, Unit

SET_OVER = Decimal(10)
"""How many times finer a compound's line is made by setting it over. Source: common practice, no source."""
SET_OVER_DEG = round(degrees(asin(1 / float(SET_OVER))), 1)
"""The compound's angle from the lathe's axis that makes a line a tenth: asin(1/10). Source: geometry."""


def compound_words(compound_line: Length | None, unit: Unit) -> str:
    """The compound set over so that one of its lines becomes a tenth, with what that takes off the diameter.

    Source: geometry: along a slide at φ to the axis the tool comes in by sin φ of its travel; twice that is off the
    diameter.

    >>> compound_words(Length.of("0.001", "in"), "in")[-67:]
    'one of its lines (0.0010 in) then takes 0.20 thou off the diameter.'
    """
    first = f"Or set the compound over to {SET_OVER_DEG}° from the lathe’s axis"
    if compound_line is None:
        return (
            f"{first}, its backlash taken up: one of its lines then moves the tool in by a tenth of itself, a fifth on"
            " diameter."
        )
    fine = show_small(2 * compound_line.mm / SET_OVER, unit)
    return (
        f"{first}, its backlash taken up: one of its lines ({show(compound_line.mm, unit)}) then takes {fine} off the"
        " diameter."
    )


def rest_words(
    *, kind: KindName, between_lines: Decimal | None, compound_line: Length | None, unit: Unit, cloth: bool
) -> str:
    """What a machinist would do with what is left, in order. Source: common practice, no source.

    >>> rest_words(kind="shaft", between_lines=None, compound_line=None, unit="mm", cloth=True)[-54:]
    'one, emery or cloth, a touch at a time, measured cool.'
    """
    found = []
    if between_lines is not None:
        lines = f"{between_lines.normalize():f}"
        parts = "half" if between_lines % Decimal("0.5") == 0 else "quarter"
        said = f"{lines} of a line" if between_lines < 1 else f"{lines} lines"
        found.append(
            f"If this dial can be set between its lines, {said} is safe and cuts cleanly: choose {parts} lines under"
            " “How it is cut”."
        )
    found.append("Take the same dial again and see what comes off.")
    found.append(compound_words(compound_line, unit))
    if cloth:
        found.append("Or stone, emery or cloth, a touch at a time, measured cool.")
    elif member := member_of(kind):
        hone = "A stone or cloth is no tool for a bore’s size: hone it, or ream it if the reamer is at hand."
        found.extend(of_member(member, shaft=[], bore=[hone]))
    return " ".join(found)
