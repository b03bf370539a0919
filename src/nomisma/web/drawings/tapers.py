"""Pictures of tapers: the taper with its ends, what was found against what is wanted, a sine bar, rollers and balls, a
mandrel.
"""

from decimal import Decimal
from math import cos, radians, sin, tan

from markupsafe import Markup

from nomisma.core.lengths.mandrel import MandrelResult
from nomisma.core.lengths.sine_bar import SineBarResult
from nomisma.core.lengths.taper import TaperResult
from nomisma.core.lengths.taper_check import TaperCheckResult
from nomisma.core.lengths.taper_found import TaperFoundResult
from nomisma.core.quantity.angle import show_angle
from nomisma.core.quantity.length import Length, Unit
from nomisma.web.drawings.chart import circle, hatched, polygon, rect, size_label, small_label, words
from nomisma.web.drawings.svg import figure, join, line

WIDTH, HEIGHT = 520, 260
AXIS = 116.0
STEEPEST_DRAWN = 20.0
"""To what half angle a taper is drawn; smaller ones are drawn steeper than they are."""


def taper_picture(result: TaperResult, _: Unit) -> Markup:
    """The taper lying on its axis, large end left, with its ends and its half angle."""
    left, right, large = 70.0, 400.0, 84.0
    half = min(max(result.half_deg, 4.0), STEEPEST_DRAWN)
    small = max(large - (right - left) * tan(radians(half)), 12.0)
    shapes = [
        polygon([(left, AXIS - large), (right, AXIS - small), (right, AXIS + small), (left, AXIS + large)], "cut"),
        line(left - 24, AXIS, right + 40, AXIS, "centre-line"),
        line(left, AXIS - large, right + 20, AXIS - large, "planned"),
        words(right + 14, AXIS - (large + small) / 2, f"{result.half_deg:.3f}°", "scale", "start"),
        *_ends(left, right, large, small, result.large, result.small, result.length),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "The taper and its half angle",
        f"{result.sentence} Drawn not to scale.",
        *shapes,
        class_="taper-picture",
    )


def _ends(
    left: float,
    right: float,
    large: float,
    small: float,
    first: Length | None,
    last: Length | None,
    length: Length | None,
) -> list[Markup]:
    found = []
    if first:
        found.append(size_label(left + 6, AXIS + large + 20, first.mm, "scale", "start"))
    if last:
        found.append(size_label(right, AXIS + small + 20, last.mm, "scale", "end"))
    if length:
        y = AXIS + large + 36
        found += [line(left, y - 4, right, y - 4, "tick-line"), size_label((left + right) / 2, y + 12, length.mm)]
    return found


def taper_found_picture(result: TaperFoundResult, _: Unit) -> Markup:
    """The round as found over the round as wanted, the tailstock right; the arrow says which way it has to go."""
    left, right, radius = 60.0, 420.0, 58.0
    over = result.found_rate - result.wanted_rate
    lean = 22.0 if over > 0 else -22.0 if over < 0 else 0.0
    shapes = [
        polygon(
            [
                (left, AXIS - radius),
                (right, AXIS - radius + lean),
                (right, AXIS + radius - lean),
                (left, AXIS + radius),
            ],
            "cut",
        ),
        line(left, AXIS - radius, right, AXIS - radius, "planned"),
        line(left, AXIS + radius, right, AXIS + radius, "planned"),
        line(left - 30, AXIS, right + 60, AXIS, "centre-line"),
        words(left - 10, AXIS - radius - 14, "headstock", "side", "start"),
        words(right + 10, AXIS - radius - 14, "far end", "side", "end"),
        words(left, AXIS + radius + 44, "tool on this side", "side", "start"),
    ]
    if over and result.move:
        y1, y2 = (AXIS + 12, AXIS - 34) if over > 0 else (AXIS - 12, AXIS + 34)
        shapes += [
            line(right + 34, y1, right + 34, y2, "arrow"),
            polygon([(right + 28, y2), (right + 40, y2), (right + 34, y2 + (-9 if over > 0 else 9))], "part"),
            small_label(right + 34, AXIS + radius + 44, result.move.mm),
        ]
    return figure(
        WIDTH,
        HEIGHT,
        "What was found and what is wanted",
        f"{result.headline}. {result.sentence}",
        *shapes,
        class_="taper-picture",
    )


