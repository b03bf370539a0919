"""Clearance over temperature: the band between least and greatest, and where it meets the zero line."""

from markupsafe import Markup

from nomisma.core.joints.expansion import ExpansionResult
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import Frame, small_label, words
from nomisma.web.drawings.svg import figure, join, line

WIDTH, HEIGHT = 560, 330
LEFT, RIGHT, TOP, BOTTOM = 92, 540, 26, 272


def expansion_picture(result: ExpansionResult, _: Unit) -> Markup:
    """The band of clearance; below the zero line it is interference."""
    lows = [(point.temperature_c, point.clearance_min_mm) for point in result.points]
    highs = [(point.temperature_c, point.clearance_max_mm) for point in result.points]
    values = [0.0, *(y for _, y in lows), *(y for _, y in highs)]
    room = (max(values) - min(values)) * 0.08 or 0.001
    frame = Frame(lows[0][0], lows[-1][0], min(values) - room, max(values) + room, LEFT, RIGHT, TOP, BOTTOM)
    shapes = [
        frame.area(highs, lows, "curve-area"),
        frame.path(highs, "curve strong"),
        frame.path(lows, "curve strong"),
        frame.level(0, "zero-line"),
        words(RIGHT, frame.y(0) - 6, "clearance above this line", "scale zero", "end"),
        words(LEFT, BOTTOM + 22, _celsius(lows[0][0]), "scale", "start"),
        words(RIGHT, BOTTOM + 22, _celsius(lows[-1][0]), "scale", "end"),
    ]
    ends = {lows[0][1], highs[0][1]}
    shapes += [small_label(LEFT - 8, frame.y(value) + 4, value, "scale", "end", signed=True) for value in ends]
    if frame.x_from < 20 < frame.x_to:
        shapes += [
            line(frame.x(20), TOP, frame.x(20), BOTTOM, "whisker"),
            words(frame.x(20), BOTTOM + 22, "20 °C", "scale"),
        ]
    for at, word in ((result.binds_at_c, "binds"), (result.loose_at_c, "loose")):
        if at is not None:
            shapes += [
                line(frame.x(at), TOP, frame.x(at), BOTTOM, "aim-line"),
                words(frame.x(at), BOTTOM + 40, f"{word} {_celsius(at)}", "scale aim"),
            ]
    return figure(WIDTH, HEIGHT, "Clearance over temperature", result.sentence, join(*shapes), class_="expansion")


def _celsius(value: float) -> str:
    return f"{value:.0f} °C".replace("-", "−")
