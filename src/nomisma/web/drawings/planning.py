"""Pictures of planning: the blank, bars with their cuts, a ring that jaws have bent, what to change next, the order of
work.
"""

from math import cos, pi, radians, sin

from markupsafe import Markup

from nomisma.core.planning.blank import BlankResult
from nomisma.core.planning.chatter import ChatterResult
from nomisma.core.planning.cut_list import CutListResult
from nomisma.core.planning.drawing_against_metal import DrawingAgainstMetalResult
from nomisma.core.planning.jaw_squeeze import JawSqueezeResult
from nomisma.core.planning.order_answer import OrderResult
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import circle, hatched, polygon, rect, size_label, small_label, words
from nomisma.web.drawings.svg import figure, line

WIDTH, HEIGHT = 520, 220
MOST_SHOWN = 12


def blank_picture(result: BlankResult, _: Unit) -> Markup:
    """The blank along its length, each piece with what facing and parting take between, the grip at its left end."""
    whole, piece = float(result.blank_length.mm), float(result.a_piece.mm)
    count = max(round(whole / piece), 1) if piece else 1
    scale = 440 / whole
    grip = (whole - count * piece) * scale
    shapes = [hatched(40, 70, 440, 80)]
    for index in range(min(count, MOST_SHOWN)):
        left = 40 + max(grip, 0) + index * piece * scale
        shapes += [
            rect(left + 0.03 * piece * scale, 78, 0.94 * piece * scale, 64, "part"),
            line(left, 60, left, 160, "planned"),
        ]
    shapes += [
        line(40, 178, 480, 178, "tick-line"),
        size_label(260, 198, result.blank_length.mm),
        words(40, 50, "grip" if grip > 6 else "", "side", "start"),
        size_label(492, 114, result.least_across.mm, "scale", "start"),
    ]
    return figure(
        WIDTH + 70, HEIGHT, "The blank and the pieces in it", result.sentence, *shapes, class_="blank-picture"
    )


def cut_list_picture(result: CutListResult, _: Unit) -> Markup:
    """Each bar to one scale, its pieces from the left, what is left open."""
    longest = max(float(one.bar.mm) for one in result.bars)
    shown = result.bars[:MOST_SHOWN]
    shapes: list[Markup] = []
    for index, one in enumerate(shown):
        y, x = 24 + 30 * index, 40.0
        shapes.append(rect(40, y, 440 * float(one.bar.mm) / longest, 18, "hollow-shape"))
        for piece in one.pieces:
            wide = 440 * float(piece.mm) / longest
            shapes.append(rect(x, y, max(wide - 1.5, 1.0), 18, "part"))
            x += wide
    return figure(WIDTH, 40 + 30 * len(shown), "Bars with their cuts", result.sentence, *shapes, class_="cuts-picture")


def drawing_against_metal_picture(result: DrawingAgainstMetalResult, _: Unit) -> Markup:
    """The part within its blank, each as long as it is said."""
    part, blank = float(result.length.mm), float(result.blank.mm)
    scale = 440 / max(part, blank)
    shapes = [
        hatched(40, 60, blank * scale, 90),
        rect(40 + (blank - part) * scale / 2, 72, part * scale, 66, "part" if result.may_saw else "zone"),
        size_label(40 + blank * scale / 2, 178, result.blank.mm),
        size_label(40 + blank * scale / 2, 48, result.length.mm),
    ]
    return figure(
        WIDTH, HEIGHT, "The part in its blank", f"{result.headline}. {result.sentence}", *shapes, class_="blank-picture"
    )


def jaw_squeeze_picture(result: JawSqueezeResult, _: Unit) -> Markup:
    """The ring as it stays when the jaws let go, its lobes drawn large beside a true circle."""
    x, y, radius = 160.0, 130.0, 86.0
    bent = [
        (
            x + (radius + 9 * cos(result.jaws * a)) * cos(a - pi / 2),
            y + (radius + 9 * cos(result.jaws * a)) * sin(a - pi / 2),
        )
        for a in (radians(degree) for degree in range(0, 360, 4))
    ]
    shapes = [circle(x, y, radius, "target-ring"), polygon(bent, "hollow-shape")]
    for number in range(result.jaws):
        angle = 2 * pi * number / result.jaws - pi / 2
        shapes.append(
            line(x + 128 * cos(angle), y + 128 * sin(angle), x + 104 * cos(angle), y + 104 * sin(angle), "arrow")
        )
    shapes += [
        words(310, 90, "at a jaw, out again", "side", "start"),
        small_label(310, 112, result.in_at_a_jaw.mm, "scale", "start"),
        words(310, 150, "between, in again", "side", "start"),
        small_label(310, 172, result.out_between.mm, "scale", "start"),
    ]
    return figure(
        WIDTH, 270, "The ring when the jaws let go, its lobes enlarged", result.sentence, *shapes, class_="ring-picture"
    )


def chatter_picture(result: ChatterResult, _: Unit) -> Markup:
    """The changes in their order as a row: those tried struck through, the next one stressed."""
    rows = result.table.rows if result.table else []
    apart = 460 / max(len(rows), 1)
    shapes: list[Markup] = [line(40, 50, 40 + apart * (len(rows) - 1), 50, "tick-line")]
    for index, row in enumerate(rows):
        x, tried = 40 + apart * index, bool(row[2].words)
        shapes.append(circle(x, 50, 20, "zone chosen" if index + 1 == result.next_change else "hollow-shape"))
        shapes.append(words(x, 56, str(index + 1), "scale"))
        if tried:
            shapes.append(line(x - 18, 68, x + 18, 32, "limit-line"))
    said = f"Next is change {result.next_change}" if result.next_change else "All were tried"
    return figure(
        WIDTH, 100, "The changes in their order", f"{said}. {result.sentence}", *shapes, class_="chatter-picture"
    )


def order_picture(result: OrderResult, _: Unit) -> Markup:
    """Each set-up a row of its operations by number; where a new tool goes into the post a stroke stands before it."""
    shapes: list[Markup] = []
    for row, set_up in enumerate(result.set_ups):
        own = list({one.number: one for one in set_up.operations}.values())
        y, apart = 56 + 70 * row, min(44.0, 460 / max(len(own), 1))
        shapes.append(words(24, y - 26, set_up.title, "side", "start"))
        tool = ""
        for index, one in enumerate(own):
            x = 44 + apart * index
            if index and one.tool.kind not in (tool, "by_hand"):
                shapes.append(line(x - apart / 2, y - 16, x - apart / 2, y + 16, "limit-line"))
            tool = tool if one.tool.kind == "by_hand" else one.tool.kind
            shapes += [circle(x, y, min(15, apart / 2.4), "hollow-shape"), words(x, y + 5, str(one.number), "scale")]
    height = 40 + 70 * len(result.set_ups)
    return figure(
        WIDTH,
        height,
        "Operations by set-up, a stroke where the tool is changed",
        result.sentence,
        *shapes,
        class_="order-picture",
    )
