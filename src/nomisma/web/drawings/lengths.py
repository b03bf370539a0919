"""Pictures of lengths and small sums: a chain, holes on a circle, a thread's hole, drills, a tool's height, pulleys, a
keyseat.
"""

from itertools import accumulate, pairwise
from math import cos, pi, radians, sin, sqrt

from markupsafe import Markup

from nomisma.core.lengths.belt import BeltResult
from nomisma.core.lengths.centre_drill import CentreDrillResult
from nomisma.core.lengths.chain import ChainResult
from nomisma.core.lengths.drill_point import DrillPointResult
from nomisma.core.lengths.hole_circle import HoleCircleResult
from nomisma.core.lengths.indicator_angle import IndicatorAngleResult
from nomisma.core.lengths.keyseat import KeyseatResult
from nomisma.core.lengths.knurl import KnurlResult
from nomisma.core.lengths.large_diameter import LargeDiameterResult
from nomisma.core.lengths.tapping import TappingResult
from nomisma.core.lengths.tool_height import ToolHeightResult
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import circle, hatched, polygon, rect, size_label, small_label, words
from nomisma.web.drawings.svg import figure, line

WIDTH, HEIGHT = 520, 260


def chain_picture(result: ChainResult, _: Unit) -> Markup:
    """Links one under the other, each from face to face, those that point back going back; at the end what is left
    over.
    """
    places = [
        0.0,
        *accumulate((-1 if one.points_back else 1) * float(one.lower.mm + one.upper.mm) / 2 for one in result.links),
    ]
    low, high = min(places), max(places)
    height = 66 + 24 * (len(result.links) + 1)

    def x(mm: float) -> float:
        return 60 + (mm - low) / ((high - low) or 1) * 380

    shapes: list[Markup] = []
    for index, (one, (begins, ends)) in enumerate(zip(result.links, pairwise(places), strict=True)):
        y, way = 34 + 24 * index, 6 if ends < begins else -6
        shapes += [
            line(x(begins), y, x(ends), y, "arrow"),
            polygon([(x(ends), y), (x(ends) + way, y - 4), (x(ends) + way, y + 4)], "part"),
            line(x(ends), y - 10, x(ends), y + 24, "planned"),
            words(20, y + 5, one.name, "scale", "start"),
        ]
    y = 34 + 24 * len(result.links)
    start, end = sorted((x(places[0]), x(places[-1])))
    shapes += [
        rect(start, y - 6, max(end - start, 3.0), 12, "zone chosen"),
        words(WIDTH + 50, y + 24, result.headline, "scale", "end"),
    ]
    return figure(WIDTH + 60, height, "The chain, link by link", result.sentence, *shapes, class_="chain-picture")


