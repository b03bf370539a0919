"""The run: what stands to the aim after each cut, with what was expected of it, the limits, and the passes to come."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from markupsafe import Markup

from nomisma.core.cutting.coach_model import NextCutResult
from nomisma.core.part.feature import cut_direction
from nomisma.core.part.feature_kinds import KindName
from nomisma.web.drawings.chart import small_label, words
from nomisma.web.drawings.svg import figure, join, line, node

WIDTH, HEIGHT = 560, 300
LEFT, RIGHT, TOP, BOTTOM = 86, 540, 34, 258
SHOWN = 10


@dataclass(frozen=True, slots=True)
class CutDrawn:
    """A cut that was taken: the size before and after it, and what was expected (90 % interval) where something was."""

    before_mm: Decimal
    after_mm: Decimal
    low_mm: Decimal | None = None
    high_mm: Decimal | None = None


@dataclass(frozen=True, slots=True)
class Run:
    """A piece on its way to size, mm on diameter."""

    kind: KindName
    lower_mm: Decimal
    upper_mm: Decimal
    aim_mm: Decimal
    size_mm: Decimal | None
    cuts: Sequence[CutDrawn]


def passes_picture(run: Run, result: NextCutResult | None) -> Markup:
    """Distances to the aim by their square root with a sign, so that hundredths and millimetres are both seen."""
    sign = cut_direction(run.kind)

    def to_go(mm: Decimal) -> float:
        return float(sign * (mm - run.aim_mm))

    taken = run.cuts[-SHOWN:]
    start = taken[0].before_mm if taken else run.size_mm
    if start is None:
        return Markup("")
    plan = result.plan if result else []
    band = sorted((to_go(run.lower_mm), to_go(run.upper_mm)))
    values = [to_go(start), *(to_go(one.after_mm) for one in taken), *band]
    top, bottom = _root(max(values)), _root(min(min(values), band[0] * 2 if band[0] < 0 else band[0]))
    steps = max(len(taken) + len(plan), 1)

    def x(index: int) -> float:
        return LEFT + 24 + (RIGHT - LEFT - 40) * index / steps

    def y(distance: float) -> float:
        return BOTTOM - (_root(distance) - bottom) / ((top - bottom) or 1) * (BOTTOM - TOP)

    shapes = [
        node(
            "rect",
            x=float(LEFT),
            y=y(band[1]),
            width=float(RIGHT - LEFT),
            height=max(y(band[0]) - y(band[1]), 2.0),
            class_="band",
        ),
        line(LEFT, y(band[0]), RIGHT, y(band[0]), "limit-line gone-line"),
        line(LEFT, y(band[1]), RIGHT, y(band[1]), "limit-line"),
        line(LEFT, y(0), RIGHT, y(0), "aim-line"),
        words(LEFT - 6, y(0) + 4, "aim", "aim", "end"),
        words(LEFT - 6, y(band[0]) + 16, "gone", "side", "end"),
        node("circle", cx=x(0), cy=y(to_go(start)), r=6, class_="form-dot"),
        small_label(x(0) + 10, y(to_go(start)) - 8, Decimal(f"{to_go(start):.6f}"), "scale", "start"),
    ]
    before = (x(0), y(to_go(start)))
    for index, one in enumerate(taken, start=1):
        here = (x(index), y(to_go(one.after_mm)))
        whisker = (
            line(here[0], y(to_go(one.low_mm)), here[0], y(to_go(one.high_mm)), "expected")
            if one.low_mm is not None and one.high_mm is not None
            else join()
        )
        shapes += [
            line(*before, *here, "offset-line"),
            whisker,
            node("circle", cx=here[0], cy=here[1], r=6, class_="form-dot"),
        ]
        before = here
    for index, to_come in enumerate(plan, start=len(taken) + 1):
        here = (x(index), y(to_go(to_come.after.mm)))
        ends = (y(to_go(to_come.after_low.mm)), y(to_go(to_come.after_high.mm)))
        shapes += [
            line(*before, *here, "planned"),
            line(here[0], ends[0], here[0], ends[1], "expected"),
            node("circle", cx=here[0], cy=here[1], r=5, class_="planned-dot"),
        ]
        before = here
    shapes.append(
        words((LEFT + RIGHT) / 2, HEIGHT - 8, "cuts taken, and the passes to come; bars hold nine in ten", "side")
    )
    said = f"{len(taken)} cuts taken, {len(plan)} to come. The aim lies {to_go(start):.3f} mm from where the run began."
    return figure(WIDTH, HEIGHT, "The run: what stands to the aim", said, *shapes, class_="passes-picture")


def _root(distance: float) -> float:
    return float(abs(distance) ** 0.5) * (1 if distance >= 0 else -1)
