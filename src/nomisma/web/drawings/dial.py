"""The handwheel: where the dial stands, where to stop, and how many whole turns lie between."""

from decimal import Decimal
from math import cos, pi, sin

from markupsafe import Markup

from nomisma.core.cutting.dial import DialSetting
from nomisma.core.quantity.length import plain
from nomisma.web.drawings.chart import words
from nomisma.web.drawings.svg import figure, label, line, node

SIDE = 300
MIDDLE = SIDE / 2
RADIUS = 118
MOST_TICKS = 100


def wheel_picture(wound: DialSetting) -> Markup:
    """The dial's face with the line to start from and the line to stop at."""
    around = float(wound.lines_a_turn) if wound.lines_a_turn else max(float(wound.lines) * 1.25, 10.0)
    every = next(step for step in (1, 2, 5, 10, 20, 50, 100, 1000) if around / step <= MOST_TICKS)
    ticks = [_tick(n, around, long=n % (10 * every) == 0) for n in range(0, int(around), every)]
    numbers = [label(*_at(n, around, RADIUS - 30), str(n), "scale") for n in range(0, int(around), 10 * every)]
    start, stop = float(wound.from_line), float(wound.to_line)
    shapes = [
        node("circle", cx=float(MIDDLE), cy=float(MIDDLE), r=float(RADIUS + 12), class_="chuck-face"),
        *ticks,
        *numbers,
        _sweep(start, stop, around),
        line(*_at(start, around, RADIUS - 18), *_at(start, around, RADIUS + 12), "dial-start"),
        line(*_at(stop, around, RADIUS - 26), *_at(stop, around, RADIUS + 24), "needle"),
        words(MIDDLE, MIDDLE - 6, _turns(wound.turns), "column-title chosen" if wound.turns else "side"),
        words(MIDDLE, MIDDLE + 18, f"stop at {_short(wound.to_line)}", "column-title chosen"),
    ]
    return figure(SIDE, SIDE, "The handwheel: where to stop", wound.words, *shapes, class_="dial")


def _short(value: Decimal) -> str:
    return plain(value.quantize(Decimal("0.1"))).removesuffix(".0")


def _turns(turns: int) -> str:
    return f"{turns} turn{'s' if turns != 1 else ''} and on" if turns else "in this turn"


def _at(lines: float, around: float, radius: float) -> tuple[float, float]:
    angle = 2 * pi * lines / around
    return MIDDLE + radius * sin(angle), MIDDLE - radius * cos(angle)


def _tick(n: int, around: float, *, long: bool) -> Markup:
    inner = RADIUS - (16 if long else 8)
    return line(*_at(n, around, RADIUS), *_at(n, around, inner), "tick-line strong" if long else "tick-line")


def _sweep(start: float, stop: float, around: float) -> Markup:
    """The way the dial goes, in the direction of the cut."""
    share = (stop - start) % around / around
    x1, y1 = _at(start, around, RADIUS + 6)
    x2, y2 = _at(stop, around, RADIUS + 6)
    large = 1 if share > 0.5 else 0
    path = f"M {x1:.1f} {y1:.1f} A {RADIUS + 6} {RADIUS + 6} 0 {large} 1 {x2:.1f} {y2:.1f}"
    return node("path", d=path, class_="dial-sweep")
