"""Pictures of grooves and stops: a V with its rod, a groove with its tool, a turret of stops; a centre under the wheel, a radius by steps."""

from math import cos, radians, sin, tan

from markupsafe import Markup

from nomisma.core.lengths.centre_grinding import CentreGrindingResult
from nomisma.core.lengths.groove import GrooveResult
from nomisma.core.lengths.radius_steps import RadiusStepsResult
from nomisma.core.lengths.stops import StopsResult
from nomisma.core.lengths.v_groove import VGrooveResult
from nomisma.core.quantity.length import Unit
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
        polygon([(middle - wide, top), (middle - floor, top + deep), (middle + floor, top + deep), (middle + wide, top)], "hollow-shape"),
        line(middle, top - 30, middle, top + deep + 16, "centre-line"),
        size_label(middle, top - 12, result.top.mm), words(416, top + 40, "compound", "side", "start"),
        words(416, top + 60, f"{result.compound_deg:.2f}°", "scale", "start"), words(416, top + 96, "along a flank", "side", "start"),
        size_label(416, top + 116, result.travel.mm, "scale", "start"),
    ]  # fmt: skip
    if result.over_rods:
        radius = min(wide * 0.62 * cos(half), deep * 0.45)
        shapes += [circle(middle, top + wide / tan(half) - radius / sin(half), radius, "target-ring"),
                   words(416, top + 152, "over two rods", "side", "start"), size_label(416, top + 172, result.over_rods.mm, "scale",
                   "start")]  # fmt: skip
    return figure(
        WIDTH, HEIGHT, "A V-groove in section", f"{result.headline} {result.sentence}", *shapes, class_="groove-picture"
    )


def groove_picture(result: GrooveResult, _: Unit) -> Markup:
    """The groove in section beside its datum face, the tool standing at the near side."""
    top, floor, left, right, face = 90.0, 170.0, 150.0, 270.0, 430.0
    shapes = [
        hatched(30, top, face - 30, 110), rect(left, top, right - left, floor - top, "hollow-shape"),
        rect(right - 62, 30, 62, floor - 40, "part"), line(face, 40, face, 250, "limit-line"), words(face - 8, 60, "datum face", "side", "end"),
        line(right, 210, face, 210, "tick-line"), line(left, 234, face, 234, "tick-line"),
        size_label((right + face) / 2, 225, result.near_side.mm), size_label((left + right) / 2, 250, result.far_side.mm),
    ]  # fmt: skip
    return figure(
        WIDTH, HEIGHT, "The groove and the tool at its near side", result.sentence, *shapes, class_="groove-picture"
    )


def stops_picture(result: StopsResult, _: Unit) -> Markup:
    """The turret from its end: each stop with its number, as long as it stands out."""
    x, y, hub = 200.0, 132.0, 34.0
    places = [float(one.mm) for one in result.turret]
    low, high = min(places), max(places)
    shapes = [circle(x, y, hub, "cut")]
    for index, at in enumerate(places):
        angle = radians(360 * index / len(places) - 90)
        reach = hub + 22 + 54 * (at - low) / ((high - low) or 1)
        end = (x + reach * cos(angle), y + reach * sin(angle))
        shapes += [line(x + hub * cos(angle), y + hub * sin(angle), *end, "limit-line"), circle(*end, 11, "slip"),
                   words(end[0], end[1] + 5, str(index + 1), "scale")]  # fmt: skip
    shapes += [
        item for index, one in enumerate(result.turret)
        for item in (words(360, 40 + 24 * index, f"{index + 1}", "scale", "start"), size_label(384, 40 + 24 * index, one.mm, "scale", "start"))
    ]  # fmt: skip
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
        line(30, axis, 430, axis, "centre-line"), circle(*wheel, 58, "work-round"),
        line(back, axis - body - 10, tip[0], axis - 10, "planned"), words(tip[0] + 14, axis - 26, f"{result.compound_deg:g}°", "scale", "start"),
    ]  # fmt: skip
    return figure(
        WIDTH, HEIGHT, "The centre under the wheel", f"{result.headline} {result.sentence}", *shapes, class_="centre-picture"
    )


def radius_steps_picture(result: RadiusStepsResult, _: Unit) -> Markup:
    """The corner with the tool's edges at each step."""
    along, inward = ([float(one.mm) for one in ends] for ends in (result.along, result.inward))
    scale = 150 / (max(along) or 1)
    points = [(300 - a * scale, 60 + i * scale) for a, i in zip(along, inward, strict=True)]
    shapes = [
        polygon([(60, 60), *points, (300, 236), (60, 236)], "cut"), *(circle(x, y, 4, "part") for x, y in points),
        line(300, 40, 300, 246, "limit-line"), words(312, 60, f"{len(points)} steps", "scale", "start"), words(300, 256, "face", "side"),
    ]  # fmt: skip
    return figure(WIDTH, HEIGHT, "The corner by steps", result.sentence, *shapes, class_="radius-picture")
