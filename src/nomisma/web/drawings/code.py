"""A mark on paper that a tablet's camera reads: an address as a QR code (ISO/IEC 18004)."""

from functools import lru_cache

import segno
from markupsafe import Markup

from nomisma.web.drawings.svg import node

QUIET = 4
"""Modules left white about it, as the standard has it."""


def code_shapes(address: str) -> tuple[int, Markup]:
    """The shapes of a code, and how many modules its side is with the white about it."""
    rows = [list(row) for row in segno.make(address, error="m", micro=False).matrix]
    side = len(rows) + 2 * QUIET
    black = "".join(
        f"M{x + QUIET} {y + QUIET}h1v1h-1z" for y, row in enumerate(rows) for x, is_black in enumerate(row) if is_black
    )
    ground = node("rect", width=side, height=side, class_="code-paper")
    return side, ground + node("path", d=black, class_="code-black")


@lru_cache(maxsize=256)
def code_picture(address: str, title: str) -> Markup:
    """An address as a QR code that stands a tenth of it being oiled over (level M)."""
    side, drawn = code_shapes(address)
    return node(
        "svg",
        node("title", title) + drawn,
        viewBox=f"0 0 {side} {side}",
        role="img",
        aria_label=title,
        class_="code",
        shape_rendering="crispEdges",
    )
