"""The face of the practice indicator: a needle to be read, and how many times it has gone round."""

from decimal import Decimal
from math import cos, pi, sin

from markupsafe import Markup

from nomisma.core.practice.levels import TURN_LINES
from nomisma.core.quantity.display import show
from nomisma.core.quantity.length import in_unit
from nomisma.jobs.holding.truing_state import TruingState
from nomisma.web.drawings.chart import words
from nomisma.web.drawings.svg import figure, label, line, node

SIDE = 300
MIDDLE = SIDE / 2
RADIUS = 128


def needle_picture(view: TruingState, reading_mm: float, place: str) -> Markup:
    """The dial as it stands at a place; the needle is read to a fifth of a line."""
    line_mm = float(view.truing.graduation_mm)
    lines = round(reading_mm / line_mm * 5) / 5
    turns, rest = divmod(lines, TURN_LINES)
    graduation = in_unit(view.truing.graduation_mm, view.unit)
    numbers = [(n, f"{(graduation * n).normalize():f}".lstrip("0") or "0") for n in range(0, TURN_LINES, 10)]
    shapes = [
        node("circle", cx=float(MIDDLE), cy=float(MIDDLE), r=float(RADIUS + 16), class_="chuck-face"),
        *[_tick(n) for n in range(TURN_LINES)],
        *[label(*_at(n, RADIUS - 34), text, "scale") for n, text in numbers],
        words(MIDDLE, MIDDLE + 46, f"one line {show(view.truing.graduation_mm, view.unit)}", "side"),
        words(MIDDLE, MIDDLE - 40, f"turns {int(turns):+d}" if turns else "turns 0", "scale"),
        line(MIDDLE, MIDDLE, *_at(rest, RADIUS - 6), "needle"),
        node("circle", cx=float(MIDDLE), cy=float(MIDDLE), r=6.0, class_="form-dot"),
    ]
    said = show(Decimal(f"{lines * line_mm:.6f}"), view.unit, decimals=5 if view.unit == "in" else 3)
    return figure(SIDE, SIDE, f"The needle at {place}", f"It says {said}.", *shapes, class_="dial")


def _at(lines: float, radius: float) -> tuple[float, float]:
    angle = 2 * pi * lines / TURN_LINES
    return MIDDLE + radius * sin(angle), MIDDLE - radius * cos(angle)


def _tick(n: int) -> Markup:
    inner = RADIUS - (20 if n % 10 == 0 else 14 if n % 5 == 0 else 9)
    return line(*_at(n, RADIUS), *_at(n, inner), "tick-line" if n % 10 else "tick-line strong")
