"""A drill for a tap by how much of the thread is wanted, and one that clears its screw, from the drills there are."""

from decimal import Decimal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.cutting.hole import OVERSIZE
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both
from nomisma.core.quantity.drills import DrillSystem, drill_table
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.table import loaded
from nomisma.core.threads.designation import Thread, thread_named, threads
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

FULL_THREAD = Decimal("1.299038106")
"""Twice the depth of a full external thread over its pitch: 3/4·√3 of the basic profile. Source: ISO 68-1 (recalled).
"""
LEAST_PERCENT, MOST_PERCENT = Decimal(50), Decimal(83)
"""Less strips, more breaks taps. Source: common practice, no source (60 to 75 % is usual)."""
LEAST_SAID, MOST_SAID = Decimal(20), Decimal(110)
"""Outside of these a drill is none for this thread, and no share of it is said. Source: common practice, no source."""
USUAL_PERCENT: dict[Unit, Decimal] = {"mm": Decimal(77), "in": Decimal(75)}
"""As the drills of published tables leave. Source: handbooks (recalled)."""


@loaded
def clearances_are_sizes() -> None:
    """Each clearance hole of the table is a drill or a size. Raises ValueError.

    Source: none, bookkeeping.

    >>> clearances_are_sizes()
    """
    for thread in threads().values():
        for column, text in (("close", thread.close), ("free", thread.free)):
            try:
                _clears(text, thread)
            except InputError as error:
                raise ValueError(f"threads.csv, {thread.name}, column {column}: “{text}”: {error.sentence}") from None


CAUTION = "No tap is driven by a spindle that nobody can stop at once."


class TappingInput(Model):
    """A thread, how much of it is wanted in per cent of its full height, and which drills are in the drawer (empty:
    those of its unit).

    Where neither is given: the drill of the published table for a metric thread (about 77 %), 75 % of an inch one.
    """

    thread: str = Field(max_length=40)
    percent: Number | None = Field(default=None, ge=40, le=100)
    drills: DrillSystem | None = None
    unit: Unit = "mm"


class TappingResult(WorksheetAnswer):
    """The drill for the tap, how much thread it leaves, and the drills (or sizes) that clear the screw."""

    drill: str
    drill_size: Size
    thread_percent: Number
    wanted_size: Size
    close: Size | None = None
    free: Size | None = None


@calculation(
    name="tapping",
    title="A drill for a tap, and to clear its screw",
    validity=(
        "60° threads of ISO 68-1 and ASME B1.1; ordinary taps (a forming tap wants a larger hole, by its maker's"
        " sheet)."
    ),
    source="ISO 68-1, ISO 261, ISO 273, ASME B1.1 (recalled); common practice, no source (how much of the thread)",
    example={"thread": "1/4-20", "percent": 75, "unit": "in"},
)
def tapping(given: TappingInput) -> TappingResult:
    """The drill nearest to the size that leaves so much thread. Raises NotDefined for an unknown thread, OutOfRange.

    Source: hole = diameter − percent/100 × 1.299 × pitch (basic profile of ISO 68-1, recalled).

    >>> found = tapping(TappingInput(thread="1/4-20")); found.drill, tapping(TappingInput(thread="M8")).drill
    ('#7', '6.8 mm')
    """
    thread = thread_named(given.thread)
    percent = given.percent or USUAL_PERCENT[thread.unit]
    wanted = thread.diameter_mm - percent / 100 * FULL_THREAD * thread.pitch_mm
    if wanted <= 0:
        raise OutOfRange("Such a thread leaves no hole.", "Check the pitch.", field="thread")
    drills = drill_table(given.drills or ("inch" if thread.unit == "in" else "metric"))
    name, size = min(drills, key=lambda one: abs(one[1] - wanted))
    if given.percent is None and given.drills is None and thread.tap_drill_mm is not None:
        name, size = f"{thread.tap_drill_mm} mm", thread.tap_drill_mm
    if not LEAST_SAID <= _percent(thread, size) <= MOST_SAID:
        raise OutOfRange(
            f"No drill of that drawer comes near the hole {thread.name} wants, {both(wanted, given.unit)}.",
            "Bore it, choose the other drills, or check the pitch.",
            field="thread",
        )
    unit = given.unit
    near = sorted(sorted(drills, key=lambda one: abs(one[1] - wanted))[:5], key=lambda one: one[1])
    leaves, *after = (_percent(thread, size + over) for over in (Decimal(0), *(one.mm for one in OVERSIZE)))
    clear = [_clears(text, thread) for text in (thread.close, thread.free)]
    return TappingResult(
        drill=name,
        drill_size=Length(size, unit),
        thread_percent=leaves.quantize(Decimal("0.1")),
        wanted_size=Length(wanted.quantize(Decimal("1e-6")), unit),
        close=Length(clear[0], unit) if clear[0] else None,
        free=Length(clear[1], unit) if clear[1] else None,
        headline=name,
        sentence=(
            f"Leaves {leaves:.0f} % of the thread of {thread.name}; cut over by what drills do, {after[0]:.0f} to"
            f" {after[1]:.0f} %, the smaller the drill the nearer to the first."
        ),
        facts=[
            Fact(name="Drill", length=Length(size, unit)),
            Fact(name=f"For {percent} % it would be", length=Length(wanted.quantize(Decimal("1e-6")), unit)),
            *(
                Fact(name=f"Clears the screw, {word}: {text}", length=Length(mm, unit))
                for word, text, mm in zip(("close", "free"), (thread.close, thread.free), clear, strict=True)
                if mm
            ),
        ],
        table=AnswerTable(
            head=["Drill", "Size", "Thread"],
            rows=[
                [Fact(words=one), Fact(length=Length(mm, unit)), Fact(words=f"{_percent(thread, mm):.0f} %")]
                for one, mm in near
            ],
        ),
        notes=_notes(leaves),
        steps=[
            "Drill deeper than the thread by the tap’s lead; chamfer to the thread’s diameter first.",
            "Tap square: the tailstock’s centre in the tap, by hand, oil, back for the chip.",
        ],
        cautions=[CAUTION],
        working=[
            Step(
                name="Hole wanted",
                formula="diameter − percent/100 × 1.299 × pitch",
                values=(
                    f"{both(thread.diameter_mm, unit)} − {percent}/100 × 1.299038 ×"
                    f" {both(thread.pitch_mm, unit, decimals=5)}"
                ),
                result=both(wanted, unit),
                source="ISO 68-1 (recalled)",
            ),
            Step(
                name="What the drill leaves",
                formula="(diameter − drill)/(1.299 × pitch)",
                values=f"{name} = {both(size, unit)}",
                result=f"{leaves:.1f} %",
                source="ISO 68-1 (recalled)",
            ),
            Step(
                name="How much is usual",
                formula="60 to 75 %",
                result="less in deep holes and tough metal",
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _percent(thread: Thread, hole_mm: Decimal) -> Decimal:
    return 100 * (thread.diameter_mm - hole_mm) / (FULL_THREAD * thread.pitch_mm)


def _clears(text: str, thread: Thread) -> Decimal | None:
    named = dict(drill_table("inch")) if thread.unit == "in" else {}
    return named.get(text) or named.get(f"letter {text}") or parse_length(text, thread.unit).mm if text else None


def _notes(leaves: Decimal) -> list[str]:
    if leaves < LEAST_PERCENT:
        return ["That is little thread: it strips before the screw breaks."]
    return ["That is nearly a full thread: the tap turns hard and may break."] if leaves > MOST_PERCENT else []
