"""Soft jaws from the front: three arcs, the work in them, the preload behind."""

from math import cos, radians, sin

from markupsafe import Markup

from nomisma.core.quantity.length import Unit
from nomisma.core.truing.soft_jaws import SoftJawsResult
from nomisma.web.drawings.chart import size_label, words
from nomisma.web.drawings.svg import figure, node

WIDTH, HEIGHT = 460, 300
X, Y, WORK, OUTER = 190, 150, 82, 138
GAP_DEG = 13
"""Half the gap between two jaws, degrees."""


def soft_jaws_picture(result: SoftJawsResult, _: Unit) -> Markup:
    """The arc that is cut, with its limits; round the work, or inside its bore."""
    outside = "Bore" in result.headline
    inner, outer = (WORK, OUTER) if outside else (26, WORK)
    jaws = [_jaw(120 * n - 90 - 60 + GAP_DEG, 120 * n - 90 + 60 - GAP_DEG, inner, outer) for n in range(3)]
    ring = node("circle", cx=float(X), cy=float(Y), r=float(46 if outside else 112), class_="preload-ring")
    shapes = [
        *jaws,
        node("circle", cx=float(X), cy=float(Y), r=float(WORK), class_="work-round"),
        ring,
        words(X, Y + 5 if outside else Y - 96, "preload", "side"),
        words(348, 60, "cut to", "side", "start"),
        size_label(348, 82, result.lower.mm, "scale", "start"),
        size_label(348, 102, result.upper.mm, "scale", "start"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "Soft jaws and the round they hold",
        f"{result.headline}. {result.sentence}",
        *shapes,
        class_="jaws-picture",
    )


def _jaw(start: float, end: float, inner: float, outer: float) -> Markup:
    def on(radius: float, angle: float) -> str:
        return f"{X + radius * cos(radians(angle)):.1f} {Y + radius * sin(radians(angle)):.1f}"

    path = (
        f"M {on(inner, start)} A {inner} {inner} 0 0 1 {on(inner, end)} L {on(outer, end)} "
        f"A {outer} {outer} 0 0 0 {on(outer, start)} Z"
    )
    return node("path", d=path, class_="cut")
