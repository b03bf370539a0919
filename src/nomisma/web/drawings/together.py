"""Will it go together: how often each clearance comes, and which pairs interfere."""

from markupsafe import Markup

from nomisma.core.fits.together import TogetherResult
from nomisma.core.quantity.display import show_small
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import Frame, Point, rect, small_label, words
from nomisma.web.drawings.svg import figure, join, line

WIDTH, HEIGHT = 560, 290
LEFT, RIGHT, TOP, BOTTOM = 30, 540, 44, 210


def together_picture(result: TogetherResult, unit: Unit) -> Markup:
    """The likelihood of each clearance; interference crossed out in vermilion, the window wanted as a band."""
    ends = [
        float(result.clearance_min.mm),
        float(result.clearance_max.mm),
        0.0,
        *(p.clearance_mm for p in result.curve),
    ]
    room = (max(ends) - min(ends)) * 0.05 or 0.001
    frame = Frame(min(ends) - room, max(ends) + room, 0, 1.1, LEFT, RIGHT, TOP, BOTTOM)
    points: list[Point] = [(point.clearance_mm, point.density) for point in result.curve]
    tight: list[Point] = [point for point in points if point[0] <= 0]
    shapes = []
    if result.wanted_min and result.wanted_max:
        x1, x2 = frame.x(float(result.wanted_min.mm)), frame.x(float(result.wanted_max.mm))
        shapes += [rect(x1, TOP, x2 - x1, BOTTOM - TOP, "band"), words((x1 + x2) / 2, TOP - 8, "wanted", "side")]
    shapes += [
        frame.area(points, [(x, 0.0) for x, _ in points], "curve-area"),
        frame.area(tight, [(x, 0.0) for x, _ in tight], "curve-area out"),
        frame.path(points, "curve strong"),
        line(LEFT, BOTTOM, RIGHT, BOTTOM, "whisker"),
        frame.upright(0, "zero-line"),
        words(frame.x(0), TOP - 8 if not result.wanted_min else TOP - 24, "size to size", "scale zero"),
    ]
    for mm, word, row in (
        (result.clearance_min.mm, "worst case", 0),
        (result.clearance_max.mm, "worst case", 0),
        (result.mean.mm, "mean", 1),
    ):
        x = frame.x(float(mm))
        anchor = "start" if x < LEFT + 60 else "end" if x > RIGHT - 60 else "middle"
        shapes.append(line(x, BOTTOM - 6, x, BOTTOM + 6, "limit-line"))
        shapes.append(small_label(x, BOTTOM + 22 + row * 34, mm, "scale", anchor, signed=True))
        shapes.append(words(x, BOTTOM + 37 + row * 34, word, "side", anchor))
    told = (
        f"Worst case {show_small(result.clearance_min.mm, unit, signed=True)} to"
        f" {show_small(result.clearance_max.mm, unit, signed=True)}."
    )
    return figure(
        WIDTH, HEIGHT, "How often each clearance comes", f"{result.sentence} {told}", join(*shapes), class_="together"
    )
