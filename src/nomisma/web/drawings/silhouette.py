"""A part at a glance: its outline, holes dashed, as small as a word; beside its title it needs no words of its own."""

from collections.abc import Sequence

from markupsafe import Markup

from nomisma.web.drawings.svg import join, line, node

WIDTH, HEIGHT, EDGE = 88.0, 44.0, 2.0


def silhouette(outline: Sequence[Sequence[float]]) -> Markup:
    """The outline of a part: each cylinder as outside (1) or hole (0), from where to where and across, mm; nothing of
    none.
    """
    if not outline:
        return Markup("")
    left, right = min(one[1] for one in outline), max(one[2] for one in outline)
    across = max(one[3] for one in outline)
    scale = min((WIDTH - 2 * EDGE) / (right - left), (HEIGHT - 2 * EDGE) / across)
    begins, axis = (WIDTH - (right - left) * scale) / 2, HEIGHT / 2
    shapes = []
    for is_outside, from_mm, to_mm, across_mm in outline:
        x, high = begins + (from_mm - left) * scale, across_mm * scale
        wide = (to_mm - from_mm) * scale
        if is_outside:
            shapes.append(node("rect", x=x, y=axis - high / 2, width=wide, height=high, class_="cut"))
        else:
            shapes += [line(x, at, x + wide, at, "hole-line") for at in (axis - high / 2, axis + high / 2)]
    return node("svg", join(*shapes), viewBox=f"0 0 {WIDTH:.0f} {HEIGHT:.0f}", class_="silhouette", aria_hidden="true")