def sine_bar_picture(result: SineBarResult, _: Unit) -> Markup:
    """The bar on its two rollers, the pile under the high one."""
    floor, start, long, radius = 220.0, 70.0, 300.0, 13.0
    drawn = radians(min(max(result.angle_deg, 6.0), 34.0))
    far = (start + long * cos(drawn), floor - radius - long * sin(drawn))
    lift = radius * sin(drawn), radius * cos(drawn)
    top = [(start - lift[0], floor - radius - lift[1]), (far[0] - lift[0], far[1] - lift[1])]
    thick = (24 * sin(drawn), 24 * cos(drawn))
    bar = [top[0], top[1], (top[1][0] - thick[0], top[1][1] - thick[1]), (top[0][0] - thick[0], top[0][1] - thick[1])]
    shapes = [
        line(30, floor, 470, floor, "zero-line"),
        rect(far[0] - 30, far[1] + radius, 60, floor - far[1] - radius, "slip"),
        polygon(bar, "cut"),
        circle(start, floor - radius, radius, "part"),
        circle(far[0], far[1], radius, "part"),
        size_label(far[0] + 38, (far[1] + floor) / 2, result.pile.height.mm, "scale", "start"),
        words(start + 96, floor - 12, show_angle(result.angle_deg), "scale", "start"),
    ]
    return figure(WIDTH, HEIGHT, "A sine bar on its pile", result.sentence, *shapes, class_="taper-picture")


def taper_check_picture(result: TaperCheckResult, _: Unit) -> Markup:
    """A plug on its small end between two rollers, or the same turned over for a ring."""
    floor, middle, half = 224.0, 220.0, radians(10)
    small, tall, r = 52.0, 170.0, 20.0
    large = small + tall * tan(half)
    out = small + r * (tan(half) + 1 / cos(half))
    shapes = [
        line(40, floor, 400, floor, "zero-line"),
        polygon(
            [
                (middle - small, floor),
                (middle + small, floor),
                (middle + large, floor - tall),
                (middle - large, floor - tall),
            ],
            "cut",
        ),
        *(circle(middle + way * out, floor - r, r, "work-round") for way in (-1, 1)),
        *(circle(middle + way * (out + 84 * tan(half)), floor - r - 84, r, "target-ring") for way in (-1, 1)),
        line(middle, floor + 8, middle, floor - tall - 14, "centre-line"),
        words(420, 70, result.headline, "scale", "start"),
        size_label(420, floor - 10, result.end.mm, "scale", "start"),
    ]
    return figure(
        WIDTH, HEIGHT, "A taper over rollers, low and on slips", result.sentence, *shapes, class_="taper-picture"
    )


def mandrel_picture(result: MandrelResult, _: Unit) -> Markup:
    """The mandrel with its small end left, and where the bore comes to rest on it."""
    left, right, small, large = 40.0, 470.0, 26.0, 44.0
    whole = (
        max(float(result.table.rows[-1][0].length.mm), 1.0) if result.table and result.table.rows[-1][0].length else 1.0
    )

    def x(mm: Decimal) -> float:
        return left + min(float(mm) / whole, 1.0) * (right - left)

    at = [x(result.rests_least.mm), x(result.rests_most.mm)]
    shapes = [
        polygon([(left, AXIS - small), (right, AXIS - large), (right, AXIS + large), (left, AXIS + small)], "cut"),
        line(left - 20, AXIS, right + 20, AXIS, "centre-line"),
        *(join(line(place, AXIS - 70, place, AXIS + 70, "limit-line")) for place in at),
        hatched(min(at), AXIS - 66, max(max(at) - min(at), 4.0), 18),
        hatched(min(at), AXIS + 48, max(max(at) - min(at), 4.0), 18),
        size_label(at[0], AXIS - 80, result.rests_least.mm),
        size_label(at[1], AXIS + 92, result.rests_most.mm),
        words(left, AXIS + 92, "small end", "side", "start"),
    ]
    return figure(
        WIDTH, HEIGHT, "Where the bore rests on the mandrel", result.sentence, *shapes, class_="taper-picture"
    )
