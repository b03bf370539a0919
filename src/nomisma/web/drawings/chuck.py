"""The chuck's face: four jaws, where the work stands, which jaw is eased and which is driven."""

from math import cos, radians, sin

from markupsafe import Markup

from nomisma.core.quantity.length import Unit
from nomisma.core.truing.four_jaw import TrueUpResult
from nomisma.core.truing.seen import Stop
from nomisma.core.truing.three_jaw import JAWS, ThreeJawResult
from nomisma.core.truing.throw import ThrowResult
from nomisma.core.truing.tilt import TiltResult
from nomisma.web.drawings.chart import small_label, words
from nomisma.web.drawings.svg import figure, join, label, line, node

WIDTH, HEIGHT = 460, 380
X, Y = 230, 175
FACE, WORK = 140, 58
JAW = 44
REACH = 24
"""Pixels the offset is drawn with, whatever it is; the scale is written beside it."""


def at(radius: float, degrees: float) -> tuple[float, float]:
    """Jaw 1 at the top, the others clockwise."""
    return X + radius * sin(radians(degrees)), Y - radius * cos(radians(degrees))


def circle(x: float, y: float, radius: float, class_: str) -> Markup:
    """A circle."""
    return node("circle", cx=float(x), cy=float(y), r=float(radius), class_=class_)


def jaw_on(number: int, class_: str, offset: float, towards: float, bump: float = 0.0, *, jaws: int = 4) -> Markup:
    """A jaw with its tip on the work, wherever that stands; `bump` is how far the work's own shape stands out there."""
    degrees = 360 // jaws * (number - 1)
    along, across = offset * cos(radians(towards - degrees)), offset * sin(radians(towards - degrees))
    tip = along + (WORK**2 - across**2) ** 0.5 + bump
    x, y = at(tip + JAW / 2, degrees)
    turned = f"rotate({degrees} {x:.1f} {y:.1f})"
    box = node(
        "rect", x=float(x - 15), y=float(y - JAW / 2), width=30, height=JAW, class_=f"jaw {class_}", transform=turned
    )
    return box + label(x, y + 7, str(number), "jaw-number")


def face(
    eased: set[int], driven: set[int], offset: float, towards: float, bumps: tuple[float, ...] = (0.0, 0.0, 0.0, 0.0)
) -> Markup:
    """The chuck with its four jaws on the work, which stands off by so many pixels."""
    marks = {n: "driven" if n in driven else "eased" if n in eased else "" for n in (1, 2, 3, 4)}
    cross = [line(*at(FACE, a), *at(FACE, a + 180), "centre-line") for a in (0, 90)]
    jaws = [jaw_on(n, class_, offset, towards, bumps[n - 1]) for n, class_ in marks.items()]
    return join(circle(X, Y, FACE, "chuck-face"), *cross, *jaws)


def arrow_to(x1: float, y1: float, x2: float, y2: float) -> Markup:
    """An arrow with its head at the second point."""
    dx, dy = x2 - x1, y2 - y1
    length = max((dx * dx + dy * dy) ** 0.5, 1e-6)
    ux, uy = dx / length, dy / length
    head = (
        f"M {x2 - 9 * ux + 5 * uy:.1f} {y2 - 9 * uy - 5 * ux:.1f} L {x2:.1f} {y2:.1f} "
        f"L {x2 - 9 * ux - 5 * uy:.1f} {y2 - 9 * uy + 5 * ux:.1f}"
    )
    return line(x1, y1, x2, y2, "arrow") + node("path", d=head, class_="arrow")


def push_arrow(jaw: int, *, inside: bool) -> Markup:
    """An arrow at a driven jaw, the way its key moves it: inwards round the work, outwards in a ring."""
    outer, inner = at(FACE + 34, 90 * (jaw - 1)), at(FACE + 4, 90 * (jaw - 1))
    return arrow_to(*inner, *outer) if inside else arrow_to(*outer, *inner)


def true_up_picture(result: TrueUpResult, _: Unit) -> Markup:
    """The work where it stands, drawn far larger than it is, and an arrow for each jaw that is driven."""
    eased = {move.ease_jaw for move in result.moves}
    driven = {move.drive_jaw for move in result.moves}
    far = float(REACH) if result.stop in (Stop.MOVE, Stop.TOO_COARSE) else 4.0
    x, y = at(far, result.offset_at_deg) if result.offset.mm else (float(X), float(Y))
    pushes = [push_arrow(n, inside=result.grip == "inside") for n in driven]
    shapes = [
        face(eased, driven, far if result.offset.mm else 0.0, result.offset_at_deg),
        circle(x, y, WORK, "work-round"),
        line(X, Y, x, y, "offset-line"),
        circle(x, y, 4, "form-dot"),
        *pushes,
        small_label(X, HEIGHT - 8, result.offset.mm, "scale", "middle", "off centre by "),
        words(WIDTH - 10, 20, result.shape_words, "side", "end"),
    ]
    title = "The chuck's face, the work's offset drawn larger than it is"
    return figure(WIDTH, HEIGHT, title, _in_words(result), *shapes, class_="chuck")


def _in_words(result: TrueUpResult) -> str:
    moves = " ".join(f"Jaw {move.ease_jaw} is eased, jaw {move.drive_jaw} driven." for move in result.moves)
    where = (
        f"The work stands off towards {result.offset_at_deg:.0f} degrees, jaw 1 at the top and the others clockwise."
    )
    return f"{result.headline}. {where} {moves}"


