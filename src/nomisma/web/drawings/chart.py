"""A plot's frame: values to places, lines, areas, and ticks in both units."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from markupsafe import Markup

from nomisma.core.quantity.display import show_exact, show_small
from nomisma.core.quantity.length import UNITS, Unit
from nomisma.web.drawings.svg import both_units, label, line, node

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Frame:
    """Where values stand: x and y ranges in the plot's own units, and the rectangle they fill."""

    x_from: float
    x_to: float
    y_from: float
    y_to: float
    left: float
    right: float
    top: float
    bottom: float

    def x(self, value: float) -> float:
        """Place of a value along."""
        return self.left + (value - self.x_from) / ((self.x_to - self.x_from) or 1) * (self.right - self.left)

    def y(self, value: float) -> float:
        """Place of a value up."""
        return self.bottom - (value - self.y_from) / ((self.y_to - self.y_from) or 1) * (self.bottom - self.top)

    def path(self, points: Sequence[Point], class_: str) -> Markup:
        """A line through points."""
        return node("path", d=_moves([(self.x(x), self.y(y)) for x, y in points]), class_=class_)

    def area(self, upper: Sequence[Point], lower: Sequence[Point], class_: str) -> Markup:
        """The area between two lines."""
        around = [(self.x(x), self.y(y)) for x, y in (*upper, *reversed(lower))]
        return node("path", d=_moves(around) + " Z" if around else "", class_=class_)

    def upright(self, value: float, class_: str) -> Markup:
        """A line from bottom to top."""
        return line(self.x(value), self.top, self.x(value), self.bottom, class_)

    def level(self, value: float, class_: str) -> Markup:
        """A line from left to right."""
        return line(self.left, self.y(value), self.right, self.y(value), class_)


def _moves(points: Sequence[Point]) -> str:
    return " ".join(f"{'L' if index else 'M'} {x:.1f} {y:.1f}" for index, (x, y) in enumerate(points))


def size_label(
    x: float, y: float, mm: Decimal | float, class_: str = "scale", anchor: str = "middle", before: str = ""
) -> Markup:
    """A size at a place, in both units."""
    exact = mm if isinstance(mm, Decimal) else Decimal(f"{mm:.7f}")
    return both_units(x, y, before + show_exact(exact, "in"), before + show_exact(exact, "mm"), class_, anchor)


def small_label(
    x: float,
    y: float,
    mm: Decimal | float,
    class_: str = "scale",
    anchor: str = "middle",
    before: str = "",
    *,
    signed: bool = False,
) -> Markup:
    """A small length at a place, in thou and µm."""
    exact = mm if isinstance(mm, Decimal) else Decimal(f"{mm:.7f}")
    texts = (before + show_small(exact, unit, signed=signed) for unit in UNITS)
    return both_units(x, y, next(texts), next(texts), class_, anchor)


def small_range(
    x: float, y: float, low_mm: Decimal, high_mm: Decimal, class_: str = "scale", anchor: str = "middle"
) -> Markup:
    """A range of small lengths at a place, in thou and µm."""
    texts = [f"{show_small(low_mm, unit).rsplit(' ', 1)[0]} to {show_small(high_mm, unit)}" for unit in UNITS]
    return both_units(x, y, texts[0], texts[1], class_, anchor)


def words(x: float, y: float, text: str, class_: str = "side", anchor: str = "middle") -> Markup:
    """Plain words at a place."""
    return label(x, y, text, class_, anchor)


def rect(x: float, y: float, width: float, height: float, class_: str) -> Markup:
    """A rectangle."""
    return node(
        "rect", x=float(x), y=float(y), width=float(max(width, 0.0)), height=float(max(height, 0.0)), class_=class_
    )


def circle(x: float, y: float, radius: float, class_: str) -> Markup:
    """A circle."""
    return node("circle", cx=float(x), cy=float(y), r=float(radius), class_=class_)


def polygon(points: Sequence[Point], class_: str) -> Markup:
    """A closed shape from point to point."""
    return node("path", d=f"{_moves(points)} Z", class_=class_)


def hatched(x: float, y: float, width: float, height: float, step: float = 9.0) -> Markup:
    """A part cut through: outline and 45° lines, as on a shop drawing."""
    lines = []
    offset = step
    while offset < width + height:
        x1, y1 = x + min(offset, width), y + max(offset - width, 0.0)
        x2, y2 = x + max(offset - height, 0.0), y + min(offset, height)
        lines.append(line(x1, y1, x2, y2, "hatch"))
        offset += step
    return Markup("").join([rect(x, y, width, height, "cut"), *lines])


def arrow(x: float, y_from: float, y_to: float) -> Markup:
    """A short upright arrow with its head at `y_to`."""
    back = 6 if y_to > y_from else -6
    head = f"M {x - 4:.1f} {y_to - back:.1f} L {x:.1f} {y_to:.1f} L {x + 4:.1f} {y_to - back:.1f}"
    return line(x, y_from, x, y_to, "arrow") + node("path", d=head, class_="arrow")


def in_units(x: float, y: float, text: Callable[[Unit], str], class_: str = "scale", anchor: str = "middle") -> Markup:
    """Words that differ by the unit of the shop."""
    return both_units(x, y, text("in"), text("mm"), class_, anchor)
