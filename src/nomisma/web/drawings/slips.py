"""Piles of slips side by side, each piece with what is marked on it; wear pieces hatched."""

from decimal import Decimal

from markupsafe import Markup

from nomisma.core.lengths.slips import SlipPile, SlipsResult
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import hatched, rect, words
from nomisma.web.drawings.svg import figure, join, label, line

WIDTH, HEIGHT = 620, 340
TOP, FLOOR = 46, 300
LEAST_HIGH = 17.0
PILE_WIDTH, PITCH, START = 128, 200, 44


def slips_picture(result: SlipsResult, _: Unit) -> Markup:
    """The pile, a second of the rest, and the one that stops short."""
    piles = [one for one in (result.pile, result.second, result.stop_short) if one is not None]
    shapes = [_column(START + PITCH * index, one) for index, one in enumerate(piles)]
    said = "; ".join(f"{one.title}: {', '.join(_marked(size.value()) for size in one.pieces)}" for one in piles)
    ground = line(20, FLOOR, WIDTH - 20, FLOOR, "edge")
    return figure(WIDTH, HEIGHT, "Slips as they are wrung", said, *shapes, ground, class_="slips-picture")


def _column(x: float, pile: SlipPile) -> Markup:
    """Pieces from the floor up; thin ones are drawn thicker than they are, so that they can be read."""
    space = FLOOR - TOP
    total = float(pile.height.mm)
    shown = [max(float(size.mm) / total * space, LEAST_HIGH) for size in pile.pieces]
    scale = min(1.0, space / sum(shown))
    shapes, y = [words(x + PILE_WIDTH / 2, 24, pile.title, "side")], float(FLOOR)
    last = len(pile.pieces) - 1
    for index, (size, high) in enumerate(zip(pile.pieces, shown, strict=True)):
        tall = high * scale
        y -= tall
        worn = pile.wear_pieces and index in ((0, last) if pile.wear_pieces == 2 else (0,))
        shapes.append(hatched(x, y, PILE_WIDTH, tall) if worn else rect(x, y, PILE_WIDTH, tall, "slip"))
        shapes.append(label(x + PILE_WIDTH / 2, y + tall / 2 + 5, _marked(size.value()), "slip-size"))
    below = f"{_marked(pile.height.value())} {pile.height.unit}"
    return join(*shapes, words(x + PILE_WIDTH / 2, FLOOR + 22, below, "scale"))


def _marked(value: Decimal) -> str:
    return f"{value.normalize():f}"
