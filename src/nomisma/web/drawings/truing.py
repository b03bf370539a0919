"""A truing in pictures: the chuck's face with the next place to read and the work as it stands; the rounds as a path to
the centre.
"""

from collections.abc import Sequence
from decimal import Decimal
from itertools import pairwise
from math import cos, radians, sqrt

from markupsafe import Markup

from nomisma.core.quantity.display import show_number
from nomisma.core.quantity.length import MM_PER_INCH, UNITS, Unit
from nomisma.core.truing.course import Phase, RoundJudged
from nomisma.core.truing.four_jaw import TrueUpResult
from nomisma.core.truing.surface import sense_of
from nomisma.jobs.holding.truing_state import TruingState
from nomisma.web.drawings.chart import small_label, words
from nomisma.web.drawings.chuck import (
    FACE,
    HEIGHT,
    JAW,
    REACH,
    WIDTH,
    WORK,
    X,
    Y,
    arrow_to,
    at,
    circle,
    face,
    push_arrow,
)
from nomisma.web.drawings.svg import both_units, figure, join, line, node

_STEPS = [Decimal(text) for text in ("0.001", "0.002", "0.005", "0.01", "0.02", "0.05", "0.1", "0.2", "0.5", "1", "2")]
PATH_SIDE = 320
PATH_REACH = 130


def round_picture(view: TruingState) -> Markup:
    """The chuck's face: where the work stands by the last round, or the place that is read next and what the others
    said.
    """
    reading = view.phase in (Phase.READ, Phase.IN_ROUND, Phase.READ_FAR)
    last = view.last
    if reading or last is None:
        return _next_place(view)
    result = last.result
    eased = {move.ease_jaw for move in result.moves}
    driven = {move.drive_jaw for move in result.moves}
    scale = _scale(result, float(view.truing.target_mm))
    offset = float(result.offset.mm) * scale
    pushes = [push_arrow(n, inside=result.grip == "inside") for n in sorted(driven)]
    x, y = at(offset, result.offset_at_deg)
    shapes = [
        face(
            eased, driven, offset, result.offset_at_deg, tuple(_bump(result, view, 90.0 * n) * scale for n in range(4))
        ),
        _work(result, view, scale),
        circle(X, Y, max(float(view.truing.target_mm) / 2 * scale, 2.0), "target-ring"),
        line(X, Y, x, y, "offset-line"),
        circle(x, y, 4, "form-dot"),
        *pushes,
        _bar(scale, view.unit),
    ]
    title = "The chuck's face, offset and shape of the work drawn larger than they are"
    return figure(WIDTH, HEIGHT, title, _in_words(result), *shapes, class_="chuck")


def _scale(result: TrueUpResult, target_mm: float) -> float:
    """Pixels a millimetre: offset and shape alike, so that they can be compared."""
    waves = sum(float(one.amplitude.mm) for one in result.shapes)
    return REACH / max(float(result.offset.mm), waves, target_mm / 2, 1e-4)


def _work(result: TrueUpResult, view: TruingState, scale: float) -> Markup:
    """The work's outline, its own shape as far as the readings tell it."""
    middle_x, middle_y = at(float(result.offset.mm) * scale, result.offset_at_deg)
    points = []
    for step in range(0, 360, 5):
        px, py = at(WORK + _bump(result, view, step) * scale, step)
        points.append((px - X + middle_x, py - Y + middle_y))
    path = " ".join(f"{'L' if index else 'M'} {px:.1f} {py:.1f}" for index, (px, py) in enumerate(points))
    return node("path", d=path + " Z", class_="work-round")


def _bump(result: TrueUpResult, view: TruingState, at_deg: float) -> float:
    """How far the work's own shape stands out there, mm."""
    waves = sum(float(one.amplitude.mm) * cos(one.waves * radians(at_deg - one.crest_deg)) for one in result.shapes)
    return sense_of(view.truing.surface) * waves


def _bar(scale: float, unit: Unit) -> Markup:
    """A bar of a round amount, so that the exaggeration can be read off."""
    steps = [one * (MM_PER_INCH / 10 if unit == "in" else 1) for one in _STEPS]
    step = next((one for one in reversed(steps) if float(one) * scale <= 90), steps[0])
    long, y = float(step) * scale, HEIGHT - 10
    return join(
        line(12, y, 12 + long, y, "form-bar"),
        small_label(20 + long, y + 4, step, "scale", "start", "drawn large: this is "),
    )


def _in_words(result: TrueUpResult) -> str:
    moves = " ".join(f"Jaw {move.ease_jaw} is eased, jaw {move.drive_jaw} driven." for move in result.moves)
    shape = f" Its shape is {result.shape_words}." if result.shape_words else ""
    return f"{result.headline}. The work stands off towards {result.offset_towards}.{shape} {moves}"


