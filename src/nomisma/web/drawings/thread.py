"""A thread's profile to scale, with the wires it is measured over lying in it."""

from math import radians, sin, tan

from markupsafe import Markup

from nomisma.core.planning.thread_sheet import ThreadSheetResult
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import circle, polygon, size_label, words
from nomisma.web.drawings.svg import figure, line

WIDTH, HEIGHT = 520, 220
TEETH, PITCH_PX = 4, 110.0
PITCH_LINE_Y, LEFT = 110.0, 40.0
CREST_FLAT, ROOT_FLAT = 0.125, 0.25


def thread_picture(result: ThreadSheetResult, _: Unit) -> Markup:
    """Crests above, roots below the pitch line; the wires in two grooves, as large as they are."""
    half = radians(float(result.angle_deg) / 2)
    up = (0.5 - CREST_FLAT) * PITCH_PX / 2 / tan(half)
    down = (0.5 - ROOT_FLAT) * PITCH_PX / 2 / tan(half)
    points = [(LEFT - 10, HEIGHT - 20.0), (LEFT - 10, PITCH_LINE_Y + down)]
    for tooth in range(TEETH):
        middle = LEFT + PITCH_PX * (tooth + 0.5)
        crest, root = CREST_FLAT * PITCH_PX / 2, (1 - ROOT_FLAT) * PITCH_PX / 2
        points += [
            (middle - root, PITCH_LINE_Y + down),
            (middle - crest, PITCH_LINE_Y - up),
            (middle + crest, PITCH_LINE_Y - up),
        ]
        points += [(middle + root, PITCH_LINE_Y + down)]
    end = LEFT + PITCH_PX * TEETH + 10
    points += [(end, PITCH_LINE_Y + down), (end, HEIGHT - 20.0)]
    shapes = [polygon(points, "part"), line(LEFT - 20, PITCH_LINE_Y, end + 10, PITCH_LINE_Y, "centre-line")]
    if result.wire is not None:
        radius = float(result.wire.mm / result.pitch.mm) * PITCH_PX / 2
        # Where a wire rests: its middle so far above the point in which the flanks would meet.
        y = PITCH_LINE_Y + PITCH_PX / 4 / tan(half) - radius / sin(half)
        shapes += [circle(LEFT + PITCH_PX * at, y, radius, "wire") for at in (1, 2)]
        shapes.append(line(LEFT, y - radius, end, y - radius, "planned"))
        if result.over_lower is not None and result.over_upper is not None:
            middle_mm = (result.over_lower.mm + result.over_upper.mm) / 2
            shapes += [
                words(end - 60, y - radius - 24, "over wires, middle", "side"),
                size_label(end - 60, y - radius - 6, middle_mm),
            ]
    angle = f"{result.angle_deg.normalize():f}°; the pitch line is dashed; from crest to crest"
    shapes += [
        words(WIDTH / 2 - 30, HEIGHT - 4, angle, "side"),
        size_label(WIDTH / 2 + 190, HEIGHT - 4, result.pitch.mm),
    ]
    return figure(WIDTH, HEIGHT, "The thread in profile", result.sentence, *shapes, class_="thread-picture")
