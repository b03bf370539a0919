"""Do the faces seat: a boss in its recess, and a corner's radius against the mating edge, both in section."""

from math import cos, pi, sin

from markupsafe import Markup

from nomisma.core.fits.seating import CornerResult, DepthResult
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import hatched, rect, size_label, small_range, words
from nomisma.web.drawings.svg import figure, join, line, node

WIDTH, HEIGHT = 520, 300


def depths_picture(result: DepthResult, _: Unit) -> Markup:
    """Housing with its recess, the boss in it; the gap at its least, drawn where the parts touch first."""
    gap = {"never": 26.0, "sometimes": 10.0, "always": -16.0}[result.bottoms]
    apart = max(-gap, 0.0)
    floor, face = 240.0, 130.0
    boss_end = floor - max(gap, 0.0)
    shapes = [
        hatched(40, face, 120, 150),
        hatched(360, face, 120, 150),
        hatched(160, floor, 200, 40),
        rect(200, face - 80 - apart, 220, 80, "part"),
        rect(172, face - apart, 176, boss_end - face + apart, "part"),
        line(30, face, 490, face, "zero-line"),
        small_range(
            260,
            (floor + boss_end) / 2 + 4 if gap > 12 else floor + 24,
            result.gap_min.mm,
            result.gap_max.mm,
            "scale aim",
        ),
        words(260, 24, "the faces meet" if not apart else "the boss bottoms first: the faces stay apart", "side"),
        size_label(40, face - 26, result.recess_lower.mm, "scale", "start", "recess "),
        size_label(40, face - 9, result.recess_upper.mm, "scale", "start", "to "),
        size_label(260, 186, result.boss_lower.mm, "scale on-part", "middle", "boss "),
        size_label(260, 204, result.boss_upper.mm, "scale on-part", "middle", "to "),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "A boss in its recess, in section; the gap is drawn larger than it is",
        result.sentence,
        join(*shapes),
        class_="depths",
    )


def corner_picture(result: CornerResult, _: Unit) -> Markup:
    """The corner with its radius, and the mating part pushed in until something touches; to scale."""
    edge_mm = float(result.edge_size.mm) if result.edge_size else 0.0
    scale = 120 / (max(float(result.undercut_width.mm), edge_mm / 1.6) or 1.0)  # both may be sharp
    x0, y0 = 120.0, 240.0  # the theoretical corner
    off = float(result.stand_off.mm) * scale
    radius, broken = float(result.undercut_width.mm) * scale, edge_mm * scale
    arc = [(x0 + radius - radius * cos(t * pi / 36), y0 - radius + radius * sin(t * pi / 36)) for t in range(19)]
    corner_path = f"M {x0 - 80:.1f} {y0 - 220:.1f} L {x0:.1f} {y0 - 220:.1f} " + " ".join(
        f"L {x:.1f} {y:.1f}" for x, y in arc
    )
    corner_path += f" L 470 {y0:.1f} L 470 {y0 + 50:.1f} L {x0 - 80:.1f} {y0 + 50:.1f} Z"
    gap = float(result.radial_clearance.mm) * scale
    px, py = x0 + gap, y0 - off
    if result.edge == "radius":
        edge = " ".join(
            f"L {px + broken - broken * cos(t * pi / 24):.1f} {py - broken + broken * sin(t * pi / 24):.1f}"
            for t in range(13)
        )
    else:
        edge = f"L {px:.1f} {py - broken:.1f} L {px + broken:.1f} {py:.1f}"
    part = f"M {px:.1f} {y0 - 200:.1f} {edge} L 440 {py:.1f} L 440 {y0 - 200:.1f} Z"
    shapes = [
        node("path", d=corner_path, class_="cut filled"),
        node("path", d=part, class_="part"),
        size_label(x0 - 70, y0 + 34, result.undercut_width.mm, "scale", "start", "corner radius "),
        words(300, 80, "mating part", "scale on-part"),
    ]
    if off > 0.5:
        shapes += [
            line(455, y0, 455, py, "aim-line"),
            size_label(450, (y0 + py) / 2 + 4, result.stand_off.mm, "scale aim", "end", "off by "),
        ]
    return figure(
        WIDTH, HEIGHT, "The corner and the mating edge, to scale", result.sentence, join(*shapes), class_="corner"
    )