def hole_circle_picture(result: HoleCircleResult, _: Unit) -> Markup:
    """The circle and its holes as they lie."""
    x0, y0, radius = 150.0, 130.0, 96.0
    count = len(result.holes)
    first = result.table.rows[0][1].words.rstrip("°") if result.table else "0"
    angles = [radians(float(first) + 360 * n / count) for n in range(count)]
    hole = min(16.0, pi * radius / count * 0.6)
    shapes = [
        circle(x0, y0, radius, "target-ring"),
        line(x0 - 112, y0, x0 + 112, y0, "centre-line"),
        line(x0, y0 - 112, x0, y0 + 112, "centre-line"),
        *(
            circle(x0 + radius * cos(a), y0 - radius * sin(a), hole, "part" if n == 0 else "cut")
            for n, a in enumerate(angles)
        ),
        words(300, 110, "chord", "side", "start"),
        size_label(300, 132, result.chord.mm, "scale", "start"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "Holes on their circle, the first filled",
        f"{count} holes. {result.sentence}",
        *shapes,
        class_="circle-picture",
    )


def tapping_picture(result: TappingResult, _: Unit) -> Markup:
    """The hole in section, the thread's flanks beside it as far as they reach."""
    left, right, top, floor = 120.0, 300.0, 30.0, 220.0
    deep = 34.0
    reach = min(float(result.thread_percent) / 100, 1.0) * deep
    shapes = [hatched(60, top, 60, floor - top), hatched(300, top, 60, floor - top)]
    step = 24.0
    y = top
    while y + step <= floor:
        for wall, way in ((left, -1), (right, 1)):
            shapes.append(
                polygon([(wall + way * reach, y + step / 2), (wall, y + 3), (wall, y + step - 3)], "hollow-shape")
            )
        y += step
    shapes += [
        words(210, 120, result.drill, "column-title"),
        size_label(210, 144, result.drill_size.mm),
        words(400, 110, "thread left", "side", "start"),
        words(400, 132, f"{result.thread_percent} %", "scale", "start"),
    ]
    return figure(
        WIDTH, HEIGHT, "The drilled hole and the thread it leaves", result.sentence, *shapes, class_="thread-picture"
    )


def indicator_picture(result: IndicatorAngleResult, _: Unit) -> Markup:
    """The travel, and the longer way an indicator out of line goes."""
    lean = radians(24)
    shapes = [
        rect(60, 196, 260, 26, "cut"),
        line(180, 60, 180, 196, "centre-line"),
        line(180, 196, 180 + 140 * sin(lean), 196 - 140 * cos(lean), "needle"),
        line(180, 96, 180, 150, "arrow"),
        words(170, 80, "travel", "side", "end"),
        small_label(166, 128, result.travel.mm, "scale", "end"),
        words(250, 70, "reads more", "side", "start"),
        small_label(250, 92, result.reads_long.mm, "scale", "start", "+"),
    ]
    return figure(WIDTH, HEIGHT, "An indicator out of line", result.sentence, *shapes, class_="indicator-picture")


def tool_height_picture(result: ToolHeightResult, _: Unit) -> Markup:
    """The round from its end, the tool below or above its middle."""
    x, y, radius = 170.0, 130.0, 92.0
    off = -26.0 if "above" in result.sentence else 26.0
    reach = sqrt(radius**2 - off**2)
    shapes = [
        circle(x, y, radius, "cut"),
        line(x - 110, y, x + 250, y, "centre-line"),
        polygon(
            [
                (x + reach, y + off),
                (x + reach + 110, y + off - 8),
                (x + reach + 110, y + off + 26),
                (x + reach + 8, y + off + 26),
            ],
            "part",
        ),
        line(x, y + off, x + reach, y + off, "planned"),
        small_label(x + 6, y + off / 2 + 5, result.height.mm, "scale", "start"),
    ]
    return figure(
        WIDTH, HEIGHT, "The tool and the middle of the work", result.sentence, *shapes, class_="height-picture"
    )


def centre_drill_picture(result: CentreDrillResult, _: Unit) -> Markup:
    """The centre hole in section: mouth, cone and pilot."""
    top, middle, mouth, pilot, cone, deep = 50.0, 200.0, 92.0, 26.0, 114.0, 40.0
    hole = [
        (middle - mouth, top),
        (middle - pilot, top + cone),
        (middle - pilot, top + cone + deep),
        (middle, top + cone + deep + 12),
        (middle + pilot, top + cone + deep),
        (middle + pilot, top + cone),
        (middle + mouth, top),
    ]
    shapes = [
        hatched(50, top, 300, 186),
        polygon(hole, "hollow-shape"),
        line(middle, top - 20, middle, 244, "centre-line"),
        words(380, 90, "mouth", "side", "start"),
        size_label(380, 110, result.mouth.mm, "scale", "start"),
        words(380, 160, "tip goes to", "side", "start"),
        size_label(380, 180, result.depth.mm, "scale", "start"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "The centre hole in section",
        f"{result.drill}. {result.sentence}",
        *shapes,
        class_="centre-picture",
    )


def drill_point_picture(result: DrillPointResult, _: Unit) -> Markup:
    """A blind hole in section with its point."""
    top, middle, half, body, point = 40.0, 180.0, 60.0, 100.0, 36.0
    hole = [
        (middle - half, top),
        (middle - half, top + body),
        (middle, top + body + point),
        (middle + half, top + body),
        (middle + half, top),
    ]
    shapes = [
        hatched(60, top, 240, 196),
        polygon(hole, "hollow-shape"),
        line(middle, top - 18, middle, 250, "centre-line"),
        words(330, top + body + 22, "point", "side", "start"),
        size_label(330, top + body + 42, result.point.mm, "scale", "start"),
    ]
    if result.tip_depth:
        shapes += [
            words(330, 70, "tip goes to", "side", "start"),
            size_label(330, 90, result.tip_depth.mm, "scale", "start"),
        ]
    return figure(WIDTH, HEIGHT, "The hole and the drill's point", result.sentence, *shapes, class_="point-picture")


def large_diameter_picture(result: LargeDiameterResult, _: Unit) -> Markup:
    """The round with its chord and the arc's height over it."""
    x, y, radius = 190.0, 150.0, 100.0
    drop = 42.0
    half = sqrt(radius**2 - (radius - drop) ** 2)
    shapes = [
        circle(x, y, radius, "cut"),
        line(x - half, y - radius + drop, x + half, y - radius + drop, "needle"),
        line(x, y - radius, x, y - radius + drop, "arrow"),
        words(320, 90, "chord and height", "side", "start"),
        size_label(320, 150, result.diameter.mm, "scale", "start", "⌀ "),
    ]
    return figure(WIDTH, HEIGHT, "A chord of a large round", result.sentence, *shapes, class_="large-picture")


def belt_picture(result: BeltResult, _: Unit) -> Markup:
    """Two pulleys and the belt on them."""
    first, second = (120.0, 46.0), (370.0, 72.0)
    shapes = [
        circle(first[0], 140, first[1], "cut"),
        circle(second[0], 140, second[1], "cut"),
        line(first[0] - 8, 140 - first[1], second[0] - 8, 140 - second[1], "zero-line"),
        line(first[0] - 8, 140 + first[1], second[0] - 8, 140 + second[1], "zero-line"),
        words(first[0], 145, "drives", "side"),
        size_label(second[0], 135, result.driven.mm),
        words(second[0], 155, f"{float(result.driven_rpm):.4g} rpm", "scale"),
    ]
    if result.belt_length:
        shapes.append(size_label(245, 246, result.belt_length.mm, "scale", "middle", "belt "))
    return figure(WIDTH, HEIGHT, "Two pulleys and their belt", result.sentence, *shapes, class_="belt-picture")


def keyseat_picture(result: KeyseatResult, _: Unit) -> Markup:
    """The shaft from its end with the seat cut in, and what is measured to its far side."""
    x, y, radius, half, deep = 170.0, 138.0, 96.0, 30.0, 42.0
    top = y - sqrt(radius**2 - half**2)
    shapes = [
        circle(x, y, radius, "cut"),
        rect(x - half, top - 14, 2 * half, deep + 14, "hollow-shape"),
        line(x - half, top + deep, x + half, top + deep, "zero-line"),
        line(x + 120, top + deep, x + 120, y + radius, "arrow"),
        line(x + half, top + deep, x + 132, top + deep, "planned"),
        line(x, y + radius, x + 132, y + radius, "planned"),
        size_label(x + 134, y + 40, result.over_far_side.mm, "scale", "start"),
        words(330, 60, "from the top", "side", "start"),
        size_label(330, 82, result.from_top.mm, "scale", "start"),
    ]
    return figure(WIDTH, HEIGHT, "The keyseat and its far side", result.sentence, *shapes, class_="key-picture")


def knurl_picture(result: KnurlResult, _: Unit) -> Markup:
    """The knurl from its end with every tooth, to scale, and the blank it was turned to."""
    x, y, radius = 170.0, 138.0, 100.0
    scale = radius / float(result.over.mm / 2)
    crest, root = radius, radius - float(result.pitch.mm) / 2 * scale
    teeth = [
        (x + reach * cos(angle), y + reach * sin(angle))
        for index in range(2 * result.teeth)
        for angle, reach in [(pi * index / result.teeth, crest if index % 2 else root)]
    ]
    shapes = [
        polygon(teeth, "cut"),
        circle(x, y, float(result.blank.mm) / 2 * scale, "target-ring"),
        words(310, 70, f"{result.teeth} teeth", "side", "start"),
        words(310, 104, "blank", "side", "start"),
        size_label(310, 126, result.blank.mm, "scale", "start"),
        words(310, 160, "over it, at most", "side", "start"),
        size_label(310, 182, result.over.mm, "scale", "start"),
    ]
    return figure(WIDTH, HEIGHT, "The knurl from its end", result.sentence, *shapes, class_="knurl-picture")
