"""The part in half section with its sizes: diameters above it, lengths under it, each by its letter."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import lru_cache

from markupsafe import Markup

from nomisma.core.part.axial_lengths import AxialLength
from nomisma.core.part.section import Section
from nomisma.core.quantity.length import UNITS, Unit
from nomisma.web.drawings.chart import polygon, rect
from nomisma.web.drawings.label_rows import Placed, pointing, rows_of, spanning
from nomisma.web.drawings.marks import shape
from nomisma.web.drawings.section import LetterMark
from nomisma.web.drawings.section_metal import Frame, frame_of, metal
from nomisma.web.drawings.svg import LINE_HIGH, figure, join, label, label_lines, line, node

WIDE, NARROW = 760, 420
"""How wide the figure is on a desk, and on a phone or in a side column."""
SPARE = 0.09
"""What is left free of the width on either side of the part."""
ROW, NEAREST = 27, 24
BOX, CHARACTER = 38.0, 7.1
"""How wide a letter's box is, and a character of a size."""
MARGIN = 8.0


@dataclass(frozen=True, slots=True)
class Dimension:
    """What a drawing says of a feature: its letter with its mark, and its size in each unit, as written in its own."""

    mark: LetterMark
    says_in: str
    says_mm: str

    def says(self, unit: Unit) -> str:
        """Its size in a unit."""
        return self.says_in if unit == "in" else self.says_mm


@dataclass(frozen=True, slots=True)
class Dimensioned:
    """The drawing, and the letters that have no place in it."""

    figure: Markup
    unplaced: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class _Laid:
    """The labels of one unit: those over the part, and those under it."""

    above: tuple[Placed, ...]
    below: tuple[Placed, ...]


def dimensioned(
    section: Section,
    lengths: Iterable[AxialLength],
    dimensions: Iterable[Dimension],
    units: tuple[Unit, ...] = UNITS,
    *,
    width: int = WIDE,
) -> Dimensioned:
    """Draw a section with the sizes of its features; what has no place in it is named beside it. Of several `units` the
    style sheet shows the one in force.
    """
    return _drawn(section, tuple(lengths), tuple(dimensions), units, width)


@lru_cache(maxsize=128)  # the same part is looked at again and again
def _drawn(
    section: Section,
    lengths: tuple[AxialLength, ...],
    given: tuple[Dimension, ...],
    units: tuple[Unit, ...],
    width: int,
) -> Dimensioned:
    says = {one.mark.letter: one for one in given}
    flat = frame_of(section, left=width * SPARE, right=width * (1 - SPARE), axis=0.0)
    along = {one.letter: one for one in lengths if one.letter in says}
    points = {letter: found for letter, found in _points(flat).items() if letter in says and letter not in along}
    laid = {unit: _laid(flat, along, points, says, unit, width) for unit in units}
    top = NEAREST + MARGIN + ROW * max(_rows(one.above) for one in laid.values())
    frame = replace(flat, axis=top + flat.reach)
    bottom = frame.axis + frame.reach + NEAREST + ROW * max(_rows(one.below) for one in laid.values())
    said = [f"Drawn from its sizes{'' if frame.to_scale else ', not to scale'}."]
    if section.assumed:
        said.append(f"Not said, so assumed: {', '.join(section.assumed)}.")
    lines = label_lines(width / 2, bottom + 22, " ".join(said), width)
    drawing = figure(
        width,
        round(bottom + 34 + LINE_HIGH * (len(lines) - 1)),
        "The part in half section, with its sizes",
        "; ".join(f"{one.mark.letter} {one.says_mm}, {one.mark.words}" for one in given),
        metal(frame),
        *(
            node(
                "g", _sizes(frame, laid[unit], along, points, says, unit), class_=f"u-{unit}" if len(units) > 1 else ""
            )
            for unit in units
        ),
        *lines,
        class_="section dimensioned" if width == WIDE else "section dimensioned narrow",
        role="group" if any(one.mark.href for one in given) else "img",
    )
    return Dimensioned(drawing, tuple(letter for letter in says if letter not in points and letter not in along))


def _rows(placed: Sequence[Placed]) -> int:
    return 1 + max((one.row for one in placed), default=-1)


def _laid(
    flat: Frame,
    along: Mapping[str, AxialLength],
    points: "Mapping[str, _Point]",
    says: Mapping[str, Dimension],
    unit: Unit,
    width: int,
) -> _Laid:
    """Where the labels of a unit stand, whatever the axis is."""
    wide = {letter: _wide(one.says(unit)) for letter, one in says.items()}
    leaders = tuple(pointing(letter, wide[letter], *points[letter][:2]) for letter in _narrow_first(points))
    spans = tuple(
        spanning(one.letter, wide[one.letter], flat.x(one.from_mm), flat.x(one.to_mm))
        for one in _shortest_first(along.values())
    )
    ends = {"left": MARGIN, "right": width - MARGIN}
    return _Laid(rows_of(leaders, **ends), rows_of(spans, **ends))


