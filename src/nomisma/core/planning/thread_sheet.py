"""All of a thread on one sheet: its limits, how it is cut, and how it is measured: over wires, or by gauges."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.lengths.tapping import CAUTION as TAP_CAUTION
from nomisma.core.model import Model
from nomisma.core.operations.drilling import drills_before
from nomisma.core.operations.surfaces import LARGEST_TAPPED_MM
from nomisma.core.operations.threading import threading_cut
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.threads.called_out import Side, ThreadCalledOut, thread_called_out
from nomisma.core.threads.limits import DiameterLimits, basic_minor_diameter_mm, basic_pitch_diameter_mm
from nomisma.core.threads.of_class import limits_of
from nomisma.core.threads.over_wires import SOURCE as WIRES
from nomisma.core.threads.over_wires import best_wire_mm, over_wires_mm, pitch_diameter_over_mm, wires_that_fit_mm
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer


class ThreadSheetInput(Model):
    """A thread as a drawing calls it out; which side it is where its class does not say; the wires at hand, and what
    was read over them.
    """

    thread: str = Field(max_length=60)
    side: Literal["", "outside", "inside"] = ""
    wire: Size | None = None
    over: Size | None = None
    unit: Unit = "mm"


class ThreadSheetResult(WorksheetAnswer):
    """Side, class, pitch and lead; the limits of crest and pitch diameter; of an outside thread the wires and its size
    over them.
    """

    side: Side
    thread_class: str
    pitch: Size
    lead: Size
    angle_deg: Decimal
    crest_lower: Size | None = None
    crest_upper: Size | None = None
    pitch_diameter_lower: Size | None = None
    pitch_diameter_upper: Size | None = None
    best_wire: Size | None = None
    wire: Size | None = None
    over_lower: Size | None = None
    over_upper: Size | None = None
    pitch_diameter: Size | None = None
    drill: str = ""


@calculation(
    name="thread_sheet",
    title="A thread: its limits, its wires, its drill",
    validity=(
        "Metric threads of ISO 965-1 over 0.99 up to 355 mm, inch threads of ASME B1.1, free pitches of 10 to 90°;"
        " cylindrical."
    ),
    source=f"ISO 68-1, ISO 965-1, ASME B1.1 (recalled); over wires {WIRES}; passes {COMMON_PRACTICE}",
    example={"thread": "M20x1.5 6g", "wire": "0.895 mm", "unit": "mm"},
)
def thread_sheet(given: ThreadSheetInput) -> ThreadSheetResult:
    """All that is needed to cut a thread and measure it. Raises NotDefined, UnreadableLength, OutOfRange.

    Source: ISO 68-1, ISO 965-1, ASME B1.1, ASME B1.2 (recalled).

    >>> found = thread_sheet(ThreadSheetInput(thread="M20x1.5 6g", wire="0.895 mm"))
    >>> str(found.over_lower), str(found.over_upper)
    ('20.2404 mm', '20.3804 mm')
    """
    try:
        called = thread_called_out(given.thread, given.unit)
        side: Side = given.side or called.side or "outside"
        called = called.of_class_for(side)
        limits = limits_of(called, side)
    except InputError as error:
        raise error.at("thread") from None
    unit = called.thread.unit
    crest, pitch = (_ends(one, unit) for one in (limits.crest, limits.pitch)) if limits else (None, None)
    wires = _wires(given, called, limits.pitch if limits else None) if side == "outside" else None
    drills = _drills(called, unit) if side == "inside" else ()
    cut = threading_cut(called.words, side)
    headline, headline_ends = _headline(called, side, pitch, wires)
    return ThreadSheetResult(
        side=side,
        thread_class=called.thread_class,
        pitch=Length(called.thread.pitch_mm, unit),
        lead=Length(called.lead_mm, unit),
        angle_deg=called.angle_deg,
        crest_lower=crest[0] if crest else None,
        crest_upper=crest[1] if crest else None,
        pitch_diameter_lower=pitch[0] if pitch else None,
        pitch_diameter_upper=pitch[1] if pitch else None,
        best_wire=Length(best_wire_mm(called), unit) if side == "outside" else None,
        wire=wires.wire if wires else None,
        over_lower=wires.lower if wires else None,
        over_upper=wires.upper if wires else None,
        pitch_diameter=wires.read if wires else None,
        drill=drills[-1] if drills else "",
        headline=headline,
        headline_length=headline_ends[0] if headline_ends else None,
        headline_to=headline_ends[1] if headline_ends else None,
        sentence=_sentence(called, side, wires),
        facts=[
            *_limits_facts(called, side, crest, pitch),
            *(wires.facts() if wires else []),
            *([Fact(name="Drill before the tap", words=", then ".join(drills))] if drills else []),
            Fact(name="A turn", length=Length(called.lead_mm, unit)),
            *(
                []
                if drills
                else [
                    Fact(name="Deep on the radius", length=Length(cut.depth_mm, unit)),
                    Fact(name="Passes, about", words=f"{cut.passes}, the last two at the same setting"),
                ]
            ),
        ],
        notes=_notes(called, side, unsure=bool(limits and limits.unsure), free=limits is None),
        steps=TAPPED if drills else _steps(called, side),
        cautions=[TAP_CAUTION if drills else TOOL_CAUTION],
        working=_working(given, called, side, crest, pitch, wires),
    )


class _Wires:
    """What is over the wires at hand, or over the best ones."""

    def __init__(self, given: ThreadSheetInput, called: ThreadCalledOut, pitch: DiameterLimits | None) -> None:
        unit = called.thread.unit
        self.unit = unit
        self.is_best = given.wire is None
        wire_mm = given.wire.mm if given.wire else best_wire_mm(called)
        self.wire = Length(wire_mm, unit)
        self.fit = tuple(Length(one, unit) for one in wires_that_fit_mm(called))
        over = [over_wires_mm(called, one, wire_mm) for one in (pitch.lower_mm, pitch.upper_mm)] if pitch else []
        self.lower = _shown(over[0], unit) if over else None
        self.upper = _shown(over[1], unit) if over else None
        self.read = _shown(pitch_diameter_over_mm(called, given.over.mm, wire_mm), unit) if given.over else None

    def facts(self) -> list[Fact]:
        """What stands on the sheet of them."""
        found = [Fact(name="Best wires" if self.is_best else "Wires", length=self.wire)]
        if self.lower and self.upper:
            found.append(Fact(name="Over three of them", length=self.lower, to=self.upper))
        found.append(Fact(name="Wires that fit", length=self.fit[0], to=self.fit[1]))
        if self.read:
            found.append(Fact(name="Pitch diameter as read", length=self.read))
        return found


def _wires(given: ThreadSheetInput, called: ThreadCalledOut, pitch: DiameterLimits | None) -> _Wires:
    try:
        return _Wires(given, called, pitch)
    except InputError as error:
        error.field = "over" if error.problem.startswith("Over") else "wire"
        raise


def _ends(found: DiameterLimits, unit: Unit) -> tuple[Length, Length]:
    return Length(found.lower_mm, unit), Length(found.upper_mm, unit)


def _shown(mm: Decimal, unit: Unit) -> Length:
    """To a tenth of a micrometre, or a hundredth of a thou: finer is nothing."""
    if unit == "mm":
        return Length(mm.quantize(Decimal("0.0001")), unit)
    return Length((mm / Decimal("25.4")).quantize(Decimal("0.00001")) * Decimal("25.4"), unit)


def _drills(called: ThreadCalledOut, unit: Unit) -> tuple[str, ...]:
    if called.thread.diameter_mm > LARGEST_TAPPED_MM or called.is_free or called.starts > 1:
        return ()
    minor = basic_minor_diameter_mm(called.thread.diameter_mm, called.thread.pitch_mm)
    return tuple(one.name for one in drills_before(minor, unit, "tapped", called.words))


def _headline(
    called: ThreadCalledOut, side: Side, pitch: tuple[Length, Length] | None, wires: _Wires | None
) -> tuple[str, tuple[Length, Length] | None]:
    if wires and wires.lower and wires.upper:
        return f"{wires.lower} to {wires.upper} over wires", (wires.lower, wires.upper)
    if pitch:
        return f"{called.words}", None
    basic = basic_pitch_diameter_mm(called.thread.diameter_mm, called.thread.pitch_mm)
    return f"pitch diameter {_shown(basic, called.thread.unit)}, {side}, without limits", None


def _sentence(called: ThreadCalledOut, side: Side, wires: _Wires | None) -> str:
    if wires is None:
        return f"{called.words}, inside: a go and a no-go plug gauge try it, or the mate."
    over = (
        f"over three wires of {wires.wire.value().quantize(Decimal('0.0001'))} {wires.unit}"
        if wires.lower
        else "basic sizes only"
    )
    return f"{called.words}, {side}, {over}."


def _limits_facts(
    called: ThreadCalledOut, side: Side, crest: tuple[Length, Length] | None, pitch: tuple[Length, Length] | None
) -> list[Fact]:
    thread, unit = called.thread, called.thread.unit
    crest_name = "Major diameter" if side == "outside" else "Minor diameter"
    if crest and pitch:
        return [
            Fact(name=crest_name, length=crest[0], to=crest[1]),
            Fact(name="Pitch diameter", length=pitch[0], to=pitch[1]),
        ]
    basic = basic_pitch_diameter_mm(thread.diameter_mm, thread.pitch_mm)
    return [
        Fact(name="Major diameter", length=Length(thread.diameter_mm, unit)),
        Fact(name="Pitch diameter, basic", length=_shown(basic, unit)),
    ]


def _notes(called: ThreadCalledOut, side: Side, *, unsure: bool, free: bool) -> list[str]:
    found = ["A value of these limits is recalled without certainty: check it against the standard."] if unsure else []
    if free:
        found.append("A free pitch has no class and no limits: make it to its mate.")
    if side == "outside":
        found.append("What the wires are off counts three times in the pitch diameter: measure them.")
    if called.left_hand:
        found.append("Left-hand: the carriage goes away from the chuck, from the relief outwards.")
    if called.starts > 1:
        found.append(
            f"{called.starts} starts: index by a turn of the spindle over {called.starts}, or the compound by a pitch."
        )
    return found


TOOL_CAUTION = (
    "Slow enough to stop in the relief; the tool out before it reverses. Spindle stopped before a gauge or wires are"
    " put to it. The machine’s manual comes first."
)
TAPPED = [
    "Spot, then drill; a blind hole deeper than the thread by the tap’s lead. Chamfer to the thread’s diameter.",
    "Tap by hand, square on the tailstock’s centre, with oil; back half a turn for the chip.",
    "Clear the chips and try the go gauge, clean and with the burr off.",
]
"""How a hole is tapped in a lathe. Source: common practice, no source."""


def _steps(called: ThreadCalledOut, side: Side) -> list[str]:
    crest = "Turn the major diameter" if side == "outside" else "Bore the minor diameter"
    return [
        f"{crest}, cut the relief, break the edge to below the root: the thread starts blunt.",
        f"Set the tool to {called.angle_deg.normalize():f}° by a centre gauge, at centre height.",
        "A first pass that only scratches: measure the pitch on it.",
        "Deeper by less each time; the last two passes at the same setting.",
        (
            "Measure over wires before it is thought done: metal is taken off, never put back."
            if side == "outside"
            else "Try the go gauge before it is thought done, clean and with the burr off."
        ),
    ]


def _working(
    given: ThreadSheetInput,
    called: ThreadCalledOut,
    side: Side,
    crest: tuple[Length, Length] | None,
    pitch: tuple[Length, Length] | None,
    wires: _Wires | None,
) -> list[Step]:
    thread, unit = called.thread, given.unit
    limits = limits_of(called, side)
    basic = basic_pitch_diameter_mm(thread.diameter_mm, thread.pitch_mm)
    found = [
        Step(
            name="Basic pitch diameter",
            formula="d − 0.6495·P",
            values=f"{both(thread.diameter_mm, unit)}, {both(thread.pitch_mm, unit, decimals=5)}",
            result=both(basic, unit),
            source="ISO 68-1 (recalled)",
        ),
    ]
    for name, ends in (("Crest", crest), ("Pitch diameter", pitch)):
        if ends and limits:
            found.append(
                Step(
                    name=f"{name}, class {called.thread_class}",
                    formula="basic size, less or plus its position, and its tolerance",
                    values=called.words,
                    result=f"{both(ends[0].mm, unit)} to {both(ends[1].mm, unit)}",
                    source=f"{limits.source}{'; a value of it is recalled without certainty' if limits.unsure else ''}",
                )
            )
    if wires:
        found.append(
            Step(
                name="Best wire",
                formula="P/(2·cos α)",
                values=f"P = {both(thread.pitch_mm, unit, decimals=5)}, α = {called.angle_deg / 2}°",
                result=both(best_wire_mm(called), unit),
                source="geometry",
            )
        )
        if wires.lower and wires.upper:
            found.append(
                Step(
                    name="Over wires",
                    formula="d2 + w·(1 + 1/sin α + …) − P/2·cot α",
                    values=f"w = {both(wires.wire.mm, unit)}",
                    result=f"{both(wires.lower.mm, unit)} to {both(wires.upper.mm, unit)}",
                    source=WIRES,
                )
            )
    return found
