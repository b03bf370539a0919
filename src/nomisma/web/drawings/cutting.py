"""Pictures of the cutting worksheets: stock and size, drill and hole, a round that bends, the machine's speeds."""

from markupsafe import Markup

from nomisma.core.cutting.boring_bar import BoringBarResult
from nomisma.core.cutting.clean_up import CleanUpResult
from nomisma.core.cutting.deflection import DeflectionResult
from nomisma.core.cutting.drill_sizes import DrillSizesResult
from nomisma.core.cutting.facing import FacingResult
from nomisma.core.cutting.hole import HoleResult
from nomisma.core.cutting.shoulder import ShoulderResult
from nomisma.core.cutting.speeds import SpeedsResult
from nomisma.core.quantity.display import show_roughness
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import arrow, circle, size_label, small_label, words
from nomisma.web.drawings.svg import figure, line, node

WIDTH, HEIGHT = 460, 280
X, Y = 170, 140


def clean_up_picture(result: CleanUpResult, _: Unit) -> Markup:
    """The stock standing off by half its runout, and the size wanted about the spindle's axis."""
    reach = 100.0
    short = not result.cleans_up
    shapes = [
        circle(X + 14, Y, reach, "cut"),
        circle(X, Y, reach - (6 if short else 20), "target-ring" if not short else "gone-ring"),
        line(X - 8, Y, X + 8, Y, "centre-line"),
        line(X, Y - 8, X, Y + 8, "centre-line"),
        words(300, 70, "clean all round at", "side", "start"),
        size_label(300, 92, result.clean_diameter.mm, "scale", "start"),
        words(300, 124, "short by" if short else "to spare", "side", "start"),
        small_label(300, 146, abs(result.spare.mm), "scale", "start"),
    ]
    return figure(
        WIDTH, HEIGHT, "Stock off centre, and the size it has to give", result.sentence, *shapes, class_="clean-picture"
    )


def hole_picture(result: HoleResult, _: Unit) -> Markup:
    """The drill inside the finished hole."""
    size = float(result.drill.size.mm)
    finished = size + float(result.leave.mm)
    outer = 104.0
    inner = max(outer * size / finished, 40.0)
    shapes = [
        circle(X, Y, outer, "cut"),
        circle(X, Y, min(inner, outer - 10), "drill-ring"),
        words(X, Y + 4, result.drill.name, "column-title"),
        words(300, 80, "left for the tool", "side", "start"),
        small_label(300, 102, result.leave.mm, "scale", "start"),
        words(300, 140, "drill", "side", "start"),
        size_label(300, 162, result.drill.size.mm, "scale", "start"),
    ]
    return figure(
        WIDTH, HEIGHT, "The drill, and the hole it leaves room in", result.sentence, *shapes, class_="hole-picture"
    )


