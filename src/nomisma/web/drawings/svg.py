"""Small helpers to write SVG safely."""

from collections.abc import Callable
from decimal import Decimal
from itertools import count
from textwrap import wrap

from markupsafe import Markup, escape

_ids = count(1)

Axis = Callable[[Decimal], float]
"""Where a length (mm) stands on an axis of a figure."""


def node(tag: str, content: str | Markup = "", **attributes: object) -> Markup:
    """An element; `class_` and names with underscores become attributes with hyphens; text is escaped."""
    parts = "".join(
        f' {name.rstrip("_").replace("_", "-")}="{_attribute(value)}"' for name, value in attributes.items()
    )
    return Markup(f"<{tag}{parts}>{escape(content)}</{tag}>")


def _attribute(value: object) -> object:
    return f"{value:.2f}".rstrip("0").rstrip(".") if isinstance(value, float) else escape(value)


def figure(
    width: int, height: int, title: str, description: str, *shapes: Markup, class_: str, role: str = "img"
) -> Markup:
    """A whole figure with its text alternative; `role` group where something in it can be chosen."""
    number = next(_ids)
    return node(
        "svg",
        Markup("").join(
            [
                node("title", title, id=f"figure-{number}-title"),
                node("desc", description, id=f"figure-{number}-desc"),
                *shapes,
            ]
        ),
        viewBox=f"0 0 {width} {height}",
        role=role,
        aria_labelledby=f"figure-{number}-title figure-{number}-desc",
        class_=f"figure {class_}",
    )


def line(x1: float, y1: float, x2: float, y2: float, class_: str) -> Markup:
    """A straight line."""
    return node("line", x1=float(x1), y1=float(y1), x2=float(x2), y2=float(y2), class_=class_)


def label(x: float, y: float, content: str | Markup, class_: str = "", anchor: str = "middle") -> Markup:
    """A piece of text."""
    return node("text", content, x=float(x), y=float(y), class_=class_, text_anchor=anchor)


LINE_HIGH = 14
"""From one line of a small text to the next, in the figure."""
LETTER_WIDE = 5.6
"""How wide a letter of it is on the average, in the figure; looked at, not measured."""


def label_lines(x: float, y: float, content: str, wide: float, class_: str = "side") -> list[Markup]:
    """A small text in as many lines as it takes to be no wider than a picture, the first at a height."""
    lines = wrap(content, max(int(wide / LETTER_WIDE), 20))
    return [label(x, y + LINE_HIGH * at, one, class_) for at, one in enumerate(lines)]


def both_units(x: float, y: float, text_in: str, text_mm: str, class_: str = "", anchor: str = "middle") -> Markup:
    """A number in inch and in metric at one place; the style sheet shows the one in force."""
    return label(x, y, text_in, f"u-in {class_}", anchor) + label(x, y, text_mm, f"u-mm {class_}", anchor)


def join(*shapes: Markup) -> Markup:
    """Several shapes as one."""
    return Markup("").join(shapes)


def along(value: Decimal, low: Decimal, high: Decimal, start: float, end: float) -> float:
    """Where a value stands between two ends of an axis."""
    return start + float((value - low) / (high - low)) * (end - start)
