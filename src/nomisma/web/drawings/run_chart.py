"""The run chart of a batch: pieces in order, the job's limits, the chart's own limits, and where the drift leads."""

from decimal import Decimal

from markupsafe import Markup

from nomisma.core.measuring.batch import BatchResult
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.chart import Frame, size_label, words
from nomisma.web.drawings.marks import shape
from nomisma.web.drawings.svg import figure, join, line, node

WIDTH, HEIGHT = 720, 320
LEFT, RIGHT, TOP, BOTTOM = 96, 700, 24, 276
MOST = 60
AHEAD = 8


def run_chart(result: BatchResult, lower_mm: Decimal, upper_mm: Decimal, unit: Unit) -> Markup:
    """Draw it: the newest sixty pieces, and eight to come along the drift where there is one."""
    pieces = result.pieces[-MOST:]
    count = len(pieces)
    drift = result.drift if result.drift and result.drift.is_real else None
    last = count - 1 + (AHEAD if drift else 0)
    values = [float(piece.mean.mm) for piece in pieces]
    low, high = float(lower_mm), float(upper_mm)
    room = (high - low) * 0.25
    frame = Frame(
        -0.6,
        max(last, 1) + 0.6,
        min(*values, low) - room,
        max(*values, high) + room,
        LEFT,
        RIGHT,
        TOP,
        BOTTOM,
    )
    marks = [
        join(shape(piece.state, frame.x(index), frame.y(values[index]), 8), _serial(frame, index, piece.serial, count))
        for index, piece in enumerate(pieces)
    ]
    return figure(
        WIDTH,
        HEIGHT,
        "Pieces in the order they were made",
        _in_words(result, unit),
        _band(frame, low, high),
        _own_limits(frame, result),
        frame.path([(index, value) for index, value in enumerate(values)], "curve"),
        _drift(frame, result, values, last),
        *marks,
        class_="run-chart",
    )


def _band(frame: Frame, low: float, high: float) -> Markup:
    top, bottom = frame.y(high), frame.y(low)
    return join(
        node("rect", x=float(LEFT), y=top, width=float(RIGHT - LEFT), height=bottom - top, class_="band"),
        frame.level(low, "limit-line"),
        frame.level(high, "limit-line"),
        size_label(LEFT - 8, bottom + 4, low, anchor="end"),
        size_label(LEFT - 8, top + 4, high, anchor="end"),
    )


def _own_limits(frame: Frame, result: BatchResult) -> Markup:
    """What this process does of itself: mean and three sigma, dashed; not what the job allows."""
    chart = result.chart
    if chart is None:
        return join()
    inside = [value for value in (chart.lower_mm, chart.upper_mm) if frame.y_from < value < frame.y_to]
    return join(
        frame.level(chart.centre_mm, "centre-line"),
        *[frame.level(value, "chart-limit") for value in inside],
        words(RIGHT, frame.y(max(inside, default=chart.centre_mm)) - 6, "mean and its 3 σ", "side", "end"),
    )


def _drift(frame: Frame, result: BatchResult, values: list[float], last: int) -> Markup:
    drift = result.drift
    if drift is None or not drift.is_real:
        return join()
    count = len(values)
    middle = sum(values) / count
    points = [(x, middle + drift.per_piece_mm * (x - (count - 1) / 2)) for x in (0, last)]
    ends = [(frame.x(x), frame.y(min(max(y, frame.y_from), frame.y_to))) for x, y in points]
    return line(*ends[0], *ends[1], "drift-line")


def _serial(frame: Frame, index: int, serial: str, count: int) -> Markup:
    every = max(1, count // 15)
    return words(frame.x(index), BOTTOM + 22, serial[:6]) if index % every == 0 else join()


def _in_words(result: BatchResult, unit: Unit) -> str:
    return (
        f"{result.sentence} {result.drift_sentence} Mean {show_exact(result.mean.mm, unit)}, {len(result.pieces)}"
        " pieces."
    )
