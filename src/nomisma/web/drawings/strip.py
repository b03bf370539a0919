"""The live strip: readings in the order they were taken, between the limits, metal to go at the top."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from markupsafe import Markup

from nomisma.core.part.feature import Feature, State, toward_metal
from nomisma.core.part.limits_words import limits_words
from nomisma.core.quantity.display import show, show_exact
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.marks import shape
from nomisma.web.drawings.svg import Axis, along, both_units, figure, join, label, line, node

WIDTH, HEIGHT = 420, 314
LEFT, RIGHT, TOP, BOTTOM = 106, 412, 46, 266
ABOVE, BELOW = 14, 304
"""Where the sides are named: beyond a reading at the edge with its arrow."""
SHOWN = 18


@dataclass(frozen=True, slots=True)
class StripMark:
    """One reading: its size and its worth (mm, k = 2), its state, and where it was taken."""

    size_mm: Decimal
    uncertainty_mm: Decimal
    state: State
    place: str


def strip(feature: Feature, marks: Sequence[StripMark], unit: Unit) -> Markup:
    """Draw it. A reading far outside stands at the edge with an arrow, so that the limits stay readable.

    With one limit only, the field is as wide as what the readings are worth asks for.
    """
    return _strip(feature, tuple(marks), unit)


@lru_cache(maxsize=256)  # the same readings are looked at again and again, by several pages
def _strip(feature: Feature, marks: tuple[StripMark, ...], unit: Unit) -> Markup:
    low, high = _ends(feature, marks)
    top, bottom = (low, high) if toward_metal(feature.side) == -1 else (high, low)

    def y(size_mm: Decimal) -> float:
        return along(min(max(size_mm, low), high), top, bottom, TOP, BOTTOM)

    return figure(
        WIDTH,
        HEIGHT,
        f"Readings of the {feature.title} between its limits",
        _in_words(feature, marks, unit),
        _field(y, feature, low, high),
        *_readings(y, marks[-SHOWN:], low, high),
        class_="strip",
    )


def _ends(feature: Feature, marks: Sequence[StripMark]) -> tuple[Decimal, Decimal]:
    """The smallest and the largest size (mm) the strip shows."""
    limits = [limit for limit in (feature.lower_mm, feature.upper_mm) if limit is not None]
    between = max(limits) - min(limits)
    if not between:
        sizes = [*limits, *(mark.size_mm for mark in marks)]
        widest = max((mark.uncertainty_mm for mark in marks), default=Decimal("0.01"))
        between = max(max(sizes) - min(sizes), 4 * widest)
    reach = between * Decimal("1.1")
    return min(limits) - reach, max(limits) + reach


def _field(y: Axis, feature: Feature, low: Decimal, high: Decimal) -> Markup:
    limits = [limit for limit in (feature.lower_mm, feature.upper_mm) if limit is not None]
    lower = low if feature.lower_mm is None else feature.lower_mm
    upper = high if feature.upper_mm is None else feature.upper_mm
    top, bottom = sorted((y(lower), y(upper)))
    ends = [
        join(
            line(LEFT, y(mm), RIGHT, y(mm), "limit-line"),
            both_units(LEFT - 8, y(mm) + 4, _digits(mm, "in"), _digits(mm, "mm"), "scale", "end"),
        )
        for mm in limits
    ]
    aim_mm = feature.target_mm if len(limits) > 1 or feature.aim_mm is not None else None
    safe = toward_metal(feature.side) != 0
    return join(
        node("rect", x=LEFT, y=float(top), width=RIGHT - LEFT, height=float(bottom - top), class_="band"),
        *ends,
        _aim(y, aim_mm),
        label(RIGHT, ABOVE, "metal to go" if safe else "over: out", "side", "end"),
        label(
            RIGHT, BELOW, "gone too far" if safe else "" if feature.lower_mm is None else "under: out", "side", "end"
        ),
        label(LEFT, BELOW, "first reading → newest", "side", "start"),
    )


def _aim(y: Axis, aim_mm: Decimal | None) -> Markup:
    if aim_mm is None:
        return join()
    return join(
        line(LEFT, y(aim_mm), RIGHT, y(aim_mm), "aim-line"),
        both_units(
            LEFT - 8, y(aim_mm) + 4, f"aim {_digits(aim_mm, 'in')}", f"aim {_digits(aim_mm, 'mm')}", "scale aim", "end"
        ),
    )


def _digits(mm: Decimal, unit: Unit) -> str:
    return show_exact(mm, unit).rsplit(" ", 1)[0]


def _readings(y: Axis, marks: Sequence[StripMark], low: Decimal, high: Decimal) -> list[Markup]:
    step = min((RIGHT - LEFT - 30) / max(len(marks) - 1, 1), 44)
    drawn = []
    for index, mark in enumerate(marks):
        x = LEFT + 18 + index * step
        outside = not low <= mark.size_mm <= high
        ends = [y(mark.size_mm - mark.uncertainty_mm), y(mark.size_mm + mark.uncertainty_mm)]
        whisker = join() if outside else line(x, ends[0], x, ends[1], "whisker")
        arrow = join()
        if outside:
            at = y(mark.size_mm)
            tip = -14 if at < (TOP + BOTTOM) / 2 else 14
            arrow = node(
                "path",
                d=f"M {x - 6:.1f} {at + tip * 0.6:.1f} L {x:.1f} {at + tip:.1f} L {x + 6:.1f} {at + tip * 0.6:.1f}",
                class_="off-scale",
            )
        newest = " newest" if index == len(marks) - 1 else ""
        drawn.append(
            node(
                "g",
                join(whisker, shape(mark.state, x, y(mark.size_mm), 9 if newest else 7), arrow),
                class_=f"reading{newest}",
            )
        )
    return drawn


def _in_words(feature: Feature, marks: Sequence[StripMark], unit: Unit) -> str:
    limits = f"Limits {limits_words(feature, unit)}. "
    if not marks:
        return f"{limits}No readings yet."
    newest = marks[-1]
    counted = ", ".join(
        f"{sum(m.state is s for m in marks)} {s.words}" for s in State if any(m.state is s for m in marks)
    )
    return f"{limits}{len(marks)} readings: {counted}. Newest {show(newest.size_mm, unit)}, {newest.state.words}."
