"""The piece as it is now: chuck, jaws, steady or centre, the workpiece in section before an operation, and what that
takes away.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from markupsafe import Markup

from nomisma.core.metal.cut import Cut, Workholding
from nomisma.core.metal.profile import Profile, Stretch
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import in_units, rect
from nomisma.web.drawings.svg import figure, join, line, node

JAW_HIGH = 30.0
"""How high a jaw stands over what it grips, in the figure."""


@dataclass(frozen=True, slots=True)
class Size:
    """How large a picture is: the whole figure, and what stays free about the work."""

    width: int
    height: int
    beside: float
    over: float
    words: bool


LARGE = Size(640, 280, 60, 62, words=True)
SMALL = Size(168, 96, 12, 14, words=False)


@dataclass(frozen=True, slots=True)
class _Frame:
    """Millimetres to the figure: the chuck on the left, as the lathe has it. `off`: by how much the part's own axis
    lies below the spindle's; what `on_axis` cuts lies on the spindle's.
    """

    from_mm: Decimal
    scale: float
    start: float
    axis: float
    off: float = 0.0
    on_axis: tuple[Cut, ...] = ()

    def axis_of(self, one: Stretch) -> float:
        """Where the axis of a stretch of the work is."""
        if not self.off or any(
            cut.low_mm <= one.from_mm and one.to_mm <= cut.high_mm and cut.after_mm in (one.at_from_mm, one.at_to_mm)
            for cut in self.on_axis
        ):
            return self.axis
        return self.axis + self.off

    def x(self, mm: Decimal) -> float:
        return self.start + float(mm - self.from_mm) * self.scale

    def r(self, diameter_mm: Decimal) -> float:
        return float(diameter_mm) / 2 * self.scale


def moment_picture(
    held: Workholding, before: Workpiece, cuts: Sequence[Cut], title: str, *, small: bool = False
) -> Markup:
    """A set-up at the moment of an operation: the work before it, what its cuts take away, what holds it."""
    return _picture(held, before, tuple(cuts), title, SMALL if small else LARGE)


@lru_cache(maxsize=1024)  # the same steps are looked at again and again, on Plan, on the sheet and on Hold
def _picture(held: Workholding, before: Workpiece, cuts: tuple[Cut, ...], title: str, size: Size) -> Markup:
    after = before
    for one in cuts:
        after = after.after(one)
    long_mm = before.right_mm + before.left_mm
    if held.worked == "left":  # turned round: the chuck stands on the left
        held, before, after = held.mirrored(long_mm), before.mirrored(long_mm), after.mirrored(long_mm)
        cuts = tuple(one.mirrored(long_mm) for one in cuts)
    frame = _frame(held, before, size)
    parts = next((one for one in cuts if one.traits.takes == "piece"), None)
    rest = _body(frame, before.outside, "work-now", to_mm=parts.from_mm) if parts is not None else Markup("")
    shapes = [
        *_holders(frame, held, before, behind=True),
        _body(frame, before.outside, "taken"),
        _body(frame, after.outside, "work-now"),
        rest,
        _body(frame, after.hole, "taken"),
        _body(frame, before.hole, "hollow"),
        *_holders(frame, held, before, behind=False),
        line(frame.x(before.left_mm) - 8, frame.axis, frame.x(before.right_mm) + 8, frame.axis, "centre-line"),
        *(_tool(frame, cuts[-1]) if cuts else ()),
        *(_dimensions(frame, cuts[-1], before, after, size) if cuts and size.words else ()),
    ]
    words = f"Held {held.way.replace('_', ' ')}, the chuck on the left; what is taken away is marked."
    return figure(size.width, size.height, title, words, *shapes, class_="moment")


def _frame(held: Workholding, work: Workpiece, size: Size) -> _Frame:
    shown_from = work.left_mm
    if held.grip is not None and held.grip.from_mm - work.left_mm > held.grip.length_mm:
        shown_from = held.grip.from_mm - held.grip.length_mm / 2
    long = float(work.right_mm - shown_from)
    across = float(work.outside.largest_mm(work.left_mm, work.right_mm) + 2 * held.throw_mm)
    room = size.height - 2 * size.over
    scale = min((size.width - 2 * size.beside) / max(long, 1), room / max(across, 1))
    start = (size.width - long * scale) / 2
    on_axis = tuple(one for one in held.cuts if one.throw_mm and one.traits.takes in ("outside", "hole"))
    return _Frame(shown_from, scale, start, size.height / 2, float(held.throw_mm) * scale, on_axis)


def _body(frame: _Frame, profile: Profile, class_: str, *, to_mm: Decimal | None = None) -> Markup:
    """A profile about its axis, each piece of it that is wider than nothing."""
    found: list[Markup] = []
    points: list[tuple[float, float]] = []
    axis = frame.axis
    ends = profile.stretches[-1].to_mm if to_mm is None else to_mm
    for one in profile.within(frame.from_mm, ends):
        if one.at_from_mm == one.at_to_mm == 0 or frame.axis_of(one) != axis:
            found.append(_shape(axis, points, class_))
            points, axis = [], frame.axis_of(one)
        if one.at_from_mm == one.at_to_mm == 0:
            continue
        points += [(frame.x(one.from_mm), frame.r(one.at_from_mm)), (frame.x(one.to_mm), frame.r(one.at_to_mm))]
    return join(*found, _shape(axis, points, class_))


def _shape(axis: float, points: list[tuple[float, float]], class_: str) -> Markup:
    if not points:
        return Markup("")
    around = [(x, -radius) for x, radius in points] + [(x, radius) for x, radius in reversed(points)]
    text = " L ".join(f"{x:.1f} {axis + radius:.1f}" for x, radius in around)
    return node("path", d=f"M {text} Z", class_=class_)


def _holders(frame: _Frame, held: Workholding, work: Workpiece, *, behind: bool) -> Iterator[Markup]:
    """What holds it: jaws and supports behind the work, a mandrel in its bore before it."""
    grip = held.grip
    if (grip is not None and grip.inside) == behind:
        return
    if grip is not None and held.way == "mandrel":
        low, high = frame.x(work.left_mm) - 18, frame.x(work.right_mm) + 18
        yield rect(low, frame.axis - frame.r(grip.diameter_mm), high - low, 2 * frame.r(grip.diameter_mm), "jaw")
    elif grip is not None and grip.inside:
        radius, low, high = frame.r(grip.diameter_mm), frame.x(work.left_mm) - 22, frame.x(grip.to_mm)
        yield rect(low, frame.axis - radius, high - low, 2 * radius, "jaw")
        yield rect(low - 6, frame.axis - radius - 12, 28, 2 * radius + 24, "jaw")
    elif grip is not None:
        low, high, radius = frame.x(grip.from_mm), frame.x(grip.to_mm), frame.r(grip.diameter_mm)
        for sign in (-1, 1):
            top = frame.axis + frame.off + (-radius - JAW_HIGH if sign < 0 else radius)
            yield rect(low, top, high - low, JAW_HIGH, "jaw")
        if grip.against == "step":
            for top in (frame.axis - radius - JAW_HIGH, frame.axis + radius - 9):
                yield rect(low - 9, top, 9, JAW_HIGH + 9, "jaw")
    for one in held.supports:
        match one.kind:
            case "centre" | "plug":
                yield _point_of(
                    frame, frame.x(work.right_mm if one.end == "right" else work.left_mm), one.end == "right"
                )
            case "steady":
                if one.from_mm is not None and one.to_mm is not None:
                    yield from _rollers(frame, (one.from_mm + one.to_mm) / 2, work)
            case "follow_rest":
                pass


def _point_of(frame: _Frame, x: float, at_right: bool) -> Markup:
    away = 22 if at_right else -22
    tip = x - away * 0.25
    return node(
        "path",
        d=f"M {tip:.1f} {frame.axis:.1f} L {x + away:.1f} {frame.axis - 14:.1f} V {frame.axis + 14:.1f} Z",
        class_="jaw",
    )


def _rollers(frame: _Frame, at_mm: Decimal, work: Workpiece) -> Iterator[Markup]:
    radius = frame.r(work.outside.smallest_mm(at_mm, at_mm + Decimal("0.01")))
    for sign in (-1, 1):
        y = frame.axis + sign * (radius + 7)
        yield node("circle", cx=frame.x(at_mm), cy=y, r=7.0, class_="jaw")
        yield line(frame.x(at_mm), y + sign * 7, frame.x(at_mm), y + sign * 22, "edge")


def _tool(frame: _Frame, cut: Cut) -> Iterator[Markup]:
    """Where the tool ends its cut: a point outside, a bar or a drill along the axis."""
    if cut.kind == "deburr":
        return
    x = frame.x(cut.to_mm if cut.is_hole or cut.kind == "face" else cut.low_mm)
    if cut.is_hole or cut.inside or cut.kind == "centre_hole":
        y = frame.axis - (frame.r(cut.after_mm or Decimal(0)) if cut.tool.kind == "boring_bar" else 0)
        yield node("path", d=f"M {x:.1f} {y:.1f} l 9 -4 v 8 Z", class_="tool-point")
        return
    radius = frame.r(cut.after_mm or Decimal(0))
    y = frame.axis - radius
    yield node("path", d=f"M {x:.1f} {y:.1f} l 12 -16 h -9 Z", class_="tool-point")


def _dimensions(frame: _Frame, cut: Cut, before: Workpiece, after: Workpiece, size: Size) -> Iterator[Markup]:
    """The size it is cut to over the work, and how far from the face below it."""
    low, high = frame.x(cut.low_mm), frame.x(cut.high_mm)
    if cut.after_mm and cut.traits.takes not in ("face", "piece", "edge", "crest"):
        yield in_units((low + high) / 2, 22, _said("⌀", cut.after_mm), "value")
        yield line((low + high) / 2, 28, (low + high) / 2, frame.axis - frame.r(cut.after_mm), "leader")
    y = size.height - 26.0
    if cut.kind == "face":
        yield from _between(frame, y, cut.to_mm, cut.from_mm, cut.from_mm - cut.to_mm)
    elif cut.traits.is_counted:
        face_mm = min(after.right_mm, before.right_mm)
        far_mm = cut.low_mm
        yield from _between(frame, y, far_mm, face_mm, abs(face_mm - far_mm))


def _said(sign: str, mm: Decimal) -> Callable[[Unit], str]:
    return lambda unit: f"{sign}{show_exact(mm, unit)}"


def _between(frame: _Frame, y: float, low_mm: Decimal, high_mm: Decimal, long_mm: Decimal) -> Iterator[Markup]:
    low, high = frame.x(low_mm), frame.x(high_mm)
    yield line(low, y, high, y, "dimension")
    yield line(low, frame.axis, low, y + 5, "leader")
    yield line(high, frame.axis, high, y + 5, "leader")
    yield in_units((low + high) / 2, y + 18, _said("", long_mm), "value")
