"""The part in half section: the upper half cut and hatched, the lower half as it looks, each feature with its letter
and its verdict.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from math import radians, tan

from markupsafe import Markup

from nomisma.core.part.feature import State
from nomisma.core.part.section import Section
from nomisma.core.part.section_shapes import Cylinder, Groove, ThreadLines
from nomisma.web.drawings.chart import hatched, polygon, rect
from nomisma.web.drawings.marks import shape
from nomisma.web.drawings.svg import figure, join, label, line, node

WIDTH, HEIGHT = 640, 330
LEFT, RIGHT, AXIS, REACH = 40.0, 600.0, 160.0, 112.0
LEAST_SCALE, LONGEST_SHARE = 0.5, 3.0
LETTER_PITCH, SPAN_PITCH = 46.0, 24
LAST_LETTER = WIDTH - 24.0  # so far to the right a letter may stand


@dataclass(frozen=True, slots=True)
class LetterMark:
    """What stands at a feature's letter: its state (none: not judged yet), its name, and the page it leads to (none,
    where there is none).
    """

    letter: str
    state: State | None
    words: str
    href: str
    in_hand: bool = False


@dataclass(frozen=True, slots=True)
class Span:
    """A length shown under the part, from one place along the axis to another, mm; `points_back` as links of a chain
    do.
    """

    name: str
    from_mm: Decimal
    to_mm: Decimal
    points_back: bool = False


@dataclass(frozen=True, slots=True)
class _Frame:
    """Millimetres of the part to the figure; the two scales differ where the part is too slender to be drawn
    to scale.
    """

    section: Section
    along: float
    across: float
    start: float

    def x(self, mm: Decimal) -> float:
        return self.start + float(mm) * self.along

    def r(self, diameter_mm: Decimal) -> float:
        return float(diameter_mm) / 2 * self.across

    @property
    def to_scale(self) -> bool:
        return self.along == self.across


def section_picture(section: Section, marks: Iterable[LetterMark], spans: Iterable[Span] = ()) -> Markup:
    """Draw it with the marks of its letters, and lengths under it; a letter without a mark is left out."""
    return _picture(section, tuple(marks), tuple(spans))


@lru_cache(maxsize=256)  # the same part is looked at again and again, by several pages
def _picture(section: Section, given: tuple[LetterMark, ...], spans: tuple[Span, ...]) -> Markup:
    marks = {one.letter: one for one in given}
    frame = _frame(section)
    said = [f"Drawn from the sizes of the features{'' if frame.to_scale else '; not to scale'}."]
    if section.assumed:
        said.append(f"Not said, so assumed: {', '.join(section.assumed)}.")
    shapes = [
        _cut_half(frame),
        _seen_half(frame),
        *(_bore_lines(frame, bore) for bore in section.bores),
        *(_thread(frame, one) for one in section.threads),
        *(_groove(frame, groove) for groove in section.grooves),
        line(frame.x(Decimal(0)) - 14, AXIS, frame.x(section.length_mm) + 14, AXIS, "centre-line"),
        *_letters(frame, marks),
        label(WIDTH / 2, HEIGHT - 8, " ".join(said), "side"),
        *_spans(frame, spans),
    ]
    height = HEIGHT + (SPAN_PITCH * len(spans) + 12 if spans else 0)
    return figure(
        WIDTH,
        height,
        "The part in half section",
        _in_words(section, marks),
        *shapes,
        class_="section",
        role="group" if any(mark.href for mark in marks.values()) else "img",
    )


def _spans(frame: _Frame, spans: tuple[Span, ...]) -> list[Markup]:
    """Each length under the part between its two faces, the arrow at the face it leads to."""
    shapes: list[Markup] = []
    for index, one in enumerate(spans):
        y = HEIGHT + 10 + SPAN_PITCH * index
        left, right = frame.x(one.from_mm), frame.x(one.to_mm)
        end, way = (left, 6) if one.points_back else (right, -6)
        shapes += [
            line(left, y - 8, left, y + 8, "planned"),
            line(right, y - 8, right, y + 8, "planned"),
            line(left, y, right, y, "edge"),
            polygon([(end, y), (end + way, y - 4), (end + way, y + 4)], "part"),
            label((left + right) / 2, y - 4, one.name, "scale"),
        ]
    return shapes


def _frame(section: Section) -> _Frame:
    across = REACH / (float(section.diameter_mm) / 2)
    along = (RIGHT - LEFT) / float(section.length_mm)
    if along >= across:
        long = float(section.length_mm) * across
        return _Frame(section, across, across, (LEFT + RIGHT - long) / 2)
    if along >= across * LEAST_SCALE / LONGEST_SHARE:
        return _Frame(section, along, along, LEFT)
    return _Frame(section, along, along * LONGEST_SHARE, LEFT)


def _outline(frame: _Frame) -> list[tuple[float, float]]:
    """Radius over the axis from the left face to the right one, edges broken."""
    section = frame.section
    chamfer = min(float(section.chamfer_mm), float(section.length_mm) / 3)
    points: list[tuple[float, float]] = []
    for step in section.outside:
        points += [(frame.x(step.from_mm), frame.r(step.diameter_mm)), (frame.x(step.to_mm), frame.r(step.diameter_mm))]
    if not chamfer:
        return points
    dx, dr = chamfer * frame.along, chamfer * frame.across
    (x0, r0), (x1, r1) = points[0], points[-1]
    return [(x0, r0 - dr), (x0 + dx, r0), *points[1:-1], (x1 - dx, r1), (x1, r1 - dr)]


def _path(points: list[tuple[float, float]], sign: int, class_: str, *, floor: float = 0.0) -> Markup:
    """The closed shape between the outline and a floor, above (−1) or below (1) the axis."""
    ends = [(points[-1][0], floor), (points[0][0], floor)]
    text = " L ".join(f"{x:.1f} {AXIS + sign * radius:.1f}" for x, radius in [*points, *ends])
    return node("path", d=f"M {text} Z", class_=class_)


def _cut_half(frame: _Frame) -> Markup:
    metal = [
        hatched(
            frame.x(step.from_mm),
            AXIS - frame.r(step.diameter_mm),
            frame.x(step.to_mm) - frame.x(step.from_mm),
            frame.r(step.diameter_mm),
        )
        for step in frame.section.outside
    ]
    return join(
        *metal, _path(_outline(frame), -1, "cut-outline"), *(_hollow(frame, bore) for bore in frame.section.bores)
    )


def _hollow(frame: _Frame, bore: Cylinder) -> Markup:
    left, right, radius = frame.x(bore.from_mm), frame.x(bore.to_mm), frame.r(bore.diameter_mm)
    return rect(left, AXIS - radius, right - left, radius, "hollow")


def _seen_half(frame: _Frame) -> Markup:
    edges = [
        line(frame.x(step.from_mm), AXIS, frame.x(step.from_mm), AXIS + frame.r(step.diameter_mm), "edge")
        for step in frame.section.outside[1:]
    ]
    return join(_path(_outline(frame), 1, "seen-metal"), *edges)


def _bore_lines(frame: _Frame, bore: Cylinder) -> Markup:
    left, right, radius = frame.x(bore.from_mm), frame.x(bore.to_mm), frame.r(bore.diameter_mm)
    inside = ((left, bore.from_mm > 0), (right, bore.to_mm < frame.section.length_mm))
    ends = [line(x, AXIS, x, AXIS - radius, "edge") for x, is_inside in inside if is_inside]
    return join(line(left, AXIS - radius, right, AXIS - radius, "edge"), *ends)


def _groove(frame: _Frame, groove: Groove) -> Markup:
    left, right = frame.x(groove.at_mm), frame.x(groove.at_mm + groove.width_mm)
    outer, floor = frame.r(frame.section.outside_at(groove.at_mm)), frame.r(groove.floor_diameter_mm)
    if groove.angle_deg is not None:
        return _v_groove(frame, groove, outer, floor)
    cut = [
        join(
            rect(left, AXIS - outer if way < 0 else AXIS + floor, right - left, outer - floor, "hollow"),
            line(left, AXIS + way * floor, right, AXIS + way * floor, "edge"),
            line(left, AXIS + way * outer, left, AXIS + way * floor, "edge"),
            line(right, AXIS + way * outer, right, AXIS + way * floor, "edge"),
        )
        for way in (-1, 1)
    ]
    return join(*cut)


def _v_groove(frame: _Frame, groove: Groove, outer: float, floor: float) -> Markup:
    """A V as far as its flanks reach down: sharp, or with the floor that its width at the top leaves."""
    left, right = frame.x(groove.at_mm), frame.x(groove.at_mm + groove.width_mm)
    half = radians(float(groove.angle_deg or 0) / 2)
    lean = min((outer - floor) / frame.across * tan(half) * frame.along, (right - left) / 2)
    corners = ((left, outer), (left + lean, floor), (right - lean, floor), (right, outer))
    return join(
        *(polygon([(x, AXIS + way * radius) for x, radius in corners], "hollow v-groove") for way in (-1, 1)),
    )


def _thread(frame: _Frame, one: ThreadLines) -> Markup:
    """A thin line at the root of an outside thread, in both halves; at the major diameter of an inside one, where it is
    cut.
    """
    left, right, radius = frame.x(one.from_mm), frame.x(one.to_mm), frame.r(one.line_diameter_mm)
    ways = (-1,) if one.is_inside else (-1, 1)
    return join(*(line(left, AXIS + way * radius, right, AXIS + way * radius, "thread-line") for way in ways))


def _letters(frame: _Frame, marks: Mapping[str, LetterMark]) -> list[Markup]:
    """Each letter at its place: diameters on the lower half, bores in the hollow, lengths under the part, grooves above
    it.
    """
    section = frame.section
    found: list[tuple[str, float, float]] = []
    under = AXIS + REACH + 22
    for step in section.outside:
        middle = (frame.x(step.from_mm) + frame.x(step.to_mm)) / 2
        found.append((step.letter, middle, AXIS + max(frame.r(step.diameter_mm) * 0.62, 20)))
        if step.along_letter:
            found.append((step.along_letter, middle, under))
    taken = 0.0
    for bore in sorted(section.bores, key=lambda step: step.to_mm):
        middle = (max(frame.x(bore.from_mm), taken) + frame.x(bore.to_mm)) / 2
        found.append((bore.letter, middle, AXIS - min(frame.r(bore.diameter_mm) * 0.5, 40)))
        if bore.along_letter:
            found.append((bore.along_letter, middle, AXIS - REACH - 22))
        taken = frame.x(bore.to_mm)
    for groove in section.grooves:
        middle = frame.x(groove.at_mm + groove.width_mm / 2)
        for index, letter in enumerate(groove.letters):
            found.append((letter, middle + 44 * (index - (len(groove.letters) - 1) / 2), AXIS - REACH - 22))
    for thread in section.threads:
        middle = frame.x((thread.from_mm + thread.to_mm) / 2)
        found.append((thread.letter, middle, AXIS - REACH - 22))
    if section.chamfer_letter:
        found.append(
            (
                section.chamfer_letter,
                frame.x(section.length_mm) + 20,
                AXIS - frame.r(section.outside[-1].diameter_mm) - 4,
            )
        )
    spare = LEFT
    for letter in section.elsewhere:
        found.append((letter, spare, HEIGHT - 28))
        spare += 46
    return [_letter(marks[letter], x, y) for letter, x, y in _apart([one for one in found if one[0] in marks])]


def _apart(places: list[tuple[str, float, float]]) -> list[tuple[str, float, float]]:
    """Letters of one row moved apart, so that none hides another."""
    found: list[tuple[str, float, float]] = []
    for letter, x, y in sorted(places, key=lambda one: (one[2], one[1])):
        before = found[-1] if found and found[-1][2] == y else None
        found.append((letter, max(x, before[1] + LETTER_PITCH) if before else x, y))
    for at in reversed(range(len(found))):  # and back from the right edge
        letter, x, y = found[at]
        after = found[at + 1] if at + 1 < len(found) and found[at + 1][2] == y else None
        found[at] = (letter, min(x, after[1] - LETTER_PITCH if after else LAST_LETTER), y)
    return found


def _letter(mark: LetterMark, x: float, y: float) -> Markup:
    """A letter with the mark of its state, leading to its page."""
    sign = shape(mark.state, x - 9, y - 5, 6) if mark.state else join()
    shapes = join(
        node("title", f"{mark.letter}: {mark.words}"),
        rect(x - 19, y - 16, 38, 23, "letter-box in-hand" if mark.in_hand else "letter-box"),
        sign,
        label(x + (7 if mark.state else 0), y + 1, mark.letter, "section-letter"),
    )
    if not mark.href:
        return node("g", shapes)
    return node("a", shapes, href=mark.href, aria_label=f"{mark.letter}: {mark.words}")


def _in_words(section: Section, marks: Mapping[str, LetterMark]) -> str:
    steps = ", ".join(f"{step.letter} of {float(step.diameter_mm):g} mm" for step in section.outside)
    bores = ", ".join(f"{step.letter} of {float(step.diameter_mm):g} mm" for step in section.bores)
    stands = "; ".join(f"{mark.letter} {mark.words}" for mark in marks.values())
    return f"Outside {steps}{f'; bores {bores}' if bores else ''}. {stands}."
