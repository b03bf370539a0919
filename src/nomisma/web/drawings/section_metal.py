"""The metal of a part in half section: the upper half cut and hatched, the lower half as it looks, without a word."""

from dataclasses import dataclass
from decimal import Decimal
from math import radians, tan

from markupsafe import Markup

from nomisma.core.part.section import Section
from nomisma.core.part.section_shapes import Cylinder, FaceGroove, Groove, ThreadLines
from nomisma.web.drawings.chart import hatched, polygon, rect
from nomisma.web.drawings.svg import join, line, node

REACH = 112.0
"""How far from the axis the largest diameter is drawn."""
LEAST_SCALE, LONGEST_SHARE = 0.5, 3.0


@dataclass(frozen=True, slots=True)
class Frame:
    """Millimetres of the part to the figure; the two scales differ where the part is too slender to be drawn
    to scale.
    """

    section: Section
    along: float
    across: float
    start: float
    axis: float

    def x(self, mm: Decimal) -> float:
        """Where a place along the axis (mm from the left face) stands."""
        return self.start + float(mm) * self.along

    def r(self, diameter_mm: Decimal) -> float:
        """How far over the axis a diameter (mm) stands."""
        return float(diameter_mm) / 2 * self.across

    @property
    def reach(self) -> float:
        """How far over the axis the largest diameter stands."""
        return self.r(self.section.diameter_mm)

    @property
    def to_scale(self) -> bool:
        """Whether length and diameter are drawn alike."""
        return self.along == self.across


def metal(frame: Frame) -> Markup:
    """The part: both halves, its bores, threads and grooves, and its axis."""
    section = frame.section
    return join(
        _cut_half(frame),
        _seen_half(frame),
        *(_bore_lines(frame, bore) for bore in section.bores),
        *(_thread(frame, one) for one in section.threads),
        *(_groove(frame, groove) for groove in section.grooves),
        *(_face_groove(frame, ring) for ring in section.face_grooves),
        line(frame.x(Decimal(0)) - 14, frame.axis, frame.x(section.length_mm) + 14, frame.axis, "centre-line"),
    )


def frame_of(section: Section, *, left: float, right: float, axis: float) -> Frame:
    """The frame that a section fills between two places of a figure, its axis as high as that."""
    across = REACH / (float(section.diameter_mm) / 2)
    along = (right - left) / float(section.length_mm)
    if along >= across:
        long = float(section.length_mm) * across
        return Frame(section, across, across, (left + right - long) / 2, axis)
    if along >= across * LEAST_SCALE / LONGEST_SHARE:
        return Frame(section, along, along, left, axis)
    return Frame(section, along, along * LONGEST_SHARE, left, axis)


def _outline(frame: Frame) -> list[tuple[float, float]]:
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


def _path(frame: Frame, points: list[tuple[float, float]], sign: int, class_: str, *, floor: float = 0.0) -> Markup:
    """The closed shape between the outline and a floor, above (−1) or below (1) the axis."""
    ends = [(points[-1][0], floor), (points[0][0], floor)]
    text = " L ".join(f"{x:.1f} {frame.axis + sign * radius:.1f}" for x, radius in [*points, *ends])
    return node("path", d=f"M {text} Z", class_=class_)


def _cut_half(frame: Frame) -> Markup:
    metal = [
        hatched(
            frame.x(step.from_mm),
            frame.axis - frame.r(step.diameter_mm),
            frame.x(step.to_mm) - frame.x(step.from_mm),
            frame.r(step.diameter_mm),
        )
        for step in frame.section.outside
    ]
    return join(
        *metal,
        _path(frame, _outline(frame), -1, "cut-outline"),
        *(_hollow(frame, bore) for bore in frame.section.bores),
    )


def _hollow(frame: Frame, bore: Cylinder) -> Markup:
    left, right, radius = frame.x(bore.from_mm), frame.x(bore.to_mm), frame.r(bore.diameter_mm)
    return rect(left, frame.axis - radius, right - left, radius, "hollow")


def _seen_half(frame: Frame) -> Markup:
    edges = [
        line(frame.x(step.from_mm), frame.axis, frame.x(step.from_mm), frame.axis + frame.r(step.diameter_mm), "edge")
        for step in frame.section.outside[1:]
    ]
    return join(_path(frame, _outline(frame), 1, "seen-metal"), *edges)


def _bore_lines(frame: Frame, bore: Cylinder) -> Markup:
    left, right, radius = frame.x(bore.from_mm), frame.x(bore.to_mm), frame.r(bore.diameter_mm)
    inside = ((left, bore.from_mm > 0), (right, bore.to_mm < frame.section.length_mm))
    ends = [line(x, frame.axis, x, frame.axis - radius, "edge") for x, is_inside in inside if is_inside]
    return join(line(left, frame.axis - radius, right, frame.axis - radius, "edge"), *ends)


def _groove(frame: Frame, groove: Groove) -> Markup:
    left, right = frame.x(groove.at_mm), frame.x(groove.at_mm + groove.width_mm)
    outer, floor = frame.r(frame.section.outside_at(groove.at_mm)), frame.r(groove.floor_diameter_mm)
    if groove.angle_deg is not None:
        return _v_groove(frame, groove, outer, floor)
    cut = [
        join(
            rect(left, frame.axis - outer if way < 0 else frame.axis + floor, right - left, outer - floor, "hollow"),
            line(left, frame.axis + way * floor, right, frame.axis + way * floor, "edge"),
            line(left, frame.axis + way * outer, left, frame.axis + way * floor, "edge"),
            line(right, frame.axis + way * outer, right, frame.axis + way * floor, "edge"),
        )
        for way in (-1, 1)
    ]
    return join(*cut)


def _face_groove(frame: Frame, ring: FaceGroove) -> Markup:
    """A ring in the half that is cut: hollow, with its two walls and its floor."""
    left, right = frame.x(ring.from_mm), frame.x(ring.to_mm)
    outer, inner = frame.axis - frame.r(ring.outer_mm), frame.axis - frame.r(ring.inner_mm)
    return join(
        rect(left, outer, right - left, inner - outer, "hollow"),
        line(left, outer, right, outer, "edge"),
        line(left, inner, right, inner, "edge"),
        *(
            line(x, outer, x, inner, "edge")
            for x, mm in ((left, ring.from_mm), (right, ring.to_mm))
            if 0 < mm < frame.section.length_mm
        ),
    )


def _v_groove(frame: Frame, groove: Groove, outer: float, floor: float) -> Markup:
    """A V as far as its flanks reach down: sharp, or with the floor that its width at the top leaves."""
    left, right = frame.x(groove.at_mm), frame.x(groove.at_mm + groove.width_mm)
    half = radians(float(groove.angle_deg or 0) / 2)
    lean = min((outer - floor) / frame.across * tan(half) * frame.along, (right - left) / 2)
    corners = ((left, outer), (left + lean, floor), (right - lean, floor), (right, outer))
    return join(
        *(polygon([(x, frame.axis + way * radius) for x, radius in corners], "hollow v-groove") for way in (-1, 1)),
    )


def _thread(frame: Frame, one: ThreadLines) -> Markup:
    """A thin line at the root of an outside thread, in both halves; at the major diameter of an inside one, where it is
    cut.
    """
    left, right, radius = frame.x(one.from_mm), frame.x(one.to_mm), frame.r(one.line_diameter_mm)
    ways = (-1,) if one.is_inside else (-1, 1)
    return join(
        *(line(left, frame.axis + way * radius, right, frame.axis + way * radius, "thread-line") for way in ways)
    )
