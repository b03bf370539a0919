"""The form of a bore or a shaft in section, exaggerated, with the scale stated and the limits beside it."""

from decimal import Decimal

from markupsafe import Markup

from nomisma.core.measuring.form import FormResult, FormSection
from nomisma.core.part.feature import toward_metal
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.quantity.display import show_exact, show_small
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import size_label, small_label, words
from nomisma.web.drawings.svg import figure, join, line, node

WIDTH, HEIGHT = 460, 300
LEFT, RIGHT = 40, 400
MIDDLE, HALF = 140, 62
REACH = 34
"""Pixels the greatest departure takes, on radius."""
LEAST = Decimal("0.005")
"""mm on diameter that fill the reach at least: what no instrument can tell is not blown up."""
_STEPS = ("0.0001", "0.0002", "0.0005", "0.001", "0.002", "0.005", "0.01", "0.02", "0.05", "0.1", "0.2", "0.5")


def form_picture(
    result: FormResult, unit: Unit, lower_mm: Decimal | None = None, upper_mm: Decimal | None = None
) -> Markup:
    """Draw it: walls through the means, a bar from the smallest to the largest direction at each depth."""
    sections = result.sections
    if not sections:
        return Markup("")
    sizes = [mm for one in sections for mm in (one.smallest.mm, one.largest.mm)]
    middle = (max(sizes) + min(sizes)) / 2
    widest = max(max(sizes) - min(sizes), LEAST)
    pixels = REACH * 2 / float(widest)  # per mm on diameter; a wall moves by half of it

    def off(mm: Decimal) -> float:
        return float(mm - middle) * pixels / 2

    ends = [
        (mm, name)
        for mm, name in ((lower_mm, "lower"), (upper_mm, "upper"))
        if mm is not None and abs(off(mm)) < REACH + 2
    ]
    shapes = [
        _body(result, off_of=[off(one.mean.mm) for one in sections]),
        *[_bars(one, off(one.smallest.mm), off(one.largest.mm)) for one in sections],
        *[_limit(off(mm), name) for mm, name in ends],
        *[_label(one) for one in sections],
        _scale(widest, pixels),
    ]
    title = f"Form of the {result.kind}, exaggerated"
    return figure(WIDTH, HEIGHT, title, _in_words(result, unit), *shapes, class_="form-picture")


def _x(share: float) -> float:
    return LEFT + 20 + share * (RIGHT - LEFT - 40)


def _walls(result: FormResult, off_of: list[float]) -> tuple[list[tuple[float, float]], list[tuple[float, float]]]:
    """Upper and lower wall, run out level to both faces."""
    points = [(_x(one.share), offset) for one, offset in zip(result.sections, off_of, strict=True)]
    whole = [(float(LEFT), points[0][1]), *points, (float(RIGHT), points[-1][1])]
    return [(x, MIDDLE - HALF - offset) for x, offset in whole], [(x, MIDDLE + HALF + offset) for x, offset in whole]


def _path(points: list[tuple[float, float]], class_: str, *, closed: bool = False) -> Markup:
    moves = " ".join(f"{'L' if index else 'M'} {x:.1f} {y:.1f}" for index, (x, y) in enumerate(points))
    return node("path", d=moves + (" Z" if closed else ""), class_=class_)


def _body(result: FormResult, *, off_of: list[float]) -> Markup:
    top, bottom = _walls(result, off_of)
    centre = line(LEFT - 12, MIDDLE, RIGHT + 12, MIDDLE, "centre-line")
    if toward_metal(feature_kind(result.kind).material_side) != -1:
        return join(_path([*top, *reversed(bottom)], "cut", closed=True), centre)
    above = _path([(LEFT, 12.0), (RIGHT, 12.0), *reversed(top)], "cut", closed=True)
    below = _path([(LEFT, 268.0), (RIGHT, 268.0), *reversed(bottom)], "cut", closed=True)
    return join(above, below, centre)


def _bars(one: FormSection, low: float, high: float) -> Markup:
    x = _x(one.share)
    return join(
        line(x, MIDDLE - HALF - low, x, MIDDLE - HALF - high, "form-bar"),
        line(x, MIDDLE + HALF + low, x, MIDDLE + HALF + high, "form-bar"),
        node("circle", cx=x, cy=MIDDLE - HALF - (low + high) / 2, r=4, class_="form-dot"),
        node("circle", cx=x, cy=MIDDLE + HALF + (low + high) / 2, r=4, class_="form-dot"),
    )


def _limit(offset: float, name: str) -> Markup:
    return join(
        line(LEFT, MIDDLE - HALF - offset, RIGHT, MIDDLE - HALF - offset, "limit-line"),
        line(LEFT, MIDDLE + HALF + offset, RIGHT, MIDDLE + HALF + offset, "limit-line"),
        words(RIGHT + 4, MIDDLE - HALF - offset + 4, name, "side", "start"),
    )


def _label(one: FormSection) -> Markup:
    x = _x(one.share)
    anchor = "start" if one.share < 0.15 else "end" if one.share > 0.85 else "middle"
    at = LEFT if anchor == "start" else RIGHT if anchor == "end" else x
    size = size_label(at, MIDDLE + 20, one.mean.mm, "scale", anchor)
    name = words(at, MIDDLE - 14, one.name, "side", anchor)
    oval = (
        small_label(at, MIDDLE + 37, one.ovality.mm, "scale", anchor, "oval ")
        if one.ovality and one.ovality.mm
        else join()
    )
    return join(name, size, oval)


def _scale(widest: Decimal, pixels: float) -> Markup:
    """A bar of a round amount on diameter, so that the exaggeration can be read off."""
    step = next((Decimal(text) for text in reversed(_STEPS) if Decimal(text) <= widest), Decimal(_STEPS[0]))
    length = float(step) * pixels / 2
    y = HEIGHT - 8
    return join(
        line(LEFT, y, LEFT + length, y, "form-bar"),
        line(LEFT, y - 5, LEFT, y + 5, "form-bar"),
        line(LEFT + length, y - 5, LEFT + length, y + 5, "form-bar"),
        small_label(LEFT + length + 8, y + 4, step, "scale", "start", "on diameter, this much is "),
    )


def _in_words(result: FormResult, unit: Unit) -> str:
    parts = "; ".join(f"{one.name} {show_exact(one.mean.mm, unit)}" for one in result.sections)
    oval = f" Oval by {show_small(result.ovality.mm, unit)}." if result.ovality else ""
    return f"{result.sentence} {parts}.{oval}"
