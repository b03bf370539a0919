"""Chatter and a poor finish: what to change next, one thing at a time, with its figure, and what has been tried."""

from collections.abc import Sequence
from decimal import Decimal
from typing import Annotated, Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, NotDefined, OutOfRange
from nomisma.core.model import Model
from nomisma.core.number import whole_from
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.table import MAYBE, Row, loaded, rows_of
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

ChangedIn = Literal["rpm", "feed", "depth", "nose", "reach", "hold", "other"]


class Change(Row):
    """One thing to change, what it is a change of, by what factor where it is a number, and why."""

    cause: str
    title: str
    change: str
    what: ChangedIn
    factor: Annotated[Decimal | None, MAYBE]
    why: str


@loaded
def chatter_changes() -> list[Change]:
    """Every change of every cause, in order. Source: chatter.csv (common practice, no source).

    >>> chatter_changes()[0].cause
    'long_bar'
    """
    return rows_of("planning", "chatter.csv", Change)


def chatter_causes() -> dict[str, str]:
    """What chatters, by name, in words. Source: chatter.csv (common practice, no source).

    >>> chatter_causes()["thin_wall"]
    'a thin wall'
    """
    return {row.cause: row.title for row in chatter_changes()}


def changes_for(cause: str) -> tuple[Change, ...]:
    """What to change for a cause, in order. Source: chatter.csv (common practice, no source).

    >>> changes_for("thin_wall")[0].change
    'lower the speed'
    """
    return tuple(row for row in chatter_changes() if row.cause == cause)


class ChatterInput(Model):
    """What chatters or looks poor; what is set now, where it is known; `tried`: the numbers of what was tried already
    (1 3).
    """

    cause: str
    rpm: Number | None = Field(default=None, gt=0, le=20_000)
    feed: Size | None = None
    depth: Size | None = None
    nose: Size | None = None
    tried: str = Field(default="", max_length=60)
    unit: Unit = "mm"


class ChatterResult(WorksheetAnswer):
    """What to change next (its number in the list; none where all was tried)."""

    next_change: int | None = None


@calculation(
    name="chatter",
    title="Chatter and finish: one change at a time",
    validity=(
        "A machine in order, gibs and bearings adjusted; the change named is the one tried first, not the only one."
    ),
    source=COMMON_PRACTICE,
    example={"cause": "long_bar", "rpm": 400, "feed": "0.1 mm", "depth": "0.5 mm", "nose": "0.8 mm", "tried": "1"},
)
def chatter(given: ChatterInput) -> ChatterResult:
    """The next change with its figure. Raises NotDefined for a cause that is none, InputError for a number that is not
    in its list.

    Source: common practice, no source.

    >>> found = chatter(ChatterInput(cause="long_bar", rpm=400, tried="1"))
    >>> found.next_change, found.headline
    (2, 'Lower the speed: 280 rpm')
    """
    if given.cause not in chatter_causes():
        raise NotDefined(
            "That is none of the causes here.",
            f"Choose {', '.join(chatter_causes())}.",
            field="cause",
            value=given.cause,
        )
    changes = changes_for(given.cause)
    tried = _tried(given, len(changes))
    left = [number for number in range(1, len(changes) + 1) if number not in tried]
    figures = [_figure(one, given) for one in changes]
    if not left:
        headline, sentence = (
            "All of it was tried",
            "Then look at the machine: gibs, spindle bearings, the post's seat, the chuck's jaws.",
        )
    else:
        one = changes[left[0] - 1]
        figure = figures[left[0] - 1]
        headline = f"{one.change[0].upper()}{one.change[1:]}{f': {figure}' if figure else ''}"
        sentence = f"{one.why[0].upper()}{one.why[1:]}. One change, then listen again."
    return ChatterResult(
        next_change=left[0] if left else None,
        headline=headline,
        sentence=sentence,
        table=AnswerTable(head=["Change", "To", "Tried", "Why"], rows=_rows(changes, figures, tried)),
        steps=[
            "Change one thing, cut, listen, look at the surface.",
            "Type its number under Tried; keep the answer with the job.",
        ],
        cautions=["Clear the tool before the speed is changed; stop the spindle before a finger feels the finish."],
        working=[
            Step(
                name="Order",
                formula="as practitioners try it",
                values=chatter_causes()[given.cause],
                result=f"{len(tried)} of {len(changes)} tried",
                source=COMMON_PRACTICE,
            )
        ],
    )


def _tried(given: ChatterInput, count: int) -> set[int]:
    if given.tried.strip() in ("0", "none"):
        return set()
    try:
        return {whole_from(part, least=1, most=count, field="tried") for part in given.tried.replace(",", " ").split()}
    except OutOfRange:
        raise InputError(
            f"“{given.tried}” is not numbers of the list.", f"Give them from 1 to {count}.", field="tried"
        ) from None


def _figure(one: Change, given: ChatterInput) -> str:
    """What the change comes to from what is set now; empty where nobody said."""
    if one.factor is None:
        return ""
    if one.what == "rpm":
        return f"{float(given.rpm * one.factor):.0f} rpm" if given.rpm else f"to {one.factor * 100:.0f} % of it"
    now: Length | None = getattr(given, one.what)
    if now is None:
        return f"to {one.factor * 100:.0f} % of it"
    return show_exact((now.mm * one.factor).quantize(Decimal("0.0001")), given.unit)


def _rows(changes: Sequence[Change], figures: Sequence[str], tried: set[int]) -> list[list[Fact]]:
    rows = []
    for number, (one, figure) in enumerate(zip(changes, figures, strict=True), 1):
        done = "tried" if number in tried else ""
        rows.append([Fact(words=f"{number}. {one.change}"), Fact(words=figure), Fact(words=done), Fact(words=one.why)])
    return rows
