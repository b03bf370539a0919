"""Where to aim: the limits, the spread of the cuts about the best aim, and the cost of aiming elsewhere."""

from math import exp

from markupsafe import Markup

from nomisma.core.fits.costed_aim import AimResult
from nomisma.core.part.feature import cut_direction
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import Frame, Point, rect, size_label, words
from nomisma.web.drawings.svg import figure, join, line

WIDTH, HEIGHT = 560, 420
LEFT, RIGHT = 30, 540
BELL_TOP, BELL_BOTTOM, COST_TOP, COST_BOTTOM = 84, 210, 256, 360
WORDS = {"middle": "middle", "metal_safe": "metal-safe", "costed": "least cost"}


def aim_picture(result: AimResult, unit: Unit) -> Markup:
    """Limits, the aims, the bell of sizes about the last aim, and under it the cost of each aim."""
    low, high = float(result.lower.mm), float(result.upper.mm)
    reach = (high - low) * 0.3
    bell = Frame(low - reach, high + reach, 0, 1.12, LEFT, RIGHT, BELL_TOP, BELL_BOTTOM)
    metal_right = cut_direction(result.kind) == 1
    shapes = [
        rect(bell.x(low), BELL_TOP, bell.x(high) - bell.x(low), BELL_BOTTOM - BELL_TOP, "band"),
        bell.upright(low, "limit-line"),
        bell.upright(high, "limit-line"),
        size_label(bell.x(low), BELL_BOTTOM + 18, result.lower.mm),
        size_label(bell.x(high), BELL_BOTTOM + 18, result.upper.mm),
        words(RIGHT if metal_right else LEFT, 22, "metal to go", "safe", "end" if metal_right else "start"),
        words(LEFT if metal_right else RIGHT, 22, "gone too far", "side", "start" if metal_right else "end"),
    ]
    if result.spread:
        shapes += _bell(bell, result)
    for index, one in enumerate(result.aims):
        at = float(one.aim.mm)
        last = one is result.aims[-1]
        shapes.append(line(bell.x(at), BELL_TOP - 8, bell.x(at), BELL_BOTTOM, "aim-line" if last else "whisker"))
        shapes.append(words(bell.x(at), BELL_TOP - 12 - 15 * index, WORDS[one.method], "scale aim" if last else "side"))
    if result.curve:
        shapes += _cost(result, low, high, reach)
    told = " ".join(f"{WORDS[one.method]}: {show_exact(one.aim.mm, unit)}." for one in result.aims)
    height = HEIGHT if result.curve else 240
    return figure(
        WIDTH,
        height,
        f"Where to aim on a {result.kind}",
        f"{result.sentence} {told}",
        join(*shapes),
        class_="aim-picture",
    )


def _bell(frame: Frame, result: AimResult) -> list[Markup]:
    assert result.spread is not None
    middle, spread = float(result.aims[-1].aim.mm), float(result.spread.mm)
    low, high = float(result.lower.mm), float(result.upper.mm)
    xs = [frame.x_from + (frame.x_to - frame.x_from) * step / 120 for step in range(121)]
    points: list[Point] = [(x, exp(-(((x - middle) / spread) ** 2) / 2)) for x in xs]

    def part(inside: list[Point], class_: str) -> Markup:
        return frame.area(inside, [(x, 0.0) for x, _ in inside], class_)

    return [
        part(points, "curve-area"),
        part([p for p in points if p[0] <= low], "curve-area out"),
        part([p for p in points if p[0] >= high], "curve-area out"),
        frame.path(points, "curve"),
    ]


def _cost(result: AimResult, low: float, high: float, reach: float) -> list[Markup]:
    top = 2.5 * max(one.expected_cost or 0.0 for one in result.aims) or 1.0
    frame = Frame(low - reach, high + reach, 0, top * 1.08, LEFT, RIGHT, COST_TOP, COST_BOTTOM)
    points = [(point.aim_mm, point.expected_cost) for point in result.curve if point.expected_cost <= top * 1.08]
    shapes = [
        line(LEFT, COST_BOTTOM, RIGHT, COST_BOTTOM, "zero-line"),
        frame.path(points, "curve strong"),
        words(LEFT, COST_TOP - 6, "expected cost of a piece, by where you aim", "side", "start"),
    ]
    for index, one in enumerate(result.aims):
        assert one.expected_cost is not None
        x, y = frame.x(float(one.aim.mm)), frame.y(one.expected_cost)
        last = one is result.aims[-1]
        shapes.append(line(x, y, x, COST_BOTTOM, "aim-line" if last else "whisker"))
        shapes.append(
            words(x, COST_BOTTOM + 17 + 16 * index, f"{one.expected_cost:.3g}", "scale aim" if last else "scale")
        )
    return shapes