def _sizes(
    frame: Frame,
    laid: _Laid,
    along: Mapping[str, AxialLength],
    points: "Mapping[str, _Point]",
    says: Mapping[str, Dimension],
    unit: Unit,
) -> Markup:
    """The lines to and between what is dimensioned, and over them the labels."""
    return join(
        *(_leader(frame, one, points[one.name]) for one in laid.above),
        *(_dimension_line(frame, one, along[one.name]) for one in laid.below),
        *(_label(one, _over(frame, one), says[one.name], unit) for one in laid.above),
        *(_label(one, _under(frame, one), says[one.name], unit) for one in laid.below),
    )


def _wide(text: str) -> float:
    """How wide a letter in its box and a text are."""
    return BOX + CHARACTER * len(text) + 8


_Point = tuple[float, float, float]
"""From where to where a label may point along the figure, and how far over the axis it points."""


def _points(frame: Frame) -> dict[str, _Point]:
    """Where the label of each letter points that says no length: to its diameter in the half that is cut."""
    section = frame.section
    found: dict[str, _Point] = {}
    for step in (*section.outside, *section.bores):
        found[step.letter] = (frame.x(step.from_mm), frame.x(step.to_mm), frame.r(step.diameter_mm))
    for thread in section.threads:
        radius = frame.r(thread.line_diameter_mm)
        found[thread.letter] = (frame.x(thread.from_mm), frame.x(thread.to_mm), radius)
    for groove in section.grooves:
        wide, floor = groove.width_mm, frame.r(groove.floor_diameter_mm)
        middle = frame.x(groove.at_mm + wide / 2)
        for letter in groove.letters:
            found.setdefault(letter, (middle - 1, middle + 1, floor))
    for ring in section.face_grooves:
        for letter, across_mm in zip(ring.letters, (ring.outer_mm, ring.inner_mm), strict=False):
            found[letter] = (frame.x(ring.from_mm), frame.x(ring.to_mm), frame.r(across_mm))
    if section.chamfer_letter:
        end = frame.x(section.length_mm)
        found[section.chamfer_letter] = (end - 2, end, frame.r(section.outside[-1].diameter_mm) - 2)
    return found


def _narrow_first(points: Mapping[str, _Point]) -> list[str]:
    """The letters in the order they get a place: what is narrow first, for it can point nowhere else."""
    return sorted(points, key=lambda letter: (points[letter][1] - points[letter][0], points[letter][0]))


def _shortest_first(lengths: Iterable[AxialLength]) -> list[AxialLength]:
    return sorted(lengths, key=lambda one: (one.to_mm - one.from_mm, one.from_mm))


def _over(frame: Frame, place: Placed) -> float:
    """How high a label of a row over the part stands."""
    return frame.axis - frame.reach - NEAREST - ROW * place.row


def _under(frame: Frame, place: Placed) -> float:
    """How low a label of a row under the part stands."""
    return frame.axis + frame.reach + NEAREST + ROW * place.row


def _leader(frame: Frame, place: Placed, point: _Point) -> Markup:
    """The line from a label over the part to what it is of."""
    (x,) = place.lines
    tip = frame.axis - point[2]
    return join(
        line(x, _over(frame, place), x, tip, "dimension-line"),
        polygon([(x, tip), (x - 3, tip - 8), (x + 3, tip - 8)], "dimension-tip"),
    )


def _dimension_line(frame: Frame, place: Placed, of: AxialLength) -> Markup:
    """A length under the part: from each of its ends a line down, between them the dimension with its tips."""
    y = _under(frame, place)
    low, high = place.lines
    section = frame.section
    way = 1 if high - low > 20 else -1  # of a short one the tips point inwards from outside
    ends = [(low, of.from_mm, way), (high, of.to_mm, -way)]
    beyond = 0.0 if way > 0 else 14.0
    begins = min(low - beyond, place.right) if place.right < low else low - beyond
    finishes = max(high + beyond, place.left) if place.left > high else high + beyond
    return join(
        *(line(x, frame.axis + _edge(frame, section, mm) + 4, x, y + 5, "extension-line") for x, mm, _ in ends),
        line(begins, y, finishes, y, "dimension-line"),
        *(polygon([(x, y), (x + 8 * to, y - 3), (x + 8 * to, y + 3)], "dimension-tip") for x, _, to in ends),
    )


def _edge(frame: Frame, section: Section, along_mm: Decimal) -> float:
    """How far under the axis the outline is at a place, the larger of the two that meet there."""
    beside = [one.diameter_mm for one in section.outside if one.from_mm <= along_mm <= one.to_mm]
    return frame.r(max(beside, default=section.diameter_mm))


def _label(place: Placed, y: float, says: Dimension, unit: Unit) -> Markup:
    """A letter in its box with the size beside it, leading to the feature's page."""
    mark = says.mark
    x = place.left + BOX / 2
    shapes = join(
        node("title", f"{mark.letter}: {mark.words}"),
        rect(place.left, y - 12, place.width, 23, "dimension-ground"),
        rect(place.left, y - 12, BOX, 23, "letter-box in-hand" if mark.in_hand else "letter-box"),
        shape(mark.state, x - 9, y - 1, 6) if mark.state else join(),
        label(x + (7 if mark.state else 0), y + 5, mark.letter, "section-letter"),
        label(place.left + BOX + 5, y + 4, says.says(unit), "dimension-says", "start"),
    )
    if not mark.href:
        return node("g", shapes)
    return node("a", shapes, href=mark.href, aria_label=f"{mark.letter}: {says.says(unit)}, {mark.words}")
