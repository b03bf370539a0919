"""Pictures of grooves and corners: a V with its rod, a groove, a turret of stops, a centre under the wheel, a radius by
steps, an undercut.
"""

from math import cos, radians, sin, tan

from markupsafe import Markup

from nomisma.core.lengths.centre_grinding import CentreGrindingResult
from nomisma.core.lengths.groove import GrooveResult
from nomisma.core.lengths.radius_steps import RadiusStepsResult
from nomisma.core.lengths.stops import StopsResult
from nomisma.core.lengths.undercut import EDGE_TO_SPARE_MM, RUN_OUT_DEG, UndercutResult
from nomisma.core.lengths.v_groove import VGrooveResult
from nomisma.core.quantity.length import Unit, as_mm
from nomisma.web.drawings.chart import circle, hatched, polygon, rect, size_label, words
from nomisma.web.drawings.svg import figure, line

WIDTH, HEIGHT = 520, 260


def v_groove_picture(result: VGrooveResult, _: Unit) -> Markup:
    """One V in section, the rod laid in, the compound's angle at its flank."""
    top, middle, scale = 60.0, 210.0, 150.0 / max(float(result.depth.mm), 0.001)
    half = radians(90 - result.compound_deg)
    scale = min(scale, 300 / max(float(result.top.mm), 0.001))
    wide, deep = float(result.top.mm) / 2 * scale, float(result.depth.mm) * scale
    floor = max(wide - deep * tan(half), 0.0)
    shapes = [
        hatched(20, top, 380, 190),
        polygon(
            [(middle - wide, top), (middle - floor, top + deep), (middle + floor, top + deep), (middle + wide, top)],
            "hollow-shape",
        ),
        line(middle, top - 30, middle, top + deep + 16, "centre-line"),
        size_label(middle, top - 12, result.top.mm),
        words(416, top + 40, "compound", "side", "start"),
        words(416, top + 60, f"{result.compound_deg:.2f}°", "scale", "start"),
        words(416, top + 96, "along a flank", "side", "start"),
        size_label(416, top + 116, result.travel.mm, "scale", "start"),
    ]
    if result.over_rods:
        radius = min(wide * 0.62 * cos(half), deep * 0.45)
        shapes += [
            circle(middle, top + wide / tan(half) - radius / sin(half), radius, "target-ring"),
            words(416, top + 152, "over two rods", "side", "start"),
            size_label(416, top + 172, result.over_rods.mm, "scale", "start"),
        ]
    return figure(
        WIDTH, HEIGHT, "A V-groove in section", f"{result.headline} {result.sentence}", *shapes, class_="groove-picture"
    )


def groove_picture(result: GrooveResult, _: Unit) -> Markup:
    """The groove in section beside its datum face, the tool standing at the near side."""
    top, floor, left, right, face = 90.0, 170.0, 150.0, 270.0, 430.0
    shapes = [
        hatched(30, top, face - 30, 110),
        rect(left, top, right - left, floor - top, "hollow-shape"),
        rect(right - 62, 30, 62, floor - 40, "part"),
        line(face, 40, face, 250, "limit-line"),
        words(face - 8, 60, "datum face", "side", "end"),
        line(right, 210, face, 210, "tick-line"),
        line(left, 234, face, 234, "tick-line"),
        size_label((right + face) / 2, 225, result.near_side.mm),
        size_label((left + right) / 2, 250, result.far_side.mm),
    ]
    return figure(
        WIDTH, HEIGHT, "The groove and the tool at its near side", result.sentence, *shapes, class_="groove-picture"
    )


def stops_picture(result: StopsResult, _: Unit) -> Markup:
    """The turret from its end: each stop with its number, as long as it stands out."""
    x, y, hub = 200.0, 132.0, 34.0
    places = [float(one.mm) for one in result.turret]
    low, high = min(places), max(places)
    stations = result.stations or result.turret
    filled = [(index, float(one.mm)) for index, one in enumerate(stations) if one is not None]
    shapes = [circle(x, y, hub, "cut")]
    for index, at in filled:
        angle = radians(360 * index / len(stations) - 90)
        reach = hub + 22 + 54 * (at - low) / ((high - low) or 1)
        end = (x + reach * cos(angle), y + reach * sin(angle))
        shapes += [
            line(x + hub * cos(angle), y + hub * sin(angle), *end, "limit-line"),
            circle(*end, 11, "slip"),
            words(end[0], end[1] + 5, str(index + 1), "scale"),
        ]
    shapes += [
        item
        for row, (index, at) in enumerate(filled)
        for item in (
            words(360, 40 + 24 * row, f"{index + 1}", "scale", "start"),
            size_label(384, 40 + 24 * row, as_mm(at), "scale", "start"),
        )
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "The turret of stops, in its order",
        f"{result.headline}. {result.sentence}",
        *shapes,
        class_="stops-picture",
    )


