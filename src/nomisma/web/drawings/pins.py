"""A tooth space with its pin, from the flanks that were computed: where it touches, the pitch line, the tips."""

from math import asin

from markupsafe import Markup

from nomisma.core.quantity.length import Unit
from nomisma.core.truing.over_pins import OverPinsResult
from nomisma.web.drawings.chart import size_label, words
from nomisma.web.drawings.svg import figure, line, node

WIDTH, HEIGHT = 460, 340


def over_pins_picture(result: OverPinsResult, _: Unit) -> Markup:
    """One space upright, its pin in it."""
    ys = [point.y_mm for point in result.flank]
    pin = float(result.pin.mm) / 2
    low, high = min(*ys, result.pin_centre_radius_mm - pin), max(*ys, result.pin_centre_radius_mm + pin)
    scale = 230 / (high - low)

    def at(x_mm: float, y_mm: float) -> tuple[float, float]:
        return 200 + x_mm * scale, 280 - (y_mm - low) * scale

    right = [at(point.x_mm, point.y_mm) for point in result.flank]
    left = [at(-point.x_mm, point.y_mm) for point in result.flank]
    ends = (20.0, 380.0)
    if result.internal:  # metal outside: the space opens inwards
        outline = [
            (ends[0], left[0][1]),
            *left,
            *reversed(right),
            (ends[1], right[0][1]),
            (ends[1], 20.0),
            (ends[0], 20.0),
        ]
    else:
        outline = [
            (ends[0], left[-1][1]),
            *reversed(left),
            *right,
            (ends[1], right[-1][1]),
            (ends[1], 300.0),
            (ends[0], 300.0),
        ]
    path = " ".join(f"{'L' if i else 'M'} {x:.1f} {y:.1f}" for i, (x, y) in enumerate(outline)) + " Z"
    pitch = at(0, float(result.pitch_diameter.mm) / 2)[1]
    x, y = at(0, result.pin_centre_radius_mm)
    where = "between the pins" if result.internal else "over the pins"
    shapes = [
        node("path", d=path, class_="cut"),
        line(10, pitch, 390, pitch, "aim-line"),
        words(394, pitch + 4, "pitch", "side aim", "start"),
        node("circle", cx=x, cy=y, r=pin * scale, class_="bush-ring pin"),
        line(x - 6, y, x + 6, y, "centre-line"),
        size_label(200, HEIGHT - 12, result.over_pins.mm, "scale", "middle", f"{where} "),
    ]
    lean = asin(min(float(result.pin.mm) / max(result.pin_centre_radius_mm * 2, 1e-9), 1.0))
    description = f"{result.sentence} The pin takes up {lean * 57.3:.1f} degrees seen from the gear's centre."
    return figure(WIDTH, HEIGHT, "A pin in its tooth space, drawn to scale", description, *shapes, class_="pins")