def _next_place(view: TruingState) -> Markup:
    """Which place is read now, and what those before it said."""
    done = view.open_round.by_place if view.open_round else {}
    marks = []
    for index, place in enumerate(view.places):
        x, y = at(FACE + 22, place.at_deg)
        if index == view.next_place:
            tip = WORK + JAW + 6 if place.name.startswith("jaw") else WORK + 6
            marks.append(arrow_to(*at(FACE + 36, place.at_deg), *at(tip, place.at_deg)))
        elif index in done:
            anchor = "middle" if place.at_deg % 180 == 0 else "start" if place.at_deg < 180 else "end"
            text_in, text_mm = (show_number(done[index].read_mm, unit, 4 if unit == "in" else 3) for unit in UNITS)
            marks.append(both_units(x, y + 4, text_in, text_mm, "scale", anchor))
    name = view.places[view.next_place].name
    jaw = {int(name[-1])} if name.startswith("jaw") else set()
    shapes = [face(set(), jaw, 0.0, 0.0), circle(X, Y, WORK, "work-round"), *marks]
    said = f"The next place is {name}; {len(done)} of {len(view.places)} are read."
    return figure(WIDTH, HEIGHT, f"Read {name} now", said, *shapes, class_="chuck")


def path_picture(view: TruingState) -> Markup:
    """The near rounds as a path to the centre; distances by their square root, so that the end can be seen."""
    rounds = [one for one in view.counted if one.read.circle == "near"]
    if not rounds:
        return Markup("")
    target = float(view.truing.target_mm) / 2
    largest = max(*(float(one.result.offset.mm) for one in rounds), target)

    def reach(mm: float) -> float:
        return PATH_REACH * sqrt(mm / largest)

    middle = PATH_SIDE / 2
    points = [_point(one, middle, reach(float(one.result.offset.mm))) for one in rounds]
    shapes = [
        circle(middle, middle, PATH_REACH + 12, "chuck-face"),
        *[
            line(*_on(middle, PATH_REACH + 12, angle), *_on(middle, PATH_REACH + 12, angle + 180), "centre-line")
            for angle in (0, 90)
        ],
        *[words(*_on(middle, PATH_REACH + 2, 90 * n, 5), str(n + 1), "scale") for n in range(4)],
        circle(middle, middle, reach(target), "target-ring"),
        *_lines(points),
        *[_dot(one, point) for one, point in zip(rounds, points, strict=True)],
    ]
    said = ", ".join(
        f"round {one.read.number}: {one.result.offset} towards {one.result.offset_towards}" for one in rounds
    )
    title = "The rounds as a path to the centre; the ring is what is wanted"
    return figure(PATH_SIDE, PATH_SIDE, title, f"Off centre by {said}.", *shapes, class_="path-picture")


GRIP_SIDE = 120


def grip_pictures() -> dict[str, Markup]:
    """A ring with two jaws round it, and one with two jaws inside it; the arrows show which way the jaws push."""
    middle = GRIP_SIDE / 2
    found = {}
    for name, words_for_it in (
        ("outside", "Jaws round the work, pushing inwards"),
        ("inside", "Jaws inside a ring, pushing outwards"),
    ):
        outside = name == "outside"
        shapes = [
            circle(middle, middle, 30 if outside else 50, "work-round"),
            circle(middle, middle, 18 if outside else 38, "chuck-face"),
        ]
        for turn in (0, 180):
            near, far = (32.0, 52.0) if outside else (18.0, 36.0)
            x = middle - 7
            y = middle - far if turn == 0 else middle + near
            shapes.append(node("rect", x=x, y=y, width=14, height=far - near, class_="jaw driven"))
            tip, tail = (near - 12, near - 1) if outside else (far + 12, far + 1)
            sign = -1 if turn == 0 else 1
            shapes.append(arrow_to(middle, middle + sign * tail, middle, middle + sign * tip))
        found[name] = figure(GRIP_SIDE, GRIP_SIDE, words_for_it, words_for_it, *shapes, class_="grip")
    return found


def _on(middle: float, radius: float, degrees: float, lower: float = 0.0) -> tuple[float, float]:
    px, py = at(radius, degrees)
    return px - X + middle, py - Y + middle + lower


def _point(one: RoundJudged, middle: float, radius: float) -> tuple[float, float]:
    return _on(middle, radius, one.result.offset_at_deg)


def _lines(points: Sequence[tuple[float, float]]) -> list[Markup]:
    return [line(*first, *second, "offset-line") for first, second in pairwise(points)]


def _dot(one: RoundJudged, point: tuple[float, float]) -> Markup:
    class_ = "form-dot tight" if one.read.tightened else "form-dot"
    return join(circle(*point, 6, class_), words(point[0] + 10, point[1] - 6, str(one.read.number), "scale", "start"))