def centre_grinding_picture(result: CentreGrindingResult, _: Unit) -> Markup:
    """The centre on its axis, the wheel on its cone, the way the compound goes."""
    axis, tip, body = 150.0, (330.0, 150.0), 46.0
    half = radians(min(max(result.compound_deg, 3.0), 60.0))
    back = tip[0] - body / tan(half)
    touch = ((back + tip[0]) / 2, axis - body / 2)
    wheel = (touch[0] + 58 * sin(half), touch[1] - 58 * cos(half))
    shapes = [
        polygon([(60, axis - body), (back, axis - body), tip, (back, axis + body), (60, axis + body)], "cut"),
        line(30, axis, 430, axis, "centre-line"),
        circle(*wheel, 58, "work-round"),
        line(back, axis - body - 10, tip[0], axis - 10, "planned"),
        words(tip[0] + 14, axis - 26, f"{result.compound_deg:g}°", "scale", "start"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "The centre under the wheel",
        f"{result.headline} {result.sentence}",
        *shapes,
        class_="centre-picture",
    )


def radius_steps_picture(result: RadiusStepsResult, _: Unit) -> Markup:
    """The corner with the tool's edges at each step."""
    along, inward = ([float(one.mm) for one in ends] for ends in (result.along, result.inward))
    scale = 150 / (max(along) or 1)
    points = [(300 - a * scale, 60 + i * scale) for a, i in zip(along, inward, strict=True)]
    shapes = [
        polygon([(60, 60), *points, (300, 236), (60, 236)], "cut"),
        *(circle(x, y, 4, "part") for x, y in points),
        line(300, 40, 300, 246, "limit-line"),
        words(312, 60, f"{len(points)} steps", "scale", "start"),
        words(300, 256, "face", "side"),
    ]
    return figure(WIDTH, HEIGHT, "The corner by steps", result.sentence, *shapes, class_="radius-picture")


def undercut_picture(result: UndercutResult, _: Unit) -> Markup:
    """The undercut to scale beside its shoulder, and dashed the partner's edge that just clears it with something to
    spare.
    """
    radius, depth, width = (float(one.mm) for one in (result.radius, result.depth, result.width))
    face_deep = float(result.face_depth.mm) if result.face_depth else 0.0
    face_wide = float(result.face_width.mm) if result.face_width else radius
    scale = 150 / max(width, face_wide)
    x0, y0 = 150.0, 190.0

    def at(x: float, y: float) -> tuple[float, float]:
        return x0 + x * scale, y0 - y * scale

    centre = (radius - face_deep, radius - depth)
    arc = [at(centre[0] + radius * cos(radians(a)), centre[1] + radius * sin(radians(a))) for a in range(180, 271, 6)]
    end = (WIDTH - 130 - x0) / scale
    face = [(x0, 30.0), at(0, max(face_wide - depth, centre[1]))]
    outline = [*face, *arc, at(width - depth / tan(radians(RUN_OUT_DEG)), -depth), at(width, 0), at(end, 0)]
    edge, gap = float(result.least_chamfer.mm) + EDGE_TO_SPARE_MM, 0.02 * width
    shapes = [
        polygon([(40, 30), *outline, (at(end, 0)[0], 250), (40, 250)], "cut"),
        line(*at(gap, edge), at(gap, 0)[0], 30, "planned"),
        line(*at(gap, edge), *at(edge, gap), "planned"),
        line(*at(edge, gap), *at(end, gap), "planned"),
        words(x0 + 30, 50, "partner", "side", "start"),
        words(400, 90, "floor", "side", "start"),
        size_label(400, 112, result.floor.mm, "scale", "start"),
        words(400, 142, "wide", "side", "start"),
        size_label(400, 164, result.width.mm, "scale", "start"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "The undercut, to scale, and the partner's edge",
        result.sentence,
        *shapes,
        class_="undercut-picture",
    )
