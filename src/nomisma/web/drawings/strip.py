"""The live strip: readings in the order they were taken, between the limits, metal to go at the top."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from markupsafe import Markup

from nomisma.core.measuring.verdict import FeatureKind, State
from nomisma.core.quantity.display import show, show_exact
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.marks import shape
from nomisma.web.drawings.svg import Axis, along, both_units, figure, join, label, line, node

WIDTH, HEIGHT = 420, 290
LEFT, RIGHT, TOP, BOTTOM = 106, 412, 30, 256
SHOWN = 18


@dataclass(frozen=True, slots=True)
class StripMark:
    """One reading: its size and its worth (mm, k = 2), its state, and where it was taken."""

    size_mm: Decimal
    uncertainty_mm: Decimal
    state: State
    place: str


def strip(
    kind: FeatureKind, lower_mm: Decimal, upper_mm: Decimal, aim_mm: Decimal, marks: Sequence[StripMark], unit: Unit
) -> Markup:
    """Draw it. A reading far outside stands at the edge with an arrow, so that the limits stay readable."""
    return _strip(kind, lower_mm, upper_mm, aim_mm, tuple(marks), unit)


@lru_cache(maxsize=256)  # the same readings are looked at again and again, by several pages
def _strip(
    kind: FeatureKind, lower_mm: Decimal, upper_mm: Decimal, aim_mm: Decimal, marks: tuple[StripMark, ...], unit: Unit
) -> Markup:
    reach = (upper_mm - lower_mm) * Decimal("1.1")
    low, high = lower_mm - reach, upper_mm + reach
    metal_end, gone_end = (high, low) if kind == "shaft" else (low, high)

    def y(size_mm: Decimal) -> float:
        return along(min(max(size_mm, low), high), metal_end, gone_end, TOP, BOTTOM)

    return figure(
        WIDTH, HEIGHT, f"Readings of the {kind} between its limits", _in_words(lower_mm, upper_mm, marks, unit),
        _field(y, lower_mm, upper_mm, aim_mm), *_readings(y, marks[-SHOWN:], low, high), class_="strip",
    )  # fmt: skip


def _field(y: Axis, lower_mm: Decimal, upper_mm: Decimal, aim_mm: Decimal) -> Markup:
    top, bottom = sorted((y(lower_mm), y(upper_mm)))
    ends = [
        join(
            line(LEFT, y(mm), RIGHT, y(mm), "limit-line"),
            both_units(LEFT - 8, y(mm) + 4, _digits(mm, "in"), _digits(mm, "mm"), "scale", "end"),
        )
        for mm in (lower_mm, upper_mm)
    ]
    return join(
        node("rect", x=LEFT, y=float(top), width=RIGHT - LEFT, height=float(bottom - top), class_="band"),
        *ends,
        line(LEFT, y(aim_mm), RIGHT, y(aim_mm), "aim-line"),
        both_units(LEFT - 8, y(aim_mm) + 4, f"aim {_digits(aim_mm, 'in')}", f"aim {_digits(aim_mm, 'mm')}", "scale aim", "end"),
        label(RIGHT, TOP - 12, "metal to go", "side", "end"),
        label(RIGHT, BOTTOM + 22, "gone too far", "side", "end"),
        label(LEFT, BOTTOM + 22, "first reading → newest", "side", "start"),
    )  # fmt: skip


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


def _in_words(lower_mm: Decimal, upper_mm: Decimal, marks: Sequence[StripMark], unit: Unit) -> str:
    limits = f"Limits {show_exact(lower_mm, unit)} to {show_exact(upper_mm, unit)}. "
    if not marks:
        return f"{limits}No readings yet."
    newest = marks[-1]
    counted = ", ".join(f"{sum(m.state is s for m in marks)} {s.words}" for s in State if any(m.state is s for m in marks))
    return f"{limits}{len(marks)} readings: {counted}. Newest {show(newest.size_mm, unit)}, {newest.state.words}."