def three_jaw_picture(result: ThreeJawResult, _: Unit) -> Markup:
    """Three jaws on the work where it stands, and how thick a strip goes under which."""
    packed = {one.jaw for one in result.packings}
    far = float(REACH) if packed else 4.0
    x, y = at(far, result.offset_at_deg) if result.offset.mm else (float(X), float(Y))
    marks = []
    for one in result.packings:
        side_x, side_y = at(FACE + 12, 360 / JAWS * (one.jaw - 1))
        anchor = {1: "middle", 2: "start", 3: "end"}[one.jaw]
        marks.append(small_label(side_x, side_y + (0 if one.jaw == 1 else 12), one.thick.mm, "scale", anchor))
    shapes = [
        circle(X, Y, FACE, "chuck-face"),
        *(line(X, Y, *at(FACE, 360 / JAWS * n), "centre-line") for n in range(JAWS)),
        *(
            jaw_on(
                n, "driven" if n in packed else "", far if result.offset.mm else 0.0, result.offset_at_deg, jaws=JAWS
            )
            for n in range(1, JAWS + 1)
        ),
        circle(x, y, WORK, "work-round"),
        line(X, Y, x, y, "offset-line"),
        circle(x, y, 4, "form-dot"),
        small_label(X, HEIGHT - 8, result.offset.mm, "scale", "middle", "off centre by "),
        words(WIDTH - 10, 20, result.shape_words, "side", "end"),
    ]
    said = " ".join(f"A strip under jaw {one.jaw}." for one in result.packings)
    where = f"The work stands off towards {result.offset_towards}; jaw 1 at the top and the others clockwise."
    title = "Three jaws, the work's offset drawn larger than it is"
    return figure(WIDTH, HEIGHT, title, f"{result.headline}. {where} {said}".strip(), *shapes, *marks, class_="chuck")


def throw_picture(result: ThrowResult, _: Unit) -> Markup:
    """The reading to aim for at each jaw."""
    marks = []
    for one in result.aimed:
        x, y = at(FACE + (16 if one.jaw % 2 else 8), 90 * (one.jaw - 1))
        anchor = {2: "start", 4: "end"}.get(one.jaw, "middle")
        marks.append(small_label(x, y + 4, one.reading.mm, "scale", anchor, signed=True))
    x, y = at(REACH, result.towards_deg)
    shapes = [
        face(set(), set(), float(REACH), result.towards_deg),
        circle(x, y, WORK, "work-round"),
        circle(x, y, 4, "form-dot"),
    ]
    return figure(WIDTH, HEIGHT, "The reading to aim for at each jaw", result.sentence, *shapes, *marks, class_="chuck")


def tilt_picture(result: TiltResult, _: Unit) -> Markup:
    """Where to tap: the outer end of an axis that leans, or the high place of a face."""
    return _face_picture(result) if result.by_face else _axis_picture(result)


def _face_picture(result: TiltResult) -> Markup:
    """A plate from the side, its face standing out at the jaw above; the arrow points back to the chuck."""
    out = min(max(result.lean * 4000, 14.0), 60.0) if result.lean else 0.0
    face_at, rim = 230.0, 120.0
    plate = (
        f"M 150 {190 - rim} L {face_at + out / 2:.0f} {190 - rim} L {face_at - out / 2:.0f} {190 + rim} L 150"
        f" {190 + rim} Z"
    )
    push = arrow_to(face_at + out / 2 + 70, 86, face_at + out / 2 + 6, 86) if result.matters == "yes" else join()
    shapes = [
        node("rect", x=60, y=60, width=60, height=260, class_="chuck-face"),
        node("rect", x=120, y=90, width=30, height=200, class_="jaw"),
        node("path", d=plate, class_="cut"),
        line(60, 190, 440, 190, "centre-line"),
        line(face_at, 190 - rim - 8, face_at, 190 + rim + 8, "aim-line"),
        push,
        words(face_at + out / 2 + 78, 91, f"jaw {result.tap_jaw}", "side", "start"),
        small_label(300, 350, result.tap.mm, "scale", "middle", "back towards the chuck there by "),
    ]
    title = "The plate's face standing out, drawn farther than it does; the arrow pushes it back towards the chuck"
    return figure(WIDTH, HEIGHT, title, result.sentence, *shapes, class_="chuck")


def _axis_picture(result: TiltResult) -> Markup:
    """The axis from the side, leaning out of the chuck, and where to tap."""
    end = 120.0 if result.lean else 0.0
    lean = min(max(result.lean * 4000, 14.0), 60.0) if result.lean else 0.0
    axis = line(150, 190, 150 + 2 * end, 190 - lean, "offset-line")
    bar = node(
        "path",
        d=f"M 150 150 L {150 + 2 * end:.0f} {150 - lean:.0f} L {150 + 2 * end:.0f} {230 - lean:.0f} L 150 230 Z",
        class_="cut",
    )
    tap = (
        arrow_to(150 + 2 * end - 12, 150 - lean - 56, 150 + 2 * end - 12, 150 - lean - 6)
        if result.matters == "yes"
        else join()
    )
    shapes = [
        node("rect", x=60, y=80, width=60, height=220, class_="chuck-face"),
        node("rect", x=120, y=120, width=30, height=140, class_="jaw"),
        bar,
        line(60, 190, 440, 190, "centre-line"),
        axis,
        tap,
        words(150 + 2 * end, 130 - lean - 40, f"jaw {result.tap_jaw}", "side", "end"),
        small_label(
            300, 330, result.total_indicator_reading_over_length.mm, "scale", "middle", "swings over the length by "
        ),
    ]
    title = "The work leaning out of the chuck, drawn larger than it leans"
    return figure(WIDTH, HEIGHT, title, result.sentence, *shapes, class_="chuck")
