"""A label for a job, or for a piece in its bin: what it is, its sizes in words, and a mark that opens it on a phone."""

from collections.abc import Sequence
from textwrap import wrap

from markupsafe import Markup

from nomisma.web.drawings.code import code_shapes
from nomisma.web.drawings.svg import figure, label, node

WIDE, HIGH = 620, 290
"""62 × 29 mm, a roll that label printers have; tenths of a mm."""
EDGE, CODE = 18, 254
TEXT_AT = EDGE + CODE + 14
TITLE_LETTERS, TITLE_LINES = 24, 2
MOST_LINES = 3
LINE_LETTERS = 22


def job_label(address: str, head: str, title: str, lines: Sequence[str]) -> Markup:
    """Draw one label, black on white: the mark at the left, beside it a head, the job's title, and up to three lines.

    A title or a line that is too long for it ends in three dots; what does not fit is in the job.
    """
    side, modules = code_shapes(address)
    placed = f"translate({EDGE} {(HIGH - CODE) // 2}) scale({CODE / side:.4f})"
    code = node("g", modules, transform=placed, shape_rendering="crispEdges")
    titles = _cut(title, TITLE_LETTERS, TITLE_LINES)
    shapes = [node("rect", width=WIDE, height=HIGH, class_="code-paper"), code, _text(head, 52, "label-head")]
    y = 52
    for one in titles:
        y += 36
        shapes.append(_text(one, y, "label-title"))
    y = max(y + 20, 150)
    for one in lines[:MOST_LINES]:
        y += 42
        shapes.append(_text(" ".join(_cut(one, LINE_LETTERS, 1)), y, "label-size"))
    said = "; ".join([title, *lines[:MOST_LINES]])
    return figure(WIDE, HIGH, head, said, *shapes, class_="job-label")


def _cut(words: str, letters: int, lines: int) -> list[str]:
    return wrap(words, letters, max_lines=lines, placeholder=" …")


def _text(words: str, y: int, class_: str) -> Markup:
    return label(TEXT_AT, y, words, class_, "start")
