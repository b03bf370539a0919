"""A groove by its position: what the carriage reads for the tool's own corner, in how many plunges, and how deep by the
cross-slide.
"""

from decimal import ROUND_FLOOR, Decimal
from math import ceil
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.cutting.dial import turns_and_lines
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

Corner = Literal["far", "near"]
By = Literal["carriage", "leadscrew", "compound", "readout"]
BY_WORDS: dict[By, str] = {
    "carriage": "carriage dial", "leadscrew": "leadscrew handwheel", "compound": "compound along the axis",
    "readout": "readout",
}  # fmt: skip
WIDEST_IN_TOOLS = 30
"""A groove of more tools' widths is a neck to be turned; nobody plunges it (common practice, no source)."""


class GrooveInput(Model):
    """Grooves from a datum face at the free end: the near side of the first `position` from it, each so wide, `count`
    at a `pitch`.

    `tool`: its width; `corner`: which of its corners was touched on the datum face, far (towards the chuck) or near,
    with a `feeler` between. `finish`: left on each side for the last passes. `line`: one line of what the carriage is
    moved by, `lines_a_turn` of its handwheel. `outside` and `floor` diameters.
    """

    position: Size
    width: Size
    tool: Size
    corner: Corner = "far"
    feeler: Difference = Length(Decimal(0))
    count: int = Field(default=1, ge=1, le=60)
    pitch: Size | None = None
    finish: Difference = Length.of("0.003", "in")
    outside: Size | None = None
    floor: Size | None = None
    by: By = "carriage"
    line: Size | None = None
    lines_a_turn: Number | None = Field(default=None, gt=0, le=10_000)
    unit: Unit = "mm"


class GrooveResult(WorksheetAnswer):
    """For the first groove the readings of the plunges and of both finished sides; the infeed to the floor on
    diameter.
    """

    plunges: list[Size]
    near_side: Size
    far_side: Size
    infeed: Size | None = None
    set_to: Difference


@calculation(
    name="groove",
    title="Grooves from one face",
    validity="Square grooves cut straight in from the outside; the datum face at the free end, distances counted from "
        "it towards the chuck.",
    source="arithmetic; common practice, no source (overlap of plunges, both sides finished last)",
    example={"position": "0.937 in", "width": "0.125 in", "tool": "0.093 in", "corner": "far", "feeler": "0.002 in",
        "outside": "0.800 in",
             "floor": "0.625 in", "line": "0.001 in", "unit": "in"},
)  # fmt: skip
def groove(given: GrooveInput) -> GrooveResult:
    """Where the carriage stands for each plunge and side. Raises OutOfRange for a groove narrower than its tool,
    InputError.

    Source: arithmetic: with the far corner touched, it stands at position + tool for the near side and at position +
    width for the far one.

    >>> found = groove(GrooveInput(position="20 mm", width="5 mm", tool="3 mm", finish="0.1 mm", feeler="0.05 mm"))
    >>> [str(one) for one in (found.near_side, found.far_side, found.set_to)], len(found.plunges)
    (['23 mm', '25 mm', '-0.05 mm'], 2)
    """
    unit, tool = given.unit, given.tool.mm
    spare = given.width.mm - tool
    if spare < 0:
        raise OutOfRange(
            f"The groove is narrower than the tool, {given.tool}.", "Grind it narrower, or take another.", field="tool"
        )
    if given.finish.mm < 0 or (spare and 2 * given.finish.mm > spare):
        raise OutOfRange(
            "That leaves nothing between the two finished sides.",
            "Less for the last passes, or a narrower tool.",
            field="finish",
        )
    _check_rows(given)
    if given.width.mm > WIDEST_IN_TOOLS * tool:
        raise OutOfRange(
            f"With a tool of {given.tool} that groove is more than {WIDEST_IN_TOOLS} tools wide.",
            "Turn it out from side to side, or take a wider tool.",
            field="tool",
        )
    own = tool if given.corner == "far" else Decimal(0)
    near, far = given.position.mm + own, given.position.mm + own + spare
    where = _plunges(near, far, given)
    infeed = _infeed(given)
    set_to = -given.feeler.mm
    return GrooveResult(
        plunges=[Length(one, unit) for one in where],
        near_side=Length(near, unit),
        far_side=Length(far, unit),
        infeed=Length(infeed, unit) if infeed is not None else None,
        set_to=Length(set_to, unit),
        headline=show_exact(near, unit),
        headline_length=Length(near, unit),
        sentence=_sentence(given, len(where)),
        facts=_facts(near, far, infeed, set_to, given),
        table=_table(near, far, where, given),
        notes=_notes(given, spare),
        steps=_steps(given, set_to),
        cautions=[
            "Plunge slowly with oil, do not dwell at the floor, draw back at once; carriage locked while the tool"
            " is in."
        ],
        working=_working(near, far, infeed, given),
    )


def _notes(given: GrooveInput, spare: Decimal) -> list[str]:
    notes = (
        []
        if spare
        else [
            "The tool is as wide as the groove: it comes out as wide as the tool cuts, which is more than it measures."
        ]
    )
    if given.feeler.mm:
        turns = ", turns and lines from the touch with the feeler between" if given.line else ""
        notes.append(f"Positions are counted from the datum face{turns}.")
    return notes


def _check_rows(given: GrooveInput) -> None:
    if given.count > 1 and given.pitch is None:
        raise InputError(
            "Several grooves need their pitch.",
            "From the near side of one to the near side of the next.",
            field="pitch",
        )
    if given.count > 1 and given.pitch and given.pitch.mm <= given.width.mm:
        raise OutOfRange("The grooves run into one another.", "A larger pitch, or narrower ones.", field="pitch")


