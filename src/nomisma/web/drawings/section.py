"""The part in half section: the upper half cut and hatched, the lower half as it looks, each feature with its letter
and its verdict.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from markupsafe import Markup

from nomisma.core.part.feature import State
from nomisma.core.part.section import Section
from nomisma.web.drawings.chart import polygon, rect
from nomisma.web.drawings.marks import shape
from nomisma.web.drawings.section_metal import REACH, Frame, frame_of, metal
from nomisma.web.drawings.svg import LINE_HIGH, figure, join, label, label_lines, line, node

WIDTH, HEIGHT = 640, 330
LEFT, RIGHT, AXIS = 40.0, 600.0, 160.0
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


def section_picture(section: Section, marks: Iterable[LetterMark], spans: Iterable[Span] = ()) -> Markup:
    """Draw it with the marks of its letters, and lengths under it; a letter without a mark is left out."""
    return _picture(section, tuple(marks), tuple(spans))


@lru_cache(maxsize=256)  # the same part is looked at again and again, by several pages
def _picture(section: Section, given: tuple[LetterMark, ...], spans: tuple[Span, ...]) -> Markup:
    marks = {one.letter: one for one in given}
    frame = frame_of(section, left=LEFT, right=RIGHT, axis=AXIS)
    said = [f"Drawn from the sizes of the features{'' if frame.to_scale else '; not to scale'}."]
    if section.assumed:
        said.append(f"Not said, so assumed: {', '.join(section.assumed)}.")
    lines = label_lines(WIDTH / 2, HEIGHT - 8, " ".join(said), WIDTH)
    under = HEIGHT + LINE_HIGH * (len(lines) - 1)
    shapes = [metal(frame), *_letters(frame, marks), *lines, *_spans(frame, spans, under)]
    height = under + (SPAN_PITCH * len(spans) + 12 if spans else 0)
    return figure(
        WIDTH,
        height,
        "The part in half section",
        _in_words(section, marks),
        *shapes,
        class_="section",
        role="group" if any(mark.href for mark in marks.values()) else "img",
    )


def _spans(frame: Frame, spans: tuple[Span, ...], under: float) -> list[Markup]:
    """Each length under the part between its two faces, the arrow at the face it leads to."""
    shapes: list[Markup] = []
    for index, one in enumerate(spans):
        y = under + 10 + SPAN_PITCH * index
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


def _letters(frame: Frame, marks: Mapping[str, LetterMark]) -> list[Markup]:
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
    for groove in {one.letters: one for one in section.grooves}.values():
        middle = frame.x(groove.at_mm + groove.width_mm / 2)
        for index, letter in enumerate(groove.letters):
            found.append((letter, middle + 44 * (index - (len(groove.letters) - 1) / 2), AXIS - REACH - 22))
    for ring in section.face_grooves:
        middle = frame.x((ring.from_mm + ring.to_mm) / 2)
        for index, letter in enumerate(ring.letters):
            found.append((letter, middle + 44 * index, AXIS - REACH - 22))
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
    return [letter_box(marks[letter], x, y) for letter, x, y in _apart([one for one in found if one[0] in marks])]


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


def letter_box(mark: LetterMark, x: float, y: float) -> Markup:
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
