"""The practice micrometer: sleeve, thimble and vernier, drawn unrolled, to be read."""

from decimal import ROUND_FLOOR, Decimal

from markupsafe import Markup

from nomisma.core.part.member import MemberKind, of_member
from nomisma.core.quantity.display import show
from nomisma.core.quantity.length import Length, in_unit, plain
from nomisma.web.drawings.chart import rect, words
from nomisma.web.drawings.svg import figure, label, line

WIDTH, HEIGHT = 460, 300
EDGE = 270.0
"""Where the thimble's edge stands."""
DATUM = 236.0
DIVISION = 15.0
"""How far one division of the thimble is from the next."""
VERNIER_FROM = 4
"""Divisions above the datum line where the vernier's 0 stands."""


class _Scale:
    """What one line of the sleeve, one turn of the thimble and one of its divisions are worth, in the unit of
    the work.
    """

    def __init__(self, unit: str) -> None:
        metric = unit == "mm"
        self.turn = Decimal("0.5") if metric else Decimal("0.025")
        self.division = Decimal("0.01") if metric else Decimal("0.001")
        self.divisions = int(self.turn / self.division)
        self.numbered = Decimal(1) if metric else Decimal("0.1")
        self.step_width = 22.0


def micrometer_picture(reading: Length, kind: MemberKind) -> Markup:
    """A reading as sleeve and thimble show it: whole turns on the sleeve, divisions at the datum line, the vernier line
    that meets one.
    """
    scale = _Scale(reading.unit)
    value = in_unit(reading.mm, reading.unit).quantize(scale.division / 10)
    turned = float((value % scale.turn) / scale.division)
    of = of_member(kind, shaft="outside micrometer", bore="inside micrometer")
    shapes = [
        rect(8, 34, EDGE - 8, HEIGHT - 48, "sleeve"),
        rect(EDGE, 12, WIDTH - EDGE - 8, HEIGHT - 24, "thimble"),
        line(8, DATUM, EDGE, DATUM, "tick-line strong"),
        *_sleeve(value, scale),
        *_thimble(turned, scale),
        *_vernier(),
        words(EDGE / 2, 24, f"{of}, {reading.unit}", "side"),
    ]
    return figure(
        WIDTH,
        HEIGHT,
        f"The {of}, drawn unrolled",
        f"It says {show(reading.mm, reading.unit)}.",
        *shapes,
        class_="micrometer",
    )


def _sleeve(value: Decimal, scale: _Scale) -> list[Markup]:
    """A line a turn of the thimble, up to what has come out from under it; the whole ones above the datum, numbered."""
    found: list[Markup] = []
    count = int((value / scale.turn).to_integral_value(ROUND_FLOOR))
    for n in range(count, max(count - 11, -1), -1):
        at = n * scale.turn
        x = EDGE - float((value - at) / scale.turn) * scale.step_width
        whole = at % scale.numbered == 0
        if scale.divisions == 50:
            # Metric: millimetres above the line, the halves below.
            found.append(
                line(x, DATUM, x, DATUM - 20 if whole else DATUM + 14, "tick-line strong" if whole else "tick-line")
            )
        else:
            found.append(line(x, DATUM, x, DATUM - (22 if whole else 12), "tick-line strong" if whole else "tick-line"))
        if whole:
            found.append(label(x, DATUM + 32 if scale.divisions == 50 else DATUM + 18, plain(at.normalize()), "scale"))
    return found


def _thimble(turned: float, scale: _Scale) -> list[Markup]:
    found = []
    for n in range(int(turned) - 4, int(turned) + 17):
        y = DATUM - (n - turned) * DIVISION
        if not 16 < y < HEIGHT - 16:
            continue
        fifth = n % 5 == 0
        found.append(line(EDGE, y, EDGE + (34 if fifth else 20), y, "tick-line strong" if fifth else "tick-line"))
        if fifth:
            found.append(label(EDGE + 54, y + 5, str(n % scale.divisions), "scale"))
    return found


def _vernier() -> list[Markup]:
    """Ten lines over nine divisions: the one that meets a line of the thimble is the last figure."""
    found = []
    for n in range(11):
        y = DATUM - (VERNIER_FROM + 0.9 * n) * DIVISION
        found += [line(EDGE - 46, y, EDGE, y, "tick-line"), label(EDGE - 58, y + 4, str(n % 10), "scale vernier")]
    return found
