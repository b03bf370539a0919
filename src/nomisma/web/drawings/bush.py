"""The bush in section under pressure, with every number of the worksheet on it."""

from decimal import Decimal

from markupsafe import Markup

from nomisma.core.joints.bush_model import BushResult
from nomisma.core.quantity.display import show_exact, show_forces, show_stress
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import arrow, hatched, in_units, rect, size_label, small_range, words
from nomisma.web.drawings.svg import figure, join, line

WIDTH, HEIGHT = 640, 430
LEFT, RIGHT, MIDDLE = 150.0, 410.0, 200.0
SHAFT, BORE, OUTSIDE, HOUSING = 44.0, 58.0, 104.0, 160.0  # half heights on paper


def bush_picture(result: BushResult, unit: Unit) -> Markup:
    """Housing cut, bush in brass, shaft through it; outside and bore at the left, clearances and close-in at
    the right.
    """
    start = LEFT - 20 if result.flange else LEFT
    low, high = result.pressure_mpa
    yields = ", it yields" if result.bush_yields else ""
    middle = (LEFT + RIGHT) / 2
    shapes = [
        hatched(LEFT - 20, MIDDLE - HOUSING, RIGHT - LEFT + 40, HOUSING - OUTSIDE),
        hatched(LEFT - 20, MIDDLE + OUTSIDE, RIGHT - LEFT + 40, HOUSING - OUTSIDE),
        rect(start, MIDDLE - OUTSIDE, RIGHT - start, OUTSIDE - BORE, "bush-ring"),
        rect(start, MIDDLE + BORE, RIGHT - start, OUTSIDE - BORE, "bush-ring"),
        rect(LEFT - 60, MIDDLE - SHAFT, RIGHT - LEFT + 120, 2 * SHAFT, "part"),
        line(LEFT - 80, MIDDLE, RIGHT + 90, MIDDLE, "centre-line"),
        *_pressing(),
        *_left(result),
        *_right(result),
        words(middle, MIDDLE - HOUSING - 12, f"housing, {result.housing_use_percent:.0f} % of its strength", "scale"),
        in_units(
            middle,
            MIDDLE - (OUTSIDE + BORE) / 2 + 5,
            lambda unit: f"{show_stress(low, unit).split()[0]} to {show_stress(high, unit)}{yields}",
            "scale on-bush",
        ),
        words(middle, MIDDLE + 5, "shaft", "scale on-part"),
        words(middle, HEIGHT - 10, "gaps and walls not to scale", "side"),
    ]
    if result.flange:
        shapes.append(rect(LEFT - 34, MIDDLE - OUTSIDE - 26, 14, OUTSIDE - BORE + 26, "bush-ring"))
        shapes.append(rect(LEFT - 34, MIDDLE + BORE, 14, OUTSIDE - BORE + 26, "bush-ring"))
    return figure(
        WIDTH,
        HEIGHT,
        "The bush in section, pressed into its housing",
        _told(result, unit),
        join(*shapes),
        class_="bush",
    )


def _pressing() -> list[Markup]:
    """Arrows of the housing's pressure on the bush."""
    return [
        arrow(x, MIDDLE + side * (OUTSIDE + 16), MIDDLE + side * (OUTSIDE - 2))
        for x in range(int(LEFT) + 20, int(RIGHT), 40)
        for side in (-1, 1)
    ]


def _sizes(y: float, title: str, low: Decimal, high: Decimal, reach: float, bold: bool = False) -> list[Markup]:
    """Two limits at the left, with a dimension line to the surface they belong to."""
    class_ = "scale aim" if bold else "scale"
    return [
        words(4, y - 14, title, "side", "start"),
        size_label(4, y + 2, high, class_, "start"),
        size_label(4, y + 18, low, class_, "start"),
        line(100, y, LEFT - 4, MIDDLE - reach, "whisker"),
    ]


def _left(result: BushResult) -> list[Markup]:
    after = result.bore_after
    shapes = _sizes(
        MIDDLE - OUTSIDE - 10, "outside", result.outside.lower.mm, result.outside.upper.mm, OUTSIDE, bold=True
    )
    if result.bore_before:
        before = result.bore_before
        shapes += [
            words(4, MIDDLE - 56, "bore before", "side", "start"),
            size_label(4, MIDDLE - 40, before.upper.mm, "scale", "start"),
            size_label(4, MIDDLE - 24, before.lower.mm, "scale", "start"),
        ]
    else:
        shapes += [
            words(4, MIDDLE - 48, "bore before:", "side", "start"),
            words(4, MIDDLE - 32, "undersize", "scale", "start"),
        ]
    shapes += [
        words(4, MIDDLE + 46, "bore after", "side", "start"),
        size_label(4, MIDDLE + 62, after.upper.mm, "scale aim", "start"),
        size_label(4, MIDDLE + 78, after.lower.mm, "scale aim", "start"),
        line(100, MIDDLE + 60, LEFT - 4, MIDDLE + BORE, "whisker"),
    ]
    return shapes


def _right(result: BushResult) -> list[Markup]:
    x = RIGHT + 62
    rows = [
        (MIDDLE - OUTSIDE - 26, "interference", result.interference.least.mm, result.interference.greatest.mm, OUTSIDE),
        (MIDDLE - 62, "closes in by", result.close_in.least.mm, result.close_in.greatest.mm, BORE),
        (
            MIDDLE + 70,
            "runs with, 20 °C",
            result.clearance_cold.least.mm,
            result.clearance_cold.greatest.mm,
            -SHAFT - 7,
        ),
    ]
    shapes = []
    for y, title, low, high, reach in rows:
        shapes += [
            words(x, y, title, "side", "start"),
            small_range(x, y + 17, low, high, "scale", "start"),
            line(x - 6, y + 6, RIGHT + 2, MIDDLE - reach, "whisker"),
        ]
    warm = f"runs with, {result.working_c:.0f} °C".replace("-", "−")
    shapes += [
        words(x, MIDDLE + 112, warm, "side", "start"),
        small_range(
            x, MIDDLE + 129, result.clearance_warm.least.mm, result.clearance_warm.greatest.mm, "scale", "start"
        ),
    ]
    force = result.press_force_n
    shapes += [
        words(x, MIDDLE + 165, "to press it", "side", "start"),
        in_units(x, MIDDLE + 182, lambda unit: show_forces(force[0], force[1], unit), "scale", "start"),
    ]
    return shapes


def _told(result: BushResult, unit: Unit) -> str:
    after = f"{show_exact(result.bore_after.lower.mm, unit)} to {show_exact(result.bore_after.upper.mm, unit)}"
    outside = f"{show_exact(result.outside.lower.mm, unit)} to {show_exact(result.outside.upper.mm, unit)}"
    return f"{result.sentence} Outside {outside}. Bore after pressing {after}."
