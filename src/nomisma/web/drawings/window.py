"""Find the fit: the wanted window, and where each pair's clearance lies in it."""

from markupsafe import Markup

from nomisma.core.fits.find import FindResult, FoundFit
from nomisma.core.quantity.display import show_small
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import Frame, rect, small_label, words
from nomisma.web.drawings.svg import figure, join

WIDTH, ROW, TOP, LEFT, RIGHT = 560, 26, 46, 96, 536
DRAWN = 12


def window_picture(result: FindResult, unit: Unit) -> Markup:
    """The first pairs found, or the nearest misses, as bars of clearance against the window wanted."""
    rows = (result.fits or result.misses)[:DRAWN]
    least, greatest = float(result.clearance_min.mm), float(result.clearance_max.mm)
    ends = [least, greatest, *(float(end.mm) for row in rows for end in (row.clearance_min, row.clearance_max))]
    room = (max(ends) - min(ends)) * 0.06 or 0.001
    height = TOP + ROW * len(rows) + 40
    frame = Frame(min(ends) - room, max(ends) + room, 0, 1, LEFT, RIGHT, TOP, height - 34)
    shapes = [
        rect(frame.x(least), TOP - 6, frame.x(greatest) - frame.x(least), frame.bottom - TOP + 6, "band"),
        frame.upright(least, "limit-line"),
        frame.upright(greatest, "limit-line"),
        small_label(
            frame.x(least),
            TOP - 14,
            result.clearance_min.mm,
            "scale",
            "end" if frame.x(least) > LEFT + 60 else "start",
            signed=True,
        ),
        small_label(frame.x(greatest), TOP - 14, result.clearance_max.mm, "scale", "end", signed=True),
        words((LEFT + RIGHT) / 2, height - 8, "clearance wanted lies between the two lines", "side"),
    ]
    if frame.x_from < 0 < frame.x_to:
        shapes += [frame.upright(0, "zero-line"), words(frame.x(0), height - 24, "0", "scale zero")]
    for index, row in enumerate(rows):
        shapes += _bar(frame, row, TOP + ROW * index + 4)
    told = " ".join(
        f"{row.name}: {show_small(row.clearance_min.mm, unit, signed=True)} to"
        f" {show_small(row.clearance_max.mm, unit, signed=True)}."
        for row in rows
    )
    return figure(
        WIDTH,
        height,
        "Clearance of each pair against the window wanted",
        f"{result.sentence} {told}",
        join(*shapes),
        class_="window",
    )


def _bar(frame: Frame, row: FoundFit, top: float) -> list[Markup]:
    x1, x2 = frame.x(float(row.clearance_min.mm)), frame.x(float(row.clearance_max.mm))
    kind = "zone other" if row.missed_by.mm else "zone chosen" if row.preferred else "zone"
    return [rect(x1, top, max(x2 - x1, 2), ROW - 10, kind), words(LEFT - 8, top + 13, row.name, "scale", "end")]