def plunge_count(width_mm: Decimal, tool_mm: Decimal) -> int:
    """How many times a tool goes straight in for a width, each time by at most nine tenths of its own (mm). Source:
    common practice, no source.

    >>> plunge_count(Decimal(3), Decimal(3)), plunge_count(Decimal(5), Decimal(3))
    (1, 2)
    """
    return 1 if width_mm <= tool_mm else 1 + ceil((width_mm - tool_mm) / (Decimal("0.9") * tool_mm))


def _plunges(near: Decimal, far: Decimal, given: GrooveInput) -> list[Decimal]:
    """Where the touched corner stands for each straight plunge, from the near side on, even steps, with what is left
    for the sides.
    """
    left = given.finish.mm if far > near else Decimal(0)
    count = plunge_count(given.width.mm - 2 * left, given.tool.mm)
    if count == 1:
        return [(near + far) / 2]
    step = (far - near - 2 * left) / (count - 1)
    return [near + left + n * step for n in range(count)]


def _infeed(given: GrooveInput) -> Decimal | None:
    if given.floor is None or given.outside is None:
        return None
    if given.floor.mm >= given.outside.mm:
        raise OutOfRange("The floor is not under the outside.", "Check the two diameters.", field="floor")
    return given.outside.mm - given.floor.mm


def _sentence(given: GrooveInput, count: int) -> str:
    corner = "far" if given.corner == "far" else "near"
    times = "one plunge" if count == 1 else f"{count} plunges"
    return f"The {corner} corner stands there for the near side. In {times}, then both sides."


def _facts(near: Decimal, far: Decimal, infeed: Decimal | None, set_to: Decimal, given: GrooveInput) -> list[Fact]:
    unit = given.unit
    facts = [
        Fact(name=f"Set the {BY_WORDS[given.by]} at the touch to", length=Length(set_to, unit)),
        Fact(name="Near side", length=Length(near, unit)),
        Fact(name="Far side", length=Length(far, unit)),
    ]
    if infeed is not None:
        facts += [
            Fact(name="In to the floor, on diameter", length=Length(infeed, unit)),
            Fact(name="On radius", length=Length(infeed / 2, unit)),
        ]
    if given.line:
        facts += [
            Fact(name=f"{side}, from the touch", words=_dialled(at - set_to, given))
            for side, at in (("Near side", near), ("Far side", far))
        ]
    return facts


def _dialled(from_touch_mm: Decimal, given: GrooveInput) -> str:
    """How far its handwheel is wound from the touch; empty where nobody said what a line of it is."""
    return turns_and_lines(from_touch_mm / given.line.mm, given.lines_a_turn) if given.line else ""


def _table(near: Decimal, far: Decimal, where: list[Decimal], given: GrooveInput) -> AnswerTable:
    pitch = given.pitch.mm if given.pitch else Decimal(0)
    head = ["Groove", *(f"Plunge {n}" for n in range(1, len(where) + 1)), "Near side", "Far side"]
    rows = [
        [Fact(words=str(n + 1)), *(_stands(at + n * pitch, given) for at in (*where, near, far))]
        for n in range(given.count)
    ]
    return AnswerTable(head=head, rows=rows, ticked=given.count > 1)


def _stands(at_mm: Decimal, given: GrooveInput) -> Fact:
    """Where it stands, and what that is on a handwheel whose turns are counted."""
    return Fact(
        length=Length(at_mm, given.unit), words=_dialled(at_mm + given.feeler.mm, given) if given.lines_a_turn else ""
    )


def _steps(given: GrooveInput, set_to: Decimal) -> list[str]:
    feeler = f" with the {given.feeler} feeler between" if given.feeler.mm else ""
    return [
        (
            f"Touch the {'far' if given.corner == 'far' else 'near'} corner on the datum face{feeler}; set the"
            f" {BY_WORDS[given.by]} to {show_exact(set_to, given.unit)}."
        ),
        (
            "Always come to a reading towards the chuck: the backlash is then taken up; overshot, go well back and come"
            " again."
        ),
        "Plunge in zig-zag from the near side, short of the floor; then near side down, along the floor, far side up.",
        "Measure the width by slips, then take what is left from the far side.",
    ]


def _working(near: Decimal, far: Decimal, infeed: Decimal | None, given: GrooveInput) -> list[Step]:
    unit = given.unit
    own = "position + tool" if given.corner == "far" else "position"
    whole = ""
    if given.line:
        lines = (near + given.feeler.mm) / given.line.mm
        whole = f"; {lines.to_integral_value(ROUND_FLOOR)} whole lines and {float(lines % 1):.2f} of one"
    steps = [
        Step(
            name="Near side",
            formula=own,
            values=f"{both(given.position.mm, unit)}, tool {both(given.tool.mm, unit)}",
            result=f"{both(near, unit)}{whole}",
            source=ARITHMETIC,
        ),
        Step(name="Far side", formula=f"{own} + width − tool", result=both(far, unit), source=ARITHMETIC),
        Step(
            name="Plunges",
            formula="each by at most nine tenths of the tool",
            result=str(plunge_count(given.width.mm - 2 * given.finish.mm, given.tool.mm)),
            source=COMMON_PRACTICE,
        ),
    ]
    if infeed is not None:
        steps.append(
            Step(name="In to the floor", formula="outside − floor", result=both(infeed, unit), source=ARITHMETIC)
        )
    return steps