def deflection_picture(result: DeflectionResult, _: Unit) -> Markup:
    """A round out of the chuck, bent away from the tool, drawn larger than it bends."""
    bent = "M 120 118 C 220 118 300 124 400 146 L 400 190 C 300 168 220 162 120 162 Z"
    shapes = [
        node("rect", x=50, y=70, width=70, height=140, class_="chuck-face"),
        node("path", d=bent, class_="cut"),
        line(50, 140, 440, 140, "centre-line"),
        arrow(392, 92, 138),
        small_label(392, 84, result.deflection.mm, "scale", "middle"),
        words(240, 236, f"{result.diameters_out:.1f} diameters out", "side"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "The work bending away from the tool, drawn larger than it bends",
        result.sentence,
        *shapes,
        class_="bend-picture",
    )


def speeds_picture(result: SpeedsResult, unit: Unit) -> Markup:
    """What was worked out, and what the machine runs, on one scale."""
    most = max(result.wanted_rpm, result.rpm) * 1.15

    def x(rpm: float) -> float:
        return 40 + 380 * rpm / most

    shapes = [
        line(40, 140, 420, 140, "zero-line"),
        line(x(result.wanted_rpm), 110, x(result.wanted_rpm), 150, "limit-line"),
        words(x(result.wanted_rpm), 100, f"wanted {result.wanted_rpm:.0f}", "scale"),
        line(x(result.rpm), 130, x(result.rpm), 172, "needle"),
        words(x(result.rpm), 192, f"runs at {result.rpm:.0f}", "scale"),
        words(40, 222, "rpm", "side", "start"),
    ]
    if result.rt_um is not None and result.ra_um is not None:
        shapes.append(
            words(
                230,
                256,
                f"roughness Rt {show_roughness(result.rt_um, unit)}, Ra about {show_roughness(result.ra_um, unit)}",
                "side",
            )
        )
    return figure(
        WIDTH, HEIGHT, "Speed wanted, and the speed the machine has", result.sentence, *shapes, class_="speeds-picture"
    )


def shoulder_picture(result: ShoulderResult, _: Unit) -> Markup:
    """The work in section: where the passes stop, and the mark."""
    body = "M 60 70 L 250 70 L 250 110 L 400 110 L 400 190 L 250 190 L 250 230 L 60 230 Z"
    shapes = [
        node("path", d=body, class_="cut"),
        line(40, 150, 430, 150, "centre-line"),
        line(272, 60, 272, 122, "limit-line"),
        line(250, 46, 250, 70, "needle"),
        words(276, 56, "passes stop", "side", "start"),
        words(244, 40, "mark", "side", "end"),
        line(250, 252, 400, 252, "zero-line"),
        size_label(325, 270, result.stops_at.mm, "scale"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "The shoulder in section: where the passes stop, and the mark",
        result.sentence,
        *shapes,
        class_="shoulder-picture",
    )


def boring_bar_picture(result: BoringBarResult, _: Unit) -> Markup:
    """The hole from its mouth: the bar with its tip at the wall, and what is left behind it. One scale."""
    radius = 104.0
    scale = 2 * radius / float(result.hole.mm)
    bar = float(result.bar_diameter.mm) * scale / 2
    tip = X + radius
    back = tip - float(result.across.mm) * scale
    shapes = [
        circle(X, Y, radius, "cut" if result.behind.mm > 0 else "gone-ring"),
        circle(back + bar, Y, bar, "chuck-face"),
        line(back + 2 * bar - 4, Y, tip, Y, "needle"),
        line(X - radius, Y, back, Y, "limit-line") if result.behind.mm > 0 else Markup(""),
        words(300, 70, "behind the bar", "side", "start"),
        size_label(300, 92, result.behind.mm, "scale", "start"),
        words(300, 124, "reach to spare", "side", "start"),
        size_label(300, 146, result.reach_spare.mm, "scale", "start"),
        words(300, 178, f"{result.diameters_out:.1f} diameters out", "side", "start"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "The bar in the hole, seen from its mouth, to scale",
        result.sentence,
        *shapes,
        class_="bar-picture",
    )


def facing_picture(result: FacingResult, _: Unit) -> Markup:
    """The end of the work with what each pass takes off it; passes to one scale."""
    total = float(result.to_take.mm)
    width, x = 150.0, 380.0
    shapes = [node("rect", x=60, y=70, width=x - 60 - width, height=140, class_="cut")]
    for number, one in enumerate(result.passes[:12], 1):
        step = float(one.mm) / total * width
        shapes += [
            node("rect", x=x - step, y=70.0, width=step, height=140.0, class_="planned-slice"),
            words(x - step / 2, 62, str(number), "scale"),
        ]
        x -= step
    shapes += [
        line(40, 140, 410, 140, "centre-line"),
        words(380 - width / 2, 236, f"to {result.does}", "side"),
        size_label(380 - width / 2, 258, result.to_take.mm, "scale"),
    ]
    return figure(WIDTH, HEIGHT, "The face, pass by pass", result.sentence, *shapes, class_="facing-picture")


def drill_sizes_picture(result: DrillSizesResult, _: Unit) -> Markup:
    """The drills about the size on one line."""
    sizes = [float(one.size.mm) for one in result.row]
    wanted = float(result.nearest.size.mm - result.nearest.over.mm)
    low, high = min(*sizes, wanted), max(*sizes, wanted)

    def x(mm: float) -> float:
        return 40 + 380 * (mm - low) / ((high - low) or 1)

    shapes = [line(40, 150, 420, 150, "zero-line"), line(x(wanted), 120, x(wanted), 160, "needle")]
    for number, one in enumerate(result.row):
        y = 176 + 18 * (number % 4)
        shapes += [
            line(x(float(one.size.mm)), 140, x(float(one.size.mm)), y - 12, "limit-line"),
            words(x(float(one.size.mm)), y, one.name, "scale"),
        ]
    return figure(
        WIDTH, HEIGHT, "The drills about this size, in order", result.sentence, *shapes, class_="drills-picture"
    )
