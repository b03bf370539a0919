"""A hub on a shaft: pressed, shrunk or bonded, in section with the numbers on it."""

from markupsafe import Markup

from nomisma.core.joints.compound import CompoundResult
from nomisma.core.joints.interference import InterferenceResult
from nomisma.core.joints.shrink import ShrinkResult
from nomisma.core.quantity.display import show_force, show_stress
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import Frame, arrow, hatched, in_units, rect, small_label, small_range, words
from nomisma.web.drawings.svg import figure, join, line

WIDTH = 560


def press_picture(result: InterferenceResult, _: Unit) -> Markup:
    """The joint in section, pressure and stresses on it, and the force over the stroke beside it."""
    case = next((found for found in reversed(result.cases) if found.pressure_mpa is not None), None)
    shapes = [hatched(20, 50, 240, 58), hatched(20, 192, 240, 58), rect(0, 108, 300, 84, "part")]
    if case and case.pressure_mpa is not None:
        assert case.hub_hoop_mpa is not None
        assert case.shaft_hoop_mpa is not None
        for step in range(9):
            x = 36 + step * 26
            shapes += [arrow(x, 102, 118), arrow(x, 198, 182)]
        hub, shaft, pressure, use = case.hub_hoop_mpa, case.shaft_hoop_mpa, case.pressure_mpa, case.hub_use_percent
        shapes += [
            in_units(140, 40, lambda unit: f"hub {show_stress(hub, unit)}, {use:.0f} % of its strength"),
            in_units(140, 155, lambda unit: f"{show_stress(pressure, unit)} on the joint", "scale on-part"),
            in_units(140, 270, lambda unit: f"shaft {show_stress(shaft, unit)}"),
            words(140, 290, f"at the {case.name} interference", "side"),
        ]
    else:
        shapes.append(words(140, 155, "overstressed", "scale on-part"))
    shapes += _stroke(result)
    return figure(
        WIDTH,
        300,
        "The joint in section, and the force over the stroke",
        result.sentence,
        join(*shapes),
        class_="press",
    )


def _stroke(result: InterferenceResult) -> list[Markup]:
    if not result.stroke:
        return []
    last = result.stroke[-1]
    frame = Frame(0, last.engaged_mm, 0, last.force_n * 1.1, 340, 545, 50, 240)
    points = [(point.engaged_mm, point.force_n) for point in result.stroke]
    return [
        frame.area(points, [(x, 0.0) for x, _ in points], "curve-area"),
        frame.path(points, "curve strong"),
        line(340, 240, 545, 240, "whisker"),
        line(340, 50, 340, 240, "whisker"),
        in_units(540, 44, lambda unit: show_force(last.force_n, unit), "scale aim", "end"),
        words(442, 262, "force rises evenly to the end of the stroke", "side"),
        words(442, 280, "sooner means crooked: stop", "side"),
    ]


def shrink_picture(result: ShrinkResult, _: Unit) -> Markup:
    """Each way's hub and shaft temperatures on one scale, with the hub's limit."""
    high = max(result.hub_limit_c * 1.15, 140.0)
    frame = Frame(-210.0, high, 0, 1, 216, 540, 40, 236)
    limit = frame.x(result.hub_limit_c)
    shapes = [
        line(216, 236, 540, 236, "whisker"),
        line(limit, 36, limit, 236, "limit-line"),
        words(limit, 28, f"hub's limit {result.hub_limit_c:.0f} °C", "scale", "end"),
        *(line(frame.x(at), 40, frame.x(at), 236, "tick-line") for at in (-196.0, -78.0, 20.0)),
        words(frame.x(20), 254, "room", "side"),
        words(frame.x(-78), 254, "dry ice", "side"),
        words(frame.x(-196), 254, "nitrogen", "side"),
    ]
    for row, method in enumerate(result.methods):
        y = 50 + row * 38
        best = method.method == result.recommended
        for part, text in enumerate(method.title.split(", ")):
            shapes.append(words(0, y + 12 + 15 * part, text, "scale aim" if best else "side", "start"))
        if method.possible and method.hub_c is not None and method.shaft_c is not None:
            wide = frame.x(method.hub_c) - frame.x(method.shaft_c)
            shapes.append(rect(frame.x(method.shaft_c), y, wide, 12, "zone chosen" if best else "zone"))
            if method.hub_c > 25:
                shapes.append(words(frame.x(method.hub_c) + 6, y + 11, f"{method.hub_c:.0f} °C", "scale", "start"))
        else:
            shapes.append(words(222, y + 12, "not this way", "side", "start"))
    return figure(
        WIDTH, 266, "Temperatures of hub and shaft, each way", result.sentence, join(*shapes), class_="shrink"
    )


def bond_picture(result: CompoundResult, _: Unit) -> Markup:
    """The bond in section, the gap drawn wide, and the gap against what the sheet fills."""
    shapes = [
        hatched(20, 40, 250, 50),
        hatched(20, 190, 250, 50),
        rect(20, 90, 250, 12, "bond"),
        rect(20, 178, 250, 12, "bond"),
        rect(0, 102, 300, 76, "part"),
        words(145, 145, f"{result.area_mm2:.0f} mm² of bond", "scale on-part"),
        small_range(145, 30, result.gap_least.mm, result.gap_greatest.mm, "scale aim"),
        words(145, 262, "gap on diameter, drawn wide", "side"),
    ]
    top = max(float(result.gap_greatest.mm), float(result.sheet_greatest.mm)) * 1.15
    low = min(float(result.gap_least.mm), 0.0)
    frame = Frame(0, 1, low, top, 380, 480, 40, 240)
    shapes += [
        rect(
            380,
            frame.y(float(result.sheet_greatest.mm)),
            60,
            frame.y(float(result.sheet_least.mm)) - frame.y(float(result.sheet_greatest.mm)),
            "band",
        ),
        words(410, 262, "its sheet", "side"),
        small_label(372, frame.y(float(result.sheet_greatest.mm)) + 4, result.sheet_greatest.mm, "scale", "end"),
        small_label(372, frame.y(float(result.sheet_least.mm)) + 4, result.sheet_least.mm, "scale", "end"),
        rect(
            450,
            frame.y(float(result.gap_greatest.mm)),
            40,
            max(frame.y(float(result.gap_least.mm)) - frame.y(float(result.gap_greatest.mm)), 3),
            "zone chosen",
        ),
        words(470, 262, "this gap", "side"),
        line(360, frame.y(0), 545, frame.y(0), "zero-line"),
    ]
    return figure(
        WIDTH,
        280,
        "The bond in section, and its gap against the sheet",
        result.sentence,
        join(*shapes),
        class_="bond-picture",
    )
