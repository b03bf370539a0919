"""The four verdict marks: shape, word and colour together, never colour alone."""

from functools import cache

from markupsafe import Markup

from nomisma.core.part.feature import State
from nomisma.web.drawings.svg import join, line, node


def shape(state: State, x: float, y: float, radius: float) -> Markup:
    """A mark at a place in a figure.

    In limits: a filled disc. Metal to go: a ring with an inward tick. Too close to call: a half disc.
    Gone too far: a crossed disc.
    """
    ring = node("circle", cx=float(x), cy=float(y), r=float(radius * 0.86), class_="mark-ring")
    if state is State.IN_LIMITS:
        drawn = node("circle", cx=float(x), cy=float(y), r=float(radius), class_="mark-disc")
    elif state is State.METAL_TO_GO:
        drawn = join(ring, line(x, y - radius, x, y + radius * 0.1, "mark-stroke"))
    elif state is State.TOO_CLOSE_TO_CALL:
        half = f"M {x:.2f} {y - radius:.2f} A {radius:.2f} {radius:.2f} 0 0 0 {x:.2f} {y + radius:.2f} Z"
        drawn = join(ring, node("path", d=half, class_="mark-disc"))
    else:
        reach = radius * 0.62
        drawn = join(
            ring,
            line(x - reach, y - reach, x + reach, y + reach, "mark-stroke"),
            line(x - reach, y + reach, x + reach, y - reach, "mark-stroke"),
        )
    return node("g", drawn, class_=f"mark mark-{state.value.replace('_', '-')}")


@cache
def mark(state: State) -> Markup:
    """A mark to stand beside its word in text."""
    return node("svg", shape(state, 12, 12, 10), viewBox="0 0 24 24", class_="mark-icon", aria_hidden="true")
